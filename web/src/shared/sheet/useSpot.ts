import { type RefObject, useLayoutEffect, useRef } from "react";

/** How far each sheet was slid when it was last seen. */
const spots = new Map<string, { top: number; left: number }>();

/** Which sheet it is, on whatever page: by the project, the room, and what it shows. */
const nameOf = (shows: string) => {
  const [, project, , ...room] = window.location.pathname.split("/");
  return [project, ...room, shows].join("/");
};

/** Brings a sheet to where it stood when one was here last. `kept` says whether there was such a place. */
export function useSpot(shows: string, down: RefObject<HTMLElement | null>, across: RefObject<HTMLElement | null>) {
  const name = useRef("");
  name.current ||= nameOf(shows);
  const spot = useRef(spots.get(name.current));
  useLayoutEffect(() => {
    if (!spot.current) return;
    if (down.current) down.current.scrollTop = spot.current.top;
    if (across.current) across.current.scrollLeft = spot.current.left;
  }, [down, across]);
  return {
    kept: spot.current !== undefined,
    keep: () => spots.set(name.current, { top: down.current?.scrollTop ?? 0, left: across.current?.scrollLeft ?? 0 }),
  };
}
