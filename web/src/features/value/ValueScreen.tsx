import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, lazy, type ReactNode, Suspense, useCallback, useMemo, useRef, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Curve, format, Mark, Notice, useAddressed, useCurve, useKept, useOpenFigure, usePlace } from "../../shared";
import { FoldButton, ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import { Button, Parts, RoomHead, RowOf, Select, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";
import { BUCKETS, type Bucket } from "./buckets";
import { useSelection } from "./useSelection";

const Statistics = lazy(() => import("./Statistics").then((m) => ({ default: m.Statistics })));
const OverPages = lazy(() => import("./OverPages").then((m) => ({ default: m.OverPages })));
const Work = lazy(() => import("./Work").then((m) => ({ default: m.Work })));

type Row = Schemas["MeasureRow"];
type Kind = "project" | "wbs" | "activity";

type Column = SheetColumn<Row>;

const VIEW = { wbs: "", by: "week", part: "", other: "" };
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

/** The value room: the measures with their curve, statistics, and work by time. */
export function ValueScreen() {
  const { project } = usePlace();
  const [view, look] = useAddressed(`${project}/value`, VIEW);
  const { part } = view;
  const parts = (
    <Parts as="nav" aria-label={words.value.partsOf}>
      {Object.entries(words.value.parts).map(([key, word]) => (
        <Button
          look="bare"
          key={key}
          aria-current={part === key ? "page" : undefined}
          onClick={() => look({ part: key })}
        >
          {word}
        </Button>
      ))}
    </Parts>
  );
  return (
    <Suspense fallback={<Notice>{words.frame.loading}</Notice>}>
      {part === "statistics" ? (
        <Statistics wbs={view.wbs} look={look}>
          {parts}
        </Statistics>
      ) : part === "work" ? (
        <Work bucket={view.by as Bucket} look={look}>
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
function MeasuresPart({ view: { wbs, by }, look, children }: PartProps) {
  const { project, page } = usePlace();
  const bucket = by as Bucket;
  const [opened, setOpened] = useKept<string[]>(`${project}.value.open`, NONE);
  const open = useMemo(() => new Set(opened), [opened]);
  const setOpen = (next: Set<string>) => setOpened([...next]);
  const value = useQuery({
    queryKey: [project, page.code, "value"],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/value", { params: { path: { project, page: page.code } } }),
      ),
  });
  const curve = useCurve(project, page.code, wbs, bucket);
  const [picked, pick] = useState<Row[]>(NOBODY);
  const selection = useSelection(picked, bucket);
  const shown = selection?.curve ?? curve.data;
  const rows = useMemo(() => (value.data ? visible(value.data.rows, open) : []), [value.data, open]);
  if (value.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (value.isError) return <Notice bad>{value.error.message}</Notice>;
  const elements = value.data.rows.filter((r) => r.kind === "wbs");
  const scope = elements.find((r) => r.code === wbs)?.name ?? value.data.project.name;
  const turn = (code: string) => {
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
        <Button onClick={() => setOpen(new Set(open.size ? [] : elements.map((e) => e.code)))}>
          {open.size ? words.value.fold : words.value.expand}
        </Button>
        <label>
          <Told>{words.chart.curve} </Told>
          <Select value={wbs} onChange={(e) => look({ wbs: e.target.value })}>
            <option value="">{words.value.project}</option>
            {elements.map((e) => (
              <option key={e.code} value={e.code}>
                {e.code} {e.name}
              </option>
            ))}
          </Select>
        </label>
        <label>
          <Told>{words.value.bucket} </Told>
          <Select value={bucket} onChange={(e) => look({ by: e.target.value })}>
            {BUCKETS.map((b) => (
              <option key={b}>{b}</option>
            ))}
          </Select>
        </label>
      </RoomHead>
      {children}
      <Measures
        columns={value.data.columns}
        rows={rows}
        total={value.data.project}
        open={open}
        turn={turn}
        picks={pick}
      />
      <Box
        as="section"
        flex="none"
        borderTopWidth="1px"
        borderColor="ruleStrong"
        p="8px 14px"
        overflow="auto"
        maxH="52%"
        aria-label={words.value.of(selection ? words.value.selected(selection.activities) : scope)}
      >
        {selection && <Totals columns={value.data.columns} of={selection} />}
        {curve.isError && <Notice bad>{curve.error.message}</Notice>}
        {shown && <Curve curve={shown} height={210} />}
      </Box>
    </>
  );
}

const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;
const lookOf = (row: Row) => (row.kind === "project" ? "double" : row.kind);

/** The totals of the selected rows. */
function Totals({ columns, of }: { columns: Schemas["FigureOut"][]; of: Schemas["SelectionOut"] }) {
  return (
    <RowOf role="status" pb="4px">
      <strong>{words.value.selected(of.activities)}</strong>
      {columns.map((c) => (
        <span key={c.key} title={of.row.reasons[c.key]}>
          <Soft>{c.head}</Soft> {format.figure(of.row.figures[c.key], c.kind)}
        </span>
      ))}
    </RowOf>
  );
}

interface MeasuresProps {
  columns: Schemas["FigureOut"][];
  rows: Row[];
  total: Row;
  open: Set<string>;
  turn: (code: string) => void;
  picks: (rows: Row[]) => void;
}

/** The measures as a sheet: every figure opens its working, by a click or by F2. */
function Measures({ columns: figures, rows, total, open, turn, picks }: MeasuresProps) {
  const show = useOpenFigure();
  const { tell } = usePlace();
  const columns = useMemo((): Column[] => {
    const figure = (c: Schemas["FigureOut"]): Column => ({
      key: c.key,
      title: c.head,
      width: c.kind === "ratio" ? 50 : 94,
      text: (r) => format.figure(r.figures[c.key], c.kind),
      hint: (r) => r.reasons[c.key] ?? c.word,
      draw: (r) => (
        <Button
          look="figure"
          color={c.key !== "bac" && r.figures[c.key]?.startsWith("-") ? "act" : undefined}
          tabIndex={-1}
          data-figure={`${r.kind}:${r.code}:${c.key}`}
          aria-label={`${c.head} of ${r.name}: ${r.reasons[c.key] ?? format.figure(r.figures[c.key], c.kind)}`}
          onClick={() => show(c.key, r.kind as Kind, r.code)}
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
      text: (r) => (r.kind === "project" ? words.value.project : r.kind === "wbs" ? `${r.code} ${r.name}` : r.name),
      hint: (r) => `${r.code} ${r.name}`,
    };
    return [name, ...figures.map(figure)];
  }, [figures, show]);
  const lines = useMemo(
    () =>
      [...rows, total].map(
        (row): SheetLine<Row> => ({
          kind: "row",
          id: `${row.kind}.${row.code}`,
          row,
          depth: row.kind === "project" ? 0 : row.level,
          parts: row.kind === "wbs" ? 1 : 0,
        }),
      ),
    [rows, total],
  );
  const read = (row: Row, column: Column) => {
    if (column.key !== "name") show(column.key, row.kind as Kind, row.code);
    else if (row.kind === "activity") tell({ about: "activity", code: row.code });
  };
  const keys = ({ key }: KeyboardEvent, row: Row, column: Column) => {
    if (key !== " " || row.kind !== "wbs" || column.key !== "name") return false;
    turn(row.code);
    return true;
  };
  const turning = useRef(turn);
  turning.current = turn;
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
          onClick={() => turning.current(row.code)}
        >
          {shut ? "▸" : "▾"}
        </FoldButton>
        {row.mark && <Mark mark={row.mark} size={12} />}
      </>
    );
  }, []);
  const folded = useMemo(
    () => new Set(rows.flatMap((r) => (r.kind === "wbs" && !open.has(r.code) ? [`wbs.${r.code}`] : []))),
    [rows, open],
  );
  return (
    <ReadSheet
      label={words.value.measures}
      lines={lines}
      columns={columns}
      codeOf={codeOf}
      nameOf={nameOf}
      look={lookOf}
      lead={lead}
      tree
      folded={folded}
      open={read}
      keys={keys}
      picks={picks}
    />
  );
}
