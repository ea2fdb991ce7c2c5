import assert from "node:assert/strict";
import { test } from "vitest";
import { landingOf, topmost } from "../src/features/plan/landing";
import type { Row } from "../src/features/plan/row";
import { PLAIN } from "../src/features/plan/tree";
import { chance, forest, lay, mapOf, row } from "./rows";

const rows = [
  row("w1"),
  row("a2", { parent: "w1" }),
  row("a3", { parent: "w1" }),
  row("w4"),
  row("w5", { parent: "w4" }),
  row("a6", { parent: "w5" }),
  row("a7"),
];
const all = mapOf(rows);
const lines = lay(rows, new Set(), PLAIN);
const one = (id: string) => rows.filter((r) => r.id === id);
const verb = (id: string, index: number, depth: number) => landingOf(lines, all, one(id), index, depth)?.verb;

test("between two rows of one element it goes after the first of them", () => {
  assert.deepEqual(verb("a7", 2, 1), { do: "place", rows: ["a7"], after: "a2" });
});

test("right under an open element it becomes the first in it", () => {
  assert.deepEqual(verb("a7", 1, 0), { do: "place", rows: ["a7"], parent: "w1", first: true });
});

test("before everything it becomes the first of all", () => {
  assert.deepEqual(verb("a7", 0, 3), { do: "place", rows: ["a7"], parent: null, first: true });
});

test("after the last of an element the pointer's depth says how far out it goes", () => {
  assert.deepEqual(verb("a7", 6, 2), { do: "place", rows: ["a7"], after: "a6" });
  assert.deepEqual(verb("a7", 6, 1), { do: "place", rows: ["a7"], after: "w5" });
  assert.deepEqual(verb("a7", 6, 0), { do: "place", rows: ["a7"], after: "w4" });
});

test("nothing goes into itself or after itself", () => {
  assert.equal(verb("w4", 5, 1), undefined);
  assert.equal(verb("w4", 6, 2), undefined);
  assert.equal(verb("a3", 3, 1), undefined);
});

test("what goes along with an element above it is not moved twice", () => {
  const ids = (picked: Row[]) => topmost(picked, all).map((r) => r.id);
  assert.deepEqual(ids(rows.slice(3, 6)), ["w4"]);
  assert.deepEqual(ids(rows.slice(4)), ["w5", "a7"]);
});

test("in any tree a landing is beside or in an element that stays", () => {
  for (let seed = 1; seed <= 60; seed++) {
    const tree = forest(seed, 25);
    const known = mapOf(tree);
    const laid = lay(tree, new Set(), PLAIN);
    const pick = chance(seed + 1000);
    for (let round = 0; round < 20; round++) {
      const held = topmost(
        [tree[pick(25)], tree[pick(25)]].filter((r): r is Row => r !== undefined),
        known,
      );
      const found = landingOf(laid, known, held, pick(26), pick(5));
      if (!found) continue;
      const moved = new Set(held.map((r) => r.id));
      const beside = found.verb.after ? known.get(String(found.verb.after)) : null;
      for (
        let at = found.verb.after ? beside?.parent : (found.verb.parent as string | null);
        at;
        at = known.get(at)?.parent
      )
        assert.ok(!moved.has(at), `${seed}: into itself`);
      assert.ok(!beside || !moved.has(beside.id));
      const next = laid[found.index];
      if (next?.kind === "row")
        assert.ok(found.depth >= next.depth || found.index === 0, `${seed}: shown below its place`);
    }
  }
});
