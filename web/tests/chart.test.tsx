import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { setFormats } from "../src/shared";
import { CurveDrawing } from "../src/shared/chart/CurveDrawing";
import { apart, before, below, type Label, LINE } from "../src/shared/chart/labels";
import { AXIS, LETTER, plotOf } from "../src/shared/chart/plot";
import { type CurveLine, SCurve } from "../src/shared/chart/SCurve";
import { SmallDrawing } from "../src/shared/chart/SmallDrawing";
import { when } from "../src/shared/chart/when";
import { system } from "../src/shared/ui/theme";
import { chance } from "./rows";

const WIDTH = 800;
beforeEach(() => {
  Object.defineProperty(HTMLElement.prototype, "clientWidth", { configurable: true, value: WIDTH });
});
afterEach(() => {
  cleanup();
  setFormats({ decimal: ".", month_first: false, first_day: "mon" });
});
const draw = (what: ReactNode) => render(<ChakraProvider value={system}>{what}</ChakraProvider>).container;
const texts = (of: Element) => [...of.querySelectorAll("svg text")].map((t) => t.textContent);
const pathOf = (of: Element, line: string) => of.querySelector(`path[data-line="${line}"]`)?.getAttribute("d") ?? "";

const label = (text: string, x: number, y: number): Label => ({ text, x, y, colour: "ink" });

test("labels are moved apart as little as it takes, and none leaves the drawing", () => {
  const pick = chance(7);
  for (let round = 0; round < 60; round++) {
    const given = Array.from({ length: 5 }, (_, i) => label(`line ${i}`, 100 + pick(40), 40 + pick(120)));
    const placed = apart(given, 260);
    assert.deepEqual(
      placed.map((l) => l.text),
      given.map((l) => l.text),
    );
    placed.forEach((a, i) => {
      assert.ok(a.y > LINE / 2 && a.y < 260 - LINE);
      for (const b of placed.slice(i + 1)) {
        const meet = a.x < b.x + b.text.length * LETTER && b.x < a.x + a.text.length * LETTER;
        assert.ok(!meet || Math.abs(a.y - b.y) >= LINE, `${a.text} lies on ${b.text}`);
      }
    });
  }
  const alone = [label("PV", 10, 50), label("EV", 400, 50)];
  assert.deepEqual(apart(alone, 200), alone);
});

test("names at the ends of lines stand in the order of the lines", () => {
  const placed = below([label("low", 0, 90), label("high", 0, 80), label("middle", 0, 84)]);
  assert.deepEqual(
    placed.map((l) => [l.text, l.y]),
    [
      ["high", 80],
      ["middle", 95],
      ["low", 110],
    ],
  );
});

test("a drawing has room for its largest amount and its longest name, and counts from zero", () => {
  const times = [Date.UTC(2027, 0, 1), Date.UTC(2027, 6, 1)];
  const small = plotOf({ width: WIDTH, height: 200, times, amounts: [10, 90], longest: 2 });
  const large = plotOf({ width: WIDTH, height: 200, times, amounts: [10, 987_654_321], longest: 12 });
  assert.ok(large.left > small.left);
  assert.ok(large.right < small.right);
  assert.deepEqual([small.x(times[0] ?? 0), small.x(times[1] ?? 0)], [small.left, small.right]);
  assert.equal(small.y(0), 200 - AXIS);
  assert.ok(small.y(90) < small.y(10));
  const below0 = plotOf({ width: WIDTH, height: 200, times, amounts: [-50, 90], longest: 2 });
  assert.ok(below0.y(-50) <= 200 - AXIS && below0.y(0) < 200 - AXIS);
  assert.equal(before(50, "SV −299 374.32", small), small.left + 4);
  assert.ok(before(500, "SV", small) < 500);
});

const LINES: CurveLine[] = [
  {
    key: "pv",
    name: "PV",
    ink: "pv",
    spots: [
      [when("2027-01-08T17:00"), 100],
      [when("2027-03-12T17:00"), 900],
    ],
  },
  { key: "ev", name: "EV", ink: "ev", spots: [[when("2027-01-08T17:00"), 80]] },
];

test("a curve names its lines, its days and its amounts, and marks the status date", () => {
  const drawn = draw(<SCurve label="Cost over time" height={220} lines={LINES} status={when("2027-02-12T17:00")} />);
  assert.ok(screen.getByRole("img", { name: "Cost over time" }));
  const told = texts(drawn);
  for (const text of ["PV", "EV", "0", "11 Jan", "8 Feb"]) assert.ok(told.includes(text), `${text}: ${told}`);
  assert.match(pathOf(drawn, "pv"), /^M[\d.]+,[\d.]+L[\d.]+,[\d.]+$/);
  assert.equal(drawn.querySelectorAll("path[data-line]").length, 2);
  cleanup();
  setFormats({ decimal: ".", month_first: false, first_day: "sun" });
  assert.ok(texts(draw(<SCurve label="Cost over time" height={220} lines={LINES} />)).includes("10 Jan"));
});

test("where a curve spans years, its days say which; amounts are written as the reader writes them", () => {
  setFormats({ decimal: ",", month_first: true, first_day: "mon" });
  const long = [
    {
      ...LINES[0],
      key: "pv",
      name: "PV",
      ink: "pv",
      spots: [[when("2026-01-05T17:00"), 0] as const, [when("2029-01-05T17:00"), 2.5] as const],
    },
  ];
  const told = texts(draw(<SCurve label="Cost" height={220} lines={long} />));
  assert.ok(told.includes("Jan 1, 2027"), String(told));
  assert.ok(told.includes("0,5"), String(told));
});

test("nothing is drawn where there is nothing", () => {
  assert.equal(draw(<SCurve label="Cost" height={220} lines={[]} />).querySelector("svg"), null);
});

const point = (end: string, pv: string, ev: string | null, ac: string | null, forecast: string | null) => ({
  end,
  pv,
  ev,
  ac,
  forecast,
  forecasts: { cpi: "1200.00", budget: "1100.00" },
  others: { B1: pv },
  added_pv: "100.00",
  added_ev: ev && "50.00",
  added_ac: ac && "-20.00",
});
const CURVE = {
  points: [
    point("2027-01-08T17:00", "100.00", "80.00", "90.00", null),
    point("2027-02-12T17:00", "500.00", "400.00", "450.00", "450.00"),
    point("2027-03-12T17:00", "900.00", null, null, "1000.00"),
  ],
  status: "2027-02-12T17:00",
  pv: "500.00",
  ev: "400.00",
  ac: "450.00",
  sv: "-100.00",
  cv: "-50.00",
  sv_t: -4,
  earned_on: "2027-02-08T17:00",
  eac: { cpi: "1200.00", budget: "1100.00" },
  sentences: ["CV: the work done cost 50.00 EUR more than its budget."],
} as unknown as Schemas["CurveOut"];

test("the curve of a page has its brackets, and says by keys what stands where", () => {
  const drawn = draw(<CurveDrawing curve={CURVE} height={220} bars />);
  const told = texts(drawn);
  for (const text of ["PV", "PV B1", "EV", "AC", "SV −100.00", "CV −50.00", "−4 d"])
    assert.ok(told.includes(text), text);
  assert.ok(drawn.querySelector('path[data-line="forecast"]'));
  assert.ok(screen.getByRole("img", { name: /each/ }));
  const slider = screen.getByRole("slider");
  fireEvent.keyDown(slider, { key: "Home" });
  assert.match(
    drawn.querySelector("[data-readout]")?.textContent ?? "",
    /8 January 2027: PV 100.00, EV 80.00, AC 90.00/,
  );
  fireEvent.keyDown(slider, { key: "End" });
  assert.match(drawn.querySelector("[data-readout]")?.textContent ?? "", /PV 900.00, Forecast 1\s000.00, PV B1 900.00/);
  fireEvent.blur(slider);
  assert.doesNotMatch(drawn.querySelector("[data-readout]")?.textContent ?? "", /PV 900/);
});

test("estimates that are chosen take the place of the forecast, from what was spent on", () => {
  const drawn = draw(<CurveDrawing curve={CURVE} height={220} estimates={["cpi", "budget", "none"]} />);
  assert.equal(drawn.querySelector('path[data-line="forecast"]'), null);
  const [cpi, ac] = [pathOf(drawn, "eac cpi"), pathOf(drawn, "ac")];
  assert.equal(cpi.slice(1).split("L")[0], ac.split("L").at(-1));
  assert.ok(drawn.querySelector("path[fill-opacity]"));
});

test("a curve without points draws nothing", () => {
  assert.equal(draw(<CurveDrawing curve={{ ...CURVE, points: [] }} height={220} />).querySelector("svg"), null);
});

test("a small chart names its lines from the highest down and leaves no dot for what is not known", () => {
  const points = [
    { label: "8 Jan", values: { spi: 1, cpi: 1.2 } },
    { label: "15 Jan", values: { spi: null, cpi: 1.1 } },
    { label: "22 Jan", values: { spi: 0.8, cpi: 0.95 } },
  ];
  const series = [
    { key: "spi", name: "SPI", ink: "ev" },
    { key: "cpi", name: "CPI", ink: "ac" },
  ];
  const drawn = draw(<SmallDrawing title="Indices" points={points} series={series} level={1} />);
  assert.ok((drawn.textContent ?? "").indexOf("CPI") < (drawn.textContent ?? "").indexOf("SPI"));
  const dots = [...drawn.querySelectorAll("g")].map((g) => g.querySelectorAll("circle").length);
  assert.deepEqual(dots, [3, 2]);
  assert.ok(texts(drawn).includes("22 Jan"));
  cleanup();
  const money = [
    { label: "P01", values: { eac: 2_440_000 } },
    { label: "P02", values: { eac: 2_410_000 } },
  ];
  const big = draw(<SmallDrawing title="EAC" points={money} series={[{ key: "eac", name: "", ink: "ink" }]} />);
  assert.ok(
    texts(big).some((t) => t?.endsWith(" M")),
    String(texts(big)),
  );
});
