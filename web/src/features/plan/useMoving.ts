import { type PointerEvent, type RefObject, useEffect, useRef, useState } from "react";
import { INDENT } from "./PlanCell";
import { type Line, ROW } from "./tree";
import type { PlanHandle, Row, Verb } from "./usePlan";

const EDGE = 36;
const SPEED = 10;

/** Where rows held by the pointer would go: before which line, how deep, and the change that does it. */
export interface Landing {
  index: number;
  depth: number;
  verb: Verb;
}

interface Held {
  rows: Row[];
  landing: Landing | null;
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

interface Given {
  lines: Line[];
  all: Map<string, Row>;
  picked: Row[];
  plan: PlanHandle;
  box: RefObject<HTMLDivElement | null>;
}

/** Rows taken by their grip and put down somewhere else in the tree. Escape lets them be. */
export function useMoving({ lines, all, picked, plan, box }: Given) {
  const [held, setHeld] = useState<Held | null>(null);
  const now = useRef({ lines, all, x: 0, y: 0 });
  now.current = { ...now.current, lines, all };
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => () => stop.current?.(), []);

  const take = (event: PointerEvent<Element>, row: Row) => {
    if (event.button !== 0 || !box.current) return;
    event.preventDefault();
    event.stopPropagation();
    const grid = box.current;
    const rows = topmost(picked.some((r) => r.id === row.id) ? picked : [row], all);
    let landing: Landing | null = null;
    let frame = 0;
    now.current.x = event.clientX;
    now.current.y = event.clientY;
    const look = () => {
      const slide = grid.querySelector(".plan-body .plan-slide");
      const name = grid.querySelector('.plan-body [id$="-name"]');
      if (!slide || !name) return;
      const y = now.current.y - slide.getBoundingClientRect().top;
      const index = Math.max(0, Math.min(now.current.lines.length, Math.round(y / ROW)));
      const wanted = Math.round((now.current.x - name.getBoundingClientRect().left - 12) / INDENT);
      landing = landingOf(now.current.lines, now.current.all, rows, index, wanted);
      setHeld({ rows, landing });
    };
    const roll = () => {
      const { top, bottom } = grid.getBoundingClientRect();
      const by = now.current.y < top + EDGE * 2 ? -SPEED : now.current.y > bottom - EDGE ? SPEED : 0;
      if (by) {
        grid.scrollTop += by;
        look();
      }
      frame = requestAnimationFrame(roll);
    };
    const move = (e: globalThis.PointerEvent) => {
      now.current.x = e.clientX;
      now.current.y = e.clientY;
      look();
    };
    const end = (e: Event) => {
      if (e instanceof KeyboardEvent && e.key !== "Escape") return;
      stop.current?.();
      if (e.type === "pointerup" && landing) plan.change([landing.verb]);
    };
    stop.current = () => {
      cancelAnimationFrame(frame);
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", end);
      window.removeEventListener("pointercancel", end);
      window.removeEventListener("keydown", end);
      stop.current = null;
      setHeld(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
    window.addEventListener("keydown", end);
    frame = requestAnimationFrame(roll);
  };
  return { held, take };
}
