import { expect, test } from "vitest";
import { deskColumns, type Project } from "../src/features/desk/useDeskLook";
import { byKey, fits, grouped, titleOf } from "../src/shared/look";

const base = { client: "Harbour", manager: "", state: "", kind: "Refit", currency: "EUR", status: "2027-03-05T17:00" };
const project = (more: object) => ({ ...base, mark_word: "Watch", own: {}, finish: "", ...more }) as unknown as Project;
const tug = project({ code: "TUG", name: "Tug", own: { Berth: "Slip" }, cpi: 0.9, vac: "-12.50", late_days: 4 });
const pier = project({ code: "PIER", name: "Pier", client: "City", cpi: null, vac: "300", late_days: null });
const barge = project({ code: "BARGE", name: "Barge", cpi: 1.1, vac: "-100", late_days: 11.5 });
const all = [tug, pier, barge];
const columns = byKey(deskColumns(all));
const on = { near: "2027-03-05", day: 480 };
const sorted = (sort: string) =>
  grouped(all, { where: [], sort, group: "" }, columns, on).flatMap(([, own]) => own.map((p) => p.code));

test("the desk offers what some project says of itself, an own field by its name", () => {
  expect(columns.has("manager")).toBe(false); // nobody has one
  expect(columns.get("own:Berth")?.text(tug)).toBe("Slip");
  expect(titleOf(columns.get("own:Berth") ?? { title: "" })).toBe("Berth");
  expect(columns.get("kind")?.title).toBe("Kind of project");
});

test("projects are sorted by what a column holds, those without it last either way", () => {
  expect(sorted("vac")).toEqual(["BARGE", "TUG", "PIER"]);
  expect(sorted("-late_days")).toEqual(["BARGE", "TUG", "PIER"]);
  expect(sorted("-cpi")).toEqual(["BARGE", "TUG", "PIER"]);
  expect(sorted("cpi")).toEqual(["TUG", "BARGE", "PIER"]);
  expect(sorted("")).toEqual(["TUG", "PIER", "BARGE"]);
});

test("conditions compare amounts as numbers and words as words", () => {
  const held = (key: string, text: string) =>
    all.filter((p) => fits(p, [{ key, text }], columns, on)).map((p) => p.code);
  expect(held("vac", "< 0")).toEqual(["TUG", "BARGE"]);
  expect(held("late_days", "> 5")).toEqual(["BARGE"]);
  expect(held("late_days", "empty")).toEqual(["PIER"]);
  expect(held("client", "= city")).toEqual(["PIER"]);
  expect(held("status", "> 1 mar")).toEqual(["TUG", "PIER", "BARGE"]);
});

test("groups come by name, each with its projects in the order that is asked for", () => {
  const found = grouped(all, { where: [], sort: "vac", group: "client" }, columns, on);
  expect(found.map(([name, own]) => [name, own.map((p) => p.code)])).toEqual([
    ["City", ["PIER"]],
    ["Harbour", ["BARGE", "TUG"]],
  ]);
});
