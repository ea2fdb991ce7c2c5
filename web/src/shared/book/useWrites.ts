import { skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef } from "react";
import { Problem } from "../../api";
import { cellKey, type Trouble } from "../sheet/sheet";
import { words } from "../words";
import { inLine } from "./line";
import { answersAgain } from "./unsent";

/** What is on its way, and what was refused, of one sheet or form. */
interface Writing {
  /** What was not written stays, by the line and the cell, with the reason. */
  troubles: Record<string, Trouble>;
  /** What was typed and is not answered yet: it counts already. */
  waiting: Record<string, string>;
  /** What was refused and belongs to no cell. */
  refused: string | null;
  busy: number;
}

/** A cell that a write fills, and what it said when it was last read. */
export interface Asked {
  row: string;
  field: string;
  text: string;
  current?: () => string | undefined;
}

/** Where a sheet's data come from. */
export interface Source {
  project: string;
  /** Which sheet or form it is: each keeps its own refusals, also while one is elsewhere. */
  part: string;
  /** Reads it again. */
  read: () => Promise<unknown>;
  /** The name that a row has now, where it was still being made when it was written. */
  named?: (row: string) => string;
}

const TRIES = 4;
const EMPTY: Writing = { troubles: {}, waiting: {}, refused: null, busy: 0 };

/**
 * The write path. A write waits for those before it and shows at once. Where somebody else wrote meanwhile, it is sent again
 * on what is there now; if that was the same cell it is not written but shown beside it, to be decided. Where the server does
 * not answer, it waits until it does, and those after it with it.
 */
export function useWrites({ project, part, read, named = (row) => row }: Source) {
  const queries = useQueryClient();
  const { data: now = EMPTY } = useQuery<Writing>({
    queryKey: [project, "writing", part],
    enabled: false,
    queryFn: skipToken,
    gcTime: Number.POSITIVE_INFINITY,
  });
  const source = useRef({ read, named });
  source.current = { read, named };
  const does = useMemo(() => {
    const key = [project, "writing", part];
    const turn = (change: (now: Writing) => Partial<Writing>) =>
      queries.setQueryData<Writing>(key, (was = EMPTY) => ({ ...was, ...change(was) }));
    const keyOf = ({ row, field }: { row: string; field: string }) => cellKey(source.current.named(row), field);
    /** Puts a trouble beside a cell, or takes it away. */
    const mark = (cells: Asked[], trouble: (cell: Asked) => Trouble | null) =>
      turn(({ troubles }) => {
        const next = { ...troubles };
        for (const cell of cells) {
          const found = trouble(cell);
          if (found) next[keyOf(cell)] = found;
          else delete next[keyOf(cell)];
        }
        return { troubles: next };
      });
    const shown = new Map<string, number>();
    const show = (cells: Asked[], on: boolean) => {
      if (!cells.length) return;
      turn(({ waiting }) => {
        const next = { ...waiting };
        for (const cell of cells) {
          const k = cellKey(cell.row, cell.field);
          const left = (shown.get(k) ?? 0) + (on ? 1 : -1);
          shown.set(k, left);
          if (on) next[k] = cell.text;
          else if (left <= 0) delete next[k];
        }
        return { waiting: next };
      });
    };
    /** Sends until it is answered, or until it is known that somebody else wrote one of the cells. */
    const send = async <T>(work: () => Promise<T>, cells: Asked[]): Promise<T> => {
      for (let turns = 1; ; turns++) {
        const before = cells.map((c) => c.current?.());
        try {
          return await work();
        } catch (error) {
          if (error instanceof Problem && error.code === "unreachable" && (await answersAgain())) {
            turns--;
            continue;
          }
          if (!(error instanceof Problem) || error.code !== "stale") throw error;
          await source.current.read();
          const clash = cells.filter((c, i) => c.current?.() !== before[i] && c.current?.() !== c.text);
          if (clash.length) throw new Clash(error, clash);
          if (turns >= TRIES) throw error;
        }
      }
    };
    const refuse = (error: unknown, cells: Asked[]) => {
      if (error instanceof Clash) {
        const { message, changes } = error.problem;
        const by = ({ row }: Asked) => changes.filter((x) => x.subjects.includes(row) || x.subject === row).at(-1);
        mark(error.cells, (c) => ({ text: c.text, message, stale: by(c) ?? changes.at(-1) }));
        return;
      }
      if (!(error instanceof Problem)) throw error;
      const { message, nearest, code, row, field } = error;
      const at = cells.find((c) => c.row === (row ?? c.row) && c.field === field) ?? cells[0];
      if (at) mark(cells, (c) => (c === at ? { text: c.text, message, nearest } : null));
      else turn(() => ({ refused: code === "stale" ? words.sheet.meanwhile : message }));
    };
    const inTurn = <T>(work: () => Promise<T>) => {
      turn(({ busy }) => ({ busy: busy + 1 }));
      return inLine(project, work).finally(() => turn(({ busy }) => ({ busy: busy - 1 })));
    };
    return {
      inTurn,
      send: <T>(work: () => Promise<T>) => send(work, []),
      /**
       * Writes cells as one step; `mine` overwrites what somebody else wrote. Null where it was refused: the reason stands
       * beside the cell that caused it, or where there is none in `refused`.
       */
      write: <T>(work: () => Promise<T>, cells: Asked[] = [], mine = false): Promise<T | null> => {
        show(cells, true);
        return inTurn(async () => {
          try {
            const answer = await send(work, mine ? [] : cells);
            turn(() => ({ refused: null }));
            mark(cells, () => null);
            return answer;
          } catch (error) {
            refuse(error, cells);
            return null;
          } finally {
            show(cells, false);
          }
        });
      },
      drop: (row: string, field: string) => mark([{ row, field, text: "" }], () => null),
      calm: () => turn(() => ({ refused: null })),
      dropAll: () => turn(() => ({ troubles: {} })),
    };
  }, [queries, project, part]);
  // What belongs to no cell is said where it was done, and no longer.
  useEffect(() => () => void does.calm(), [does]);
  return { ...does, troubles: now.troubles, waiting: now.waiting, refused: now.refused, busy: now.busy > 0 };
}

/** Whether something of a sheet or form is on its way. */
export const useSending = (project: string, part: string) =>
  (useQuery<Writing>({ queryKey: [project, "writing", part], enabled: false, queryFn: skipToken }).data?.busy ?? 0) > 0;

/** Tells whether anything that was typed is not written: on its way, or refused and still to be mended. */
export function useUnfinished() {
  const queries = useQueryClient();
  return useCallback(
    () =>
      queries
        .getQueriesData<Writing>({ predicate: ({ queryKey }) => queryKey[1] === "writing" })
        .some(([, now]) => now && (now.busy > 0 || Object.keys(now.troubles).length > 0)),
    [queries],
  );
}

/** A write that came after somebody else's write of the same cells. */
class Clash extends Error {
  constructor(
    readonly problem: Problem,
    readonly cells: Asked[],
  ) {
    super(problem.message);
  }
}
