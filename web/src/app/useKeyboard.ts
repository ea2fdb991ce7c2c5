import { useEffect, useRef } from "react";

/** What is open over the room. */
const OPENED = "[data-part=content], [data-opened]";
/** What the keyboard stays in where what had it is gone. */
const WITHIN = `[data-sheet], ${OPENED}`;

/** Takes the keyboard to the work: the sheet of the room, or the room itself where it has none. */
export function toWork() {
  const room = document.getElementById("sheet");
  (room?.querySelector<HTMLElement>("[data-sheet]") ?? room)?.focus({ preventScroll: true });
}

/** Keeps the keyboard where the eye is: in the room that one goes to, and at the sheet when what had it is gone. */
export function useKeyboard(room: string) {
  const entered = useRef(room);
  useEffect(() => {
    if (entered.current !== room) toWork();
    entered.current = room;
  }, [room]);
  useEffect(() => {
    let last: EventTarget | null = null;
    let within: HTMLElement | null = null;
    /** What had it before something was opened over the room. */
    let opener: EventTarget | null = null;
    const follow = ({ target }: FocusEvent) => {
      const inside = target instanceof Element ? target.closest<HTMLElement>(WITHIN) : null;
      if (inside !== within && inside?.matches(OPENED)) opener = last;
      within = inside;
      last = target;
    };
    const look = () => {
      if (document.activeElement !== document.body || !(last instanceof Element) || last.isConnected) return;
      last = null;
      const wasOpen = within?.matches(OPENED);
      if (within?.isConnected) within.focus({ preventScroll: true });
      else if (wasOpen && opener instanceof HTMLElement && opener.isConnected) opener.focus({ preventScroll: true });
      else toWork();
    };
    const watch = new MutationObserver(look);
    watch.observe(document.body, { childList: true, subtree: true });
    document.addEventListener("focusin", follow);
    return () => {
      watch.disconnect();
      document.removeEventListener("focusin", follow);
    };
  }, []);
}
