import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { groupBy, keys, usePlace } from "../../shared";
import { type Asked, refresh, useWrites } from "../../shared/book";
import type { Write } from "../../shared/sheet";
import { type Column, typedOf } from "./cells";

export type Sheet = Schemas["Sheet"];
export type Row = Schemas["SheetRow"];
export type Field =
  | "actual_start"
  | "actual_finish"
  | "percent"
  | "remaining"
  | "carry_to"
  | "units_done"
  | "milestones_reached"
  | "cost"
  | "note";
/** Which activities are meant by what is done to many at once; null: all that need an entry. */
export type Codes = string[] | null;
/** Each to the status date, or only those that should be finished by it. */
export type Way = "to_date" | "finished";
/** What is posted as planned. */
export type Filling = "progress" | "hours" | "cost";
export type Typed = Partial<Record<Field, string>>;

/** What an answer has brought up to date by itself. */
const KEPT = ["posting", "balance"];

/** Puts an effect into everything that shows the page: rows, totals, and whatever must be read again. */
export function settle(
  queries: QueryClient,
  project: string,
  page: string,
  effect: Schemas["Effect"],
  kept: string[] = KEPT,
) {
  queries.setQueryData<Sheet>(keys.page(project, page).posting, (sheet) => {
    if (!sheet) return sheet;
    const changed = new Map(effect.rows.map((r) => [r.code, r]));
    const rows = (sheet.rows ?? []).map((r) => changed.get(r.code) ?? r);
    return { ...sheet, rows, revision: effect.revision, to_go: effect.to_go, posted: effect.posted };
  });
  queries.setQueryData(keys.page(project, page).balance, effect.balance);
  refresh(queries, project, ({ part }) => kept.includes(part));
}

/** The sheet of the page and every way to write on it. */
export function usePosting() {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const sheetKey = keys.page(project, page.code).posting;
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/posting", { params: { path } }));
  const sheet = useQuery({ queryKey: sheetKey, queryFn: read });
  const again = async () => {
    queries.setQueryData(sheetKey, await read());
    queries.invalidateQueries({ queryKey: keys.page(project, page.code).balance });
  };
  const writes = useWrites({ project, part: `posting.${page.code}`, read: again });
  const done = async (answer: Promise<Schemas["Effect"]>) => {
    const effect = await answer;
    settle(queries, project, page.code, effect);
    setEffect(effect);
    return effect;
  };
  /** Writes cells of rows as one step; `mine` over what somebody else wrote there. */
  const write = (cells: Write<Row, Column>[], mine = false) => {
    const asked = cells.map(({ row, column, text }): Asked & { field: Field } => {
      const field = column.writes as Field;
      const current = () => {
        const found = queries.getQueryData<Sheet>(sheetKey)?.rows?.find((r) => r.code === row.code);
        return found && typedOf(found, field);
      };
      return { row: row.code, field, text, current };
    });
    const entries = [...groupBy(asked, (c) => c.row)].map(([activity, own]) => ({
      activity,
      ...(Object.fromEntries(own.map((c) => [c.field, c.text])) as Typed),
    }));
    const send = (revision: number) =>
      client.PATCH("/api/projects/{project}/pages/{page}/posting/entries", {
        params: { path },
        body: { revision, entries },
      });
    return writes.write((revision) => done(take(send(revision))), asked, mine);
  };
  const planned = (way: Way, activities: Codes, parts: Filling[]) =>
    writes.write((revision) =>
      done(
        take(
          client.PATCH("/api/projects/{project}/pages/{page}/posting/planned", {
            params: { path },
            body: { revision, way, activities, parts },
          }),
        ),
      ),
    );
  const carry = (to: string, activities: Codes) =>
    writes.write((revision) =>
      done(
        take(
          client.PATCH("/api/projects/{project}/pages/{page}/posting/carry", {
            params: { path },
            body: { revision, to, activities },
          }),
        ),
      ),
    );
  const treat = (treatment: "retained" | "override" | "recorded") =>
    writes.write((revision) =>
      done(
        take(
          client.PATCH("/api/projects/{project}/pages/{page}/treatments", {
            params: { path },
            body: { revision, treatment },
          }),
        ),
      ),
    );
  const ofProject = { params: { path: { project } } };
  const close = (next: string) =>
    writes.once((revision) =>
      take(client.POST("/api/projects/{project}/pages/{page}/close", { params: { path }, body: { revision, next } })),
    );
  const open = (next: string) =>
    writes.once((revision) =>
      take(client.POST("/api/projects/{project}/next-page", { ...ofProject, body: { revision, next } })),
    );
  const undoOrRedo = (way: "undo" | "redo") =>
    writes.write((revision) =>
      done(take(client.POST(`/api/projects/{project}/${way}`, { ...ofProject, body: { revision } }))),
    );
  const takeBack = () =>
    writes.write(async (revision) => {
      const back = await take(
        client.POST("/api/projects/{project}/pages/{page}/take-back", { params: { path }, body: { revision } }),
      );
      // What is still shown of the page that is gone is asked for no more.
      queries.removeQueries({ queryKey: keys.project(project).all, type: "inactive" });
      queries.invalidateQueries({ queryKey: keys.page(project, page.code).all, refetchType: "none" });
      refresh(queries, project, (of) => of.page === page.code);
      await queries.refetchQueries({ queryKey: keys.frame(project) }, { cancelRefetch: false });
      return back;
    });
  return {
    sheet,
    troubles: writes.troubles,
    refused: writes.refused,
    waiting: writes.waiting,
    drop: writes.drop,
    write,
    planned,
    carry,
    treat,
    undo: () => undoOrRedo("undo"),
    redo: () => undoOrRedo("redo"),
    close,
    open,
    takeBack,
  };
}
