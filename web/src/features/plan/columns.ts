import { createElement, Fragment } from "react";
import { asTyped, format, Mark, Sign } from "../../shared";
import { minutesOf } from "../../shared/look";
import type { SheetColumn } from "../../shared/sheet";
import { words } from "../../shared/words/plan";
import type { Row } from "./row";
import type { PlanInfo } from "./usePlan";

export type Column = SheetColumn<Row>;

const spaced = (text: string) => text.replace(/(\d)([a-z])/g, "$1\u00a0$2");
const activity = (show: (row: Row) => string) => (row: Row) => (row.kind === "wbs" ? "" : show(row));

/** The EV methods that a cell can be given by their name alone; the others need more, which the margin takes. */
const METHODS_TYPED = ["percent", "zero_hundred", "fifty_fifty", "duration", "hours", "level_of_effort"];
const { methods, drivers } = words.plan;

/** Every column there is, in the order in which they are offered. */
export function allColumns(
  info: Pick<PlanInfo, "fields" | "calendars" | "calendar" | "hours_per_day" | "responsible">,
): Column[] {
  /** A length of time in minutes, by the days of the project. */
  const minutes = (text: string) => minutesOf(text, info.hours_per_day * 60) ?? "";
  const own: Column[] = info.fields.map((f) => ({
    key: `fields.${f.code}`,
    title: f.name,
    width: 80,
    left: f.kind !== "number" && f.kind !== "formula",
    writes: f.kind === "formula" ? undefined : `fields.${f.code}`,
    choices: f.kind === "choice" ? f.options : f.kind === "yes_no" ? ["yes", "no"] : undefined,
    kind: f.kind === "number" || f.kind === "date" || f.kind === "formula" ? f.kind : "text",
    value: (r) => ownValue(r.fields[f.code]),
    groups: true,
    text: activity((r) => ownText(r.fields[f.code], f.kind)),
    hint: (r) => (String(r.fields[f.code] ?? "").startsWith("?") ? String(r.fields[f.code]).slice(2) : ""),
  }));
  return [
    {
      key: "mark",
      groups: true,
      title: words.plan.columns.mark,
      width: 40,
      left: true,
      text: activity((r) => words.marks[r.mark] ?? ""),
      draw: (r) =>
        r.kind === "wbs" || r.pending
          ? null
          : createElement(
              Fragment,
              null,
              createElement(Mark, { mark: r.mark, size: 13 }),
              createElement(Sign, { code: r.code }),
            ),
    },
    {
      key: "code",
      title: words.plan.columns.code,
      width: 62,
      left: true,
      writes: "code",
      unique: true,
      needed: true,
      text: (r) => r.code,
    },
    {
      key: "name",
      title: words.plan.columns.name,
      width: 180,
      grow: true,
      left: true,
      tree: true,
      writes: "name",
      needed: true,
      text: (r) => r.name,
    },
    {
      key: "duration",
      title: words.plan.columns.duration,
      width: 62,
      writes: "duration",
      text: activity((r) => (r.kind === "milestone" && r.odd !== "duration" ? "–" : spaced(r.span || r.duration))),
      look: (r) => (r.odd === "duration" ? "odd" : undefined),
      typed: (r) => r.duration,
      kind: "duration",
      value: (r) => minutes(r.span || r.duration),
      hint: (r) => (r.span ? words.plan.spanHint(spaced(r.duration), spaced(r.span)) : ""),
    },
    {
      key: "begin",
      title: words.plan.columns.begin,
      width: 58,
      writes: "begin",
      kind: "date",
      value: (r) => r.start ?? "",
      text: (r) => format.day(r.start),
      hint: (r) => [format.fullDay(r.start), r.constraint].filter(Boolean).join(", "),
    },
    {
      key: "end",
      title: words.plan.columns.end,
      width: 58,
      writes: "end",
      kind: "date",
      value: (r) => r.finish ?? "",
      text: (r) => format.day(r.finish),
      look: (r) => (r.odd === "deadline" ? "odd" : undefined),
      hint: (r) =>
        [format.fullDay(r.finish), r.deadline && words.time.deadline(format.fullDay(r.deadline))]
          .filter(Boolean)
          .join(", "),
    },
    ...(["base_start", "base_finish"] as const).map(
      (key): Column => ({
        key,
        title: words.plan.columns[key],
        width: 64,
        kind: "date",
        value: (r) => r[key] ?? "",
        text: activity((r) => format.day(r[key])),
        hint: (r) => format.fullDay(r[key]),
      }),
    ),
    { key: "after", title: words.plan.columns.after, width: 110, left: true, writes: "after", text: (r) => r.after },
    {
      key: "people",
      title: words.plan.columns.people,
      width: 96,
      left: true,
      groups: true,
      writes: "people",
      text: (r) => r.people,
    },
    {
      key: "responsible",
      title: words.plan.columns.responsible,
      width: 120,
      left: true,
      groups: true,
      writes: "responsible",
      choices: info.responsible,
      text: (r) => r.answers,
      typed: (r) => r.responsible,
      look: (r) => (r.responsible ? undefined : "soft"),
      hint: (r) => (r.answers && !r.responsible ? words.plan.inherited : ""),
    },
    {
      key: "note",
      title: words.plan.columns.note,
      width: 160,
      left: true,
      writes: "note",
      text: activity((r) => r.note),
    },
    {
      key: "direct_cost",
      title: words.plan.columns.direct_cost,
      width: 84,
      writes: "direct_cost",
      kind: "number",
      value: (r) => (r.direct_cost ? Number(r.direct_cost) : ""),
      text: activity((r) => (r.direct_cost === null ? "" : format.money(r.direct_cost, true))),
      typed: (r) => r.direct_cost ?? "",
    },
    {
      key: "cost",
      title: words.plan.columns.cost,
      width: 88,
      kind: "number",
      value: (r) => Number(r.cost),
      text: (r) => (Number(r.cost) ? format.money(r.cost, true) : ""),
    },
    {
      key: "total_float",
      title: words.plan.columns.total_float,
      width: 52,
      kind: "number",
      value: (r) => r.total_float ?? "",
      text: activity((r) => (r.total_float === null ? "" : `${format.tenth(r.total_float)} d`)),
    },
    {
      key: "constraint",
      title: words.plan.columns.constraint,
      width: 150,
      left: true,
      writes: "constraint",
      text: (r) => r.constraint,
    },
    {
      key: "deadline",
      title: words.plan.columns.deadline,
      width: 72,
      writes: "deadline",
      kind: "date",
      value: (r) => r.deadline ?? "",
      text: activity((r) => format.day(r.deadline)),
      typed: (r) => r.deadline?.slice(0, 10) ?? "",
    },
    {
      key: "safe",
      title: words.plan.columns.safe,
      width: 84,
      writes: "safe_duration",
      kind: "duration",
      value: (r) => minutes(r.safe),
      text: activity((r) => spaced(r.safe)),
      typed: (r) => r.safe,
    },
    {
      key: "levelled",
      title: words.plan.columns.levelled,
      width: 84,
      writes: "levelled",
      kind: "date",
      value: (r) => r.levelled ?? "",
      text: activity((r) => format.day(r.levelled)),
      typed: (r) => r.levelled ?? "",
    },
    {
      key: "calendar",
      groups: true,
      title: words.plan.columns.calendar,
      width: 96,
      left: true,
      writes: "calendar",
      choices: info.calendars.map((c) => c.name),
      text: activity((r) => info.calendars.find((c) => c.code === (r.calendar || info.calendar))?.name ?? r.calendar),
    },
    {
      key: "driver",
      title: words.plan.columns.driver,
      width: 76,
      left: true,
      writes: "driver",
      choices: Object.values(drivers),
      text: activity((r) => drivers[r.driver] ?? r.driver),
    },
    {
      key: "method",
      groups: true,
      title: words.plan.columns.method,
      width: 96,
      left: true,
      writes: "value_method",
      choices: METHODS_TYPED.flatMap((m) => methods[m] ?? []),
      text: activity((r) => methods[r.method] ?? r.method),
    },
    {
      key: "percent",
      title: words.plan.columns.percent,
      width: 72,
      kind: "number",
      value: (r) => r.percent ?? "",
      text: activity((r) => (r.percent ? `${format.percent(r.percent)} %` : "")),
    },
    {
      key: "late",
      title: words.plan.columns.late,
      width: 84,
      kind: "number",
      value: (r) => r.late ?? "",
      text: activity((r) => (r.late === null ? "" : format.late(r.late))),
    },
    {
      key: "weight",
      title: words.plan.columns.weight,
      width: 58,
      writes: "weight",
      kind: "number",
      value: (r) => r.weight,
      text: (r) => asTyped(String(r.weight)),
    },
    {
      key: "state",
      groups: true,
      title: words.plan.columns.state,
      width: 84,
      left: true,
      text: activity((r) => words.plan.states[r.state as "complete"] ?? ""),
    },
    ...own,
  ];
}

const ownValue = (value: unknown) =>
  value === undefined || value === null
    ? ""
    : typeof value === "boolean"
      ? value
        ? "yes"
        : "no"
      : typeof value === "number"
        ? value
        : String(value);

const ownText = (value: unknown, kind: string) => {
  if (value === undefined || value === null) return "";
  if (kind === "yes_no" || typeof value === "boolean") return value ? "yes" : "no";
  if (kind === "date") return format.day(String(value));
  if (String(value).startsWith("?")) return "?";
  return typeof value === "number" ? asTyped(String(Math.round(value * 100) / 100)) : String(value);
};

const HEAD = ["mark", "code", "name"];
/** The sets of columns, each a press away. */
export const SETS: Record<string, string[]> = {
  usual: [...HEAD, "begin", "end", "duration", "after", "people", "late"],
  dates: [...HEAD, "begin", "end", "duration", "base_start", "base_finish", "late", "percent", "total_float"],
  logic: [...HEAD, "duration", "after", "constraint", "deadline", "total_float", "driver", "calendar"],
  people: [...HEAD, "begin", "end", "responsible", "people", "driver", "note"],
  money: [...HEAD, "direct_cost", "cost", "bac", "pv", "ev", "ac", "eac"],
  baseline: [
    ...[...HEAD, "begin", "end", "base_start", "base_finish", "late"],
    ...["baseline_work", "work_difference", "bac", "cost_difference"],
  ],
};
/** Figures of the page that the plan can show beside what is typed. */
export const FIGURES = [
  ...(["bac", "pv", "ev", "ac", "sv", "cv", "eac"] as const),
  ...(["baseline_work", "work_difference", "cost_difference"] as const),
];
/** Those in days, and those of which more than nothing is bad. */
const LENGTHS = ["baseline_work", "work_difference"];
const MORE_IS_BAD = ["work_difference", "cost_difference"];
/** Figures by the kind and code of a row. */
export type Valued = Map<string, Record<string, string | null>>;

/** Columns of figures, of the page that is shown. */
export const figureColumns = (valued: Valued): Column[] =>
  FIGURES.map((key) => {
    const of = (r: Row) => valued.get(`${r.kind === "wbs" ? "wbs" : "activity"}.${r.code}`)?.[key];
    return {
      key,
      title: words.plan.figures[key],
      width: 84,
      kind: "number",
      value: (r) => (of(r) ? Number(of(r)) : ""),
      text: (r) =>
        !of(r) ? "" : LENGTHS.includes(key) ? `${format.percent(Number(of(r)))} d` : format.money(of(r), true),
      look: (r) => {
        const n = Number(of(r) ?? 0);
        return MORE_IS_BAD.includes(key) ? (n > 0 ? "late" : undefined) : key !== "bac" && n < 0 ? "late" : undefined;
      },
    };
  });
