import {
  arranged,
  fits,
  type Ground,
  isPlain as isPlainLook,
  LOOK,
  type Look,
  type LookColumns,
  lookOf,
} from "../../shared/look";
import type { SheetLine } from "../../shared/sheet";
import { conditionsOf } from "./conditions";
import type { Row } from "./row";

/** One line of the sheet: a row of the plan at its depth, a heading of a grouped sheet, or the row being begun. */
export type Line = SheetLine<Row>;

type Columns = LookColumns<Row>;
type RowLine = Extract<Line, { kind: "row" }>;
const laid = new WeakMap<Row, RowLine>();

/** The line of a row; the same one as before where nothing of it changed, so that it is not drawn again. */
function lineOf(row: Row, depth: number, parts: number): RowLine {
  const known = laid.get(row);
  if (known?.depth === depth && known.parts === parts) return known;
  const line: RowLine = { kind: "row", id: row.id, row, depth, parts };
  laid.set(row, line);
  return line;
}

/** Where a row that is being begun will go. */
export interface Draft {
  parent: string | null;
  after: string | null;
  /** Whether it goes one step deeper than the row it stands after. */
  indent: boolean;
}

/** A look with the cut that the rows are brought down to. */
export interface Lens extends Look {
  show: string;
}

export const PLAIN: Lens = { find: "", show: "all", group: "", sort: "", where: [] };

/** How the sheet is looked at, as the address says it. */
export const VIEW = { ...LOOK, show: "all" };
export const lensOf = ({ show, ...view }: typeof VIEW): Lens => ({ ...lookOf(view), show });
export const sayLens = ({ where, ...lens }: Lens) => ({ ...lens, where: where.length ? JSON.stringify(where) : "" });

export const isPlain = (lens: Lens) => isPlainLook(lens) && lens.show === "all";

const byPlace = (a: Row, b: Row) => a.order - b.order || (a.id < b.id ? -1 : 1);

export function childrenOf(rows: Iterable<Row>): Map<string | null, Row[]> {
  const out = new Map<string | null, Row[]>();
  for (const row of rows) {
    const list = out.get(row.parent);
    if (list) list.push(row);
    else out.set(row.parent, [row]);
  }
  for (const list of out.values()) list.sort(byPlace);
  return out;
}

/** The rows that a sheet can be cut down to, by the name of the cut. */
export const SHOWS: Record<string, (r: Row) => boolean> = {
  all: () => true,
  critical: (r) => r.critical,
  driving: (r) => r.driving,
  milestones: (r) => r.kind === "milestone",
  "not started": (r) => r.state === "not_started",
  unlinked: (r) => !r.after,
  unstaffed: (r) => !r.people && r.kind === "task",
  "no cost": (r) => Number(r.cost) === 0 && r.kind === "task",
  constrained: (r) => r.constraint !== "",
  late: (r) => (r.late ?? 0) > 0 || r.odd === "deadline",
  odd: (r) => r.odd !== null,
};

const matches = (row: Row, find: string) =>
  `${row.code} ${row.name} ${row.people} ${row.calendar} ${Object.values(row.fields).join(" ")}`
    .toLowerCase()
    .includes(find);

/** Whether an activity is to be seen: found, of the wanted kind, and all conditions hold. */
function cutOf(lens: Lens, columns: Columns, on: Ground): (r: Row) => boolean {
  const find = lens.find.trim().toLowerCase();
  const show = SHOWS[lens.show] ?? (() => true);
  const conditions = conditionsOf(lens);
  return (r) => show(r) && (!find || matches(r, find)) && fits(r, conditions, columns, on);
}

/** The lines of the sheet: the tree with folded elements shut, or a flat list where it is filtered, grouped or sorted. */
export function linesOf(rows: Iterable<Row>, folded: Set<string>, lens: Lens, columns: Columns, on: Ground): Line[] {
  const all = [...rows];
  if (lens.group || lens.sort) return flat(all, lens, columns, on);
  const children = childrenOf(all);
  const find = lens.find.trim().toLowerCase();
  const cut = cutOf(lens, columns, on);
  const onlyFind = lens.show === "all" && !conditionsOf(lens).length && !!find;
  const wanted = (r: Row): boolean =>
    r.kind === "wbs" ? (children.get(r.id) ?? []).some(wanted) || (onlyFind && matches(r, find)) : cut(r);
  const asItIs = isPlain(lens);
  const out: Line[] = [];
  const lay = (parent: string | null, depth: number) => {
    for (const row of children.get(parent) ?? []) {
      if (!asItIs && !wanted(row)) continue;
      const parts = children.get(row.id)?.length ?? 0;
      out.push(lineOf(row, depth, parts));
      if (row.kind === "wbs" && (!asItIs || !folded.has(row.id))) lay(row.id, depth + 1);
    }
  };
  lay(null, 0);
  return out;
}

function flat(all: Row[], lens: Lens, columns: Columns, on: Ground): Line[] {
  const cut = cutOf(lens, columns, on);
  const rows = all.filter((r) => r.kind !== "wbs" && cut(r)).sort(byPlace);
  return arranged(rows, { ...lens, where: [] }, columns, on, (row) => lineOf(row, 0, 0));
}

/** The lines with the row being begun put in where it will stand. */
export function withDraft(lines: Line[], draft: Draft | null): Line[] {
  if (!draft) return lines;
  let at = lines.length;
  let depth = 0;
  if (draft.after) {
    const i = lines.findIndex((l) => l.id === draft.after);
    const from = lines[i];
    if (from?.kind === "row") {
      at = i + 1;
      depth = from.depth;
      for (let next = lines[at]; next?.kind === "row" && next.depth > depth; next = lines[at]) at++;
    }
  } else if (draft.parent) {
    const i = lines.findIndex((l) => l.id === draft.parent);
    const from = lines[i];
    if (from?.kind === "row") {
      at = i + 1;
      depth = from.depth + 1;
      for (let next = lines[at]; next?.kind === "row" && next.depth >= depth; next = lines[at]) at++;
    }
  }
  const line: Line = { kind: "draft", id: "draft", depth: depth + (draft.indent ? 1 : 0) };
  return [...lines.slice(0, at), line, ...lines.slice(at)];
}
