import { Box } from "@chakra-ui/react";
import { type KeyboardEvent, lazy, type ReactNode, Suspense, useCallback, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../api";
import {
  Bones,
  Curve,
  format,
  Mark,
  Notice,
  oneOf,
  Pictures,
  useAddressed,
  useCurve,
  useKept,
  useOpenFigure,
  usePlace,
} from "../../shared";
import {
  arrangedFigures,
  FigureMenu,
  isPlain,
  keysOf,
  LOOK,
  LookBar,
  lookOf,
  nextSort,
  useFigures,
  useGround,
  useOffered,
} from "../../shared/look";
import { FoldButton, ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import { Button, Files, PartBar, RoomHead, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";
import { BUCKETS } from "./buckets";
import { CurveControls, valueName } from "./CurveControls";
import { Totals } from "./Totals";
import { useSelection } from "./useSelection";

const Summary = lazy(() => import("./Summary").then((m) => ({ default: m.Summary })));
const OverPages = lazy(() => import("./OverPages").then((m) => ({ default: m.OverPages })));
const Work = lazy(() => import("./Work").then((m) => ({ default: m.Work })));

type Row = Schemas["MeasureRow"];
const KINDS: ["project", "wbs", "activity"] = ["project", "wbs", "activity"];

type Column = SheetColumn<Row>;

const VIEW = {
  wbs: "",
  field: "",
  value: "",
  split: "",
  by: "week",
  part: "",
  other: "",
  cols: "",
  eacs: "",
  bars: "",
  bases: "compared",
  ...LOOK,
};
/** How much of an actual cost follows progress. */
const reckoned = (amount: string) => words.frame.reckoned(format.money(amount));

const USUAL = ["bac", "pv", "ev", "ac", "sv", "cv", "spi", "cpi", "eac"];
const WIDTHS: Record<string, number> = {
  ratio: 50,
  percent: 72,
  number: 84,
  duration: 84,
  days: 72,
  instant: 126,
  date: 126,
  flag: 64,
  choice: 92,
  text: 110,
};
/** The width of a character of a figure in a row in bold. */
const WIDE = 7;
const TEXTS = ["text", "choice", "flag"];
const NONE: string[] = [];
const NOBODY: Row[] = [];

/** Rows to show: a WBS element's children only where it and all above it stand open. */
function visible(rows: Row[], open: Set<string>): Row[] {
  const shownWbs = new Set<string>();
  return rows.filter((r) => {
    const shown = r.parent == null || (shownWbs.has(r.parent) && open.has(r.parent));
    if (shown && r.kind === "wbs") shownWbs.add(r.code);
    return shown;
  });
}

/** The value room: the measures with their curve, the summary, and work by time. */
export function ValueScreen() {
  const { project } = usePlace();
  const [view, look] = useAddressed(`${project}/value`, VIEW);
  const { part } = view;
  const parts = (
    <PartBar
      label={words.value.partsOf}
      parts={Object.entries(words.value.parts)}
      at={part}
      go={(key) => look({ part: key })}
    />
  );
  return (
    <Suspense fallback={<Bones />}>
      {part === "summary" ? (
        <Summary wbs={view.wbs} look={look}>
          {parts}
        </Summary>
      ) : part === "work" ? (
        <Work bucket={oneOf(BUCKETS, view.by)} look={look}>
          {parts}
        </Work>
      ) : part === "pages" ? (
        <OverPages other={view.other} look={look}>
          {parts}
        </OverPages>
      ) : (
        <MeasuresPart view={view} look={look}>
          {parts}
        </MeasuresPart>
      )}
    </Suspense>
  );
}

interface PartProps {
  view: typeof VIEW;
  look: (next: Partial<typeof VIEW>) => void;
  children: ReactNode;
}

/** The measures by WBS down to activities, and the curve. */
function MeasuresPart({ view, look, children }: PartProps) {
  const { project, page } = usePlace();
  const { wbs } = view;
  const bucket = oneOf(BUCKETS, view.by);
  const [opened, setOpened] = useKept<string[]>(`${project}.value.open`, NONE);
  const open = useMemo(() => new Set(opened), [opened]);
  const setOpen = (next: Set<string>) => setOpened([...next]);
  const { offered, columns: held } = useOffered();
  const ground = useGround();
  const now = useMemo(() => lookOf(view), [view]);
  const chosen = useMemo(() => (view.cols ? view.cols.split(",") : USUAL), [view.cols]);
  const keys = useMemo(() => [...new Set([...chosen, ...keysOf(now)])], [chosen, now]);
  const value = useFigures(keys);
  const own = useMemo(
    (): Record<string, string> => (view.field ? { field: view.field, value: view.value } : {}),
    [view.field, view.value],
  );
  const curve = useCurve(project, page.code, wbs, bucket, view.bases === "compared" ? undefined : view.bases, own);
  const [picked, pick] = useState<Row[]>(NOBODY);
  const selection = useSelection(picked, bucket, chosen, view.split !== "");
  const shown = selection?.curve ?? curve.data;
  const box = useRef<HTMLDivElement>(null);
  const estimates = useMemo(() => (view.eacs ? view.eacs.split(",") : NONE), [view.eacs]);
  const lines = useMemo((): SheetLine<Row>[] => {
    if (!value.data) return [];
    if (!isPlain(now)) return arrangedFigures(value.data.rows, now, held, ground);
    return [...visible(value.data.rows, open), value.data.project].map((row) => ({
      kind: "row",
      id: `${row.kind}.${row.code}`,
      row,
      depth: row.kind === "project" ? 0 : row.level,
      parts: row.kind === "wbs" ? 1 : 0,
    }));
  }, [value.data, now, held, ground, open]);
  if (value.isPending) return <Bones />;
  if (!value.data) return <Notice bad>{value.error?.message}</Notice>;
  const columns = value.data.columns.filter((c) => chosen.includes(c.key));
  const elements = value.data.rows.filter((r) => r.kind === "wbs");
  const field = value.data.fields.find((f) => f.code === view.field);
  const scope = field
    ? words.value.ofValue(field.name, valueName(view.value))
    : (elements.find((r) => r.code === wbs)?.name ?? value.data.project.name);
  const of = selection ? words.value.selected(selection.activities) : scope;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}`;
  const asked = new URLSearchParams({ columns: chosen.join(","), wbs, bucket, ...own }).toString();
  const fold = (code: string) => {
    const next = new Set(open);
    if (!next.delete(code)) next.add(code);
    setOpen(next);
  };
  return (
    <>
      <RoomHead>
        <h1>{words.value.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(value.data.status), value.data.baseline)}</Told>
        <Space />
        <Files base={`${base}/value`} query={asked} />
      </RoomHead>
      {children}
      <LookBar view={view} look={look} columns={held} on={ground} whole={words.look.tree}>
        <FigureMenu
          word={words.look.columns}
          offered={offered}
          chosen={chosen}
          usual={USUAL}
          set={(next) => look({ cols: next.join(",") === USUAL.join(",") ? "" : next.join(",") })}
        />
        {isPlain(now) && (
          <Button look="quiet" onClick={() => setOpen(new Set(open.size ? [] : elements.map((e) => e.code)))}>
            {open.size ? words.value.fold : words.value.expand}
          </Button>
        )}
      </LookBar>
      {value.data.rows.length === 0 && <Notice>{words.value.empty}</Notice>}
      <Measures
        columns={columns}
        lines={lines}
        open={open}
        fold={fold}
        picks={pick}
        sort={view.sort}
        onSort={(key) => look({ sort: nextSort(view.sort, key) })}
      />
      <Box
        as="section"
        flex="none"
        borderTopWidth="1px"
        borderColor="ruleStrong"
        py="6"
        px="14"
        overflow="auto"
        maxH="56%"
        css={{ "@media (max-height: 600px)": { maxH: "34%" } }}
        aria-label={words.value.of(of)}
      >
        {selection && <Totals columns={columns} of={selection} split={view.split !== ""} look={look} />}
        {curve.isError && <Notice bad>{curve.error.message}</Notice>}
        {shown && (
          <>
            <CurveControls curve={shown} view={view} look={look} elements={elements} fields={value.data.fields}>
              <Pictures
                of={box}
                title={`${words.value.of(of)}, ${words.margin.asOf(format.fullDay(value.data.status), value.data.baseline)}`}
                name={`${project}-${page.code}-curve`}
              />
            </CurveControls>
            <Box ref={box}>
              <Curve curve={shown} height={210} estimates={estimates} bars={view.bars === "on"} />
            </Box>
            {bucket !== "period" && (
              <Soft as="p" fontSize="fine">
                {words.value.between}
              </Soft>
            )}
          </>
        )}
      </Box>
    </>
  );
}

const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;
const kindOf = (row: Row) => (row.kind === "project" ? "double" : row.kind);

interface MeasuresProps {
  columns: Schemas["FigureOut"][];
  lines: SheetLine<Row>[];
  open: Set<string>;
  fold: (code: string) => void;
  picks: (rows: Row[]) => void;
  sort: string;
  onSort: (key: string) => void;
}

/** The measures as a sheet: every figure opens its working, by a click or by F2. */
function Measures({ columns: figures, lines, open, fold, picks, sort, onSort }: MeasuresProps) {
  const show = useOpenFigure();
  const { tell } = usePlace();
  const columns = useMemo((): Column[] => {
    /** What the longest amount of a column needs, told by its digits: 10,000 rows are not written out to measure them. */
    const roomFor = (c: Schemas["FigureOut"]) => {
      if (c.kind !== "money") return 0;
      let longest = 0;
      for (const l of lines) if (l.kind === "row") longest = Math.max(longest, l.row.figures[c.key]?.length ?? 0);
      return (longest + Math.floor(longest / 3)) * WIDE + 14;
    };
    const figure = (c: Schemas["FigureOut"]): Column => ({
      key: c.key,
      title: c.head,
      width: Math.max(WIDTHS[c.kind] ?? 50, roomFor(c)),
      left: TEXTS.includes(c.kind),
      text: (r) => format.figure(r.figures[c.key], c.kind),
      hint: (r) => r.reasons[c.key] ?? (c.key === "ac" && r.reckoned ? reckoned(r.reckoned) : c.word),
      draw: (r) => (
        <Button
          look="figure"
          color={c.key !== "bac" && r.figures[c.key]?.startsWith("-") ? "act" : undefined}
          fontStyle={c.key === "ac" && r.reckoned ? "italic" : undefined}
          tabIndex={-1}
          data-figure={`${r.kind}:${r.code}:${c.key}`}
          aria-label={`${c.head} of ${r.name}: ${r.reasons[c.key] ?? format.figure(r.figures[c.key], c.kind)}`}
          onClick={() => show(c.key, oneOf(KINDS, r.kind), r.code)}
        >
          {format.figure(r.figures[c.key], c.kind)}
        </Button>
      ),
    });
    const name: Column = {
      key: "name",
      title: words.columns.activity,
      width: 190,
      grow: true,
      left: true,
      tree: true,
      pin: "start",
      text: (r) => (r.kind === "project" ? words.value.project : r.kind === "wbs" ? `${r.code} ${r.name}` : r.name),
      hint: (r) => `${r.code} ${r.name}`,
    };
    return [name, ...figures.map(figure)];
  }, [figures, show, lines]);
  const read = (row: Row, column: Column) => {
    if (column.key !== "name") show(column.key, oneOf(KINDS, row.kind), row.code);
    else if (row.kind === "activity") tell({ about: "activity", code: row.code });
  };
  const keys = ({ key }: KeyboardEvent, row: Row, column: Column) => {
    if (key !== " " || row.kind !== "wbs" || column.key !== "name") return false;
    fold(row.code);
    return true;
  };
  const folding = useRef(fold);
  folding.current = fold;
  const lead = useCallback((line: SheetLine<Row>, shut: boolean) => {
    if (line.kind !== "row") return null;
    const { row } = line;
    if (row.kind === "activity") return row.mark ? <Mark mark={row.mark} size={12} /> : null;
    if (row.kind !== "wbs") return row.mark ? <Mark mark={row.mark} size={12} /> : null;
    return (
      <>
        <FoldButton
          aria-expanded={!shut}
          aria-label={shut ? words.sheet.unfold(row.name) : words.sheet.foldRow(row.name)}
          onClick={() => folding.current(row.code)}
        >
          {shut ? "▸" : "▾"}
        </FoldButton>
        {row.mark && <Mark mark={row.mark} size={12} />}
      </>
    );
  }, []);
  const folded = useMemo(
    () =>
      new Set(lines.flatMap((l) => (l.kind === "row" && l.row.kind === "wbs" && !open.has(l.row.code) ? [l.id] : []))),
    [lines, open],
  );
  return (
    <ReadSheet
      label={words.value.measures}
      lines={lines}
      columns={columns}
      codeOf={codeOf}
      nameOf={nameOf}
      look={kindOf}
      lead={lead}
      tree
      folded={folded}
      open={read}
      keys={keys}
      picks={picks}
      sort={sort}
      onSort={onSort}
    />
  );
}
