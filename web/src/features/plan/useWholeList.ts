import type { ListRow, ListWrite } from "../../shared/sheet";
import { useDraft } from "./useDraft";
import type { PlanHandle } from "./usePlan";

/** Where a list is kept, and what of it was refused or is on its way. */
export type Keeper = Pick<PlanHandle, "troubles" | "waiting" | "drop"> & {
  fill: (...given: Parameters<PlanHandle["fill"]>) => Promise<unknown>;
};

interface Given<T> {
  /** The row that has the list, and the cell it is in. */
  id: string;
  field: string;
  list: T[];
  plan: Keeper;
  show: (item: T) => Record<string, string>;
  make: (cells: Record<string, string>) => T;
  /** How a row of it is begun. */
  begin: { start?: Record<string, string>; needs: string[] };
}

/** A list that is kept whole in one cell, worked in as a sheet: what is refused stands beside the cell it was typed in. */
export function useWholeList<T>({ id, field, list, plan, show, make, begin }: Given<T>) {
  const own = `${id}.${field}.`;
  const trouble = Object.entries(plan.troubles).find(([key]) => key.startsWith(own))?.[1];
  const send = (next: T[], at: ListWrite) =>
    plan.fill([{ do: "set", row: id, cells: { [field]: next } }], [{ row: at.row, field: at.field, text: at.text }]);
  let at: ListWrite = { row: own, field, text: "" };
  const [items, put] = useDraft<T[]>(list, (next) => send(next, at), trouble?.message);
  const rows = items.map((item, i): ListRow => ({ id: `${own}${i}`, cells: show(item) }));
  const place = (next: T[], from: ListWrite) => {
    at = from;
    put(next);
  };
  /** What the sheet of it is given. */
  const sheet = {
    of: id,
    rows,
    write: (cells: ListWrite[]) => {
      const first = cells[0];
      if (!first) return;
      const typed = Map.groupBy(cells, (c) => c.row);
      const next = items.map((item, i) => {
        const of = typed.get(`${own}${i}`);
        return of ? make({ ...show(item), ...Object.fromEntries(of.map((c) => [c.field, c.text])) }) : item;
      });
      place(next, first);
    },
    begin: {
      ...begin,
      add: (cells: Record<string, string>) => {
        const [key = field] = Object.keys(cells);
        place([...items, make(cells)], { row: `${own}${items.length}`, field: key, text: cells[key] ?? "" });
        return null;
      },
    },
    remove: (gone: ListRow[]) => {
      const out = new Set(gone.map((r) => r.id));
      const next = items.filter((_, i) => !out.has(`${own}${i}`));
      place(next, { row: own, field, text: "" });
    },
    troubles: plan.troubles,
    waiting: plan.waiting,
    drop: plan.drop,
  };
  return {
    items,
    sheet,
    put: (next: T[]) => place(next, { row: `${own}${next.length - 1}`, field, text: "" }),
    /** What was refused and belongs to no cell of it. */
    why: plan.troubles[`${own}:${field}`]?.message,
  };
}
