import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { groupBy, keys, usePlace } from "../../shared";
import { type Asked, useWrites } from "../../shared/book";
import type { Begun, ListRow, ListWrite } from "../../shared/sheet";
import { settle } from "./usePosting";

type Sheet = Schemas["CostsSheet"];
export type Accrual = Schemas["AccrualLine"];
const BEGIN = { start: { kind: "invoice" }, needs: ["on", "amount"] };

/** A cost entry as a row of the ledger. */
export const rowOf = ({ id, source, may_pay, ...cells }: Schemas["CostLine"]): ListRow => ({
  id,
  cells: { ...cells, kind: source, may_pay: may_pay.join("\n") },
});

/** By what an open accrual is known. */
export const accrualKey = (a: Accrual) => `${a.on}¦${a.ref}`;

/** The costs of the page and the way to write them. */
export function useCosts() {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const key = keys.page(project, page.code).costs;
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/posting/costs", { params: { path } }));
  const sheet = useQuery({ queryKey: key, queryFn: read });
  const writes = useWrites({
    project,
    part: `costs.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const known = () => queries.getQueryData<Sheet>(key);
  const send = (body: Omit<Schemas["PatchedCostsForm"], "revision">, asked: Asked[], mine = false) =>
    writes.write(
      async (revision) => {
        const done = await take(
          client.PATCH("/api/projects/{project}/pages/{page}/posting/costs", {
            params: { path },
            body: { revision, ...body },
          }),
        );
        queries.setQueryData(key, done.sheet);
        settle(queries, project, page.code, done.effect, ["posting", "balance", "costs"]);
        setEffect(done.effect);
        return done;
      },
      asked,
      mine,
    );
  const current = (row: string, field: string) => () => {
    const found = known()?.rows?.find((r) => r.id === row);
    return found && rowOf(found).cells[field];
  };
  return {
    sheet,
    refused: writes.refused,
    troubles: writes.troubles,
    list: {
      troubles: writes.troubles,
      waiting: writes.waiting,
      drop: writes.drop,
      write: (cells: ListWrite[], mine: boolean) => {
        const entries = [...groupBy(cells, (c) => c.row)].map(([id, own]) => ({
          id,
          ...Object.fromEntries(own.map((c) => [c.field, c.text])),
        }));
        void send(
          { entries },
          cells.map((c) => ({ ...c, current: current(c.row, c.field) })),
          mine,
        );
      },
      begin: {
        ...BEGIN,
        add: async (rows: Begun[]) => {
          const done = await send(
            { entries: rows.map(({ id, cells }) => ({ line: id, ...cells })) },
            rows.flatMap(({ id, cells }) => Object.entries(cells).map(([field, text]) => ({ row: id, field, text }))),
          );
          return done && rows.map((row) => done.made?.[row.id] ?? "");
        },
      },
      remove: (gone: ListRow[]) => void send({ remove: gone.map((r) => r.id) }, []),
    },
    /** Brings an open accrual to another amount; 0 releases it. */
    carry: (a: Accrual, carried: string) =>
      void send({ entries: [{ on: a.on, carried, kind: "accrual", ref: a.ref }] }, [
        { row: accrualKey(a), field: "carried", text: carried },
      ]),
  };
}
