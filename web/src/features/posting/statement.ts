import type { Schemas } from "../../api";
import { format } from "../../shared";
import { words } from "../../shared/words/corrections";
import type { Corrected } from "./Correct";
import { uses } from "./cells";
import type { Row } from "./usePosting";

/** The cells of a statement that can be corrected. */
export const STATED = [
  "actual_start",
  "actual_finish",
  "percent",
  "remaining",
  "units_done",
  "milestones_reached",
] as const;
type Stated = (typeof STATED)[number];
type Cells = Schemas["Cells"];

const textOf = (cells: Cells, field: Stated): string => {
  const value = cells[field];
  if (value == null) return "";
  if (field === "actual_start" || field === "actual_finish") return format.day(String(value));
  if (field === "percent") return format.percent(Number(value));
  return Array.isArray(value) ? value.join("; ") : String(value);
};

const stated = (cells: Cells) =>
  STATED.map((f) => [f, textOf(cells, f)] as const)
    .filter(([, text]) => text)
    .map(([f, text]) => `${words.columns[f].toLowerCase()} ${text}`)
    .join(", ") || words.corrections.nothing;

/** A row of a dry page as it can be corrected: what it says, what stands now, and the cells of that by its EV method. */
export function correctedStatement(row: Row, now: Row): Corrected {
  const stands = now.posted ? now.entry : now.last;
  const fields = STATED.filter((f) => uses(now, f) || textOf(stands, f));
  const [says, later] = [stated(row.posted ? row.entry : row.last), stated(stands)];
  return {
    on: row.code,
    what: `${row.code} ${row.name}`,
    says,
    stands: later === says ? undefined : later,
    values: Object.fromEntries(fields.map((f) => [f, textOf(stands, f)])),
  };
}
