import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { held } from "../book/held";
import { keys } from "../keys";

/** A row of a list: its values as they are kept, by column. */
export interface ListRow {
  id: string;
  cells: Record<string, string>;
}

/** A row that is begun at the foot of a list. */
export interface Begun extends ListRow {
  /** On its way; what is typed meanwhile is written once it is made. */
  sent?: boolean;
  late?: Record<string, string>;
  /** The name that it has now, once it is made. */
  made?: string;
}

/** How rows are begun: what they start with, and what they need before they are made. */
export interface Begin {
  start?: Record<string, string>;
  needs: string[];
  /** Makes rows as one step, and gives the name that each has then; null where they were refused. */
  add: (rows: Begun[]) => string[] | Promise<string[] | null>;
}

let count = 0;
const fresh = (cells: Record<string, string> = {}): Begun => ({ id: `begun${++count}`, cells });
export const isBegun = (row: { id: string }) => row.id.startsWith("begun");
/** The name that a row has which was begun here. */
const renamed = new Map<string, string>();
export const nameNow = (id: string) => renamed.get(id);
/** Whether a row that is begun has all it needs. */
const ready = (row: Begun, needs: string[]) => needs.every((k) => row.cells[k]?.trim());
/** What was typed into rows, by the row. */
export type Typed = Map<string, Record<string, string>>;

/**
 * The rows that are begun and not made yet: they are there again when one comes back to the list, as long as one is signed in.
 * `stays` says which of its cells the next row begins with.
 */
export function useBegun(
  place: string,
  begin: Begin | undefined,
  stays: (cells: Record<string, string>) => Record<string, string>,
) {
  const queries = useQueryClient();
  const key = keys.begun(place);
  const first = useRef<Begun[] | null>(null);
  first.current ??= [fresh(begin?.start)];
  const { data } = useQuery<Begun[]>(held(key));
  const read = () => queries.getQueryData<Begun[]>(key) ?? first.current ?? [];
  const set = (change: (now: Begun[]) => Begun[]) => queries.setQueryData<Begun[]>(key, change(read()));
  const change = (ids: Set<string>, becomes: (row: Begun) => Begun) =>
    set((now) => now.map((row) => (ids.has(row.id) ? becomes(row) : row)));
  return {
    rows: data ?? first.current,
    /** More empty rows at the foot, for a block that is longer than what is left. */
    more: (n: number) => {
      const rows = Array.from({ length: n }, () => fresh(begin?.start));
      set((now) => [...now, ...rows]);
      return rows;
    },
    /** Fills rows that are being begun; those that have what they need are made as one step, and the next can be begun. */
    fill: (typed: Typed): Begun | undefined => {
      if (!begin) return undefined;
      const of = new Set(typed.keys());
      change(of, (row) => ({
        ...row,
        cells: { ...row.cells, ...typed.get(row.id) },
        late: row.sent ? { ...row.late, ...typed.get(row.id) } : undefined,
      }));
      const going = read().filter((row) => of.has(row.id) && !row.sent && ready(row, begin.needs));
      if (!going.length) return undefined;
      const ids = new Set(going.map((row) => row.id));
      const last = read().at(-1);
      const next = last && ids.has(last.id) ? fresh({ ...begin.start, ...stays(last.cells) }) : undefined;
      change(ids, (row) => ({ ...row, sent: true }));
      if (next) set((now) => [...now, next]);
      const done = (names: string[] | null) =>
        change(ids, ({ sent: _, late, ...row }) =>
          names ? { ...row, late, sent: true, made: names[going.findIndex((g) => g.id === row.id)] } : row,
        );
      const names = begin.add(going);
      if (Array.isArray(names)) done(names);
      else names.then(done, () => done(null));
      return next;
    },
    /** Takes away those that are rows of the list now, and gives what was typed into them on their way. */
    settle: (known: Set<string>) => {
      const done = read().filter((row) => row.made !== undefined && known.has(row.made));
      for (const { id, made = "" } of done) renamed.set(id, made);
      if (done.length) set((now) => now.filter((row) => !done.includes(row)));
      return done.flatMap(({ made = "", late = {} }) =>
        Object.entries(late).map(([field, text]) => ({ row: made, field, text })),
      );
    },
  };
}
