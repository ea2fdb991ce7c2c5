import type { Axis, Held } from "../../shared/time";
import type { Row, Verb } from "./row";

export type Part = "body" | "finish" | "tie-start" | "tie-finish";

export interface Drag extends Held {
  row: Row;
  part: Part;
  pause: boolean;
  over: { id: string; half: "start" | "finish" } | null;
}

const NEAR = 3;

/** The dates of a pause drawn between two places, both included. */
export const pauseDays = (axis: Axis, from: number, to: number) =>
  [axis.day(Math.min(from, to)), axis.day(Math.max(from, to))] as const;

/** What puts a pause between two places beside those that an activity has. */
export function pauseOf(row: string, pauses: string[][], axis: Axis, from: number, to: number): Verb {
  const [first, last] = pauseDays(axis, from, to);
  const known = pauses.map(([a, b, reason]) => ({ from: a, to: b, reason }));
  return { do: "set", row, cells: { pauses: [...known, { from: first, to: last }] } };
}

/** What a drag would do, as the verbs of a change; null while it would do nothing. */
export function verbsOf(drag: Drag, axis: Axis): Verb[] | null {
  const { row, part, from, to } = drag;
  if (part.startsWith("tie")) {
    if (!drag.over || drag.over.id === row.id) return null;
    const type = `${part === "tie-finish" ? "F" : "S"}${drag.over.half === "start" ? "S" : "F"}`;
    return [{ do: "add", list: "links", from: row.id, to: drag.over.id, cells: { type } }];
  }
  if (Math.abs(to - from) < NEAR || !row.start || !row.finish) return null;
  if (drag.pause) {
    return [pauseOf(row.id, row.pauses, axis, from, to)];
  }
  if (part === "finish") {
    const day = axis.day(axis.x(row.finish) + to - from);
    return day === row.finish.slice(0, 10) ? null : [{ do: "set", row: row.id, cells: { end: day } }];
  }
  const day = axis.day(axis.x(row.start) + to - from);
  return day === row.start.slice(0, 10) ? null : [{ do: "set", row: row.id, cells: { begin: day } }];
}
