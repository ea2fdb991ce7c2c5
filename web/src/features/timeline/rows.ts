/** The rows of the timeline: an activity or an element with its figures, as a tree or as a flat list. */
import type { Schemas } from "../../api";
import { format, groupBy } from "../../shared";
import { arrangedFigures, type FigureRow, type Ground, type Look, type LookColumn } from "../../shared/look";
import type { SheetLine } from "../../shared/sheet";
import { words } from "../../shared/words/timeline";

const w = words.timeline;
type Bar = Schemas["Bar"];
type Figures = Schemas["MeasureRow"];
export type Item = { figures?: Figures } & (
  | { bracket: Schemas["Bracket"]; bar?: undefined }
  | { bar: Bar; bracket?: undefined }
);

export const codeOf = ({ bar, bracket }: Item) => bar?.code ?? bracket?.code ?? "";
export const nameOf = ({ bar, bracket }: Item) => bar?.name ?? bracket?.name ?? "";

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
    (byWbs.get(code) ?? []).map((bar) => line({ bar, figures: figures.get(`activity.${bar.code}`) }, depth, 0));
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
    return bar ? [{ ...line, id: bar.code, row: { bar, figures: line.row } }] : [];
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
