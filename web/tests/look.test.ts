import { describe, expect, it } from "vitest";
import type { Schemas } from "../src/api";
import {
  arrangedFigures,
  type FigureRow,
  figureColumns,
  isPlain,
  keysOf,
  type Look,
  lookOf,
  nextSort,
  wrongIn,
} from "../src/shared/look";
import { axisOf, SCALES } from "../src/shared/time";

const figure = (key: string, kind: string): Schemas["FigureOut"] => ({
  key,
  kind,
  word: key,
  head: key,
  formula: "",
  scopes: ["activity"],
  group: "plan",
});
const FIGURES = figureColumns([figure("cv", "money"), figure("finish", "instant"), figure("state", "choice")]);
const ON = { near: "2027-03-12", day: 480 };
const row = (code: string, cv: string | null, finish: string, state: string, mark = "act"): FigureRow => ({
  kind: "activity",
  code,
  name: `Work ${code}`,
  mark,
  figures: { cv, finish, state },
});
const ROWS = [
  row("A1", "-50.00", "2027-03-01T17:00", "complete"),
  row("A2", null, "2027-05-01T17:00", "in_progress", "watch"),
  row("A3", "9.00", "2027-04-01T17:00", "in_progress"),
  { ...row("1", "0.00", "2027-05-01T17:00", "in_progress"), kind: "wbs" },
];
const look = (more: Partial<Look>): Look => ({ find: "", where: [], sort: "", group: "", ...more });
const codes = (l: Look) =>
  arrangedFigures(ROWS, l, FIGURES, ON).map((x) => (x.kind === "row" ? x.row.code : x.kind === "group" ? x.name : ""));

describe("a look at a sheet of figures", () => {
  it("sorts by what figures count as, what is not there last whichever way", () => {
    expect(codes(look({ sort: "cv" }))).toEqual(["A1", "A3", "A2"]);
    expect(codes(look({ sort: "-cv" }))).toEqual(["A3", "A1", "A2"]);
    expect(codes(look({ sort: "-finish" }))).toEqual(["A2", "A3", "A1"]);
  });

  it("filters by amounts, dates, words and marks", () => {
    expect(codes(look({ where: [{ key: "cv", text: "< 0" }] }))).toEqual(["A1"]);
    expect(codes(look({ where: [{ key: "cv", text: "empty" }] }))).toEqual(["A2"]);
    expect(codes(look({ where: [{ key: "finish", text: "> 15 mar" }] }))).toEqual(["A2", "A3"]);
    expect(codes(look({ where: [{ key: "mark", text: "watch" }] }))).toEqual(["A2"]);
    expect(codes(look({ where: [{ key: "state", text: "in progress" }], find: "a3" }))).toEqual(["A3"]);
    expect(wrongIn(FIGURES, ON)({ key: "cv", text: "> many" })).toBe("number");
    expect(wrongIn(FIGURES, ON)({ key: "state", text: "> b" })).toBeNull();
  });

  it("groups by a mark or any word", () => {
    expect(codes(look({ group: "mark" }))).toEqual(["Act", "A1", "A3", "Watch", "A2"]);
    expect(codes(look({ group: "state", sort: "cv" }))).toEqual(["complete", "A1", "in progress", "A3", "A2"]);
  });

  it("stands in the address and asks only for figures that are not shown of themselves", () => {
    const kept = lookOf({
      find: "",
      where: '[{"key":"mark","text":"act"},{"key":"cv","text":"< 0"}]',
      sort: "-finish",
      group: "name",
    });
    expect(keysOf(kept)).toEqual(["cv", "finish"]);
    expect(isPlain(kept)).toBe(false);
    expect(isPlain(lookOf({ find: "", where: "broken", sort: "", group: "" }))).toBe(true);
    expect(["", "cv", "-cv"].map((now) => nextSort(now, "cv"))).toEqual(["cv", "-cv", ""]);
  });
});

describe("an axis of time", () => {
  it.each(SCALES)("in %ss has ticks in order, none on another", (scale) => {
    const axis = axisOf("2027-01-04T08:00", "2028-12-31T17:00", scale, 700);
    const at = axis.ticks.map((t) => t.x);
    expect(at.length).toBeGreaterThan(scale === "year" ? 0 : 2);
    expect([...at].sort((a, b) => a - b)).toEqual(at);
    expect(axis.x("2027-01-05T00:00") - axis.x("2027-01-04T00:00")).toBeCloseTo(axis.perDay, 0);
  });

  it("fits the room there is", () => {
    expect(axisOf("2027-01-04T08:00", "2031-12-31T17:00", "fit", 700).width).toBe(700);
  });
});
