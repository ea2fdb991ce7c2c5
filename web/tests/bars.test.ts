import assert from "node:assert/strict";
import { test } from "vitest";
import type { Schemas } from "../src/api";
import { codeOf, milestonesOf, nameOf, spanOf, treeOf } from "../src/features/timeline/rows";
import { type Drag, workOf } from "../src/features/timeline/useBars";
import { axisOf } from "../src/shared/time";

const bar = (code: string, more: Partial<Schemas["Bar"]> = {}): Schemas["Bar"] => ({
  ...{ code, name: `Work ${code}`, wbs: "1", kind: "task", state: "in_progress", mark: "", drivers: [], pauses: [] },
  ...{ start: "2027-02-01T08:00", finish: "2027-02-05T17:00", worked_to: "2027-02-03T17:00", resume: null },
  ...{ base_start: null, base_finish: null, late_days: null, float_to: null, driving: false, percent: 50 },
  ...{ out_of_sequence: false, others: {}, buffer: null, outside: [], id: `a.${code}`, done_to: "2027-02-03T12:00" },
  ...more,
});

test("a part of a bar is posted where it is dragged to, by the day or near by the hour", () => {
  const axis = axisOf("2027-01-04T08:00", "2027-12-31T17:00", "day");
  const drag: Drag = { bar: bar("A"), part: "finish", from: 100, to: 101, y: 0 };
  const about = { code: "A", name: "Work A" };
  assert.equal(workOf(drag, axis), null, "a hand that trembles does nothing");
  assert.deepEqual(workOf({ ...drag, to: 148 }, axis), { ...about, part: "finish", to: "2027-02-07" });
  assert.deepEqual(workOf({ ...drag, part: "start", to: 76 }, axis), { ...about, part: "start", to: "2027-01-31" });
  assert.equal(workOf({ ...drag, part: "start", to: 106 }, axis), null, "still on its day");
  assert.deepEqual(workOf({ ...drag, part: "worked", to: 112 }, axis), {
    ...about,
    part: "worked",
    to: "2027-02-04T00:00",
  });
  const near = axisOf("2027-02-01T08:00", "2027-02-12T17:00", "hour");
  assert.deepEqual(workOf({ ...drag, to: 120 }, near), { ...about, part: "finish", to: "2027-02-05T19:00" });
});

test("a pause is drawn beside those that there are", () => {
  const axis = axisOf("2027-01-04T08:00", "2027-12-31T17:00", "day");
  const paused = bar("A", { pauses: [["2027-02-02T00:00", "2027-02-03T00:00", "rain"]] });
  const [from, to] = [axis.x("2027-02-04T12:00"), axis.x("2027-02-05T12:00")];
  assert.deepEqual(workOf({ bar: paused, part: "pause", from, to, y: 0 }, axis), {
    code: "A",
    name: "Work A",
    verbs: [
      {
        do: "set",
        row: "a.A",
        cells: {
          pauses: [
            { from: "2027-02-02T00:00", to: "2027-02-03T00:00", reason: "rain" },
            { from: "2027-02-04", to: "2027-02-05" },
          ],
        },
      },
    ],
  });
});

const element = (code: string, level: number) => ({ code, name: code, level, start: null, finish: null, done: 0 });
const far = {
  ...{ code: "MAST/M1", name: "Mast free", state: "not_started", status: null },
  ...{ start: "2027-01-20T08:00", finish: "2027-01-29T17:00" },
};
const whole: Schemas["TimelineOut"] = {
  ...{ status: "2027-02-03T17:00", baseline: null, start: "2027-01-04T08:00", finish: "2027-03-01T17:00" },
  ...{ deadline: null, baselines: [], externals: [far] },
  wbs: [element("1", 0), element("1.1", 1), element("2", 0)],
  bars: [
    bar("A", { outside: [{ code: far.code, at: far.finish, drives: true }] }),
    bar("M", { wbs: "1.1", kind: "milestone" }),
    bar("B", { wbs: "2" }),
  ],
};
const rowsOf = (t: Schemas["TimelineOut"]) =>
  treeOf(t, new Map()).flatMap((l) => (l.kind === "row" ? [`${"  ".repeat(l.depth)}${codeOf(l.row)}`] : []));

test("what another project does stands over who waits for it", () => {
  assert.deepEqual(rowsOf(whole), ["1", "  MAST/M1", "  A", "  1.1", "    M", "2", "  B"]);
  const line = treeOf(whole, new Map())[1];
  assert.ok(line?.kind === "row");
  assert.equal(nameOf(line.row), "Mast free");
  assert.deepEqual(spanOf(line.row), { start: far.start, finish: far.finish });
});

test("milestones alone stay under the elements that have any", () => {
  assert.deepEqual(rowsOf(milestonesOf(whole)), ["1", "  1.1", "    M"]);
});
