import { type PointerEvent, useEffect, useRef, useState } from "react";

/** Something that is dragged by the pointer, and what lies under it. */
export interface Held<T, U> {
  what: T;
  under: U | null;
}

/** Dragging onto what lies elsewhere on the screen; Escape lets go of it and does nothing. */
export function useDragOnto<T, U>(find: (event: PointerEvent) => U | null, drop: (what: T, under: U) => void) {
  const [held, hold] = useState<Held<T, U> | null>(null);
  const now = useRef(held);
  now.current = held;
  const dragging = held !== null;
  useEffect(() => {
    if (!dragging) return;
    const cancel = (event: KeyboardEvent) => {
      if (event.key !== "Escape") return;
      event.stopPropagation();
      hold(null);
    };
    window.addEventListener("keydown", cancel, true);
    return () => window.removeEventListener("keydown", cancel, true);
  }, [dragging]);
  /** What takes hold of one of them. */
  const grip = (what: T) => ({
    style: { cursor: "grab", touchAction: "none" },
    onPointerDown: (event: PointerEvent<HTMLButtonElement>) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      hold({ what, under: null });
    },
    onPointerMove: (event: PointerEvent) => now.current && hold({ what, under: find(event) }),
    onPointerUp: (event: PointerEvent) => {
      const under = now.current && find(event);
      hold(null);
      if (under !== null) drop(what, under);
    },
  });
  return { held, grip };
}

/** What lies under the pointer, whoever has captured it. */
export const under = (event: PointerEvent, selector: string) =>
  document.elementFromPoint(event.clientX, event.clientY)?.closest(selector) ?? null;
