import { isFound, type Look } from "../../shared/look";
import type { Row, Sheet } from "./usePosting";

const STATES: Record<string, (row: Row, status: string) => boolean> = {
  wants: (r) => r.wants || r.posted,
  progress: (r) => r.state === "in_progress",
  due: (r, status) => r.state !== "complete" && (r.wants || r.finish_now <= status || (r.planned_percent ?? 0) > 0),
  critical: (r) => r.critical,
  all: () => true,
};

/** The rows of one state that are found, with those that were posted since the room was opened. */
export function shownRows(sheet: Sheet, show: string, look: Pick<Look, "find">, kept: Set<string>): Row[] {
  const state = STATES[show] ?? STATES.wants;
  return (sheet.rows ?? []).filter(
    (r) => (kept.has(r.code) || state?.(r, sheet.status)) && isFound(look, `${r.code} ${r.name}`),
  );
}
