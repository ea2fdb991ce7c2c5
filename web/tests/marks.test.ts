import { expect, test } from "vitest";
import {
  asValue,
  comparisonsOf,
  type Figure,
  freshCode,
  moved,
  type Rule,
  reasonShown,
  ruleSentence,
  sidesOf,
  typed,
} from "../src/features/marks/rules";

const figure = (key: string, kind: string, word: string): Figure => ({
  key,
  kind,
  word,
  head: word,
  formula: "",
  group: "plan",
  scopes: ["activity"],
});
const FIGURES = [
  figure("finish_difference", "duration", "Finish against baseline"),
  figure("spi", "ratio", "SPI"),
  figure("finish", "instant", "Finish"),
  figure("deadline", "instant", "Deadline"),
  figure("state", "choice", "State"),
  figure("ahead", "flag", "Out of sequence"),
];
const rule = (code: string, scope: string, conditions: Rule["conditions"] = [], match = "all"): Rule => ({
  code,
  scope,
  match,
  mark: "act",
  reason: "",
  conditions,
});

test("a rule is a sentence that can be read aloud", () => {
  const late = { figure: "finish_difference", is: ">=", value: "5d" };
  expect(ruleSentence(rule("R", "activity", [late]), FIGURES)).toBe(
    "Act, when it finishes 5 working days late or more",
  );
  const of = (figure: string, is: string, value: string | boolean) =>
    ruleSentence(rule("R", "activity", [{ figure, is, value }]), FIGURES);
  expect(of("finish_difference", "<", "-1d")).toBe("Act, when it finishes more than 1 working day early");
  expect(of("finish_difference", "!=", "2d")).toBe("Act, when finish against baseline is not 2 days");
  expect(of("state", "=", "in_progress")).toBe("Act, when it is in progress");
  expect(of("ahead", "=", false)).toBe("Act, when it is not out of sequence");
  expect(reasonShown("finishes {finish_difference} late")).toBe("finishes … late");
  const more = [
    { figure: "finish", is: ">", than: "deadline" },
    { figure: "finish", is: "<=", working_days: -1 },
    { figure: "state", is: "one_of", value: ["in_progress", "complete"] },
    { figure: "deadline", is: "empty" },
  ];
  expect(ruleSentence(rule("R", "activity", more, "any"), FIGURES)).toBe(
    "Act, when finish lies after deadline, or when finish lies on or before 1 working day before the status date, " +
      "or when state is one of in progress; complete, or when deadline is empty",
  );
  expect(ruleSentence(rule("R", "activity"), FIGURES)).toBe("Act, always");
});

test("what is typed becomes what the book writes, and back", () => {
  expect([asValue("0,95", "ratio", "<"), asValue("5d", "duration", "="), asValue("yes", "flag", "=")]).toEqual([
    0.95,
    "5d",
    true,
  ]);
  expect(asValue("a; b;", "text", "one_of")).toEqual(["a", "b"]);
  expect(asValue("soon", "ratio", "<")).toBe("soon");
  expect([typed(true), typed(0.5), typed(["a", "b"]), typed(undefined)]).toEqual(["yes", "0.5", "a; b", ""]);
});

test("what can be compared with what", () => {
  expect(comparisonsOf("choice")).not.toContain("<");
  expect(sidesOf("instant", ">")).toEqual(["value", "than", "working_days"]);
  expect(sidesOf("money", "empty")).toEqual([]);
});

test("a rule moves among those of its scope", () => {
  const rules = [rule("A", "activity"), rule("W", "wbs"), rule("B", "activity")];
  expect(moved(rules, "B", -1).map((r) => r.code)).toEqual(["B", "W", "A"]);
  expect(moved(rules, "A", -1)).toBe(rules);
  expect(freshCode([rule("R2", "wbs")])).toBe("R3");
});
