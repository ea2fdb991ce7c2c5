import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { groupBy, keys, usePlace } from "../../shared";
import { type Asked, refresh, useWrites } from "../../shared/book";
import type { SheetColumn, Write } from "../../shared/sheet";
import { settle } from "./usePosting";

export type Line = Schemas["HoursLine"];
type Sheet = Schemas["HoursSheet"];
export type HoursField = "worked" | "overtime" | "to_go";
/** A cell of a row, or the hours of one of its days. */
type Cell = HoursField | `day:${string}`;
const dayOf = (field: Cell) => (field.startsWith("day:") ? field.slice(4) : "");
const typedIn = (row: Line | undefined, field: Cell) =>
  dayOf(field) ? (row?.days?.[dayOf(field)] ?? (row && "")) : row?.[field as HoursField];

/** The hours of the page and the way to write them. */
export function useHours() {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const key = keys.page(project, page.code).hours;
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/posting/hours", { params: { path } }));
  const sheet = useQuery({ queryKey: key, queryFn: read });
  const writes = useWrites({
    project,
    part: `hours.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const known = () => queries.getQueryData<Sheet>(key);
  const write = (cells: Write<Line, SheetColumn<Line>>[], mine = false) => {
    const asked = cells.map(({ row, column, text }): Asked & { cell: Line; field: Cell } => {
      const field = column.writes as Cell;
      return {
        row: row.id,
        field,
        text,
        cell: row,
        current: () =>
          typedIn(
            known()?.rows?.find((r) => r.id === row.id),
            field,
          ),
      };
    });
    const entries = [...groupBy(asked, (c) => c.row).values()].flatMap((own) => {
      const first = own[0];
      if (!first) return [];
      const { activity, resource } = first.cell;
      const days = own.filter((c) => dayOf(c.field));
      return [
        {
          activity,
          resource,
          ...Object.fromEntries(own.filter((c) => !dayOf(c.field)).map((c) => [c.field, c.text])),
          ...(days.length ? { days: Object.fromEntries(days.map((c) => [dayOf(c.field), c.text])) } : {}),
        },
      ];
    });
    return writes.write(
      async (revision) => {
        const done = await take(
          client.PATCH("/api/projects/{project}/pages/{page}/posting/hours", {
            params: { path },
            body: { revision, entries },
          }),
        );
        queries.setQueryData<Sheet>(key, (now) => now && { ...now, ...merged(now.rows ?? [], done) });
        settle(queries, project, page.code, done.effect, ["posting", "balance", "hours"]);
        setEffect(done.effect);
        return done;
      },
      asked,
      mine,
    );
  };
  return {
    sheet,
    write,
    troubles: writes.troubles,
    waiting: writes.waiting,
    drop: writes.drop,
    refused: writes.refused,
  };
}

/** Lets the work hours of an activity give its duration, so that remaining hours move its finish. */
export function useDriver() {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const writes = useWrites({
    project,
    part: `driver.${page.code}`,
    read: () => queries.refetchQueries({ queryKey: keys.page(project, page.code).posting }),
  });
  const change = (line: Line) =>
    writes.write(async (revision) => {
      const done = await take(
        client.POST("/api/projects/{project}/plan/changes", {
          params: { path: { project } },
          body: {
            revision,
            rest: false,
            preview: false,
            verbs: [{ do: "set", row: line.row, cells: { driver: "work" } }],
          },
        }),
      );
      refresh(queries, project);
      return done;
    });
  return { change, refused: writes.refused };
}

/** The rows with those that an answer brought, new ones at the end. */
function merged(rows: Line[], { rows: came, totals, effect }: Schemas["HoursEffect"]) {
  const fresh = new Map(came.map((r) => [r.id, r]));
  const kept = rows.map((r) => fresh.get(r.id) ?? r);
  const known = new Set(rows.map((r) => r.id));
  return { rows: [...kept, ...came.filter((r) => !known.has(r.id))], totals, revision: effect.revision };
}
