import type { Axis } from "../../shared/time";
import type { Row, Verb } from "./row";

export type Part = "body" | "finish" | "tie-start" | "tie-finish";

export interface Drag {
  row: Row;
  part: Part;
  pause: boolean;
  from: number;
  to: number;
  y: number;
  over: { id: string; half: "start" | "finish" } | null;
}

const NEAR = 3;

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
    const [a, b] = [axis.day(Math.min(from, to)), axis.day(Math.max(from, to))];
    const pauses = [
      ...row.pauses.map(([x, y, reason]) => ({ from: x, to: y, reason })),
      { from: `${a}T00:00`, to: `${b}T23:59` },
    ];
    return [{ do: "set", row: row.id, cells: { pauses } }];
  }
  if (part === "finish") {
    const day = axis.day(axis.x(row.finish) + to - from);
    return day === row.finish.slice(0, 10) ? null : [{ do: "set", row: row.id, cells: { end: day } }];
  }
  const day = axis.day(axis.x(row.start) + to - from);
  return day === row.start.slice(0, 10) ? null : [{ do: "set", row: row.id, cells: { begin: day } }];
}
