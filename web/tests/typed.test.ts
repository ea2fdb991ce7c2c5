import assert from "node:assert/strict";
import { test } from "vitest";
import type { Column } from "../src/features/plan/columns";
import { outlineOf } from "../src/features/plan/paste";
import type { Row } from "../src/features/plan/row";
import { verbsOf } from "../src/features/plan/verbs";
import * as format from "../src/shared/format";
import { axisOf } from "../src/shared/time/axis";
import { row } from "./rows";

const column = (key: string, writes: string | null = key): Column =>
  ({ key, title: key, width: 60, writes: writes ?? undefined, text: (r: Row) => r.name }) as Column;
const columns = [
  column("code"),
  column("name"),
  column("duration"),
  column("end"),
  column("cost", null),
  column("people"),
  column("after"),
];

test("an indented block becomes rows at their levels", () => {
  const { lines } = outlineOf("Design\n\tConcept\t5d\n\tDrawings\t2w\n\t\tPlans\nBuild", columns);
  assert.deepEqual(
    lines.map((l) => [l.level, l.cells.name, l.cells.duration]),
    [
      [0, "Design", undefined],
      [1, "Concept", "5d"],
      [1, "Drawings", "2w"],
      [2, "Plans", undefined],
      [0, "Build", undefined],
    ],
  );
});

test("spaces indent too, and a duration may follow the name by two spaces", () => {
  const { lines } = outlineOf("Works\n  Dig  3 days\n  Pour concrete C30  1.5d\n  Level 2", columns);
  assert.deepEqual(
    lines.map((l) => [l.level, l.cells.name, l.cells.duration]),
    [
      [0, "Works", undefined],
      [1, "Dig", "3 days"],
      [1, "Pour concrete C30", "1.5d"],
      [1, "Level 2", undefined],
    ],
  );
});

test("more cells go to the columns after the name that can be written", () => {
  const [line] = outlineOf("Dig\t3d\t12 feb\tFIT 2", columns).lines;
  assert.deepEqual(line?.cells, { name: "Dig", duration: "3d", end: "12 feb", people: "FIT 2" });
  assert.deepEqual(outlineOf("\n \n", columns).lines, []);
});

test("headings say what the columns are, whatever their order", () => {
  const { lines, columns: taken } = outlineOf(
    "Code\tNAME\tRemark\tDuration\nX1\tDig\tdeep\t3d\nX2\t  Pour\t\t1d",
    columns,
  );
  assert.deepEqual(lines, [
    { level: 0, cells: { code: "X1", name: "Dig", duration: "3d" } },
    { level: 1, cells: { code: "X2", name: "Pour", duration: "1d" } },
  ]);
  assert.deepEqual(
    taken.map((c) => c.key),
    ["code", "name", "duration"],
  );
});

test("what a block was taken for can be changed before its rows are made", () => {
  const text = "Lot\tWhat is done\tHow long\nX1\tDig\t3d\nX2\t  Pour\t1d";
  const guess = outlineOf(text, columns);
  assert.equal(guess.headed, false);
  assert.equal(guess.wide, 3);
  const of = (key: string) => columns.find((c) => c.key === key) ?? null;
  const told = outlineOf(text, columns, { headed: true, found: [null, of("name"), of("duration")] });
  assert.deepEqual(told.lines, [
    { level: 0, cells: { name: "Dig", duration: "3d" } },
    { level: 1, cells: { name: "Pour", duration: "1d" } },
  ]);
});

test("headings of people's own lists are known", () => {
  const { lines, headed } = outlineOf(
    "Code\tActivity\tDuration\tPredecessors\nX1\tDig\t3d\t\nX2\tPour\t1d\tX1",
    columns,
  );
  assert.ok(headed);
  assert.deepEqual(lines[1]?.cells, { code: "X2", name: "Pour", duration: "1d", after: "X1" });
});

test("codes before the names are taken for codes, durations after them are not", () => {
  const coded = outlineOf("A100\tDig\t3d\nA110\tPour\t1d", columns).lines;
  assert.deepEqual(coded[1]?.cells, { code: "A110", name: "Pour", duration: "1d" });
  const numbered = outlineOf("1.1\tDig\t3d\n1.2\tPour\t1d", columns).lines;
  assert.deepEqual(numbered[1]?.cells, { code: "1.2", name: "Pour", duration: "1d" });
  const named = outlineOf("Level2\t3d\nLevel3\t1d", columns).lines;
  assert.deepEqual(named[0]?.cells, { name: "Level2", duration: "3d" });
});

test("a day on the timeline is the day it was drawn for", () => {
  for (const scale of ["day", "week", "month"] as const) {
    const axis = axisOf("2027-01-04T08:00", "2027-12-31T17:00", scale);
    for (const day of ["2027-01-04", "2027-02-28", "2027-03-28", "2027-10-31", "2027-12-31"])
      assert.equal(axis.day(axis.x(day) + 0.5), day, scale);
    assert.ok(axis.ticks.every((t, i, all) => i === 0 || t.x > (all[i - 1]?.x ?? 0)));
    assert.ok(axis.width > axis.x("2027-12-31"));
  }
});

test("a drag says what it would do", () => {
  const axis = axisOf("2027-01-04T08:00", "2027-12-31T17:00", "day");
  const a = row("a1", { start: "2027-02-01T08:00", finish: "2027-02-05T17:00" });
  const drag = { row: a, part: "body" as const, pause: false, from: 100, to: 100, y: 0, over: null };
  assert.equal(verbsOf(drag, axis), null);
  assert.deepEqual(verbsOf({ ...drag, to: 148 }, axis), [{ do: "set", row: "a1", cells: { begin: "2027-02-03" } }]);
  assert.deepEqual(verbsOf({ ...drag, part: "finish", to: 52 }, axis), [
    { do: "set", row: "a1", cells: { end: "2027-02-03" } },
  ]);
  const [from, to] = [axis.x("2027-02-02T12:00"), axis.x("2027-02-03T12:00")];
  assert.deepEqual(verbsOf({ ...drag, pause: true, from: to, to: from }, axis), [
    { do: "set", row: "a1", cells: { pauses: [{ from: "2027-02-02", to: "2027-02-03" }] } },
  ]);
  const tie = { ...drag, part: "tie-finish" as const, over: { id: "a9", half: "start" as const } };
  assert.deepEqual(verbsOf(tie, axis), [{ do: "add", list: "links", from: "a1", to: "a9", cells: { type: "FS" } }]);
  assert.deepEqual(verbsOf({ ...tie, part: "tie-start", over: { id: "a9", half: "finish" } }, axis), [
    { do: "add", list: "links", from: "a1", to: "a9", cells: { type: "SF" } },
  ]);
  assert.equal(verbsOf({ ...tie, over: { id: "a1", half: "start" } }, axis), null);
  assert.equal(verbsOf({ ...tie, over: null }, axis), null);
});

test("money, spans, dates and drifts as the ledger writes them", () => {
  assert.equal(format.money("1234567.80"), "1\u00a0234\u00a0567.80");
  assert.equal(format.money("-1234.00", true), "\u22121\u00a0234");
  assert.equal(format.money("1234.50", true), "1\u00a0234.50");
  assert.equal(format.money(null), "–");
  assert.equal(format.signed("12.00"), "+12.00");
  assert.equal(format.span("1.5d"), "1.5 d");
  assert.equal(format.span("30min"), "30 min");
  assert.equal(format.day("2027-02-01T08:00"), "1 Feb");
  assert.equal(format.fullDay("2027-12-31"), "31 December 2027");
  assert.equal(format.spokenDay("next monday"), "next monday");
  assert.equal(format.spokenDay("2027-12-31T23:59"), "31 December 2027");
  assert.equal(format.spokenDay(""), "");
  assert.equal(format.late(0.04), "on the day");
  assert.equal(format.late(-2), "2 d early");
  assert.equal(format.late(null), "new");
  assert.equal(format.drift(-1.25), "\u22121.3 d");
  assert.equal(format.figure("2027-01-05T17:00"), "5 January 2027");
  assert.equal(format.figure("0.9", "ratio"), "0.900");
  assert.equal(format.figure("12345.6"), "12\u00a0345.6");
  assert.equal(format.figure("-1.5", "number"), "\u22121.50 days");
  assert.equal(format.figure("45.000", "percent"), "45 %");
  assert.equal(format.figure("4800", "duration"), "4\u00a0800 min");
  assert.equal(format.figure("in_progress", "choice"), "in progress");
});
