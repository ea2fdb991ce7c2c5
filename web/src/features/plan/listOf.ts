import { groupBy } from "../../shared";
import type { Begun, ListRow, ListWrite } from "../../shared/sheet";
import type { PlanHandle } from "./usePlan";

/** How rows of a list of the project are written, begun and taken out as a sheet; `current` is what a cell says now. */
export function listOf(plan: PlanHandle, list: string, current: (row: string, field: string) => string | undefined) {
  return {
    write: (cells: ListWrite[], mine: boolean) =>
      plan.fill(
        [...groupBy(cells, (c) => c.row)].map(([row, own]) => ({
          do: "set",
          row,
          cells: Object.fromEntries(own.map((c) => [c.field, c.text])),
        })),
        cells.map((c) => ({ ...c, current: () => current(c.row, c.field) })),
        mine,
      ),
    add: async (rows: Begun[]) => {
      const done = await plan.fill(
        rows.map(({ id, cells }) => ({ do: "add", list, as: id, cells })),
        rows.flatMap(({ id, cells }) => Object.entries(cells).map(([field, text]) => ({ row: id, field, text }))),
      );
      return done && rows.map((row) => done.made?.[row.id] ?? "");
    },
    remove: (gone: ListRow[]) => plan.change([{ do: "remove", rows: gone.map((r) => r.id) }]),
    troubles: plan.troubles,
    waiting: plan.waiting,
    drop: plan.drop,
  };
}
