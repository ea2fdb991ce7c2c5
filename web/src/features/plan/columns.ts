import { format } from "../../shared";
import type { Row } from "./row";
import type { PlanInfo } from "./usePlan";

/** A column of the plan sheet: what it shows, what editing it starts from, and the cell it writes. */
export interface Column {
  key: string;
  title: string;
  width: number;
  left?: boolean;
  /** The cell that typing writes; absent: it can't be typed into. */
  writes?: string;
  text: (row: Row) => string;
  typed?: (row: Row) => string;
  hint?: (row: Row) => string;
  choices?: string[];
}

const spaced = (text: string) => text.replace(/(\d)([a-z])/g, "$1\u00a0$2");
const activity = (show: (row: Row) => string) => (row: Row) => (row.kind === "wbs" ? "" : show(row));

export const VALUE_METHODS = [
  "percent",
  "zero hundred",
  "fifty fifty",
  "start share",
  "milestones",
  "units",
  "duration",
  "hours",
  "level of effort",
  "apportioned",
];

/** Every column there is, in the order in which they are offered. */
export function allColumns(info: Pick<PlanInfo, "fields" | "calendars" | "calendar">): Column[] {
  const own: Column[] = info.fields.map((f) => ({
    key: `fields.${f.code}`,
    title: f.name,
    width: 80,
    left: f.kind !== "number" && f.kind !== "formula",
    writes: f.kind === "formula" ? undefined : `fields.${f.code}`,
    choices: f.kind === "choice" ? f.options : f.kind === "yes_no" ? ["yes", "no"] : undefined,
    text: activity((r) => ownText(r.fields[f.code], f.kind)),
    hint: (r) => (String(r.fields[f.code] ?? "").startsWith("?") ? String(r.fields[f.code]).slice(2) : ""),
  }));
  return [
    { key: "code", title: "Code", width: 62, left: true, writes: "code", text: (r) => r.code },
    { key: "name", title: "Name", width: 214, left: true, writes: "name", text: (r) => r.name },
    {
      key: "duration",
      title: "Duration",
      width: 62,
      writes: "duration",
      text: activity((r) => (r.kind === "milestone" && r.odd !== "duration" ? "–" : spaced(r.span || r.duration))),
      typed: (r) => r.duration,
      hint: (r) => (r.span ? `${spaced(r.duration)} typed; its work or its progress makes it ${spaced(r.span)}` : ""),
    },
    {
      key: "begin",
      title: "Start",
      width: 62,
      writes: "begin",
      text: (r) => format.day(r.start),
      hint: (r) => [format.fullDay(r.start), r.constraint].filter(Boolean).join(", "),
    },
    {
      key: "end",
      title: "Finish",
      width: 62,
      writes: "end",
      text: (r) => format.day(r.finish),
      hint: (r) =>
        [format.fullDay(r.finish), r.deadline && `deadline ${format.fullDay(r.deadline)}`].filter(Boolean).join(", "),
    },
    { key: "after", title: "Comes after", width: 110, left: true, writes: "after", text: (r) => r.after },
    { key: "people", title: "Resources", width: 96, left: true, writes: "people", text: (r) => r.people },
    {
      key: "direct_cost",
      title: "Direct cost",
      width: 84,
      writes: "direct_cost",
      text: activity((r) => (r.direct_cost === null ? "" : format.money(r.direct_cost, true))),
      typed: (r) => r.direct_cost ?? "",
    },
    { key: "cost", title: "Cost", width: 88, text: (r) => (Number(r.cost) ? format.money(r.cost, true) : "") },
    {
      key: "total_float",
      title: "Float",
      width: 52,
      text: activity((r) => (r.total_float === null ? "" : `${String(r.total_float).replace("-", "−")} d`)),
    },
    {
      key: "constraint",
      title: "Held to",
      width: 150,
      left: true,
      writes: "constraint",
      text: (r) => r.constraint,
    },
    {
      key: "deadline",
      title: "Deadline",
      width: 72,
      writes: "deadline",
      text: activity((r) => format.day(r.deadline)),
      typed: (r) => r.deadline?.slice(0, 10) ?? "",
    },
    {
      key: "calendar",
      title: "Calendar",
      width: 96,
      left: true,
      writes: "calendar",
      choices: info.calendars.map((c) => c.name),
      text: activity((r) => info.calendars.find((c) => c.code === (r.calendar || info.calendar))?.name ?? r.calendar),
    },
    {
      key: "driver",
      title: "Driven by",
      width: 76,
      left: true,
      writes: "driver",
      choices: ["duration", "work"],
      text: activity((r) => r.driver),
    },
    {
      key: "method",
      title: "Earns by",
      width: 96,
      left: true,
      writes: "value_method",
      choices: VALUE_METHODS.filter((m) => !["start share", "milestones", "units", "apportioned"].includes(m)),
      text: activity((r) => r.method.replaceAll("_", " ")),
    },
    {
      key: "percent",
      title: "Done",
      width: 52,
      text: activity((r) => (r.percent ? `${format.percent(r.percent)} %` : "")),
    },
    {
      key: "late",
      title: "Against baseline",
      width: 84,
      text: activity((r) => (r.late === null ? "" : format.late(r.late))),
    },
    { key: "weight", title: "Weight", width: 58, writes: "weight", text: (r) => String(r.weight) },
    ...own,
  ];
}

const ownText = (value: unknown, kind: string) => {
  if (value === undefined || value === null) return "";
  if (kind === "yes_no" || typeof value === "boolean") return value ? "yes" : "no";
  if (kind === "date") return format.day(String(value));
  if (String(value).startsWith("?")) return "?";
  return typeof value === "number" ? String(Math.round(value * 100) / 100) : String(value);
};

export const FIRST_COLUMNS = ["code", "name", "duration", "begin", "end", "after", "people"];

/** What editing a cell starts from. */
export const typedOf = (column: Column, row: Row) => (column.typed ?? column.text)(row).replaceAll("\u00a0", " ");
