import type { Schemas } from "../../../api";
import { asTyped, format } from "../../../shared";
import type { ListColumn, ListRow } from "../../../shared/sheet";
import { words } from "../../../shared/words/resources";

export type Resource = Schemas["ResourceOut"];
type Lists = Schemas["ListsOut"];
const w = words.resources;
const PERS = ["hour", "overtime", "started_hour", "day", "week", "month", "use", "unit"] as const;

/** The sets of columns, each a press away; that of people has the project's own fields besides. */
export const SETS: Record<keyof typeof w.sets, string[]> = {
  usual: ["name", "kind", "units", "unit", "calendar", "skills", "actuals", "rate.hour", "rate.overtime", "short"],
  rates: ["name", ...PERS.map((per) => `rate.${per}`)],
  people: ["name", "code", "kind", "role", "roles", "person", "supplier"],
};
export type SetOf = keyof typeof SETS;

/** A resource as the sheet types it. */
export const rowOf = (r: Resource): ListRow => ({
  id: r.id,
  cells: {
    name: r.name,
    code: r.code,
    kind: r.kind ?? "labour",
    units: asTyped(String(r.units ?? 1)),
    unit: r.unit ?? "",
    calendar: r.calendar ?? "",
    skills: (r.skills ?? []).join("; "),
    actuals: r.actuals ?? "",
    person: r.person ?? "",
    supplier: r.supplier ?? "",
    role: r.role ? "yes" : "no",
    roles: (r.roles ?? []).join("; "),
    short: r.short_hours ? String(r.short_hours) : "",
    ...Object.fromEntries(Object.entries(r.in_force).map(([key, amount]) => [key, asTyped(amount)])),
    ...Object.fromEntries(Object.entries(r.own).map(([code, value]) => [`fields.${code}`, ownText(value)])),
  },
});

const ownText = (value: unknown) => (typeof value === "boolean" ? (value ? "yes" : "no") : String(value ?? ""));

/** Every column of the resources. */
export function columnsOf(lists: Lists): ListColumn[] {
  const usual = lists.calendars.find((c) => c.code === lists.project_calendar)?.name ?? "";
  const calendars = lists.calendars.map((c): [string, string] => [c.code, c.name]);
  const rate = (per: (typeof PERS)[number]): ListColumn => ({
    key: `rate.${per}`,
    title: w.rate[per],
    width: 84,
    kind: "number",
    text: (r) => rateText(r.cells[`rate.${per}`]),
  });
  return [
    { key: "name", title: w.name, width: 210, left: true, grow: true, needed: true, hint: w.add },
    { key: "code", title: w.code, width: 96, left: true, unique: true },
    { key: "kind", title: w.kind, width: 92, left: true, options: w.kinds },
    { key: "units", title: w.units, width: 60, kind: "number" },
    { key: "unit", title: w.unit, width: 74, left: true },
    {
      key: "calendar",
      title: w.calendar,
      width: 124,
      left: true,
      options: calendars,
      text: (r) => calendars.find(([code]) => code === r.cells.calendar)?.[1] ?? usual,
    },
    { key: "skills", title: w.skills, width: 150, left: true },
    { key: "actuals", title: w.actuals, width: 92, left: true, options: w.actualsOf },
    ...PERS.map(rate),
    {
      key: "short",
      title: w.shortBy,
      width: 72,
      kind: "number",
      fixed: true,
      text: (r) => (r.cells.short ? format.hours(Number(r.cells.short)) : ""),
    },
    { key: "role", title: w.role, width: 110, left: true, options: w.yesNo },
    { key: "roles", title: w.roles, width: 120, left: true },
    { key: "person", title: w.person, width: 150, left: true },
    { key: "supplier", title: w.supplier, width: 150, left: true },
    ...lists.own.map(
      (f): ListColumn => ({
        key: `fields.${f.code}`,
        title: f.name,
        width: 110,
        left: f.kind !== "number",
        kind: f.kind === "number" ? "number" : undefined,
        options: f.kind === "yes_no" ? w.yesNo : undefined,
        choices: f.kind === "choice" ? f.options : undefined,
        text: f.kind === "date" ? (r) => format.spokenDay(r.cells[`fields.${f.code}`]) : undefined,
      }),
    ),
  ];
}

/** A rate with at least the parts that money has. */
const rateText = (amount = "") =>
  /^\d+([.,]\d{1,2})?$/.test(amount) ? format.money(Number(amount.replace(",", ".")).toFixed(2)) : amount;
