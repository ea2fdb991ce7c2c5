import { expect, test } from "vitest";
import { OWN, type Project, titleOf, valueIn } from "../src/features/desk/useDeskLook";

const project = {
  code: "TUG",
  client: "Harbour",
  manager: "",
  state: "",
  kind: "Refit",
  mark_word: "Watch",
  currency: "EUR",
  own: { Berth: "Slip" },
} as unknown as Project;

test("a project says what a column asks, an own field by its name", () => {
  expect(valueIn(project, "client")).toBe("Harbour");
  expect(valueIn(project, "kind")).toBe("Refit");
  expect(valueIn(project, `${OWN}Berth`)).toBe("Slip");
});

test("what a project has not, and what is no column, is empty", () => {
  expect(valueIn(project, `${OWN}Notice`)).toBe("");
  expect(valueIn(project, "code")).toBe("");
  expect(valueIn(project, "")).toBe("");
});

test("a column of an own field is called by the field", () => {
  expect(titleOf(`${OWN}Berth`)).toBe("Berth");
  expect(titleOf("kind")).toBe("Kind of project");
  expect(titleOf("nothing known")).toBe("nothing known");
});
