import { words as shared } from "../words";
import { named, plural, say } from "./named";

const COMPARISONS: Record<string, string> = {
  "=": "is",
  "!=": "is not",
  "<": "is less than",
  "<=": "is at most",
  ">": "is more than",
  ">=": "is at least",
  empty: "is empty",
  not_empty: "is not empty",
  one_of: "is one of",
};
const OF_DATES: Record<string, string> = {
  "<": "lies before",
  "<=": "lies on or before",
  ">": "lies after",
  ">=": "lies on or after",
};

const working = (n: number) => `${Math.abs(n)} working ${plural(Math.abs(n), { one: "day", other: "days" })}`;
/** How a finish or a start that is compared with its baseline reads: so many days late or early. */
const LATENESS: Record<string, (n: number) => string> = {
  ">=": (n) => (n > 0 ? `${working(n)} late or more` : n ? `at most ${working(n)} early` : "on the day or late"),
  ">": (n) => (n > 0 ? `more than ${working(n)} late` : n ? `less than ${working(n)} early` : "late"),
  "<=": (n) => (n > 0 ? `at most ${working(n)} late` : n ? `${working(n)} early or more` : "on the day or early"),
  "<": (n) => (n > 0 ? `less than ${working(n)} late` : n ? `more than ${working(n)} early` : "early"),
};

const days = (n: string) => {
  const count = plural(Math.abs(Number(n)), { one: "1 working day", other: `${Math.abs(Number(n))} working days` });
  if (Number(n) === 0) return "the status date";
  return Number(n) < 0 ? `${count} before the status date` : `${count} from the status date`;
};

export const words = say({
  ...shared,
  rules: {
    title: "Marks",
    own: (n: number) => `${plural(n, { one: "1 rule", other: `${n} rules` })} of the project`,
    shipped: "The shipped rules",
    to: (rules: string, day: string) => `${rules}, to ${day}`,
    label: "Rules, the first that holds gives the mark",
    scopes: named({ activity: "Activities", wbs: "WBS elements", project: "The project" }),
    order: "Rule",
    sentence: "Mark, and when",
    now: "Now",
    uncaught: (n: number) => `No rule: not due, ${plural(n, { one: "1 row", other: `${n} rows` })}`,
    when: (mark: string, conditions: string) => (conditions ? `${mark}, when ${conditions}` : `${mark}, always`),
    joined: (parts: string[], match: string) => parts.join(match === "any" ? ", or when " : ", and "),
    condition: (figure: string, comparison: string, side: string) =>
      [figure, comparison, side].filter(Boolean).join(" "),
    comparison: (key: string, kind: string) =>
      (["instant", "date"].includes(kind) ? OF_DATES[key] : undefined) ?? COMPARISONS[key] ?? key,
    lateness: (figure: string, key: string, n: number) => {
      const verb = { finish_difference: "finishes", start_difference: "starts" }[figure];
      const lateness = LATENESS[key]?.(n);
      return verb && lateness ? `it ${verb} ${lateness}` : undefined;
    },
    flag: (figure: string, yes: boolean) => (yes ? `it is ${figure}` : `it is not ${figure}`),
    choice: (value: string) => `it is ${value}`,
    spans: { d: (n: string) => `${n} ${n === "1" ? "day" : "days"}`, h: (n: string) => `${n} h` } as Record<
      string,
      (n: string) => string
    >,
    sides: named({ value: "a value", than: "another figure", working_days: "working days from the status date" }),
    days,
    yes: "yes",
    no: "no",
    edit: "Edit",
    editOf: (lateness: string) => `Edit the rule “${lateness}”`,
    done: "Done",
    up: "Move up",
    down: "Move down",
    remove: "Delete",
    more_of: (lateness: string) => `Move or delete “${lateness}”`,
    add: "Add a rule",
    addOf: (scope: string) => `Add a rule for ${scope}`,
    mark: "Mark",
    match: "When",
    matches: named({ all: "all conditions hold", any: "any condition holds" }),
    figure: "Figure",
    comparing: "Comparison",
    side: "Compared with",
    value: "Value",
    another: "Another figure",
    workingDays: "Working days",
    removeCondition: (n: number) => `Delete condition ${n}`,
    addCondition: "Add condition",
    reason: "Reason",
    reasonHint: "Figures in braces: finishes {finish_difference} late",
    hints: named({
      duration: "5d",
      money: "1200.00",
      percent: "12.5",
      ratio: "0.95",
      number: "10",
      instant: "2027-02-01",
      date: "2027-02-01",
    }),
    listHint: "with semicolons between",
    save: "Save the rules",
    discard: "Discard",
    useShipped: "Use the shipped rules",
    changes: "What saving changes",
    none: "No mark changes.",
    count: (n: number) => plural(n, { one: "1 mark changes", other: `${n} marks change` }),
    more: (n: number) => `and ${n} more`,
    sets: "Sets of the organisation",
    take: "Take over a set…",
    keep: "Keep as a set",
    keepName: "Name of the set",
    dropOf: (name: string) => `Delete the set ${name}`,
    readOnly: "This page is dry: it keeps the marks of its own rules.",
    keys: "Alt+↑ and Alt+↓ move the rule that has the focus.",
  },
} as const);
