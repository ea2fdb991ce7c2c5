import type { Row, Sheet } from "./usePosting";

/** Which rows the posting sheet shows: those of one state, of one person, element or own field. */
export interface Lens {
  show: string;
  only: string;
}

const STATES: Record<string, (row: Row, status: string) => boolean> = {
  wants: (r) => r.wants || r.posted,
  progress: (r) => r.state === "in_progress",
  due: (r, status) => r.state !== "complete" && (r.wants || r.finish_now <= status || (r.planned_percent ?? 0) > 0),
  critical: (r) => r.critical,
  all: () => true,
};

/** The elements below one, itself included. */
function below(sheet: Sheet, code: string): Set<string> {
  const at = sheet.wbs.findIndex((w) => w.code === code);
  const found = new Set([code]);
  for (const w of sheet.wbs.slice(at + 1)) {
    if (w.level <= (sheet.wbs[at]?.level ?? 0)) break;
    found.add(w.code);
  }
  return found;
}

/** Whether a row is of those that “mark:act”, “person:F1”, “wbs:2” or “own:deck=Hull” names. */
function among(sheet: Sheet, only: string): (row: Row) => boolean {
  const [kind, name = ""] = [only.split(":")[0], only.slice(only.indexOf(":") + 1)];
  if (kind === "mark") return (r) => r.mark === name;
  if (kind === "person") return (r) => r.people.includes(name);
  if (kind === "wbs") {
    const codes = below(sheet, name);
    return (r) => codes.has(r.wbs ?? "");
  }
  if (kind === "own") {
    const [field = "", value] = [name.slice(0, name.indexOf("=")), name.slice(name.indexOf("=") + 1)];
    return (r) => r.fields[field] === value;
  }
  return () => true;
}

export function shownRows(sheet: Sheet, { show, only }: Lens, kept: Set<string>): Row[] {
  const state = STATES[show] ?? STATES.wants;
  const own = among(sheet, only);
  return (sheet.rows ?? []).filter((r) => (kept.has(r.code) || state?.(r, sheet.status)) && own(r));
}

/** The values that the own fields of a sheet have, by field. */
export function ownValues(sheet: Sheet): [code: string, name: string, values: string[]][] {
  return (sheet.own ?? []).map(([code = "", name = ""]) => [
    code,
    name,
    [...new Set((sheet.rows ?? []).flatMap((r) => r.fields[code] || []))].sort().slice(0, 60),
  ]);
}
