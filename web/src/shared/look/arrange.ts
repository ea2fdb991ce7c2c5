import type { Schemas } from "../../api";
import type { SheetLine } from "../sheet";
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
export const kindOf = (figure: Figure | undefined): Kind =>
  !figure
    ? "text"
    : NUMBERS.includes(figure.kind)
      ? "number"
      : ["instant", "date"].includes(figure.kind)
        ? "date"
        : "text";

const LAST = Number.POSITIVE_INFINITY;

/** What a figure says of a row: a number where it counts, an ISO date, else a text. */
export function held(row: FigureRow, key: string, kind: Kind): string | number {
  if (key === "mark") return row.mark ? words.marks[row.mark as keyof typeof words.marks] : "";
  if (key === "code" || key === "name") return row[key];
  const text = row.figures[key] ?? "";
  if (text === "") return "";
  if (kind === "number") return Number(text);
  return kind === "date" ? text.slice(0, 10) : text.replaceAll("_", " ");
}

const before = (x: string | number, y: string | number) =>
  typeof x === "number" && typeof y === "number"
    ? x - y
    : String(x).localeCompare(String(y), undefined, { numeric: true });

/** The activities as a flat list, filtered, sorted and grouped; what is not there comes last, whichever way. */
export function arranged<R extends FigureRow>(
  rows: R[],
  look: Look,
  figures: Map<string, Figure>,
  on: Ground,
): SheetLine<R>[] {
  const kind = (key: string) => kindOf(figures.get(key));
  const find = look.find.trim().toLowerCase();
  const conditions = said(look);
  const kept = rows.filter(
    (r) =>
      r.kind === "activity" &&
      (!find || `${r.code} ${r.name}`.toLowerCase().includes(find)) &&
      conditions.every((c) => meets(held(r, c.key, kind(c.key)), kind(c.key), c.text, on)),
  );
  const [key, down] = look.sort.startsWith("-") ? [look.sort.slice(1), -1] : [look.sort, 1];
  if (key) {
    const value = (r: R) => {
      const found = held(r, key, kind(key));
      return found === "" ? LAST : found;
    };
    kept.sort((a, b) => {
      const [x, y] = [value(a), value(b)];
      if (x === LAST || y === LAST) return x === y ? 0 : x === LAST ? 1 : -1;
      return before(x, y) * down;
    });
  }
  const line = (row: R): SheetLine<R> => ({ kind: "row", id: `${row.kind}.${row.code}`, row, depth: 0, parts: 0 });
  if (!look.group) return kept.map(line);
  const heads = new Map<string, R[]>();
  for (const r of kept) {
    const name = String(held(r, look.group, kind(look.group))) || "–";
    const found = heads.get(name);
    if (found) found.push(r);
    else heads.set(name, [r]);
  }
  return [...heads]
    .sort(([a], [b]) => before(a, b))
    .flatMap(([name, own]): SheetLine<R>[] => [
      { kind: "group", id: `group:${name}`, name, count: own.length },
      ...own.map(line),
    ]);
}

/** The kind of value that a condition asks for and was not given. */
export const wrongIn = (figures: Map<string, Figure>, on: Ground) => (c: Condition) =>
  unreadable(kindOf(figures.get(c.key)), c.text, on);

/** What a heading that is pressed sorts by next: up, down, not at all. */
export const nextSort = (now: string, key: string) => (now === key ? `-${key}` : now === `-${key}` ? "" : key);
