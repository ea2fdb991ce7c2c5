import { type RefObject, useEffect, useRef } from "react";
import { useShortcut } from "./useShortcut";

/** How a part undoes the last step and does it again. */
export interface Undoing {
  undo: () => void;
  redo: () => void;
}

const parts: RefObject<Undoing>[] = [];

/** A part that undoes in its own way while it is shown, so that its rows follow at once. */
export function useUndo(undoing: Undoing) {
  const latest = useRef(undoing);
  latest.current = undoing;
  useEffect(() => {
    parts.push(latest);
    return () => {
      parts.splice(parts.indexOf(latest), 1);
    };
  }, []);
}

/** The keys of undo and redo, the same in every room: they go to the part that is shown, else to `otherwise`. */
export function useUndoKeys(otherwise: Undoing) {
  const now = () => parts.at(-1)?.current ?? otherwise;
  useShortcut("mod+z", () => now().undo());
  useShortcut("mod+shift+z", () => now().redo());
  useShortcut("mod+y", () => now().redo());
}
