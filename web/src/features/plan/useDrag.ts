import { type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import type { Axis } from "../../shared/time";
import type { Row, Verb } from "./row";
import type { Effect, PlanHandle } from "./usePlan";
import { type Drag, type Part, verbsOf } from "./verbs";

/** Dragging on the timeline. While it lasts the server says what it would move; letting go does it. */
export function useDrag({ preview, change }: PlanHandle, axis: Axis, open: boolean) {
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
          const effect = await preview(now);
          setSeen({ effect, problem: null });
        } catch (error) {
          setSeen({ effect: null, problem: error instanceof Error ? error.message : String(error) });
        }
        await run();
      };
      if (!state.running) run();
    },
    [preview],
  );

  const dragging = useRef(false);
  const stop = useCallback(() => {
    dragging.current = false;
    setDrag(null);
    asked.current.key = "";
    asked.current.wanted = null;
    setSeen({ effect: null, problem: null });
  }, []);

  useEffect(() => {
    if (!drag) return;
    const cancel = (event: KeyboardEvent) => event.key === "Escape" && stop();
    window.addEventListener("keydown", cancel, true);
    return () => window.removeEventListener("keydown", cancel, true);
  }, [drag, stop]);

  const down = useCallback(
    (event: PointerEvent<Element>, row: Row, part: Part) => {
      if (!open || event.button !== 0 || row.pending) return;
      const pane = event.currentTarget.closest("[data-slide=time]");
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
      dragging.current = true;
      target.setPointerCapture(event.pointerId);
      target.onpointermove = (e) => {
        if (!dragging.current) return;
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
        const verbs = dragging.current ? verbsOf(now, axis) : null;
        stop();
        if (verbs) change(verbs);
      };
    },
    [open, axis, ask, stop, change],
  );
  return { drag, seen, down };
}

export type DragHandle = ReturnType<typeof useDrag>;
