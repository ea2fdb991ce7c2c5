import { type PointerEvent, useCallback } from "react";
import { type Axis, useGrip } from "../../shared/time";
import type { Row, Verb } from "./row";
import type { Effect, PlanHandle } from "./usePlan";
import { type Drag, type Part, verbsOf } from "./verbs";

/** What of the timeline is under the pointer: a row, and which half of its bar. */
function overOf(drag: Drag, { clientX, clientY }: globalThis.PointerEvent): Drag {
  const under = document.elementsFromPoint(clientX, clientY).find((x) => x.closest("[data-time]"));
  const hit = under?.closest("[data-time]");
  const mid = Number(hit?.getAttribute("data-mid") ?? 0);
  return {
    ...drag,
    over: hit ? { id: hit.getAttribute("data-time") ?? "", half: drag.to < mid ? "start" : "finish" } : null,
  };
}

/** Dragging on the plan's timeline: dates, lengths, pauses and links. */
export function useDrag({ preview, change }: PlanHandle, axis: Axis, open: boolean) {
  const { held, seen, take } = useGrip<Drag, Verb[], Effect>({
    does: (drag) => verbsOf(drag, axis),
    ask: preview,
    drop: (verbs) => void change(verbs),
  });
  const down = useCallback(
    (event: PointerEvent<Element>, row: Row, part: Part) => {
      if (!open || row.pending) return;
      const pause = event.altKey && part === "body";
      take(event, (at) => ({ ...at, row, part, pause, over: null }), overOf);
    },
    [open, take],
  );
  return { drag: held, seen, down };
}

export type DragHandle = ReturnType<typeof useDrag>;
