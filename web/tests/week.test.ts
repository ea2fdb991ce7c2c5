import assert from "node:assert/strict";
import { test } from "vitest";
import { weekOf } from "../src/features/posting/week";

const worked = (code: string, text: string) => ({ code, field: "worked", text });

test("a week names its activities, with hours, overtime and remaining in that order", () => {
  assert.deepEqual(weekOf("A150\t8\t1\t12\nA160 Fire concept\t4\n"), [
    worked("A150", "8"),
    { code: "A150", field: "overtime", text: "1" },
    { code: "A150", field: "to_go", text: "12" },
    worked("A160", "4"),
  ]);
});

test("a heading row says which column is which", () => {
  assert.deepEqual(weekOf("Task\tRemaining\tHours\nA150\t12\t8"), [
    { code: "A150", field: "to_go", text: "12" },
    worked("A150", "8"),
  ]);
});

test("plain numbers are a block of cells and no week", () => {
  assert.equal(weekOf("8\t1\n4\t0"), null);
  assert.equal(weekOf("8"), null);
});
