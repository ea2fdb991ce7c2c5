/** The columns of the hours sheet. */
import { asTyped, format, Sign } from "../../shared";
import { Ask, CellText, type SheetColumn } from "../../shared/sheet";
import { words } from "../../shared/words/hours";
import type { HoursField, Line } from "./useHours";

const w = words.hours;
export type Column = SheetColumn<Line>;
export const codeOf = (row: Line) => row.id;
export const nameOf = (row: Line) => `${row.name}, ${row.person}`;
const hours = (n: number) => (n ? format.tenth(n) : "");

const entry = (field: HoursField, width: number, more: Partial<Column> = {}): Column => ({
  key: field,
  title: w.columns[field],
  width,
  writes: field,
  text: (r) => (r[field].endsWith("min") ? format.span(r[field]) : asTyped(r[field])),
  typed: (r) => r[field],
  kind: "number",
  value: (r) => hoursIn(r[field]),
  look: () => "entry",
  ...more,
});

const known = (
  key: "planned" | "before" | "left" | "total" | "budgeted",
  width: number,
  of: (r: Line) => number,
  more: Partial<Column> = {},
): Column => ({
  key,
  title: w.columns[key],
  width,
  text: (r) => hours(of(r)),
  kind: "number",
  value: of,
  look: () => "soft",
  ...more,
});

const hoursIn = (text: string) => (text ? Number.parseFloat(text) / (text.endsWith("min") ? 60 : 1) : "");

/** Hours of one day of the page. */
const dayColumn = (day: string): Column => ({
  key: day,
  title: format.weekDay(`${day}T12:00`).replace(" ", "\n"),
  width: 58,
  writes: `day:${day}`,
  text: (r) => asTyped(r.days?.[day] ?? ""),
  typed: (r) => r.days?.[day] ?? "",
  kind: "number",
  value: (r) => hoursIn(r.days?.[day] ?? ""),
  look: () => "entry",
});

/** Where nothing is said, and hours to go would not move the finish. */
const forceless = (r: Line) => r.driver === "duration" && !r.to_go;

/** The columns of the hours of a page, by activity or by person; with the days of the page in the place of what was posted before. */
export const columnsBy = (by: string, days: string[]): Column[] => [
  {
    key: "name",
    title: by === "person" ? words.columns.activity : w.columns.person,
    width: 150,
    grow: true,
    left: true,
    pin: "start",
    look: () => "name two",
    text: (r) => (by === "person" ? `${r.activity} ${r.name}` : r.person),
    draw: (r) => (
      <CellText>
        {by === "person" ? `${r.activity} ${r.name}` : r.person}
        <Sign code={by === "person" ? r.activity : r.resource} />
      </CellText>
    ),
    hint: (r) => (r.assigned ? nameOf(r) : `${nameOf(r)}: ${w.unassigned}`),
  },
  ...(days.length
    ? days.map(dayColumn)
    : [known("planned", 66, (r) => r.planned ?? 0), known("before", 66, (r) => r.before + r.corrected)]),
  entry("worked", 76, { look: () => "entry first-entry" }),
  entry("overtime", 76),
  entry("to_go", 96, {
    hint: (r) => (r.driver === "duration" ? w.fixed : w.moves),
    text: (r) => (forceless(r) ? w.estimate : r.to_go.endsWith("min") ? format.span(r.to_go) : asTyped(r.to_go)),
    look: (r) => (forceless(r) ? "entry old reckoned" : "entry"),
    draw: (r) => (r.asks && !forceless(r) ? <Ask>{w.ask}</Ask> : null),
  }),
  known("left", 74, (r) => r.remaining),
  known("total", 66, (r) => r.total, {
    look: (r) => (r.reckoned ? "reckoned" : undefined),
    hint: (r) => (r.reckoned ? w.reckoned(format.tenth(r.reckoned)) : undefined),
  }),
  known("budgeted", 66, (r) => r.budgeted),
  {
    key: "change",
    title: w.columns.change,
    width: 80,
    text: (r) => (r.change ? `${r.change > 0 ? "+" : ""}${format.tenth(r.change)}` : ""),
    kind: "number",
    value: (r) => r.change,
    look: (r) => (r.change > 0 ? "late" : r.change < 0 ? "early" : undefined),
  },
  {
    key: "moves",
    title: w.columns.finish,
    width: 66,
    text: (r) => format.day(r.finish),
    kind: "date",
    value: (r) => r.finish,
    hint: (r) => (r.driver === "work" ? w.moves : w.fixed),
    look: (r) => (r.driver === "work" ? undefined : "soft"),
  },
];
