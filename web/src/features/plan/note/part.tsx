import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../../api";
import type { PlanHandle, Verb } from "../usePlan";

export interface Part {
  note: Schemas["RowOut"];
  plan: PlanHandle;
  open: boolean;
}

/** The ways in which a part of the margin writes, and what was refused of it. */
export const useWrite = ({ note, plan }: Part) => {
  const id = note.row.id;
  return {
    set: (cells: Record<string, unknown>, field: string, text: string) =>
      plan.change([{ do: "set", row: id, cells }], { row: id, field, text }),
    trouble: (field: string, row = id) => plan.troubles[`${row}:${field}`]?.message,
    on: (row: string, cells: Record<string, unknown>, field: string, text = "", verb = "set") =>
      plan.change([{ do: verb, row, cells }], { row, field, text }),
    remove: (row: string) => plan.change([{ do: "remove", rows: [row] }]),
    run: (verb: Verb, field: string, text = "") => plan.change([verb], { row: id, field, text }),
  };
};

/** Takes one thing away. */
export function Cross({ label, act }: { label: string; act: () => void }) {
  return (
    <button type="button" className="quiet" aria-label={label} title={label} onClick={act}>
      ×
    </button>
  );
}

/** A value that is written whole: what was put last counts at once, also while the answer to it is on its way. */
export function useDraft<T>(given: T, write: (next: T) => Promise<unknown>): [T, (next: T) => void] {
  const [draft, setDraft] = useState<{ value: T } | null>(null);
  const waiting = useRef(0);
  const known = JSON.stringify(given);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was put is let go when the answer has come in
  useEffect(() => {
    if (!waiting.current) setDraft(null);
  }, [known]);
  const put = (value: T) => {
    waiting.current++;
    setDraft({ value });
    write(value).finally(() => waiting.current--);
  };
  return [draft ? draft.value : given, put];
}
