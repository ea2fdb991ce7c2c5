import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef } from "react";
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
import { Button, Select } from "../../shared/ui";

type Row = Schemas["MeasureRow"];
type Kind = "project" | "wbs" | "activity";
type Bucket = "day" | "week" | "month" | "period";

type Column = Schemas["FigureOut"];

const FIRST = "minmax(140px, 1fr)";
const widths = (columns: Column[]) => [FIRST, ...columns.map((c) => (c.kind === "ratio" ? "46px" : "90px"))].join(" ");
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

function Measures({
  columns,
  rows,
  total,
  open,
  turn,
}: {
  columns: Column[];
  rows: Row[];
  total: Row;
  open: Set<string>;
  turn: (code: string) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => 26,
    overscan: 12,
  });
  return (
    <div
      ref={box}
      className="grid figures"
      role="table"
      aria-label={words.value.measures}
      style={{ minHeight: 150 }}
      aria-rowcount={rows.length + 2}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it
      tabIndex={0}
    >
      <div role="row" className="grid-head" style={{ gridTemplateColumns: widths(columns) }}>
        <span role="columnheader" className="left">
          {words.columns.activity}
        </span>
        {columns.map((c) => (
          <span role="columnheader" key={c.key} title={c.word}>
            {c.head}
          </span>
        ))}
      </div>
      <div role="rowgroup" style={{ height: virtual.getTotalSize() + 36, position: "relative" }}>
        {virtual.getVirtualItems().map((v) => {
          const row = rows[v.index];
          return row ? (
            <Line
              key={`${row.kind}${row.code}`}
              columns={columns}
              row={row}
              top={v.start}
              index={v.index}
              isOpen={open.has(row.code)}
              turn={turn}
            />
          ) : null;
        })}
        <Line
          columns={columns}
          row={total}
          top={virtual.getTotalSize()}
          index={rows.length}
          isOpen={false}
          turn={turn}
        />
      </div>
    </div>
  );
}

function Line({
  columns,
  row,
  top,
  index,
  isOpen,
  turn,
}: {
  columns: Column[];
  row: Row;
  top: number;
  index: number;
  isOpen: boolean;
  turn: (code: string) => void;
}) {
  const show = useOpenFigure();
  const { tell } = usePlace();
  const kind = row.kind as Kind;
  const classes = `grid-row ${kind === "project" ? "double" : ""}`;
  const figure = (c: Column) => {
    const value = row.figures[c.key];
    const text = format.figure(value, c.kind);
    const why = row.reasons[c.key];
    return (
      <div role="cell" className="cell" key={c.key}>
        <Button
          look="bare"
          className={`figure ${c.key !== "bac" && value?.startsWith("-") ? "late" : ""}`}
          title={why}
          data-figure={`${kind}:${row.code}:${c.key}`}
          aria-label={`${c.head} of ${row.name}: ${why ?? text}`}
          onClick={() => show(c.key, kind, row.code)}
        >
          {text}
        </Button>
      </div>
    );
  };
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={classes}
      style={{
        gridTemplateColumns: widths(columns),
        height: 26,
        transform: `translateY(${top}px)`,
        fontWeight: kind === "activity" ? undefined : 600,
      }}
    >
      <div
        role="cell"
        className="cell left"
        style={{ paddingLeft: 10 + row.level * 14 }}
        title={`${row.code} ${row.name}`}
      >
        {kind === "wbs" && (
          <Button look="bare" className="figure" aria-expanded={isOpen} onClick={() => turn(row.code)}>
            <span aria-hidden="true">{isOpen ? "▾" : "▸"}</span> {row.code} {row.name}
          </Button>
        )}
        {kind === "activity" && (
          <Button look="bare" className="figure" onClick={() => tell({ about: "activity", code: row.code })}>
            {row.mark && <Mark mark={row.mark} size={12} />} {row.name}
          </Button>
        )}
        {kind === "project" && words.value.project}
      </div>
      {columns.map(figure)}
    </div>
  );
}
