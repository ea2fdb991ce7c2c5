import { Portal, Tooltip } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";

interface Tip {
  at: HTMLElement;
  text: string;
}

const ID = "tip";
/** Milliseconds that a pointer rests before a tip is shown, and that it may take to come onto it. */
const RESTS = 400;
const LEAVES = 150;

const tipOf = (target: EventTarget | null): Tip | null => {
  const at = target instanceof Element ? target.closest<HTMLElement>("[data-tip]") : null;
  return at?.dataset.tip ? { at, text: at.dataset.tip } : null;
};

/**
 * The tips of everything that has one (`data-tip`): one for the page, since sheets have thousands of cells. It comes by pointer
 * and by keyboard, stays while the pointer is on it, and goes by Escape. What lies under it can be pressed as if it were not there.
 */
export function Tips() {
  const [tip, setTip] = useState<Tip | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const shown = useRef<HTMLElement | null>(null);
  shown.current = tip?.at ?? null;
  useEffect(() => {
    const after = (ms: number, next: Tip | null) => {
      clearTimeout(timer.current);
      timer.current = setTimeout(() => setTip(next), ms);
    };
    const within = ({ clientX: x, clientY: y }: MouseEvent) => {
      const box = document.getElementById(ID)?.getBoundingClientRect();
      return box !== undefined && x >= box.left && x <= box.right && y >= box.top && y <= box.bottom;
    };
    const moved = (event: PointerEvent) => {
      if (event.buttons) return;
      const found = tipOf(event.target);
      if (within(event) || (found && found.at === shown.current)) clearTimeout(timer.current);
      else after(found ? RESTS : LEAVES, found);
    };
    const reached = ({ target }: Event) => {
      if (target instanceof Element && target.matches(":focus-visible")) after(RESTS, tipOf(target));
    };
    const gone = () => after(0, null);
    const escaped = ({ key }: KeyboardEvent) => key === "Escape" && gone();
    const listening = new AbortController();
    const { signal } = listening;
    document.addEventListener("pointermove", moved, { signal, passive: true });
    document.addEventListener("focusin", reached, { signal });
    for (const kind of ["focusout", "pointerdown", "pointerleave"]) document.addEventListener(kind, gone, { signal });
    document.addEventListener("scroll", gone, { signal, capture: true, passive: true });
    document.addEventListener("keydown", escaped, { signal, capture: true });
    return () => {
      listening.abort();
      clearTimeout(timer.current);
    };
  }, []);
  useEffect(() => {
    if (!tip || tip.at.hasAttribute("aria-describedby") || tip.text === tip.at.ariaLabel) return;
    tip.at.setAttribute("aria-describedby", ID);
    return () => tip.at.removeAttribute("aria-describedby");
  }, [tip]);
  if (!tip) return null;
  return (
    <Tooltip.Root
      key={tip.text}
      open
      onOpenChange={({ open }) => !open && setTip(null)}
      ids={{ content: ID }}
      closeOnScroll={false}
      positioning={{ placement: "bottom", getAnchorRect: () => tip.at.getBoundingClientRect() }}
    >
      <Portal>
        <Tooltip.Positioner>
          <Tooltip.Content pointerEvents="none">{tip.text}</Tooltip.Content>
        </Tooltip.Positioner>
      </Portal>
    </Tooltip.Root>
  );
}
