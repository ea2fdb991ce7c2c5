import assert from "node:assert/strict";
import { test } from "vitest";
import { dateOf } from "../src/features/plan/conditions";
import type { Row } from "../src/features/plan/row";
import { fits, wrongIn } from "../src/shared/look";
import { chance, columns, ground, row } from "./rows";

const draw = row("a2", { name: "Draw it", people: "DES", total_float: 0, critical: true, cost: "100.50" });
const check = row("a3", { name: "Check it", after: "A2", fields: { zone: "North", depth: 4, wet: true, twice: 8 } });
const dig = row("a6", { name: "Dig", duration: "3d", total_float: 5, fields: { zone: "South", depth: 12 } });
const pin = row("a7", { name: "Open", kind: "milestone", duration: "0d" });

function told(cases: [string, string, Row, boolean][]) {
  for (const [key, text, on, want] of cases)
    assert.equal(fits(on, [{ key, text }], columns, ground), want, `${key} ${text}`);
}

test("conditions on texts", () =>
  told([
    ["name", "DRAW", draw, true],
    ["name", "dig", draw, false],
    ["name", "not dig", draw, true],
    ["name", "= dig", dig, true],
    ["name", "= di", dig, false],
    ["people", "empty", check, true],
    ["people", "not empty", draw, true],
    ["fields.zone", "north", check, true],
    ["fields.wet", "yes", check, true],
    ["fields.wet", "empty", dig, true],
  ]));

test("conditions on numbers", () =>
  told([
    ["cost", "> 100", draw, true],
    ["cost", "> 1 000", draw, false],
    ["cost", "= 100.5", draw, true],
    ["cost", "= 100,5", draw, true],
    ["cost", "> much", draw, false],
    ["cost", "not > 200", draw, true],
    ["total_float", "<= 0", draw, true],
    ["total_float", ">= 5", dig, true],
    ["total_float", "> 5", dig, false],
    ["total_float", "> 1", check, false],
    ["total_float", ">", dig, false],
    ["fields.depth", "> 9", dig, true],
    ["fields.depth", "> 9", check, false],
    ["fields.depth", "> 9", draw, false],
    ["fields.twice", "> 7", check, true],
  ]));

test("conditions on durations, by the days of the project", () =>
  told([
    ["duration", "> 2", dig, true],
    ["duration", "< 1w", dig, true],
    ["duration", "= 3 days", dig, true],
    ["duration", "= 22.5h", dig, true],
    ["duration", "= 24h", dig, false],
    ["duration", "> 0", pin, false],
    ["duration", "= 0", pin, true],
    ["duration", "> soon", dig, false],
  ]));

test("conditions on dates, as people type them", () => {
  const first = { ...draw, start: "2027-02-01T08:00", finish: "2027-02-03T17:00", deadline: "2028-01-10T17:00" };
  const own = { ...check, fields: { agreed: "2027-03-09" } };
  told([
    ["begin", ">= 2027-02-01", first, true],
    ["begin", "> 1 feb", first, false],
    ["begin", "> 31 jan", first, true],
    ["begin", "= 1/2", first, true],
    ["begin", "1 feb", first, true],
    ["begin", "2 feb", first, false],
    ["begin", "2027-02", first, true],
    ["end", "< 2027-02-01", first, false],
    ["end", "<= 3 February 2027", first, true],
    ["end", "< 1 mar 28", first, true],
    ["end", "< 30 feb", first, false],
    ["deadline", "> 1 dec", first, true],
    ["deadline", "empty", draw, true],
    ["deadline", "< 1 dec", draw, false],
    ["fields.agreed", "> 8 mar", own, true],
    ["fields.agreed", "9 mar", own, true],
    ["fields.agreed", "> 9 mar", own, false],
  ]);
});

test("a date without a year is the one nearest the status date", () => {
  assert.equal(dateOf("12 feb", "2027-06-18"), "2027-02-12");
  assert.equal(dateOf("30 dec", "2027-01-05"), "2026-12-30");
  assert.equal(dateOf("2 jan", "2027-12-20"), "2028-01-02");
  assert.equal(dateOf("29 feb", "2027-06-18"), "2028-02-29");
  assert.equal(dateOf("31 apr", "2027-06-18"), null);
  assert.equal(dateOf("12 brumaire", "2027-06-18"), null);
  assert.equal(dateOf("2027-13-01", "2027-06-18"), null);
  const pick = chance(7);
  for (let i = 0; i < 300; i++) {
    const day = new Date(Date.UTC(2026, 6, 1) + pick(500) * 86_400_000).toISOString().slice(0, 10);
    assert.equal(dateOf(day, "2027-06-18"), day);
    assert.equal(dateOf(`${Number(day.slice(8))}.${Number(day.slice(5, 7))}.${day.slice(0, 4)}`, "2020-01-01"), day);
  }
});

test("what can't be compared with is told, by what it should have been", () => {
  const kind = (key: string, text: string) => wrongIn(columns, ground)({ key, text });
  assert.equal(kind("begin", "> soon"), "date");
  assert.equal(kind("begin", "not >= 31 feb"), "date");
  assert.equal(kind("duration", "> soon"), "duration");
  assert.equal(kind("cost", "> much"), "number");
  assert.equal(kind("cost", ">"), "number");
  assert.equal(kind("fields.depth", "< deep"), "number");
  assert.equal(kind("fields.agreed", "< later"), "date");
  for (const [key, text] of [
    ["begin", "> 1 feb"],
    ["begin", "soon"],
    ["name", "> soon"],
    ["cost", "not empty"],
    ["fields.twice", "= red"],
    ["duration", ""],
  ] as const)
    assert.equal(kind(key, text), null, `${key} ${text}`);
});
