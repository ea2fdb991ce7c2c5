import { asTyped, format } from "../../shared";
import type { SheetColumn } from "../../shared/sheet";
import { words } from "../../shared/words/posting";
import type { Field, Row } from "./usePosting";

export type Column = SheetColumn<Row>;

export interface Shown {
  text: string;
  old: boolean;
  ask?: string;
  title?: string;
}

/** The cells that belong to some EV methods only: a row tells which of them it uses. */
const OF_METHOD: Field[] = ["percent", "units_done", "milestones_reached"];

/** Whether a row uses a cell. */
export const uses = (row: Row, field: Field) => !OF_METHOD.includes(field) || row.uses.includes(field);

/** What an entry cell shows: this page's word in wet ink, else what was said last, in soft ink. */
export function shown(row: Row, field: Field): Shown {
  if (field === "cost")
    return {
      text: [
        row.cost == null ? "" : format.money(row.cost, true),
        row.other_cost ? `${row.cost == null ? "" : " "}+${format.money(row.other_cost, true)}` : "",
      ].join(""),
      old: row.cost == null,
      title: [
        row.other_cost && words.posting.otherCost(format.money(row.other_cost)),
        row.reckoned && words.posting.reckoned(format.money(row.reckoned)),
      ]
        .filter(Boolean)
        .join("; "),
    };
  const from = row.posted ? row.entry : row.last;
  const old = !row.posted;
  if (field === "note") return { text: row.entry.note ?? "", old: false, title: row.entry.note ?? undefined };
  if (field === "actual_start" || field === "actual_finish") {
    if (row.asks.includes(field))
      return { text: "", old: false, ask: field === "actual_start" ? words.posting.askStart : words.posting.askFinish };
    return {
      text: format.day(from[field]),
      old: old || (row.posted && from[field] === row.last[field] && field === "actual_start"),
    };
  }
  if (field === "carry_to") return { text: format.day(from.carry_to), old };
  if (!uses(row, field)) return { text: "", old: true };
  if (field === "units_done")
    return {
      text: from.units_done == null ? "" : words.posting.of(asTyped(from.units_done), asTyped(row.units_planned ?? "")),
      old,
    };
  if (field === "milestones_reached") {
    const reached = from.milestones_reached ?? [];
    const text =
      reached.length || row.posted ? words.posting.of(String(reached.length), String(row.milestones.length)) : "";
    return {
      text,
      old,
      title: words.posting.reached(
        reached,
        row.milestones.filter((m) => !reached.includes(m)),
      ),
    };
  }
  if (row.posted && row.state === "complete") return { text: field === "percent" ? "100" : "0", old: false };
  if (!row.posted) return { text: "", old: true };
  if (field === "percent") return { text: from.percent == null ? "" : format.percent(from.percent), old: false };
  return { text: format.span(from.remaining), old: false };
}

/** The text that editing a cell starts from. */
export function typedOf(row: Row, field: Field): string {
  if (field === "cost") return asTyped(row.cost ?? "");
  if (field === "note") return row.entry.note ?? "";
  const from = row.posted ? row.entry : row.last;
  if (field === "actual_start" || field === "actual_finish") return format.day(from[field]);
  if (field === "carry_to") return format.day(from.carry_to);
  if (field === "units_done") return asTyped(from.units_done ?? "");
  if (field === "milestones_reached") return (from.milestones_reached ?? []).join("; ");
  if (!row.posted) return "";
  if (field === "percent") return from.percent == null ? "" : format.percent(from.percent);
  return asTyped(from.remaining ?? "");
}
