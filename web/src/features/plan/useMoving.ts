import { type PointerEvent, type RefObject, useEffect, useRef, useState } from "react";
import { INDENT, ROW } from "../../shared/sheet";
import { type Landing, landingOf, topmost } from "./landing";
import type { Row } from "./row";
import type { Line } from "./tree";
import type { PlanHandle } from "./usePlan";

const EDGE = 36;
const SPEED = 10;

interface Held {
  rows: Row[];
  landing: Landing | null;
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
      const slide = grid.querySelector("[role=rowgroup] [data-slide=rows]");
      const name = grid.querySelector('[role=rowgroup] [id$="-name"]');
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
      window.removeEventListener("keydown", end, true);
      stop.current = null;
      setHeld(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
    window.addEventListener("keydown", end, true);
    frame = requestAnimationFrame(roll);
  };
  return { held, take };
}
