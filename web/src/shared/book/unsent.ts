import { useSyncExternalStore } from "react";

/** What waits for the server to answer again: told whether it is to be sent again, or given up. */
const waiting = new Set<(again: boolean) => void>();
const listeners = new Set<() => void>();
const PROBE = 3_000;
let probe: ReturnType<typeof setTimeout> | undefined;

const tell = () => {
  for (const listener of listeners) listener();
};

/** Has what could not be sent sent again, or gives it up: then it stands refused where it was typed. */
export function settleUnsent(again: boolean) {
  clearTimeout(probe);
  const now = [...waiting];
  waiting.clear();
  tell();
  for (const settle of now) settle(again);
}

function look() {
  clearTimeout(probe);
  probe = setTimeout(async () => {
    const answers = await fetch("/api/health", { cache: "no-store" }).then(
      ({ ok }) => ok,
      () => false,
    );
    if (answers) settleUnsent(true);
    else if (waiting.size) look();
  }, PROBE);
}

/** Resolves when the server answers again (true), or when the person gives up (false). */
export const answersAgain = () =>
  new Promise<boolean>((resolve) => {
    waiting.add(resolve);
    tell();
    look();
  });

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
};

/** How many writes could not be sent yet. */
export const useUnsent = () => useSyncExternalStore(subscribe, () => waiting.size);

window.addEventListener("online", () => settleUnsent(true));
