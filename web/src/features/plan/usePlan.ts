import { type QueryClient, type QueryKey, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { useMatch } from "react-router";
import { client, Problem, type Schemas, take } from "../../api";
import { keys } from "../../shared";
import { type Asked, held, refresh, settled, useWrites } from "../../shared/book";
import { typedOf, type Write } from "../../shared/sheet";
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

const sheetOf = (project: string, option: number | null) =>
  option === null
    ? client.GET("/api/projects/{project}/plan", { params: { path: { project } } })
    : client.GET("/api/projects/{project}/options/{id}/plan", { params: { path: { project, id: option } } });

const read = (project: string, option: number | null) =>
  take(sheetOf(project, option)).then(
    ({ rows, ...info }): Plan => ({ info, rows: new Map(rows.map((r) => [r.id, whole(r)])), rest: false }),
  );

export const usePlanSheet = (project: string, option: number | null = null) =>
  useQuery({ queryKey: keys.project(project).plan(option), queryFn: () => read(project, option) });

/** The option whose plan sheet is open, by the address; null at the plan itself. */
export function useOpenOption(): number | null {
  const found = useMatch("/:project/:page/plan/option/:option");
  const option = Number(found?.params.option);
  return Number.isSafeInteger(option) && option > 0 ? option : null;
}

/** The rows in sight of each project whose sheet is shown; of more than a few that changed, these are told first. */
const inSight = new Map<string, string[]>();
export const look = (project: string, rows: string[] | null) =>
  rows ? inSight.set(project, rows) : inSight.delete(project);

const SETTLE = 400;
const STILL = 150;
const AGAIN = 2_000;

const resting = new Map<string, ReturnType<typeof setTimeout>>();

/** Reads what an answer left out, once the hands are still. */
function readRest(queries: QueryClient, project: string, option: number | null, wait = STILL) {
  clearTimeout(resting.get(project));
  const later = async () => {
    await settled(project);
    const now = await read(project, option);
    queries.setQueryData<Plan>(keys.project(project).plan(option), (known) =>
      known && known.info.revision > now.info.revision ? known : now,
    );
  };
  const again = (error: unknown) => {
    if (!(error instanceof Problem) || error.status < 400) readRest(queries, project, option, AGAIN);
  };
  const timer = setTimeout(() => later().catch(again), wait);
  resting.set(project, timer);
}

/**
 * The plan and every way to change it. What was refused is kept by `part`: the sheet's beside its cells, a form's beside
 * its entries. `shows` is what else is shown of it: it is read before what was typed gives way.
 */
export function usePlan(project: string, part = "plan", shows?: QueryKey) {
  const queries = useQueryClient();
  const shown = useRef(shows);
  shown.current = shows;
  const option = useOpenOption();
  const sheet = usePlanSheet(project, option);
  const key = useMemo(() => keys.project(project).plan(option), [project, option]);
  // What the last change did is told wherever the plan is shown, the margin's changes too.
  const told = useMemo(() => keys.effect(project), [project]);
  const { data: effect = null } = useQuery<Effect | null>(held(told));
  const [pending, setPending] = useState<Row[]>([]);
  const [noted, note] = useState<string | null>(null);
  const made = useRef(new Map<string, string>());
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  /** A row that was still being made when it was named, by the name it has now. */
  const named = useCallback((value: unknown): unknown => {
    if (typeof value === "string") return made.current.get(value) ?? value;
    if (Array.isArray(value)) return value.map(named);
    return value;
  }, []);
  const other = useCallback(
    () => (shown.current ? queries.refetchQueries({ queryKey: shown.current }, { cancelRefetch: false }) : undefined),
    [queries],
  );
  const again = useCallback(async () => {
    queries.setQueryData(key, await read(project, option));
    await other();
  }, [queries, key, project, option, other]);
  const writes = useWrites({
    project,
    part: option === null ? part : `${part}.option.${option}`,
    read: again,
    counts: option === null,
    named: (row) => made.current.get(row) ?? row,
  });
  const { write: put, send, drop, dropAll } = writes;

  /** What of an answer is wanted at once. An option counts its changes by itself, not as revisions of the project. */
  const known = useCallback(
    (revision: number) => {
      const plan = queries.getQueryData<Plan>(key);
      const own = option === null ? revision : (plan?.info.revision ?? 0);
      return { revision: own, rest: plan?.rest ?? false, seen: inSight.get(project) };
    },
    [queries, key, project, option],
  );
  /** What rests on the plan is read again once the hands are still; on an option nothing rests but the board of options. */
  const settle = useCallback(() => {
    clearTimeout(timer.current);
    const again = () =>
      option === null
        ? refresh(queries, project, ({ part }) => part === "plan" || part === "row")
        : queries.invalidateQueries({
            queryKey: keys.project(project).options.all,
            predicate: ({ queryKey }) => queryKey[3] !== "plan",
          });
    timer.current = setTimeout(again, SETTLE);
  }, [queries, project, option]);

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
      if (e.rest) readRest(queries, project, option);
      for (const [name, id] of Object.entries(e.made ?? {})) made.current.set(name, id);
      queries.setQueryData(told, e);
      const parts = option === null ? ["row", "lists", "about", "budget", "loads", "estimates", "shelf"] : ["row"];
      for (const part of parts) queries.invalidateQueries({ queryKey: keys.project(project).part(part) });
      // What the organisation shares, and its load over all projects.
      for (const key of [keys.resources, keys.desk.people()]) queries.invalidateQueries({ queryKey: key });
      settle();
      return e;
    },
    [queries, key, project, option, settle, told],
  );

  const post = useCallback(
    (verbs: Verb[], preview: boolean, revision: number): Promise<Effect> => {
      const wanted = verbs.map(
        (v) =>
          Object.fromEntries(
            Object.entries(v).map(([k, x]) => [k, k === "cells" || k === "as" ? x : named(x)]),
          ) as Verb,
      );
      const body = { ...known(revision), preview, verbs: wanted };
      return take(
        option === null
          ? client.POST("/api/projects/{project}/plan/changes", { params: { path: { project } }, body })
          : client.POST("/api/projects/{project}/options/{id}/plan/changes", {
              params: { path: { project, id: option } },
              body,
            }),
      );
    },
    [project, option, known, named],
  );

  /** Does verbs as one step. `at` says which cell they came from, so that a refusal stands beside it. */
  const change = useCallback(
    (verbs: Verb[], at?: Asked) => {
      if (!verbs.some((v) => v.do === "outline")) note(null);
      return put(async (revision) => done(await post(verbs, false, revision)), at ? [at] : []);
    },
    [put, post, done],
  );

  /** Writes cells of a list or a form as one step; `mine` over what somebody else wrote there. */
  const fill = useCallback(
    (verbs: Verb[], cells: Asked[], mine = false) =>
      put(
        async (revision) => {
          const effect = done(await post(verbs, false, revision));
          await other();
          return effect;
        },
        cells,
        mine,
      ),
    [put, post, done, other],
  );

  /** Writes cells of rows as one step; `mine` over what somebody else wrote there. */
  const write = useCallback(
    (verbs: Verb[], cells: Write<Row, Column>[], mine = false) => {
      if (!verbs.some((v) => v.do === "outline")) note(null);
      const asked = cells.map(({ row, column, text }): Asked => {
        const current = () => {
          const found = queries.getQueryData<Plan>(key)?.rows.get(made.current.get(row.id) ?? row.id);
          return found && typedOf(column, found);
        };
        return { row: row.id, field: column.writes ?? "", text, current };
      });
      return put(async (revision) => done(await post(verbs, false, revision)), asked, mine);
    },
    [put, post, done, queries, key],
  );

  const undoOrRedo = useCallback(
    async (way: "undo" | "redo") => {
      const path = { project, way };
      const send = (revision: number) =>
        option === null
          ? client.POST("/api/projects/{project}/plan/{way}", { params: { path }, body: known(revision) })
          : client.POST("/api/projects/{project}/options/{id}/plan/{way}", {
              params: { path: { ...path, id: option } },
              body: known(revision),
            });
      const confirmed = await put(async (revision) => done(await take(send(revision))));
      if (confirmed) dropAll();
      note(null);
    },
    [put, done, dropAll, project, option, known],
  );

  const preview = useCallback((verbs: Verb[]) => send((revision) => post(verbs, true, revision)), [send, post]);

  return {
    option,
    sheet,
    effect,
    refused: writes.refused,
    busy: writes.busy,
    troubles: writes.troubles,
    waiting: writes.waiting,
    pending,
    setPending,
    noted,
    note,
    write,
    fill,
    change,
    preview,
    undo: () => undoOrRedo("undo"),
    redo: () => undoOrRedo("redo"),
    drop,
  };
}

export type PlanHandle = ReturnType<typeof usePlan>;
