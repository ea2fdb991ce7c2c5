import type { Schemas } from "../../api";
import { choice, figure } from "../format";
import { groupBy } from "../groups";
import type { SheetColumn, SheetLine } from "../sheet";
import { lineOf } from "../sheet/sheet";
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

const stated = (look: Look) => look.where.filter((c) => c.text.trim());
/** Whether rows stand in the tree as they are. */
export const isPlain = (look: Look) => !look.find.trim() && !look.sort && !look.group && stated(look).length === 0;

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

/** What a look needs of a column: what it is called, and what it holds and shows of a row. */
export interface LookColumn<R>
  extends Pick<SheetColumn<R>, "key" | "title" | "label" | "kind" | "value" | "text" | "groups"> {
  /** Groups by it come in the order of their rows; absent: by name. */
  inOrder?: boolean;
}
/** The columns of a look by their keys. */
export type LookColumns<R> = Map<string, LookColumn<R>>;

/** What a column is called in a list. */
export const titleOf = ({ title, label }: { title: string; label?: string }) => (label ?? title).replace("\n", " ");

/** Columns by their keys. */
export const byKey = <R>(columns: LookColumn<R>[]): LookColumns<R> => new Map(columns.map((c) => [c.key, c]));

/** What a column holds of a row: a number where it counts, an ISO date, else a text; "" where there is nothing. */
const heldIn = <R>(column: LookColumn<R> | undefined, row: R) => (column ? (column.value ?? column.text)(row) : "");

/** Whether all conditions hold of a row. */
export const fits = <R>(row: R, where: Condition[], columns: LookColumns<R>, on: Ground) =>
  where.every(({ key, text }) => {
    const column = columns.get(key);
    const value = heldIn(column, row);
    const kind = column?.kind ?? "text";
    return !text.trim() || meets(kind === "date" ? String(value).slice(0, 10) : value, kind, text, on);
  });

/** The kind of value that a condition asks for and was not given. */
export const wrongIn =
  <R>(columns: LookColumns<R>, on: Ground) =>
  (c: Condition) =>
    unreadable(columns.get(c.key)?.kind ?? "text", c.text, on);

const before = (x: string | number, y: string | number) =>
  typeof x === "number" && typeof y === "number"
    ? x - y
    : String(x).localeCompare(String(y), undefined, { numeric: true });

/** Whether what is sought stands in a text. */
export const isFound = (look: Pick<Look, "find">, text: string) =>
  text.toLowerCase().includes(look.find.trim().toLowerCase());

/** Rows filtered, sorted and in groups by what their columns hold; what is not there comes last, whichever way. */
export function grouped<R>(
  rows: R[],
  look: Omit<Look, "find">,
  columns: LookColumns<R>,
  on: Ground,
): [name: string, rows: R[]][] {
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
  if (!look.group) return [["", kept]];
  const column = columns.get(look.group);
  const nameOf = (row: R) => column?.text(row) || "–";
  const groups = groupBy(kept, nameOf);
  if (column?.inOrder) return [...groups];
  const firsts = [...groups.values()].flatMap((own) => own.slice(0, 1));
  return sorted(firsts, look.group, 1).map((first) => [nameOf(first), groups.get(nameOf(first)) ?? []]);
}

/** The same as the lines of a sheet, each group under its heading. */
export function arranged<R>(
  rows: R[],
  look: Omit<Look, "find">,
  columns: LookColumns<R>,
  on: Ground,
  line: (row: R) => SheetLine<R>,
): SheetLine<R>[] {
  return grouped(rows, look, columns, on).flatMap(([name, own]): SheetLine<R>[] =>
    look.group ? [{ kind: "group", id: `group:${name}`, name, count: own.length }, ...own.map(line)] : own.map(line),
  );
}

const GROUPED = ["text", "choice", "flag"];
const figureColumn = (f: Figure): LookColumn<FigureRow> => {
  const kind = kindOf(f);
  const value = ({ figures }: FigureRow) => {
    const text = figures[f.key] ?? "";
    return text !== "" && kind === "number" ? Number(text) : kind === "text" ? choice(text) : text;
  };
  const text = (row: FigureRow) => (row.figures[f.key] ? figure(row.figures[f.key], f.kind) : "");
  return { key: f.key, title: f.word, kind, value, text, groups: GROUPED.includes(f.kind) };
};
const OWN_COLUMNS: LookColumn<FigureRow>[] = [
  { key: "mark", title: words.look.mark, text: ({ mark }) => words.marks[mark ?? ""] ?? "", groups: true },
  { key: "code", title: words.columns.code, text: ({ code }) => code },
  { key: "name", title: words.columns.activity, text: ({ name }) => name },
];

/** What can be looked at of an activity: its own columns and every figure of the catalogue that it has. */
export const figureColumns = (figures: Figure[]) =>
  byKey([...OWN_COLUMNS, ...figures.filter((f) => f.scopes.includes("activity")).map(figureColumn)]);

/** The activities among rows of figures as a flat list: found, filtered, sorted and grouped. */
export function arrangedFigures<R extends FigureRow>(
  rows: R[],
  look: Look,
  columns: LookColumns<FigureRow>,
  on: Ground,
): SheetLine<R>[] {
  const found = rows.filter((r) => r.kind === "activity" && isFound(look, `${r.code} ${r.name}`));
  return arranged<R>(found, look, columns, on, (row) => lineOf(`${row.kind}.${row.code}`, row));
}

/** What a heading that is pressed sorts by next: up, down, not at all. */
export const nextSort = (now: string, key: string) => (now === key ? `-${key}` : now === `-${key}` ? "" : key);
