import type { Schemas } from "../../../api";
import type { Verb } from "../row";
import type { PlanHandle } from "../usePlan";

export interface Part {
  note: Schemas["RowOut"];
  plan: PlanHandle;
  open: boolean;
}

/** The ways in which a part of the margin writes, and what was refused of it. */
export const useWrite = ({ note, plan }: Part) => {
  const id = note.row.id;
  return {
    set: (cells: Record<string, unknown>, field: string, text: string) =>
      plan.change([{ do: "set", row: id, cells }], { row: id, field, text }),
    trouble: (field: string, row = id) => plan.troubles[`${row}:${field}`]?.message,
    on: (row: string, cells: Record<string, unknown>, field: string, text = "", verb: "set" | "link" = "set") =>
      plan.change([{ do: verb, row, cells }], { row, field, text }),
    remove: (row: string) => plan.change([{ do: "remove", rows: [row] }]),
    run: (verb: Verb, field: string, text = "") => plan.change([verb], { row: id, field, text }),
  };
};
