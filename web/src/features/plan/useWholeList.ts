import { useRef } from "react";
import { groupBy } from "../../shared";
import type { Begun, ListRow, ListWrite } from "../../shared/sheet";
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

/**
 * Rows in the order in which they stood: what comes back sorted, or with dates in full, moves no row from under one's hands.
 * Those that are in other words than before stand where those were that did not come back.
 */
export function inPlace<T>(was: T[], now: T[], show: (item: T) => Record<string, string>): T[] {
  const key = (item: T) => JSON.stringify(show(item));
  const free = groupBy(now, key);
  const kept = was.map((item) => free.get(key(item))?.shift());
  const others = [...free.values()].flat();
  return [...kept.flatMap((item) => item ?? others.shift() ?? []), ...others];
}

/** A list that is kept whole in one cell, worked in as a sheet: what is refused stands beside the cell it was typed in. */
export function useWholeList<T>({ id, field, list, plan, show, make, begin }: Given<T>) {
  const own = `${id}.${field}.`;
  const trouble = Object.entries(plan.troubles).find(([key]) => key.startsWith(own))?.[1];
  const send = (next: T[], at: ListWrite) =>
    plan.fill([{ do: "set", row: id, cells: { [field]: next } }], [{ row: at.row, field: at.field, text: at.text }]);
  let at: ListWrite = { row: own, field, text: "" };
  const [now, put] = useDraft<T[]>(list, (next) => send(next, at), trouble?.message);
  const was = useRef({ id, items: now });
  const items = was.current.id === id ? inPlace(was.current.items, now, show) : now;
  was.current = { id, items };
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
      const typed = groupBy(cells, (c) => c.row);
      const next = items.map((item, i) => {
        const of = typed.get(`${own}${i}`);
        return of ? make({ ...show(item), ...Object.fromEntries(of.map((c) => [c.field, c.text])) }) : item;
      });
      place(next, first);
    },
    begin: {
      ...begin,
      add: (rows: Begun[]) => {
        const { cells = {} } = rows[0] ?? {};
        const [key = field] = Object.keys(cells);
        const next = [...items, ...rows.map((row) => make(row.cells))];
        place(next, { row: `${own}${items.length}`, field: key, text: cells[key] ?? "" });
        return rows.map((_, i) => `${own}${items.length + i}`);
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
