/** A session that has run out: what was asked waits until the same person has signed in again, so that nothing typed is lost. */
type Told = (expired: boolean) => void;

let waiting: { done: Promise<boolean>; settle: (same: boolean) => void } | null = null;
const listeners = new Set<Told>();
const tell = () => {
  for (const listener of listeners) listener(waiting !== null);
};

/** Waits for somebody to sign in again; true where it is who it was. */
export function signedInAgain(): Promise<boolean> {
  if (!waiting) {
    let settle: (same: boolean) => void = () => undefined;
    const done = new Promise<boolean>((resolve) => {
      settle = resolve;
    });
    waiting = { done, settle };
    tell();
  }
  return waiting.done;
}

/** Somebody has signed in: `same`, whether it is who it was. What another person typed is not sent in this one's name. */
export function settleExpired(same: boolean) {
  const { settle } = waiting ?? {};
  waiting = null;
  tell();
  settle?.(same);
}

export const isExpired = () => waiting !== null;

export function onExpiry(listener: Told) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}
