import type { Schemas } from "../../api";
import { asTyped, format, numberOf } from "../../shared";
import { words } from "../../shared/words/marks";

const w = words.rules;
export type Figure = Schemas["FigureOut"];
export type Scope = "activity" | "wbs" | "project";
export const SCOPES: Scope[] = ["activity", "wbs", "project"];
export const MARKS = ["done", "on_plan", "watch", "act", "soon", "not_due"] as const;
export const SIDES = ["value", "than", "working_days"] as const;
export type Side = (typeof SIDES)[number];

export type Condition = {
  figure: string;
  is: string;
  value?: string | number | boolean | (string | number | boolean)[];
  than?: string;
  working_days?: number;
};

/** A rule as the book writes it. */
export type Rule = {
  code: string;
  scope: string;
  match: string;
  mark: string;
  reason: string;
  conditions: Condition[];
};

const NUMBERS = ["number", "percent", "ratio"];
const WORDS = ["text", "choice", "flag"];
const FAMILIES = [["money"], ["duration"], ["instant", "date"], NUMBERS, ["text"], ["choice"], ["flag"]];
const FIELD_KINDS: Record<string, string> = { yes_no: "flag", formula: "number" };

/** The figures of a scope, the project's own fields after those of the catalogue. */
export function figuresOf(catalogue: Figure[], fields: string[][], scope: string): Figure[] {
  const own = fields.filter((f) => (f[3] ?? "activity") === scope);
  return [
    ...catalogue.filter((f) => f.scopes.includes(scope)),
    ...own.map(([code = "", name = "", kind = ""]): Figure => {
      const key = `field:${code}`;
      return {
        key,
        word: name,
        head: name,
        kind: FIELD_KINDS[kind] ?? kind,
        scopes: [scope],
        formula: "",
        group: "own",
      };
    }),
  ];
}

/** The comparisons that a kind of figure knows. */
export const comparisonsOf = (kind: string) =>
  WORDS.includes(kind)
    ? ["=", "!=", "one_of", "empty", "not_empty"]
    : ["<", "<=", ">", ">=", "=", "!=", "one_of", "empty", "not_empty"];

/** What a comparison of a kind of figure can be with. */
export function sidesOf(kind: string, comparison: string): Side[] {
  if (comparison === "empty" || comparison === "not_empty") return [];
  if (comparison === "one_of") return ["value"];
  return kind === "instant" || kind === "date" ? [...SIDES] : ["value", "than"];
}

export const sideOf = (c: Condition): Side =>
  c.than !== undefined ? "than" : c.working_days !== undefined ? "working_days" : "value";

/** Figures that one of a kind can be compared with. */
export const likeFigures = (figures: Figure[], kind: string) =>
  figures.filter((f) => FAMILIES.some((family) => family.includes(kind) && family.includes(f.kind)));

/** A value as it is typed. */
export function typed(value: Condition["value"]): string {
  if (Array.isArray(value)) return value.map((x) => typed(x)).join("; ");
  if (typeof value === "boolean") return value ? w.yes : w.no;
  return value === undefined ? "" : asTyped(String(value));
}

const one = (text: string, kind: string): string | number | boolean => {
  const bare = text.trim();
  if (kind === "flag") return bare.toLowerCase() === w.yes;
  const number = numberOf(bare);
  return NUMBERS.includes(kind) && bare !== "" && !Number.isNaN(number)
    ? number
    : SPAN.test(bare)
      ? bare.replace(",", ".")
      : bare;
};

/** What was typed as the value that the book writes; what is no number stays as it was typed, to be refused at its place. */
export function asValue(text: string, kind: string, comparison: string): Condition["value"] {
  if (comparison !== "one_of") return one(text, kind);
  return text
    .split(";")
    .filter((x) => x.trim())
    .map((x) => one(x, kind));
}

/** A word as it stands inside a sentence; abbreviations stay. */
const inside = <T extends string | undefined>(word: T) =>
  word && /^[A-Z][a-z]/.test(word) ? `${word.charAt(0).toLowerCase()}${word.slice(1)}` : word;

const SPAN = /^(-?\d+(?:[.,]\d+)?)(d|h)$/;

/** A condition that reads otherwise than figure, comparison and value; undefined where it does not. */
function inWords({ figure, is, value, than }: Condition, known: Figure | undefined): string | undefined {
  const [, n = "", unit] = SPAN.exec(String(value ?? "")) ?? [];
  if (unit === "d" && than === undefined) {
    const late = w.lateness(figure, is, Number(n));
    if (late) return late;
  }
  if (is !== "=" || than !== undefined || value === undefined) return undefined;
  if (known?.kind === "flag") return w.flag(inside(known.word), value === true);
  return figure === "state" ? w.choice(format.choice(typed(value))) : undefined;
}

/** A value as a sentence says it. */
const spoken = (value: Condition["value"]) => {
  const text = format.choice(typed(value));
  const [, n = "", unit = ""] = SPAN.exec(String(value ?? "")) ?? [];
  return w.spans[unit]?.(n) ?? text;
};

/** A reason as it will read, whatever the figures in it will be. */
export const reasonShown = (reason: string) => reason.replace(/\{[^}]*\}/g, "…");

/** A rule as a sentence that can be read aloud. */
export function ruleSentence(rule: Rule, figures: Figure[]): string {
  const known = new Map(figures.map((f) => [f.key, f]));
  const parts = rule.conditions.map((c) => {
    const figure = known.get(c.figure);
    const own = inWords(c, figure);
    if (own) return own;
    const side = sidesOf(figure?.kind ?? "", c.is).length
      ? (inside(known.get(c.than ?? "")?.word) ??
        (c.working_days === undefined ? spoken(c.value) : w.days(String(c.working_days))))
      : "";
    return w.condition(inside(figure?.word ?? c.figure), w.comparison(c.is, figure?.kind ?? ""), side);
  });
  const mark = words.marks[rule.mark] ?? rule.mark;
  return w.when(mark, w.joined(parts, rule.match));
}

/** A condition as the book has it, of what an answer has. */
export const conditionOf = ({ figure, is, value, than, working_days }: Record<string, unknown>): Condition => ({
  figure: String(figure),
  is: String(is),
  ...(value === undefined || value === null ? {} : { value: value as Condition["value"] }),
  ...(typeof than === "string" ? { than } : {}),
  ...(typeof working_days === "number" ? { working_days } : {}),
});

/** A code that no rule has yet. */
export function freshCode(rules: Rule[]): string {
  const taken = new Set(rules.map((r) => r.code));
  let n = rules.length + 1;
  while (taken.has(`R${n}`)) n++;
  return `R${n}`;
}

/** The rules with one of them moved before or after its neighbour of the same scope. */
export function moved(rules: Rule[], code: string, step: -1 | 1): Rule[] {
  const at = rules.findIndex((r) => r.code === code);
  const rule = rules[at];
  if (!rule) return rules;
  let to = at + step;
  while (rules[to] && rules[to]?.scope !== rule.scope) to += step;
  const other = rules[to];
  if (!other) return rules;
  const out = [...rules];
  out[at] = other;
  out[to] = rule;
  return out;
}
