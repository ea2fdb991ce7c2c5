import assert from "node:assert/strict";
import { test } from "vitest";
import { named, weekOf } from "../src/features/posting/week";

const worked = (text: string) => ({ field: "worked", text });

test("a week names its activities, with hours, overtime and remaining in that order", () => {
  assert.deepEqual(weekOf("A150\t8\t1\t12\nA160 Fire concept\t4\n"), [
    {
      activity: "A150",
      person: "",
      hours: [worked("8"), { field: "overtime", text: "1" }, { field: "to_go", text: "12" }],
    },
    { activity: "A160 Fire concept", person: "", hours: [worked("4")] },
  ]);
});

test("a heading row says which column is which, people too", () => {
  assert.deepEqual(weekOf("Task\tWho\tRemaining\tHours\nA150\tRuan Teale\t12\t8"), [
    { activity: "A150", person: "Ruan Teale", hours: [worked("8"), { field: "to_go", text: "12" }] },
  ]);
});

test("an activity is known by its code, a code that it begins with, or its name alone", () => {
  const list = [
    ["A150", "Fire concept"],
    ["A160", "Fire dampers"],
    ["A170", "Cable runs, aft"],
  ];
  const found = ["a150", "A160 whatever", "fire concept", "cable runs", "fire", "A9"].map((t) => named(list, t));
  assert.deepEqual(found, ["A150", "A160", "A150", "A170", undefined, undefined]);
});

test("plain numbers are a block of cells and no week", () => {
  assert.equal(weekOf("8\t1\n4\t0"), null);
  assert.equal(weekOf("8"), null);
});
