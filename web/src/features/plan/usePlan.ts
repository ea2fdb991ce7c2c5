import { type QueryClient, skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { inLine, settled, words } from "../../shared";
import { cellKey, type Trouble, typedOf, type Write } from "../../shared/sheet";
import type { Column } from "./columns";
import { type Row, type Verb, whole } from "./row";

export type Effect = Schemas["PlanEffect"];
export type PlanInfo = Omit<Schemas["PlanOut"], "rows">;

export interface Plan {
  info: PlanInfo;
  rows: Map<string, Row>;
  /** Whether more rows look different than the last answer told. */
  rest: boolean;
}

export const planKey = (project: string) => [project, "plan"];

const read = (project: string) =>
  take(client.GET("/api/projects/{project}/plan", { params: { path: { project } } })).then(
    ({ rows, ...info }): Plan => ({ info, rows: new Map(rows.map((r) => [r.id, whole(r)])), rest: false }),
  );

export const usePlanSheet = (project: string) => useQuery({ queryKey: planKey(project), queryFn: () => read(project) });

/** The rows in sight of each project whose sheet is shown; of more than a few that changed, these are told first. */
const inSight = new Map<string, string[]>();
export const look = (project: string, rows: string[] | null) =>
  rows ? inSight.set(project, rows) : inSight.delete(project);

/** A write that came after somebody else's write of the same cells. */
class Clash extends Error {
  constructor(
    readonly problem: Problem,
    readonly cells: Write<Row, Column>[],
  ) {
    super(problem.message);
  }
}

const TRIES = 4;
/** How long after an answer what was typed still stands, until the answer is drawn. */
const SETTLED = 30;
const SETTLE = 400;
const STILL = 150;
const AGAIN = 2_000;

const resting = new Map<string, ReturnType<typeof setTimeout>>();

/** Reads what an answer left out, once the hands are still. */
function readRest(queries: QueryClient, project: string, wait = STILL) {
  clearTimeout(resting.get(project));
  const later = async () => {
    await settled(project);
    const now = await read(project);
    queries.setQueryData<Plan>(planKey(project), (known) =>
      known && known.info.revision > now.info.revision ? known : now,
    );
  };
  const timer = setTimeout(() => later().catch(() => readRest(queries, project, AGAIN)), wait);
  resting.set(project, timer);
}

/** The plan and every way to change it. Changes go one after the other, each with the revision it saw. */
export function usePlan(project: string) {
  const queries = useQueryClient();
  const sheet = usePlanSheet(project);
  const key = useMemo(() => planKey(project), [project]);
  const [troubles, setTroubles] = useState<Record<string, Trouble>>({});
  const [refused, setRefused] = useState<string | null>(null);
  // What the last change did is told wherever the plan is shown, the margin's changes too.
  const told = useMemo(() => [project, "effect"], [project]);
  const { data: effect = null } = useQuery<Effect | null>({ queryKey: told, enabled: false, queryFn: skipToken });
  const [busy, setBusy] = useState(0);
  const [pending, setPending] = useState<Row[]>([]);
  const [noted, note] = useState<string | null>(null);
  const [waiting, setWaiting] = useState<Record<string, string>>({});
  const made = useRef(new Map<string, string>());
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  /** What is known of the plan, and what of an answer is wanted at once. */
  const known = useCallback(() => {
    const plan = queries.getQueryData<Plan>(key);
    return { revision: plan?.info.revision ?? 0, rest: plan?.rest ?? false, seen: inSight.get(project) };
  }, [queries, key, project]);
  /** What rests on the plan is read again once the hands are still. */
  const settle = useCallback(() => {
    clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      queries.invalidateQueries({
        predicate: (q) => q.queryKey[0] === project && q.queryKey[1] !== "plan" && q.queryKey[1] !== "row",
      });
      queries.invalidateQueries({ queryKey: ["frame", project] });
      queries.invalidateQueries({ queryKey: ["desk"] });
    }, SETTLE);
  }, [queries, project]);

  const done = useCallback(
    (e: Effect) => {
      queries.setQueryData<Plan>(key, (plan) => {
        if (!plan) return plan;
        const rows = new Map(plan.rows);
        for (const id of e.removed) rows.delete(id);
        for (const [id, change] of Object.entries(e.changes)) {
          const row = rows.get(id);
          if (row) rows.set(id, { ...row, ...change });
        }
        for (const r of e.rows) rows.set(r.id, whole(r));
        return { info: { ...plan.info, revision: e.revision, finish: e.finish }, rows, rest: e.rest ?? false };
      });
      if (e.rest) readRest(queries, project);
      for (const [name, id] of Object.entries(e.made ?? {})) made.current.set(name, id);
      queries.setQueryData(told, e);
      setRefused(null);
      for (const part of ["row", "lists", "about", "budget", "loads", "estimates", "shelf"])
        queries.invalidateQueries({ queryKey: [project, part] });
      settle();
    },
    [queries, key, project, settle, told],
  );

  const inTurn = useCallback(
    <T>(work: () => Promise<T>) => {
      setBusy((n) => n + 1);
      return inLine(project, work).finally(() => setBusy((n) => n - 1));
    },
    [project],
  );

  /** A row that was still being made when it was named, by the name it has now. */
  const named = useCallback((value: unknown): unknown => {
    if (typeof value === "string") return made.current.get(value) ?? value;
    if (Array.isArray(value)) return value.map(named);
    return value;
  }, []);

  const send = useCallback(
    async (verbs: Verb[], preview: boolean, cells: Write<Row, Column>[] = []): Promise<Effect> => {
      const wanted = verbs.map(
        (v) =>
          Object.fromEntries(
            Object.entries(v).map(([k, x]) => [k, k === "cells" || k === "as" ? x : named(x)]),
          ) as Verb,
      );
      for (let turn = 1; ; turn++) {
        try {
          return await take(
            client.POST("/api/projects/{project}/plan/changes", {
              params: { path: { project } },
              body: { ...known(), preview, verbs: wanted },
            }),
          );
        } catch (error) {
          if (!(error instanceof Problem) || error.code !== "stale" || turn >= TRIES) throw error;
          const before = queries.getQueryData<Plan>(key);
          const now = await read(project);
          queries.setQueryData(key, now);
          const said = (plan: Plan | undefined, { row, column }: Write<Row, Column>) => {
            const found = plan?.rows.get(made.current.get(row.id) ?? row.id);
            return found && typedOf(column, found);
          };
          const clash = cells.filter((c) => said(before, c) !== said(now, c));
          if (clash.length) throw new Clash(error, clash);
        }
      }
    },
    [project, key, queries, known, named],
  );

  const mark = useCallback(
    (row: string, field: string, trouble: Trouble | null) =>
      setTroubles((now) => {
        const next = { ...now };
        const key = cellKey(made.current.get(row) ?? row, field);
        if (trouble) next[key] = trouble;
        else delete next[key];
        return next;
      }),
    [],
  );

  /** Does verbs as one step. `at` says which cell they came from, so that a refusal stands beside it. */
  const change = useCallback(
    (verbs: Verb[], at?: { row: string; field: string; text: string }) =>
      inTurn(async () => {
        try {
          const e = await send(verbs, false);
          done(e);
          note(null);
          if (at) mark(at.row, at.field, null);
          return e;
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          if (at) mark(at.row, at.field, { text: at.text, message: error.message, nearest: error.nearest });
          else setRefused(error.code === "stale" ? words.posting.meanwhile : error.message);
          return null;
        }
      }),
    [inTurn, send, done, mark],
  );

  /** Writes cells of rows as one step. What is typed shows at once; a refusal, or what somebody else wrote, stands beside it. */
  const write = useCallback(
    (verbs: Verb[], cells: Write<Row, Column>[], mine = false) => {
      if (!verbs.some((v) => v.do === "outline")) note(null);
      const keys = cells.map((c) => [cellKey(c.line, c.column.writes ?? ""), c.text] as const);
      setWaiting((now) => ({ ...now, ...Object.fromEntries(keys) }));
      const settleCells = () =>
        setWaiting((now) => {
          const next = { ...now };
          for (const [k, text] of keys) if (next[k] === text) delete next[k];
          return next;
        });
      const tell = (cell: Write<Row, Column> | undefined, trouble: Trouble | null) =>
        cell && mark(cell.row.id, cell.column.writes ?? "", trouble);
      return inTurn(async () => {
        try {
          done(await send(verbs, false, mine ? [] : cells));
          for (const c of cells) tell(c, null);
        } catch (error) {
          if (error instanceof Clash) {
            const { message, changes } = error.problem;
            for (const c of error.cells) tell(c, { text: c.text, message, stale: changes.at(-1) });
            return;
          }
          if (!(error instanceof Problem)) throw error;
          const { message, nearest, code, row, field } = error;
          const at = cells.find((c) => c.row.id === row && c.column.writes === field) ?? cells[0];
          if (at) tell(at, { text: at.text, message, nearest });
          else setRefused(code === "stale" ? words.posting.meanwhile : message);
        }
      }).finally(() => setTimeout(settleCells, SETTLED));
    },
    [inTurn, send, done, mark],
  );

  const turn = useCallback(
    (way: "undo" | "redo") =>
      inTurn(async () => {
        try {
          done(
            await take(
              client.POST("/api/projects/{project}/plan/{way}", {
                params: { path: { project, way } },
                body: known(),
              }),
            ),
          );
          setTroubles({});
          note(null);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          if (error.code === "stale") queries.setQueryData(key, await read(project));
          setRefused(error.code === "stale" ? words.posting.meanwhile : error.message);
        }
      }),
    [inTurn, done, project, key, queries, known],
  );

  const preview = useCallback((verbs: Verb[]) => send(verbs, true), [send]);

  return {
    sheet,
    effect,
    refused,
    busy: busy > 0,
    troubles,
    pending,
    setPending,
    waiting,
    noted,
    note,
    write,
    change,
    preview,
    undo: () => turn("undo"),
    redo: () => turn("redo"),
    drop: (row: string, field: string) => mark(row, field, null),
  };
}

export type PlanHandle = ReturnType<typeof usePlan>;
