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
 * and by keyboard, stays while the pointer is on it, and goes by Escape.
 */
export function Tips() {
  const [tip, setTip] = useState<Tip | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    const after = (ms: number, next: Tip | null) => {
      clearTimeout(timer.current);
      timer.current = setTimeout(() => setTip(next), ms);
    };
    const over = ({ target }: Event) => {
      if (target instanceof Element && target.closest(`#${ID}`)) clearTimeout(timer.current);
      else {
        const found = tipOf(target);
        after(found ? RESTS : LEAVES, found);
      }
    };
    const reached = ({ target }: Event) => {
      if (target instanceof Element && target.matches(":focus-visible")) after(RESTS, tipOf(target));
    };
    const gone = () => after(0, null);
    const escaped = ({ key }: KeyboardEvent) => key === "Escape" && gone();
    const listening = new AbortController();
    const { signal } = listening;
    document.addEventListener("pointerover", over, { signal });
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
      interactive
      positioning={{ placement: "bottom", getAnchorRect: () => tip.at.getBoundingClientRect() }}
    >
      <Portal>
        <Tooltip.Positioner>
          <Tooltip.Content>{tip.text}</Tooltip.Content>
        </Tooltip.Positioner>
      </Portal>
    </Tooltip.Root>
  );
}
