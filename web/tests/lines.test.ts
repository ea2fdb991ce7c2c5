import { expect, test } from "vitest";
import { type Lines, piecesOf, strength } from "../src/features/timeline/lines";

const axis = { x: (iso: string) => Number(iso.slice(8, 10)) * 10 };

test("a line goes through its points and stands at its date where there is none", () => {
  const lines: Lines = {
    revision: 1,
    against: "baseline",
    lines: [{ date: "2027-01-10T17:00", page: "P1" }],
    kept: [],
    points: { A: ["2027-01-06T12:00"], B: ["2027-01-12T12:00"] },
  };
  expect(piecesOf(lines, [null, "A", "B", "C"], axis, 20)).toEqual([
    ["M100 0L100 10L80 20"],
    ["M80 0L60 10L90 20"],
    ["M90 0L120 10L110 20"],
    ["M110 0L100 10L100 20"],
  ]);
});

test("the newest line is the strongest", () => {
  expect([strength(0, 1), strength(0, 3), strength(2, 3)]).toEqual([1, 0.4, 1]);
});
