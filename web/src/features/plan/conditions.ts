import { type Condition, type Ground as Days, type Kind, lengthOf, meets, unreadable } from "../../shared/look";
import type { Row } from "./row";

export { type Condition, dateOf } from "../../shared/look";

/** The conditions of a lens that say something; views kept before there were any have none. */
export const conditionsOf = (lens: { where?: Condition[] }) => (lens.where ?? []).filter((c) => c.text.trim());

/** What conditions are read against here: the own fields' kinds too. */
export interface Ground extends Days {
  kinds: Record<string, string>;
}

export const groundOf = (info: {
  start: string;
  status: string;
  hours_per_day: number;
  fields: { code: string; kind: string }[];
}): Ground => ({
  near: (info.status || info.start).slice(0, 10),
  day: info.hours_per_day * 60,
  kinds: Object.fromEntries(info.fields.map((f) => [`fields.${f.code}`, f.kind])),
});

const KINDS: Record<string, string> = {
  begin: "date",
  end: "date",
  deadline: "date",
  duration: "duration",
  safe: "duration",
  levelled: "date",
  cost: "number",
  direct_cost: "number",
  total_float: "number",
  late: "number",
  percent: "number",
  weight: "number",
};
const FIELDS: Record<string, keyof Row> = { begin: "start", end: "finish" };

/** What a column holds of a row: a number where it counts, an ISO date, else a text; "" where it is empty. */
function held(row: Row, key: string, on: Ground): string | number {
  if (key.startsWith("fields.")) {
    const own = row.fields[key.slice(7)] ?? "";
    return typeof own === "boolean" ? (own ? "yes" : "no") : typeof own === "number" ? own : String(own);
  }
  const value: unknown = Reflect.get(row, FIELDS[key] ?? key) ?? "";
  if (KINDS[key] === "date") return String(value).slice(0, 10);
  if (value === "" || typeof value === "number") return value;
  if (KINDS[key] === "number") return Number(value);
  if (KINDS[key] === "duration") return lengthOf(String(value), on) ?? String(value);
  return String(value).replaceAll("_", " ");
}

const kindOf = (key: string, on: Ground) => (KINDS[key] ?? on.kinds[key] ?? "text") as Kind;

/** The kind of value that a condition compares with and that what was typed is not; null where it can be read. */
export const unread = ({ key, text }: Condition, on: Ground): string | null => unreadable(kindOf(key, on), text, on);

/** Whether a condition holds for a row. */
export const holds = ({ key, text }: Condition, row: Row, on: Ground): boolean =>
  meets(held(row, key, on), kindOf(key, on), text, on);
