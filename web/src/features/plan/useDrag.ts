import { type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import type { Axis } from "../schedule";
import type { Effect, PlanHandle, Row, Verb } from "./usePlan";

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

/** Dragging on the timeline. While it lasts the server says what it would move; letting go does it. */
export function useDrag(plan: PlanHandle, axis: Axis, open: boolean) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const [seen, setSeen] = useState<{ effect: Effect | null; problem: string | null }>({ effect: null, problem: null });
  const asked = useRef<{ key: string; running: boolean; wanted: Verb[] | null }>({
    key: "",
    running: false,
    wanted: null,
  });

  const ask = useCallback(
    (verbs: Verb[] | null) => {
      const state = asked.current;
      const key = JSON.stringify(verbs);
      if (key === state.key) return;
      state.key = key;
      state.wanted = verbs;
      if (!verbs) {
        setSeen({ effect: null, problem: null });
        return;
      }
      const run = async () => {
        const now = state.wanted;
        state.wanted = null;
        if (!now) {
          state.running = false;
          return;
        }
        state.running = true;
        try {
          const effect = await plan.preview(now);
          setSeen({ effect, problem: null });
        } catch (error) {
          setSeen({ effect: null, problem: error instanceof Error ? error.message : String(error) });
        }
        await run();
      };
      if (!state.running) run();
    },
    [plan],
  );

  const live = useRef(false);
  const stop = useCallback(() => {
    live.current = false;
    setDrag(null);
    asked.current.key = "";
    asked.current.wanted = null;
    setSeen({ effect: null, problem: null });
  }, []);

  useEffect(() => {
    if (!drag) return;
    const cancel = (event: KeyboardEvent) => event.key === "Escape" && stop();
    window.addEventListener("keydown", cancel);
    return () => window.removeEventListener("keydown", cancel);
  }, [drag, stop]);

  const down = (event: PointerEvent<Element>, row: Row, part: Part) => {
    if (!open || event.button !== 0 || row.pending) return;
    const pane = (event.currentTarget as Element).closest(".plan-slide-time");
    if (!pane) return;
    event.preventDefault();
    event.stopPropagation();
    const at = event.clientX - pane.getBoundingClientRect().left;
    const target = event.currentTarget as Element & {
      onpointermove: ((e: globalThis.PointerEvent) => void) | null;
      onpointerup: ((e: globalThis.PointerEvent) => void) | null;
    };
    let now: Drag = { row, part, pause: event.altKey && part === "body", from: at, to: at, y: 0, over: null };
    setDrag(now);
    live.current = true;
    target.setPointerCapture(event.pointerId);
    target.onpointermove = (e) => {
      if (!live.current) return;
      const under = document.elementsFromPoint(e.clientX, e.clientY).find((x) => x.closest("[data-time]"));
      const hit = under?.closest("[data-time]");
      const box = pane.getBoundingClientRect();
      const x = e.clientX - box.left;
      const mid = Number(hit?.getAttribute("data-mid") ?? 0);
      now = {
        ...now,
        to: x,
        y: e.clientY - box.top,
        over: hit ? { id: hit.getAttribute("data-time") ?? "", half: x < mid ? "start" : "finish" } : null,
      };
      setDrag(now);
      ask(verbsOf(now, axis));
    };
    target.onpointerup = () => {
      target.onpointermove = null;
      target.onpointerup = null;
      const verbs = live.current ? verbsOf(now, axis) : null;
      stop();
      if (verbs) plan.change(verbs);
    };
  };
  return { drag, seen, down };
}

export type DragHandle = ReturnType<typeof useDrag>;
