import { useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../api";
import { asTyped, format, keys, usePlace } from "../../shared";
import { type ListColumn, type ListRow, ListSheet } from "../../shared/sheet";
import { words } from "../../shared/words/plan";
import { listOf } from "./listOf";
import type { PlanHandle } from "./usePlan";

const w = words.project;
export type RegisterColumn = Schemas["RegisterColumn"];
type Values = Record<string, unknown>;
const WIDTHS: Record<string, number> = {
  long: 150,
  text: 104,
  texts: 120,
  date: 112,
  amount: 84,
  of_hundred: 72,
  rows: 150,
};
const SHORT = new Set(["delay"]);
const RIGHT = new Set(["amount", "of_hundred", "number"]);

/** A value of a register as it is typed. */
export const typedValue = (value: unknown) =>
  Array.isArray(value) ? value.join("; ") : value == null ? "" : String(value);
export const optionsOf = (c: RegisterColumn): [string, string][] | undefined =>
  c.kind === "choice" ? c.options.map((o) => [o, format.choice(o)]) : undefined;
export const rowOf = (values: Values): ListRow => ({
  id: String(values.id),
  cells: Object.fromEntries(Object.entries(values).map(([key, value]) => [key, typedValue(value)])),
});
const shown = (c: RegisterColumn) => (r: ListRow) => {
  const text = r.cells[c.key] ?? "";
  if (c.kind === "date" || c.kind === "instant") return format.spokenDay(text.slice(0, 10));
  if (c.kind === "amount") return text && format.money(text, true);
  if (RIGHT.has(c.kind)) return asTyped(text);
  return c.kind === "choice" ? format.choice(text) : text;
};

interface Props {
  register: Schemas["RegisterOut"];
  plan: PlanHandle;
  open: boolean;
}

/** A register as a sheet; the row that one stands on opens in the margin, where there is room to read it. */
export function Register({ register, plan, open }: Props) {
  const { project, tell } = usePlace();
  const queries = useQueryClient();
  const title = w.register[register.key] ?? register.key;
  const columns: ListColumn[] = [
    { key: "code", title: w.code, width: 54, left: true, unique: true, needed: true },
    {
      key: "name",
      title: w.name,
      width: 150,
      left: true,
      grow: true,
      needed: true,
      hint: w.add(title.toLowerCase()),
    },
    ...register.columns.map(
      (c): ListColumn => ({
        key: c.key,
        title: w.column(c.key),
        width: SHORT.has(c.key) ? 54 : c.kind === "choice" ? 82 : (WIDTHS[c.kind] ?? 104),
        left: !RIGHT.has(c.kind),
        grow: c.kind === "long",
        fixed: c.fixed,
        options: optionsOf(c),
        text: shown(c),
      }),
    ),
  ];
  const rows = register.rows.map(rowOf);
  const { add, ...hands } = listOf(plan, register.key, (row, field) => {
    const about = queries.getQueryData<Schemas["ProjectPage"]>(keys.project(project).about);
    const rows = about?.registers.find((r) => r.key === register.key)?.rows;
    return typedValue(rows?.find((r) => r.id === row)?.[field]);
  });
  return (
    <ListSheet
      key={register.key}
      label={title}
      of={project}
      rows={rows}
      columns={columns}
      open={open}
      name="name"
      {...hands}
      begin={{ start: register.key === "fields" ? { kind: "text" } : {}, needs: ["name"], add }}
      stand={(row) => tell(row && { about: "entry", list: register.key, id: row.id })}
    />
  );
}
