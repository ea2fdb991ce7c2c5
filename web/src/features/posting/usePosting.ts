import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { usePlace, words } from "../../shared";
import { cellKey, type Trouble, type Write } from "../../shared/sheet";
import { type Column, typedOf } from "./cells";

export type Sheet = Schemas["Sheet"];
export type Row = Schemas["SheetRow"];
export type Field = "actual_start" | "actual_finish" | "percent" | "remaining" | "cost" | "note";
export type Typed = Partial<Record<Field, string>>;

interface Cell {
  code: string;
  field: Field;
  text: string;
  key: string;
}

const TRIES = 4;
/** How long after an answer what was typed still stands, until the answer is drawn. */
const SETTLED = 30;

/** What a sheet says in a cell, as it would be typed. */
const heldBy = (sheet: Sheet | undefined, { code, field }: Cell) => {
  const row = sheet?.rows?.find((r) => r.code === code);
  return row && typedOf(row, field);
};

/** Puts an effect into everything that shows the page: rows, totals, and whatever must be read again. */
function settle(queries: QueryClient, project: string, page: string, effect: Schemas["Effect"]) {
  queries.setQueryData<Sheet>([project, page, "posting"], (sheet) => {
    if (!sheet) return sheet;
    const changed = new Map(effect.rows.map((r) => [r.code, r]));
    const rows = (sheet.rows ?? []).map((r) => changed.get(r.code) ?? r);
    return { ...sheet, rows, revision: effect.revision, to_go: effect.to_go, posted: effect.posted };
  });
  queries.setQueryData([project, page, "balance"], effect.balance);
  const kept = new Set(["posting", "balance"]);
  queries.invalidateQueries({ predicate: (q) => q.queryKey[0] === project && !kept.has(String(q.queryKey[2])) });
  queries.invalidateQueries({ queryKey: ["frame", project] });
  queries.invalidateQueries({ queryKey: ["desk"] });
}

/** The sheet of the page and every way to write on it. Writes go one after the other, each with the revision it saw. */
export function usePosting() {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const sheetKey = [project, page.code, "posting"];
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/posting", { params: { path } }));
  const sheet = useQuery({ queryKey: sheetKey, queryFn: read });
  const [troubles, setTroubles] = useState<Record<string, Trouble>>({});
  const [refused, setRefused] = useState<string | null>(null);
  const [waiting, setWaiting] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(0);
  const queue = useRef<Promise<unknown>>(Promise.resolve());

  const inTurn = useCallback(<T>(work: () => Promise<T>) => {
    setBusy((n) => n + 1);
    const next = queue.current.then(work, work).finally(() => setBusy((n) => n - 1));
    queue.current = next.catch(() => undefined);
    return next;
  }, []);
  const revision = () => queries.getQueryData<Sheet>(sheetKey)?.revision ?? 0;
  const done = (effect: Schemas["Effect"]) => {
    settle(queries, project, page.code, effect);
    setEffect(effect);
    setRefused(null);
  };
  const mark = (cells: Cell[], trouble: (cell: Cell) => Trouble | null) =>
    setTroubles((now) => {
      const next = { ...now };
      for (const cell of cells) {
        const found = trouble(cell);
        if (found) next[cell.key] = found;
        else delete next[cell.key];
      }
      return next;
    });
  const show = (cells: Cell[], shown: boolean) =>
    setWaiting((now) => {
      const next = { ...now };
      for (const { key, text } of cells)
        if (shown) next[key] = text;
        else if (next[key] === text) delete next[key];
      return next;
    });

  const send = async (cells: Cell[], mine: boolean) => {
    const entries = [...Map.groupBy(cells, (c) => c.code)].map(([activity, own]) => ({
      activity,
      ...(Object.fromEntries(own.map((c) => [c.field, c.text])) as Typed),
    }));
    for (let turn = 0; turn < TRIES; turn++) {
      const before = queries.getQueryData<Sheet>(sheetKey);
      try {
        const body = { revision: revision(), entries };
        done(
          await take(client.PATCH("/api/projects/{project}/pages/{page}/posting/entries", { params: { path }, body })),
        );
        mark(cells, () => null);
        return;
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === "stale") {
          const now = await read();
          queries.setQueryData(sheetKey, now);
          queries.invalidateQueries({ queryKey: [project, page.code, "balance"] });
          const clash = cells.filter((c) => heldBy(before, c) !== heldBy(now, c));
          if (!clash.length || mine) continue;
          const { message } = error;
          const of = (c: Cell) =>
            error.changes.filter((x) => x.subjects.includes(c.code) || x.subject === c.code).at(-1);
          mark(cells, (c) =>
            clash.includes(c) ? { text: c.text, message, stale: of(c) ?? error.changes.at(-1) } : null,
          );
          return;
        }
        const at = cells.find((c) => c.code === (error.row ?? c.code) && c.field === error.field) ?? cells[0];
        const { message, nearest } = error;
        mark(cells, (c) => (c === at ? { text: c.text, message, nearest } : null));
        return;
      }
    }
  };
  /** Writes cells as one step. A write that only came late, on other cells, is sent again; on the same cell it is shown. */
  const write = (writes: Write<Row, Column>[], mine = false) => {
    const cells = writes.map(({ row, column, text }): Cell => {
      const field = column.writes as Field;
      return { code: row.code, field, text, key: cellKey(row.code, field) };
    });
    show(cells, true);
    return inTurn(() => send(cells, mine).finally(() => setTimeout(() => show(cells, false), SETTLED)));
  };

  const whole = (work: () => Promise<Schemas["Effect"]>) =>
    inTurn(async () => {
      try {
        done(await work());
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        if (error.code === "stale") queries.setQueryData(sheetKey, await read());
        setRefused(error.code === "stale" ? words.posting.meanwhile : error.message);
      }
    });
  const rev = () => ({ body: { revision: revision() }, params: { path: { project } } });
  return {
    sheet,
    troubles,
    refused,
    busy: busy > 0,
    waiting,
    write,
    drop: (code: string, field: string) => setTroubles(({ [cellKey(code, field)]: _, ...others }) => others),
    toPlan: (activities: string[] | null) =>
      whole(() =>
        take(
          client.POST("/api/projects/{project}/pages/{page}/posting/to-plan", {
            params: { path },
            body: { revision: revision(), activities },
          }),
        ),
      ),
    undo: () => whole(() => take(client.POST("/api/projects/{project}/undo", rev()))),
    redo: () => whole(() => take(client.POST("/api/projects/{project}/redo", rev()))),
    close: () =>
      inTurn(() =>
        take(
          client.POST("/api/projects/{project}/pages/{page}/close", {
            params: { path },
            body: { revision: revision() },
          }),
        ),
      ),
  };
}
