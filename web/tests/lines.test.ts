import { expect, test } from "vitest";
import { frontsOf, type Lines, strength } from "../src/features/timeline/lines";

const axis = { x: (iso: string) => Number(iso.slice(8, 10)) * 10 };

test("a front stands where the work does, joined along the rows' borders, and at its date where nothing is known", () => {
  const lines: Lines = {
    revision: 1,
    against: "baseline",
    lines: [{ date: "2027-01-10T17:00", page: "P1" }],
    kept: [],
    points: { A: ["2027-01-06T12:00"], B: ["2027-01-12T12:00"] },
    days: { A: -4, B: 1.5 },
  };
  expect(frontsOf(lines, [null, "A", "B", "C"], axis, 20)).toEqual([
    { edges: ["M100 0V20H60"], between: undefined },
    { edges: ["M60 0V20H120"], between: { from: 60, to: 100, days: -4 } },
    { edges: ["M120 0V20H100"], between: { from: 120, to: 100, days: 1.5 } },
    { edges: ["M100 0V20H100"], between: undefined },
  ]);
});

test("the newest line is the strongest", () => {
  expect([strength(0, 1), strength(0, 3), strength(2, 3)]).toEqual([1, 0.4, 1]);
});
