import { useRef, useState } from "react";
import { useWhenever } from "../../shared";

/** How long what was put is held after its answer, where what is read since says otherwise: it may have been asked before. */
const HOLD = 1500;

/** A value that is written whole: what was put last counts at once, until it has come back or no more answer is due.
 *
 * `write` gives null where it was refused; what was put then stays as long as there is `trouble` with it.
 */
export function useDraft<T>(
  given: T,
  write: (next: T) => Promise<unknown>,
  trouble: string | undefined,
): [T, (next: T) => void] {
  const [draft, setDraft] = useState<{ value: T } | null>(null);
  const [answered, setAnswered] = useState(0);
  const waiting = useRef(0);
  const refused = useRef(false);
  const known = JSON.stringify(given);
  useWhenever([known, trouble, answered], () => {
    if (!draft || waiting.current || (refused.current && trouble)) return;
    if (known === JSON.stringify(draft.value)) {
      setDraft(null);
      return;
    }
    const timer = setTimeout(() => {
      if (!waiting.current) setDraft(null);
    }, HOLD);
    return () => clearTimeout(timer);
  });
  const put = (value: T) => {
    waiting.current++;
    setDraft({ value });
    write(value)
      .then((done) => {
        refused.current = done === null;
      })
      .finally(() => {
        waiting.current--;
        setAnswered((n) => n + 1);
      });
  };
  return [draft ? draft.value : given, put];
}
