import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef } from "react";
import { client, type Schemas, take } from "../../api";
import {
  Curve,
  format,
  Mark,
  Notice,
  useAddressed,
  useCurve,
  useKept,
  useOpenFigure,
  usePlace,
  words,
} from "../../shared";
import { Sheet, type SheetColumn, type SheetLine, useSheet } from "../../shared/sheet";
import { Button, Select } from "../../shared/ui";

type Row = Schemas["MeasureRow"];
type Kind = "project" | "wbs" | "activity";
type Bucket = "day" | "week" | "month" | "period";

type Column = SheetColumn<Row>;

const BUCKETS: Bucket[] = ["day", "week", "month", "period"];

const VIEW = { wbs: "", by: "week" };
const NONE: string[] = [];

/** Rows to show: a WBS element's children only where it and all above it stand open. */
function visible(rows: Row[], open: Set<string>): Row[] {
  const shownWbs = new Set<string>();
  return rows.filter((r) => {
    const shown = r.parent == null || (shownWbs.has(r.parent) && open.has(r.parent));
    if (shown && r.kind === "wbs") shownWbs.add(r.code);
    return shown;
  });
}

/** The measures by WBS down to activities, and the curve. */
export function ValueScreen() {
  const { project, page } = usePlace();
  const [{ wbs, by }, look] = useAddressed(`${project}/value`, VIEW);
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
      <div className="sheet-head">
        <h1>{words.value.title}</h1>
        <span className="told">{words.margin.asOf(format.fullDay(value.data.status), value.data.baseline)}</span>
        <span className="space" />
        <Button onClick={() => setOpen(new Set(open.size ? [] : elements.map((e) => e.code)))}>
          {open.size ? words.value.fold : words.value.expand}
        </Button>
        <label>
          <span className="told">{words.value.curve} </span>
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
          <span className="told">{words.value.bucket} </span>
          <Select value={bucket} onChange={(e) => look({ by: e.target.value })}>
            {BUCKETS.map((b) => (
              <option key={b}>{b}</option>
            ))}
          </Select>
        </label>
      </div>
      <Measures columns={value.data.columns} rows={rows} total={value.data.project} open={open} turn={turn} />
      <section className="curve-box" aria-label={words.value.of(scope)}>
        {curve.isError && <Notice bad>{curve.error.message}</Notice>}
        {curve.data && <Curve curve={curve.data} height={210} />}
      </section>
    </>
  );
}

const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;
const lookOf = (row: Row) => (row.kind === "project" ? "double" : row.kind);
const never = () => false;
const nothing = () => undefined;
const QUIET = {};

interface MeasuresProps {
  columns: Schemas["FigureOut"][];
  rows: Row[];
  total: Row;
  open: Set<string>;
  turn: (code: string) => void;
}

/** The measures as a sheet: every figure opens its working, by a click or by F2. */
function Measures({ columns: figures, rows, total, open, turn }: MeasuresProps) {
  const show = useOpenFigure();
  const { tell } = usePlace();
  const box = useRef<HTMLDivElement>(null);
  const columns = useMemo((): Column[] => {
    const figure = (c: Schemas["FigureOut"]): Column => ({
      key: c.key,
      title: c.head,
      width: c.kind === "ratio" ? 50 : 92,
      text: (r) => format.figure(r.figures[c.key], c.kind),
      hint: (r) => r.reasons[c.key] ?? c.word,
      draw: (r) => (
        <Button
          look="bare"
          className={c.key !== "bac" && r.figures[c.key]?.startsWith("-") ? "figure late" : "figure"}
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
      width: 200,
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
  const hands = useSheet<Row, Column>({
    lines,
    columns,
    can: never,
    write: nothing,
    troubles: QUIET,
    waiting: QUIET,
    drop: nothing,
    own: {
      keys: ({ key }) => {
        if (key !== " " || hands.here?.kind !== "wbs" || hands.column?.key !== "name") return false;
        turn(hands.here.code);
        return true;
      },
      edit: () => {
        const { here, column } = hands;
        if (here && column?.key === "name" && here.kind === "activity") tell({ about: "activity", code: here.code });
        else if (here && column && column.key !== "name") show(column.key, here.kind as Kind, here.code);
        return true;
      },
    },
  });
  const turning = useRef(turn);
  turning.current = turn;
  const lead = useCallback((line: SheetLine<Row>, shut: boolean) => {
    if (line.kind !== "row") return null;
    const { row } = line;
    if (row.kind === "activity") return row.mark ? <Mark mark={row.mark} size={12} /> : null;
    if (row.kind !== "wbs") return null;
    return (
      <Button
        look="bare"
        className="plan-lead"
        tabIndex={-1}
        aria-expanded={!shut}
        aria-label={shut ? words.plan.unfold(row.name) : words.plan.foldRow(row.name)}
        onClick={() => turning.current(row.code)}
      >
        {shut ? "▸" : "▾"}
      </Button>
    );
  }, []);
  const folded = useMemo(
    () => new Set(rows.flatMap((r) => (r.kind === "wbs" && !open.has(r.code) ? [`wbs.${r.code}`] : []))),
    [rows, open],
  );
  return (
    <Sheet
      label={words.value.measures}
      box={box}
      lines={lines}
      columns={columns}
      hands={hands}
      troubles={QUIET}
      waiting={QUIET}
      drop={nothing}
      take={nothing}
      can={never}
      codeOf={codeOf}
      nameOf={nameOf}
      look={lookOf}
      lead={lead}
      tree
      folded={folded}
    />
  );
}
