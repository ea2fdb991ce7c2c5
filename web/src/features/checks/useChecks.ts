import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../../api";
import { groupBy, keys, type Sought, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import type { SheetColumn, Write } from "../../shared/sheet";

export type Check = Schemas["WorkedOut"];
/** A row that a check caught, on the sheet. */
export type Finding = Schemas["CaughtOut"] & { id: string; check: Check };
export type Column = SheetColumn<Finding>;

/** The checks of the page. */
export function useList() {
  const { project, page } = usePlace();
  const key = keys.page(project, page.code).checks;
  const path = { project, page: page.code };
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/checks", { params: { path } }));
  return { key, path, read, list: useQuery({ queryKey: key, queryFn: read }) };
}

export const typedOf = (f: Finding | undefined, field: string) =>
  (field === "until" ? f?.answer?.until : f?.answer?.text) ?? "";

/** The checks of the page, and the ways to answer them. */
export function useChecks() {
  const { project } = usePlace();
  const queries = useQueryClient();
  const { key, path, read, list } = useList();
  const again = async () => queries.setQueryData(key, await read());
  const after = async () => {
    await again();
    refresh(queries, project, ({ part }) => part === "checks");
  };
  const writes = useWrites({ project, part: `checks.${path.page}`, read: again, after });
  const known = () => queries.getQueryData<Schemas["ChecksOut"]>(key);
  const write = (cells: Write<Finding, Column>[], mine = false) => {
    const asked = cells.map(({ row, column, text }) => {
      const field = column.writes ?? "";
      const current = () => {
        const check = known()?.checks?.find((c) => c.check === row.check.check);
        const found = check?.rows.find((r) => r.code === row.code);
        return found && check && typedOf({ ...found, id: row.id, check }, field);
      };
      return { row: row.id, field, text, current, check: row.check.check, code: row.code };
    });
    const entries = [...groupBy(asked, (c) => c.row).values()].flatMap((own) => {
      const first = own[0];
      if (!first) return [];
      return [{ check: first.check, row: first.code, ...Object.fromEntries(own.map((c) => [c.field, c.text])) }];
    });
    return writes.write(
      (revision) =>
        take(
          client.PATCH("/api/projects/{project}/pages/{page}/checks/answers", {
            params: { path },
            body: { revision, entries },
          }),
        ),
      asked,
      mine,
    );
  };
  const limit = (name: "lag" | "float" | "duration" | "percent", text: string) =>
    void writes.write(
      (revision) => {
        const body = { revision, [name]: text };
        return take(client.PATCH("/api/projects/{project}/limits", { params: { path: { project } }, body }));
      },
      [{ row: "limits", field: name, text, current: () => known()?.limits[name] }],
    );
  const undoOrRedo = (way: "undo" | "redo") =>
    void writes.write((revision) => {
      const ask = { params: { path: { project } }, body: { revision } };
      return take(client.POST(`/api/projects/{project}/${way}`, ask));
    });
  return {
    list,
    write,
    limit,
    undoOrRedo,
    troubles: writes.troubles,
    waiting: writes.waiting,
    drop: writes.drop,
    refused: writes.refused,
  };
}

/** The room and column where what stands in a cell of the book is typed, and what its rows are. */
const PLACES: Record<string, [path: string, key: string, of?: Sought["of"]]> = {
  "hours.to_go": ["posting/hours", "to_go"],
  "hours.worked": ["posting/hours", "worked"],
  "periods.costs": ["posting/costs", ""],
  "resources.units": ["plan/resources", "units", "resource"],
  "resources.rates": ["plan/resources", "name", "resource"],
  "orders.lines": ["budget?part=orders", "lines", "order"],
  "reserves.amount": ["budget?part=change", "amount", "reserve"],
  "changes.lines": ["budget?part=change", "", "element"],
  "links.from": ["plan", "after"],
  "links.to": ["plan", "name"],
  "assignments.resource": ["plan", "people"],
  "costs.amount": ["plan", "name"],
  "activities.start": ["plan", "begin"],
  "activities.constraint": ["plan", "begin"],
  "activities.deadline": ["plan", "name"],
  "activities.name": ["plan", "name"],
  "activities.duration": ["plan", "duration"],
};

/** Goes to the cell in which a finding is mended. */
export function useGo() {
  const { project, page, seek } = usePlace();
  const navigate = useNavigate();
  const go = useRef((_cell: string, _code: string) => {});
  go.current = (cell, code) => {
    const [path, key, of] = PLACES[cell] ?? ["posting", cell.split(".")[1] ?? ""];
    navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/${path}`);
    seek(code, key, of);
  };
  return useCallback((cell: string, code: string) => go.current(cell, code), []);
}
