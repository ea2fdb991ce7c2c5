/** The rows of the timeline: an activity or an element with its figures, as a tree or as a flat list. */
import type { Schemas } from "../../api";
import { format, groupBy } from "../../shared";
import { arrangedFigures, type FigureRow, type Ground, type Look, type LookColumn } from "../../shared/look";
import type { SheetLine } from "../../shared/sheet";
import { words } from "../../shared/words/timeline";

const w = words.timeline;
type Bar = Schemas["Bar"];
type Figures = Schemas["MeasureRow"];
/** What an activity waits for in another project. */
export interface Outside {
  external: Schemas["External"];
  wait: Schemas["Wait"];
  /** Who waits. */
  of: Bar;
}
export interface Item {
  figures?: Figures;
  bracket?: Schemas["Bracket"];
  bar?: Bar;
  outside?: Outside;
}

const partOf = ({ bar, bracket, outside }: Item) => bar ?? bracket ?? outside?.external;
export const codeOf = (item: Item) => partOf(item)?.code ?? "";
export const nameOf = (item: Item) => partOf(item)?.name ?? "";
/** From when to when a row goes. */
export const spanOf = (item: Item) => ({ start: partOf(item)?.start, finish: partOf(item)?.finish });

/** The line of an activity, and over it one for each that it waits for in another project. */
const linesOf = (externals: Schemas["External"][], line: SheetLine<Item>): SheetLine<Item>[] => {
  const of = line.kind === "row" ? line.row.bar : undefined;
  const outside = (of?.outside ?? []).flatMap((wait): SheetLine<Item>[] => {
    const external = externals.find((x) => x.code === wait.code);
    if (!of || !external) return [];
    const row = { outside: { external, wait, of } };
    return [{ ...line, kind: "row", id: `${wait.code}>${of.code}`, row, parts: 0 } as SheetLine<Item>];
  });
  return [...outside, line];
};

/** The timeline of its milestones alone, under the elements that have any. */
export function milestonesOf(t: Schemas["TimelineOut"]): Schemas["TimelineOut"] {
  const bars = t.bars.filter((b) => b.kind === "milestone");
  const used = new Set(bars.map((b) => b.wbs));
  let below = Number.NEGATIVE_INFINITY; // the level of the element after it that stays: a deeper one lies below it
  const stays = new Set<string>();
  for (const w of [...t.wbs].reverse())
    if (used.has(w.code) || below > w.level) {
      stays.add(w.code);
      below = w.level;
    }
  return { ...t, bars, wbs: t.wbs.filter((w) => stays.has(w.code)) };
}

/** The rows as the WBS has them. */
export function treeOf(t: Schemas["TimelineOut"], figures: Map<string, Figures>): SheetLine<Item>[] {
  const byWbs = groupBy(t.bars, (b) => b.wbs ?? "");
  const line = (row: Item, depth: number, parts: number): SheetLine<Item> => ({
    kind: "row",
    id: row.bar ? row.bar.code : `wbs.${row.bracket?.code}`,
    row,
    depth,
    parts,
  });
  const within = (code: string, depth: number) =>
    (byWbs.get(code) ?? []).flatMap((bar) =>
      linesOf(t.externals, line({ bar, figures: figures.get(`activity.${bar.code}`) }, depth, 0)),
    );
  return [
    ...within("", 0),
    ...t.wbs.flatMap((bracket) => [
      line({ bracket, figures: figures.get(`wbs.${bracket.code}`) }, bracket.level, 1),
      ...within(bracket.code, bracket.level + 1),
    ]),
  ];
}

/** The activities filtered, sorted and grouped. */
export function flatOf(
  t: Schemas["TimelineOut"],
  rows: Figures[],
  look: Look,
  columns: Map<string, LookColumn<FigureRow>>,
  on: Ground,
): SheetLine<Item>[] {
  const bars = new Map(t.bars.map((b) => [b.code, b]));
  return arrangedFigures(rows, look, columns, on).flatMap((line): SheetLine<Item>[] => {
    if (line.kind !== "row") return [line as SheetLine<Item>];
    const bar = bars.get(line.row.code);
    return bar ? linesOf(t.externals, { ...line, id: bar.code, row: { bar, figures: line.row } }) : [];
  });
}

/** A figure in few words, for a column or a label. */
export function brief(text: string | null | undefined, figure: Schemas["FigureOut"]): string {
  if (text == null) return "";
  if (figure.kind === "instant" || figure.kind === "date") return format.date(text);
  if (figure.kind === "percent") return `${format.percent(Number(text))} %`;
  if (figure.kind === "days")
    return figure.key.endsWith("_difference") ? format.late(Number(text)) : w.days(format.tenth(Number(text)));
  if (figure.kind === "flag") return text === "true" ? figure.word : "";
  if (figure.kind === "choice") return format.choice(text);
  return format.figure(text, figure.kind);
}
