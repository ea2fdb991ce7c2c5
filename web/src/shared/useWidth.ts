import { type RefObject, useLayoutEffect, useState } from "react";

/** The width of an element, as it changes. */
export function useWidth(of: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const seen = of.current;
    if (!seen) return;
    setWidth(seen.clientWidth);
    const watch = new ResizeObserver(() => setWidth(seen.clientWidth));
    watch.observe(seen);
    return () => watch.disconnect();
  }, [of]);
  return width;
}
