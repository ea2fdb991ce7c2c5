import { useEffect, useRef, useState } from "react";

/** A value that is written whole: what was put last counts at once, also while the answer to it is on its way.
 *
 * `write` gives null where it was refused; what was put then stays as long as there is `trouble` with it.
 */
export function useDraft<T>(
  given: T,
  write: (next: T) => Promise<unknown>,
  trouble: string | undefined,
): [T, (next: T) => void] {
  const [draft, setDraft] = useState<{ value: T } | null>(null);
  const waiting = useRef(0);
  const refused = useRef(false);
  const known = JSON.stringify(given);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was put is let go when the answer has come in
  useEffect(() => {
    if (!waiting.current && !(refused.current && trouble)) setDraft(null);
  }, [known, trouble]);
  const put = (value: T) => {
    waiting.current++;
    setDraft({ value });
    write(value)
      .then((done) => {
        refused.current = done === null;
      })
      .finally(() => {
        waiting.current--;
      });
  };
  return [draft ? draft.value : given, put];
}
