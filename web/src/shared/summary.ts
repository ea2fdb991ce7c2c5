import type { Schemas } from "../api";
import { date, late, money, signed } from "./format";
import { words } from "./words";

/** The columns of a summary: what was planned, to date, to go, the forecast, the difference. */
export const SUMMARY = ["baseline", "actual", "remaining", "now", "variance"] as const;

/** A cell of a summary in its unit; how far dates lie apart in words. */
export function summaryText(row: Schemas["StatisticOut"], column: (typeof SUMMARY)[number]): string {
  const value = row[column];
  if (value == null) return "–";
  const apart = column === "variance";
  if (row.kind === "instant") return apart ? late(Number(value)) : date(value);
  const text = apart ? signed(value) : money(value);
  return row.kind === "money" ? text : words.format.in(text, row.kind === "days" ? "d" : "h");
}
