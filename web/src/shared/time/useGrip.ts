import { type PointerEvent, useCallback, useEffect, useRef, useState } from "react";

/** Where something is held: places on the timeline, from where it was taken to where the pointer is. */
export interface Held {
  from: number;
  to: number;
  y: number;
}

interface Props<H extends Held, W, S> {
  /** What letting go would do; null while it would do nothing. */
  does: (held: H) => W | null;
  /** What that would come to. */
  ask: (work: W) => Promise<S>;
  /** Does it; told what it would come to, where that is known already. */
  drop: (work: W, answer: S | null) => void;
}

interface Seen<S> {
  answer: S | null;
  problem: string | null;
}
const UNSEEN = { answer: null, problem: null };

/**
 * What is held by the pointer on a timeline. While it is, what letting go would come to is asked, one question at a time;
 * letting go does it, Escape leaves all as it was.
 */
export function useGrip<H extends Held, W, S>(props: Props<H, W, S>) {
  const [held, hold] = useState<H | null>(null);
  const [seen, see] = useState<Seen<S>>(UNSEEN);
  const now = useRef(props);
  now.current = props;
  const asked = useRef({ key: "", running: false, wanted: null as W | null, answer: null as S | null });

  const ask = useCallback((work: W | null) => {
    const state = asked.current;
    const key = JSON.stringify(work);
    if (key === state.key) return;
    state.key = key;
    state.wanted = work;
    state.answer = null;
    if (work === null) return see(UNSEEN);
    const run = async () => {
      while (state.wanted !== null) {
        const next = state.wanted;
        state.wanted = null;
        try {
          const answer = await now.current.ask(next);
          if (state.key !== JSON.stringify(next)) continue;
          state.answer = answer;
          see({ answer, problem: null });
        } catch (error) {
          see({ answer: null, problem: error instanceof Error ? error.message : String(error) });
        }
      }
      state.running = false;
    };
    if (state.running) return;
    state.running = true;
    void run();
  }, []);

  const holding = useRef(false);
  const stop = useCallback(() => {
    holding.current = false;
    hold(null);
    asked.current.key = "";
    asked.current.wanted = null;
    see(UNSEEN);
  }, []);

  useEffect(() => {
    if (!held) return;
    const cancel = (event: KeyboardEvent) => event.key === "Escape" && stop();
    window.addEventListener("keydown", cancel, true);
    return () => window.removeEventListener("keydown", cancel, true);
  }, [held, stop]);

  /** Takes hold: `begin` says of what, `over` what is under the pointer as it moves. */
  const take = useCallback(
    (event: PointerEvent<Element>, begin: (at: Held) => H, over?: (held: H, event: globalThis.PointerEvent) => H) => {
      const pane = event.currentTarget.closest("[data-slide=time]");
      if (event.button !== 0 || !pane) return;
      event.preventDefault();
      event.stopPropagation();
      const at = event.clientX - pane.getBoundingClientRect().left;
      const target = event.currentTarget as Element & {
        onpointermove: ((e: globalThis.PointerEvent) => void) | null;
        onpointerup: ((e: globalThis.PointerEvent) => void) | null;
      };
      let own = begin({ from: at, to: at, y: 0 });
      hold(own);
      holding.current = true;
      target.setPointerCapture(event.pointerId);
      target.onpointermove = (e) => {
        if (!holding.current) return;
        const box = pane.getBoundingClientRect();
        own = { ...own, to: e.clientX - box.left, y: e.clientY - box.top };
        if (over) own = over(own, e);
        hold(own);
        ask(now.current.does(own));
      };
      target.onpointerup = () => {
        target.onpointermove = null;
        target.onpointerup = null;
        const work = holding.current ? now.current.does(own) : null;
        const { answer } = asked.current;
        stop();
        if (work !== null) now.current.drop(work, answer);
      };
    },
    [ask, stop],
  );
  return { held, seen, take };
}
