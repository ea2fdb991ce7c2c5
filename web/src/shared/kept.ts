import { type Dispatch, type SetStateAction, useCallback, useEffect, useRef, useState } from "react";

/** What a person likes, such as widths and folds: kept in this browser, for the project and the room. */
export function useKept<T>(key: string, initial: T): [T, Dispatch<SetStateAction<T>>] {
  const [value, set] = useState<T>(() => {
    const found = localStorage.getItem(`dry:${key}`);
    try {
      return found === null ? initial : (JSON.parse(found) as T);
    } catch {
      return initial;
    }
  });
  useEffect(() => {
    if (value === initial) localStorage.removeItem(`dry:${key}`);
    else localStorage.setItem(`dry:${key}`, JSON.stringify(value));
  }, [key, value, initial]);
  return [value, set];
}

const known = new Map<string, string>();
/** Forgets how rooms were looked at, before somebody else looks. */
export const forgetLooks = () => known.clear();

/**
 * How a room is looked at, such as filter, scale and scope: it stands in the address, so that a colleague can be sent what
 * one sees, and comes back with the room. Only what is not as it is to begin with is written, when it has rested so many
 * milliseconds.
 */
export function useAddressed<T extends Record<string, string>>(
  room: string,
  initial: T,
  rests = 0,
): [T, (next: Partial<T>) => void] {
  const first = useRef(initial);
  const [value, set] = useState<T>(() => {
    const asked = new URLSearchParams(window.location.search);
    const from = [...asked.keys()].some((k) => k in initial) ? asked : new URLSearchParams(known.get(room) ?? "");
    return { ...initial, ...Object.fromEntries([...from].filter(([k]) => k in initial)) };
  });
  useEffect(() => {
    const own = Object.entries(value).filter(([k, text]) => text !== first.current[k]);
    known.set(room, new URLSearchParams(own).toString());
    const write = () => {
      const { pathname, search, hash } = window.location;
      const others = [...new URLSearchParams(search)].filter(([k]) => !(k in first.current));
      const query = new URLSearchParams([...others, ...own]).toString();
      window.history.replaceState(window.history.state, "", `${pathname}${query && `?${query}`}${hash}`);
    };
    if (!rests) {
      write();
      return;
    }
    const soon = setTimeout(write, rests);
    return () => clearTimeout(soon);
  }, [room, value, rests]);
  const now = useRef(value);
  now.current = value;
  const place = useRef(window.location.pathname);
  // Back goes to the part before, as it goes to the room before.
  useEffect(() => {
    const back = () => {
      if (window.location.pathname !== place.current || !("part" in first.current)) return;
      const asked = new URLSearchParams(window.location.search);
      set({ ...first.current, ...Object.fromEntries([...asked].filter(([k]) => k in first.current)) });
    };
    window.addEventListener("popstate", back);
    return () => window.removeEventListener("popstate", back);
  }, []);
  const change = useCallback((next: Partial<T>) => {
    if (next.part !== undefined && next.part !== now.current.part)
      window.history.pushState(window.history.state, "", window.location.href);
    set((was) => ({ ...was, ...next }));
  }, []);
  return [value, change];
}

const AT = { at: "" };

/** The row that is stood on. It rests before it is written: browsers refuse to write the address at each step of a cursor. */
export const useStanding = (room: string) => useAddressed(`${room}/at`, AT, 150);
