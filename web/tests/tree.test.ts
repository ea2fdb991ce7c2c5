import assert from "node:assert/strict";
import { test } from "vitest";
import { conditionsOf } from "../src/features/plan/conditions";
import { childrenOf, isPlain, type Line, PLAIN, withDraft } from "../src/features/plan/tree";
import { forest, lay, row } from "./rows";

const ids = (lines: Line[]) => lines.map((l) => l.id).join(" ");
const none = new Set<string>();
const site = [
  row("w1", { name: "Design" }),
  row("a2", { parent: "w1", name: "Draw it", people: "DES", total_float: 0, critical: true, cost: "100.50" }),
  row("a3", { parent: "w1", name: "Check it", after: "A2", fields: { zone: "North", depth: 4, wet: true } }),
  row("w4", { name: "Build" }),
  row("w5", { parent: "w4", name: "Ground" }),
  row("a6", { parent: "w5", name: "Dig", duration: "3d", total_float: 5, fields: { zone: "South", depth: 12 } }),
  row("a7", { parent: "w4", name: "Open", kind: "milestone", duration: "0d" }),
];

test("the tree in order, each row at its depth", () => {
  const lines = lay(site, none, PLAIN);
  assert.equal(ids(lines), "w1 a2 a3 w4 w5 a6 a7");
  assert.deepEqual(
    lines.map((l) => (l.kind === "row" ? l.depth : -1)),
    [0, 1, 1, 0, 1, 2, 1],
  );
  assert.deepEqual(
    lines.map((l) => (l.kind === "row" ? l.parts : -1)),
    [2, 0, 0, 2, 1, 0, 0],
  );
});

test("a folded element hides all under it, and nothing else", () => {
  assert.equal(ids(lay(site, new Set(["w4"]), PLAIN)), "w1 a2 a3 w4");
  assert.equal(ids(lay(site, new Set(["w5"]), PLAIN)), "w1 a2 a3 w4 w5 a7");
});

test("rows move by their order, not by how they came", () => {
  const moved = site.map((r) => (r.id === "a3" ? { ...r, order: 1.5 } : r)).reverse();
  assert.equal(ids(lay(moved, none, PLAIN)), "w1 a3 a2 w4 w5 a6 a7");
});

test("finding keeps the elements above what is found, and opens folded ones", () => {
  assert.equal(ids(lay(site, new Set(["w4", "w5"]), { ...PLAIN, find: "dig" })), "w4 w5 a6");
  assert.equal(ids(lay(site, none, { ...PLAIN, find: "ground" })), "w4 w5");
  assert.equal(ids(lay(site, none, { ...PLAIN, find: "north" })), "w1 a3");
  assert.equal(ids(lay(site, none, { ...PLAIN, find: "nothing" })), "");
});

test("what is shown by kind", () => {
  assert.equal(ids(lay(site, none, { ...PLAIN, show: "milestones" })), "w4 a7");
  assert.equal(ids(lay(site, none, { ...PLAIN, show: "critical" })), "w1 a2");
  assert.equal(ids(lay(site, none, { ...PLAIN, show: "unlinked" })), "w1 a2 w4 w5 a6 a7");
  assert.equal(ids(lay(site, none, { ...PLAIN, show: "unstaffed" })), "w1 a3 w4 w5 a6");
});

test("grouped and sorted sheets are flat", () => {
  const grouped = lay(site, none, { ...PLAIN, group: "fields.zone" });
  assert.equal(ids(grouped), "group:North a3 group:South a6 group:– a2 a7");
  assert.equal(ids(lay(site, none, { ...PLAIN, sort: "name" })), "a3 a6 a2 a7");
  assert.equal(ids(lay(site, none, { ...PLAIN, sort: "-name" })), "a7 a2 a6 a3");
  assert.equal(ids(lay(site, none, { ...PLAIN, sort: "total_float" })).split(" ")[0], "a2");
});

test("sorting takes dates as dates, numbers as numbers, and what is not there last", () => {
  const rows = [
    row("a1", { start: "2027-03-01T08:00", late: 10, fields: { depth: 9 } }),
    row("a2", { start: "2027-01-04T08:00", late: -2, fields: { depth: 10 } }),
    row("a3", { start: "2027-02-01T08:00", late: null }),
    row("a4", { start: "2027-02-11T08:00", late: 9, fields: { depth: 1.5 } }),
  ];
  const by = (sort: string) => ids(lay(rows, none, { ...PLAIN, sort }));
  assert.equal(by("begin"), "a2 a3 a4 a1");
  assert.equal(by("-begin"), "a1 a4 a3 a2");
  assert.equal(by("late"), "a2 a4 a1 a3");
  assert.equal(by("-late"), "a1 a4 a2 a3");
  assert.equal(by("fields.depth"), "a4 a1 a2 a3");
});

test("a lens is plain only without find, kind, group, sort and conditions that say something", () => {
  assert.ok(isPlain(PLAIN));
  assert.ok(isPlain({ ...PLAIN, where: [{ key: "name", text: "  " }] }));
  assert.ok(!isPlain({ ...PLAIN, where: [{ key: "name", text: "x" }] }));
  assert.deepEqual(conditionsOf({}), []);
});

test("all conditions hold at once, and elements stay above what is left", () => {
  const where = [
    { key: "fields.depth", text: "> 3" },
    { key: "fields.zone", text: "south" },
  ];
  assert.equal(ids(lay(site, none, { ...PLAIN, where })), "w4 w5 a6");
  assert.equal(ids(lay(site, none, { ...PLAIN, where, sort: "name" })), "a6");
});

test("a row being begun stands after its sibling and all under that", () => {
  const lines = lay(site, none, PLAIN);
  const at = (draft: Parameters<typeof withDraft>[1]) => {
    const out = withDraft(lines, draft);
    const i = out.findIndex((l) => l.kind === "draft");
    const line = out[i];
    return line?.kind === "draft" ? [out[i - 1]?.id, line.depth] : null;
  };
  assert.equal(at(null), null);
  assert.deepEqual(at({ parent: "w1", after: "a2", indent: false }), ["a2", 1]);
  assert.deepEqual(at({ parent: "w1", after: "a2", indent: true }), ["a2", 2]);
  assert.deepEqual(at({ parent: null, after: "w4", indent: false }), ["a7", 0]);
  assert.deepEqual(at({ parent: "w5", after: null, indent: false }), ["a6", 2]);
  assert.deepEqual(at({ parent: null, after: null, indent: false }), ["a7", 0]);
});

test("in any tree every row stands once, after its element, and folding hides just what lies under", () => {
  for (let seed = 1; seed <= 40; seed++) {
    const rows = forest(seed, 30);
    const lines = lay(rows, none, PLAIN);
    const place = new Map(lines.map((l, i) => [l.id, i]));
    assert.equal(place.size, rows.length);
    for (const r of rows)
      if (r.parent) assert.ok((place.get(r.id) ?? 0) > (place.get(r.parent) ?? 0), `${seed} ${r.id}`);
    const children = childrenOf(rows);
    for (const w of rows.filter((r) => r.kind === "wbs")) {
      const under = (id: string): string[] => (children.get(id) ?? []).flatMap((c) => [c.id, ...under(c.id)]);
      const left = lay(rows, new Set([w.id]), PLAIN).map((l) => l.id);
      assert.deepEqual(new Set(left), new Set(rows.map((r) => r.id).filter((id) => !under(w.id).includes(id))));
    }
  }
});
