import type { Row } from "./row";

/** A condition on a column: what is typed after its name, such as "north", "> 5", "not empty". */
export interface Condition {
  key: string;
  text: string;
}

/** The conditions of a lens that say something; views kept before there were any have none. */
export const conditionsOf = (lens: { where?: Condition[] }) => (lens.where ?? []).filter((c) => c.text.trim());

const MINUTES: Record<string, number> = { min: 1, h: 60, d: 480, w: 2400 };

/** What a column holds of a row: a number where it counts, else a text. */
function held(row: Row, key: string): string | number {
  if (key.startsWith("fields.")) {
    const own = row.fields[key.slice(7)] ?? "";
    return typeof own === "boolean" ? (own ? "yes" : "no") : typeof own === "number" ? own : String(own);
  }
  if (key === "begin") return (row.start ?? "").slice(0, 10);
  if (key === "end") return (row.finish ?? "").slice(0, 10);
  if (key === "cost" || key === "direct_cost") return row[key] === null ? "" : Number(row[key]);
  if (key === "duration") return lengthOf(row.duration) ?? row.duration;
  const value = (row as unknown as Record<string, unknown>)[key] ?? "";
  return typeof value === "number" ? value : String(value).replaceAll("_", " ");
}

/** A length of time in minutes of eight-hour days, to compare by; null where it is none. */
function lengthOf(text: string): number | null {
  const found = text.trim().match(/^([\d.]+)\s*(min|h|d|w)?$/i);
  return found ? Number(found[1]) * (MINUTES[(found[2] ?? "d").toLowerCase()] ?? 480) : null;
}

const compare: Record<string, (a: string | number, b: string | number) => boolean> = {
  ">": (a, b) => a > b,
  "<": (a, b) => a < b,
  ">=": (a, b) => a >= b,
  "<=": (a, b) => a <= b,
  "=": (a, b) => a === b,
};

/** Whether a condition holds for a row. */
export function holds({ key, text }: Condition, row: Row): boolean {
  const typed = text.trim().toLowerCase();
  const value = held(row, key);
  if (typed === "empty") return value === "";
  if (typed === "not empty") return value !== "";
  const not = typed.startsWith("not ");
  if (not) return !holds({ key, text: typed.slice(4) }, row);
  const [, sign, rest = ""] = typed.match(/^(>=|<=|>|<|=)\s*(.*)$/) ?? [];
  if (!sign) return String(value).toLowerCase().includes(typed);
  if (value === "") return false;
  const bare = key === "duration" ? lengthOf(rest) : Number(rest.replace(/[\s,]/g, ""));
  if (typeof value === "number") return bare !== null && !Number.isNaN(bare) && compare[sign]?.(value, bare) === true;
  return compare[sign]?.(value.toLowerCase(), rest) === true;
}
