import type { Row, Verb } from "./row";
import type { Line } from "./tree";

/** Where rows held by the pointer would go: before which line, how deep, and the change that does it. */
export interface Landing {
  index: number;
  depth: number;
  verb: Verb;
}

/** The rows without those that go along with an element above them. */
export function topmost(rows: Row[], all: Map<string, Row>): Row[] {
  const ids = new Set(rows.map((r) => r.id));
  const under = (r: Row): boolean => {
    for (let at = r.parent; at; at = all.get(at)?.parent ?? null) if (ids.has(at)) return true;
    return false;
  };
  return rows.filter((r) => !under(r));
}

/** The place between two lines: `index` is the line that comes after it, `wanted` the depth that the pointer is at. */
export function landingOf(lines: Line[], all: Map<string, Row>, rows: Row[], index: number, wanted: number) {
  const before = lines[index - 1];
  const next = lines[index];
  const ids = rows.map((r) => r.id);
  const above = before?.kind === "row" ? before : null;
  const least = next?.kind === "row" ? next.depth : 0;
  let [parent, after, depth]: [string | null, string | null, number] = [null, null, 0];
  if (above?.row.kind === "wbs" && (least > above.depth || wanted > above.depth)) {
    parent = above.id;
    depth = above.depth + 1;
  } else if (above) {
    depth = Math.max(least, Math.min(above.depth, wanted));
    let at: Row | undefined = above.row;
    for (let d = above.depth; d > depth && at; d--) at = all.get(at.parent ?? "");
    after = at?.id ?? null;
    parent = at?.parent ?? null;
  }
  for (let at = parent; at; at = all.get(at)?.parent ?? null) if (ids.includes(at)) return null;
  if (after && ids.includes(after)) return null;
  const verb: Verb = after ? { do: "place", rows: ids, after } : { do: "place", rows: ids, parent, first: true };
  return { index, depth, verb };
}
