import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { type Change, client, Problem, type Schemas, take } from "../../api";
import { usePlace, words } from "../../shared";

export type Sheet = Schemas["Sheet"];
export type Row = Schemas["SheetRow"];
export type Field = "actual_start" | "actual_finish" | "percent" | "remaining" | "cost" | "note";
export type Typed = Partial<Record<Field, string>>;

/** An entry that was not written: what was typed stays, with the sentence beside it. */
export interface Trouble {
  text: string;
  message: string;
  nearest?: string;
  stale?: Change;
}

const key = (code: string, field: Field) => `${code}:${field}`;
const TRIES = 4;

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
  const mark = (code: string, fields: Field[], trouble: (field: Field) => Trouble | null) =>
    setTroubles((now) => {
      const next = { ...now };
      for (const field of fields) {
        const found = trouble(field);
        if (found) next[key(code, field)] = found;
        else delete next[key(code, field)];
      }
      return next;
    });

  /** Writes cells of one row. A write that only came late, on other rows, is sent again; on the same row it is shown. */
  const post = (code: string, typed: Typed, mine = false) =>
    inTurn(async () => {
      const fields = Object.keys(typed) as Field[];
      for (let turn = 0; turn < TRIES; turn++) {
        try {
          const body = { revision: revision(), ...typed };
          const params = { path: { ...path, activity: code } };
          done(
            await take(
              client.PATCH("/api/projects/{project}/pages/{page}/posting/activities/{activity}", { params, body }),
            ),
          );
          mark(code, fields, () => null);
          return;
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          if (error.code === "stale") {
            const same = error.changes.filter((c) => c.subjects.includes(code) || c.subject === code).at(-1);
            queries.setQueryData(sheetKey, await read());
            queries.invalidateQueries({ queryKey: [project, page.code, "balance"] });
            if (!same || mine) continue;
            const message = error.message;
            mark(code, fields, (f) => ({ text: typed[f] ?? "", message, stale: same }));
            return;
          }
          const at = fields.includes(error.field as Field) ? (error.field as Field) : fields[0];
          const { message, nearest } = error;
          mark(code, fields, (f) => (f === at ? { text: typed[f] ?? "", message, nearest } : null));
          return;
        }
      }
    });

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
    post,
    drop: (code: string, field: Field) => mark(code, [field], () => null),
    trouble: (code: string, field: Field) => troubles[key(code, field)],
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
