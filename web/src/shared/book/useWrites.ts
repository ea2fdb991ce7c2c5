import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef } from "react";
import { Problem } from "../../api";
import { keys } from "../keys";
import { cellKey, type Trouble } from "../sheet/sheet";
import { words } from "../words";
import { held } from "./held";
import { inLine } from "./line";
import { refresh } from "./refresh";
import { revisionIn, revisionOf, see } from "./revision";
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
  /** What is read after each write, before what was typed gives way to it. */
  after?: () => Promise<unknown>;
  /** False where what is written counts no revision of the project. */
  counts?: boolean;
  /** The name that a row has now, where it was still being made when it was written. */
  named?: (row: string) => string;
}

/** What sends a write: one that changes the project is told the revision it is made on, and answers with the next. */
type Work<T> = (revision: number) => Promise<T>;

const TRIES = 4;
const WRITING = keys.writing("", "").slice(0, 1);
const EMPTY: Writing = { troubles: {}, waiting: {}, refused: null, busy: 0 };

/**
 * The write path. A write waits for those before it and shows at once. Where somebody else wrote meanwhile, it is sent again
 * on what is there now; if that was the same cell it is not written but shown beside it, to be decided. Where the server does
 * not answer, it waits until it does, and those after it with it.
 */
export function useWrites({ project, part, read, after, counts = true, named = (row) => row }: Source) {
  const queries = useQueryClient();
  const { data: now = EMPTY } = useQuery<Writing>(held(keys.writing(project, part)));
  const source = useRef({ read, after, counts, named });
  source.current = { read, after, counts, named };
  const does = useMemo(() => {
    const key = keys.writing(project, part);
    const update = (change: (now: Writing) => Partial<Writing>) =>
      queries.setQueryData<Writing>(key, (was = EMPTY) => ({ ...was, ...change(was) }));
    const keyOf = ({ row, field }: { row: string; field: string }) => cellKey(source.current.named(row), field);
    /** Puts a trouble beside a cell, or takes it away. */
    const mark = (cells: Asked[], trouble: (cell: Asked) => Trouble | null) =>
      update(({ troubles }) => {
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
      update(({ waiting }) => {
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
    /** Where it was written on another revision than that of all that is shown, the rest of it is read again. */
    const learn = (at: number, answer: unknown) => {
      const next = revisionIn(answer);
      if (next === undefined) return;
      const others = at !== revisionOf(project);
      see(project, next);
      if (others) refresh(queries, project);
    };
    /** Sends until it is answered, or until it is known that somebody else wrote one of the cells. */
    const send = async <T>(work: Work<T>, cells: Asked[]): Promise<T> => {
      let at = revisionOf(project);
      for (let turns = 1; ; turns++) {
        const before = cells.map((c) => c.current?.());
        try {
          const answer = await work(at);
          if (work.length && source.current.counts) learn(at, answer);
          return answer;
        } catch (error) {
          if (error instanceof Problem && error.code === "unreachable" && (await answersAgain())) {
            turns--;
            continue;
          }
          if (!(error instanceof Problem) || error.code !== "stale") throw error;
          at = error.revision ?? at;
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
      else update(() => ({ refused: code === "stale" ? words.sheet.meanwhile : message }));
    };
    const inTurn = <T>(work: () => Promise<T>) => {
      update(({ busy }) => ({ busy: busy + 1 }));
      return inLine(project, work).finally(() => update(({ busy }) => ({ busy: busy - 1 })));
    };
    return {
      /** Asks at once what a write would do, or sends what is refused by its caller. */
      send: <T>(work: Work<T>) => send(work, []),
      /** Sends once, after those before it: where somebody else wrote meanwhile, the person decides anew. */
      once: <T>(work: Work<T>) =>
        inTurn(async () => {
          const at = revisionOf(project);
          const answer = await work(at);
          learn(at, answer);
          return answer;
        }),
      inTurn,
      /**
       * Writes cells as one step; `mine` overwrites what somebody else wrote. Null where it was refused: the reason stands
       * beside the cell that caused it, or where there is none in `refused`.
       */
      write: <T>(work: Work<T>, cells: Asked[] = [], mine = false): Promise<T | null> => {
        show(cells, true);
        return inTurn(async () => {
          try {
            const answer = await send(work, mine ? [] : cells);
            await source.current.after?.();
            update(() => ({ refused: null }));
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
      calm: () => update(() => ({ refused: null })),
      dropAll: () => update(() => ({ troubles: {} })),
    };
  }, [queries, project, part]);
  // What belongs to no cell is said where it was done, and no longer.
  useEffect(() => () => void does.calm(), [does]);
  return { ...does, troubles: now.troubles, waiting: now.waiting, refused: now.refused, busy: now.busy > 0 };
}

/** Whether something of a sheet or form is on its way. */
export const useSending = (project: string, part: string) =>
  (useQuery<Writing>(held(keys.writing(project, part))).data?.busy ?? 0) > 0;

/** Tells whether anything that was typed is not written: on its way, or refused and still to be mended. */
export function useUnfinished() {
  const queries = useQueryClient();
  return useCallback(
    () =>
      queries
        .getQueriesData<Writing>({ queryKey: WRITING })
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
