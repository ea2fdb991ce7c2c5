import type { Schemas } from "../../api";
import { choice, figure } from "../format";
import { groupBy } from "../groups";
import type { SheetColumn, SheetLine } from "../sheet";
import { words } from "../words";
import { type Condition, type Ground, type Kind, meets, unreadable } from "./conditions";

type Figure = Schemas["FigureOut"];
/** A row with figures by their keys. */
export interface FigureRow {
  kind: string;
  code: string;
  name: string;
  mark: string | null;
  figures: Record<string, string | null>;
}

/** How a sheet of figures is looked at: what is sought, kept, sorted and grouped by. */
export interface Look {
  find: string;
  where: Condition[];
  sort: string;
  group: string;
}

/** The parts of a look as they stand in an address. */
export const LOOK = { find: "", where: "", sort: "", group: "" };

export function lookOf({ find, where, sort, group }: typeof LOOK): Look {
  try {
    return { find, sort, group, where: where ? JSON.parse(where) : [] };
  } catch {
    return { find, sort, group, where: [] };
  }
}

const said = (look: Look) => look.where.filter((c) => c.text.trim());
/** Whether rows stand in the tree as they are. */
export const isPlain = (look: Look) => !look.find.trim() && !look.sort && !look.group && said(look).length === 0;

const OWN = ["mark", "code", "name"];
/** The figures that a look asks for, beside those that are shown. */
export const keysOf = (look: Look) => [
  ...new Set(
    [...look.where.map((c) => c.key), look.sort.replace("-", ""), look.group].filter((k) => k && !OWN.includes(k)),
  ),
];

const NUMBERS = ["money", "ratio", "percent", "number", "days", "duration"];
const kindOf = (f: Figure): Kind =>
  NUMBERS.includes(f.kind) ? "number" : ["instant", "date"].includes(f.kind) ? "date" : "text";

/** What a look needs of a column: what it holds and shows of a row. */
export type LookColumn<R> = Pick<SheetColumn<R>, "key" | "kind" | "value" | "text">;

/** What a column holds of a row: a number where it counts, an ISO date, else a text; "" where there is nothing. */
const heldIn = <R>(column: LookColumn<R> | undefined, row: R) => (column ? (column.value ?? column.text)(row) : "");

/** Whether all conditions hold of a row. */
export const fits = <R>(row: R, where: Condition[], columns: Map<string, LookColumn<R>>, on: Ground) =>
  where.every(({ key, text }) => {
    const column = columns.get(key);
    const value = heldIn(column, row);
    const kind = column?.kind ?? "text";
    return !text.trim() || meets(kind === "date" ? String(value).slice(0, 10) : value, kind, text, on);
  });

/** The kind of value that a condition asks for and was not given. */
export const wrongIn =
  <R>(columns: Map<string, LookColumn<R>>, on: Ground) =>
  (c: Condition) =>
    unreadable(columns.get(c.key)?.kind ?? "text", c.text, on);

const before = (x: string | number, y: string | number) =>
  typeof x === "number" && typeof y === "number"
    ? x - y
    : String(x).localeCompare(String(y), undefined, { numeric: true });

/** Rows as a flat list, filtered, sorted and grouped by what their columns hold; what is not there comes last, whichever way. */
export function arranged<R>(
  rows: R[],
  look: Omit<Look, "find">,
  columns: Map<string, LookColumn<R>>,
  on: Ground,
  line: (row: R) => SheetLine<R>,
): SheetLine<R>[] {
  const kept = rows.filter((r) => fits(r, look.where, columns, on));
  const sorted = (found: R[], key: string, down: number) => {
    const column = columns.get(key);
    const values = new Map(found.map((r) => [r, heldIn(column, r)]));
    return found.sort((a, b) => {
      const [x = "", y = ""] = [values.get(a), values.get(b)];
      return x === "" || y === "" ? Number(x === "") - Number(y === "") : before(x, y) * down;
    });
  };
  if (look.sort) sorted(kept, look.sort.replace("-", ""), look.sort.startsWith("-") ? -1 : 1);
  if (!look.group) return kept.map(line);
  const column = columns.get(look.group);
  const groups = groupBy(kept, (r) => column?.text(r) || "–");
  const firsts = [...groups.values()].flatMap((own) => own.slice(0, 1));
  return sorted(firsts, look.group, 1).flatMap((first): SheetLine<R>[] => {
    const name = column?.text(first) || "–";
    const own = groups.get(name) ?? [];
    return [{ kind: "group", id: `group:${name}`, name, count: own.length }, ...own.map(line)];
  });
}

const figureColumn = (f: Figure): [string, LookColumn<FigureRow>] => {
  const kind = kindOf(f);
  const value = ({ figures }: FigureRow) => {
    const text = figures[f.key] ?? "";
    return text !== "" && kind === "number" ? Number(text) : kind === "text" ? choice(text) : text;
  };
  const text = (row: FigureRow) => (row.figures[f.key] ? figure(row.figures[f.key], f.kind) : "");
  return [f.key, { key: f.key, kind, value, text }];
};
const OWN_COLUMNS: [string, LookColumn<FigureRow>][] = [
  ["mark", { key: "mark", text: ({ mark }) => words.marks[mark ?? ""] ?? "" }],
  ["code", { key: "code", text: ({ code }) => code }],
  ["name", { key: "name", text: ({ name }) => name }],
];

/** What can be looked at of a row of figures: its own columns and every figure of the catalogue. */
export const figureColumns = (figures: Figure[]) => new Map([...OWN_COLUMNS, ...figures.map(figureColumn)]);

/** The activities among rows of figures as a flat list: found, filtered, sorted and grouped. */
export function arrangedFigures<R extends FigureRow>(
  rows: R[],
  look: Look,
  columns: Map<string, LookColumn<FigureRow>>,
  on: Ground,
): SheetLine<R>[] {
  const find = look.find.trim().toLowerCase();
  const found = rows.filter((r) => r.kind === "activity" && `${r.code} ${r.name}`.toLowerCase().includes(find));
  return arranged<R>(found, look, columns, on, (row) => ({
    kind: "row",
    id: `${row.kind}.${row.code}`,
    row,
    depth: 0,
    parts: 0,
  }));
}

/** What a heading that is pressed sorts by next: up, down, not at all. */
export const nextSort = (now: string, key: string) => (now === key ? `-${key}` : now === `-${key}` ? "" : key);
