import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type ReactNode, type UIEvent, useEffect, useRef } from "react";
import { words } from "../../shared";
import type { Column } from "./columns";
import { INDENT, PlanCell } from "./PlanCell";
import type { Row } from "./row";
import { type Line, ROW } from "./tree";
import type { Hands } from "./useHands";
import { useMoving } from "./useMoving";
import type { PlanHandle } from "./usePlan";

const NONE = new Map<string, Row>();

/** Where the names begin. */
const nameAt = (columns: Column[]) =>
  columns
    .slice(
      0,
      Math.max(
        0,
        columns.findIndex((c) => c.key === "name"),
      ),
    )
    .reduce((sum, c) => sum + c.width, 0);

interface Props {
  lines: Line[];
  columns: Column[];
  hands: Hands;
  plan: PlanHandle;
  open: boolean;
  /** All rows, where the sheet shows the tree as it is and rows can be moved in it; else null. */
  tree: Map<string, Row> | null;
  folded: Set<string>;
  fold: (id: string, shut: boolean) => void;
  resize: (key: string, width: number) => void;
  sort: string;
  onSort: (key: string) => void;
  split: number;
  setSplit: (width: number) => void;
  timeHead: ReactNode;
  timeWidth: number;
  time: ((line: Line) => ReactNode) | null;
  under: ReactNode;
  onRow: (line: Line) => void;
  scrollTo: number | null;
  /** Where the chosen row's bar begins; it is brought into sight. */
  focus: number | null;
}

/** The sheet and the timeline beside it: two panes on one set of rows, only those in sight drawn. */
export function PlanGrid(props: Props) {
  const { lines, columns, hands, plan, open, split, time, timeHead, timeWidth, under, scrollTo, focus } = props;
  const box = useRef<HTMLDivElement>(null);
  const bars = useRef<HTMLDivElement>(null);
  const moving = useMoving({ lines, all: props.tree ?? NONE, picked: hands.picked, plan, box });
  const landing = moving.held?.landing;
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 14,
    scrollPaddingEnd: 42,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: follows the cursor, not the virtualizer
  useEffect(() => {
    if (hands.row < lines.length) virtual.scrollToIndex(hands.row, { align: "auto" });
  }, [hands.row]);
  const wasEditing = useRef(false);
  useEffect(() => {
    const lost = document.activeElement === document.body || box.current?.contains(document.activeElement);
    if (wasEditing.current && !hands.editing && lost) box.current?.focus();
    wasEditing.current = hands.editing !== null;
  }, [hands.editing]);
  useEffect(() => {
    if (scrollTo !== null && bars.current) bars.current.scrollLeft = scrollTo;
  }, [scrollTo]);
  useEffect(() => {
    const pane = bars.current;
    if (!pane || focus === null || (focus > pane.scrollLeft && focus < pane.scrollLeft + pane.clientWidth - 40)) return;
    pane.scrollLeft = Math.max(focus - 80, 0);
  }, [focus]);
  const follow = (name: string) => (event: UIEvent<HTMLElement>) =>
    box.current?.style.setProperty(name, `${-event.currentTarget.scrollLeft}px`);
  const total = Math.max(virtual.getTotalSize(), 0) + 120;
  const template = columns.map((c) => `${c.width}px`).join(" ");
  const width = columns.reduce((sum, c) => sum + c.width, 0);
  const items = virtual.getVirtualItems();
  return (
    <div className="plan-panes">
      <div
        ref={box}
        className="grid plan-grid"
        role="treegrid"
        tabIndex={0}
        aria-label={words.plan.sheet}
        aria-rowcount={lines.length + 1}
        aria-multiselectable
        aria-activedescendant={lines[hands.row] ? `plan-${lines[hands.row]?.id}-${hands.column?.key}` : undefined}
        onKeyDown={hands.keys}
        onCopy={hands.copy}
        onPaste={hands.paste}
      >
        <div className="plan-head">
          <div className="plan-left" style={{ width: time ? split : "100%" }}>
            <div role="row" className="grid-head plan-slide" style={{ gridTemplateColumns: template, width }}>
              {columns.map((c) => (
                <Heading key={c.key} column={c} sort={props.sort} onSort={props.onSort} resize={props.resize} />
              ))}
            </div>
          </div>
          {time && (
            <div className="plan-right" aria-hidden="true">
              <div className="plan-slide-time" style={{ width: timeWidth }}>
                {timeHead}
              </div>
            </div>
          )}
        </div>
        <div className="plan-body" style={{ height: total }}>
          <div className="plan-left" style={{ width: time ? split : "100%", height: total }} role="rowgroup">
            <div className="plan-slide" style={{ width }}>
              {items.map((v) => {
                const line = lines[v.index];
                return line ? (
                  <LeftRow
                    key={line.id}
                    {...props}
                    line={line}
                    index={v.index}
                    top={v.start}
                    template={template}
                    take={open && props.tree ? moving.take : null}
                  />
                ) : null;
              })}
              {landing && (
                <div
                  className="plan-landing"
                  style={{ top: landing.index * ROW - 1, left: nameAt(columns) + 6 + landing.depth * INDENT }}
                />
              )}
            </div>
          </div>
          {time && (
            <div className="plan-right" style={{ height: total }} aria-hidden="true">
              <div className="plan-slide-time" style={{ width: timeWidth, height: total }}>
                {under}
                {items.map((v) => {
                  const line = lines[v.index];
                  return line ? <TimeRow key={line.id} line={line} top={v.start} time={time} /> : null;
                })}
              </div>
            </div>
          )}
        </div>
      </div>
      {time && <Divider split={split} setSplit={props.setSplit} />}
      <div className="plan-bars">
        <div style={{ width: time ? split : "100%" }} onScroll={follow("--left")} aria-hidden="true">
          <div style={{ width }} />
        </div>
        {time && (
          <div ref={bars} style={{ flex: 1 }} onScroll={follow("--time")} aria-hidden="true" data-timescroll="">
            <div style={{ width: timeWidth }} />
          </div>
        )}
      </div>
      {!open && <div className="plan-shut">{words.plan.readOnly}</div>}
      {plan.sheet.data?.rows.size === 0 && lines.length === 0 && <div className="plan-empty">{words.plan.empty}</div>}
    </div>
  );
}

const STEP = 24;

/** The edge between sheet and timeline, dragged or moved with the arrows. */
function Divider({ split, setSplit }: { split: number; setSplit: (width: number) => void }) {
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label={words.plan.view.split}
      aria-valuenow={split}
      aria-valuemin={200}
      aria-valuemax={1600}
      tabIndex={0}
      className="plan-divider"
      style={{ left: split - 4 }}
      onKeyDown={(event) => {
        const by = event.key === "ArrowLeft" ? -STEP : event.key === "ArrowRight" ? STEP : 0;
        if (!by) return;
        setSplit(Math.max(200, split + by));
        event.preventDefault();
        event.stopPropagation();
      }}
      onPointerDown={(event) => {
        const from = event.clientX;
        const target = event.currentTarget;
        target.setPointerCapture(event.pointerId);
        target.onpointermove = (e) => setSplit(Math.max(200, split + e.clientX - from));
        target.onpointerup = () => {
          target.onpointermove = null;
        };
      }}
    />
  );
}

function Heading({
  column,
  sort,
  onSort,
  resize,
}: {
  column: Column;
  sort: string;
  onSort: (key: string) => void;
  resize: (key: string, width: number) => void;
}) {
  const sorted = sort === column.key ? "ascending" : sort === `-${column.key}` ? "descending" : "none";
  return (
    <span role="columnheader" aria-sort={sorted} className={column.left ? "left plan-th" : "plan-th"}>
      <button type="button" tabIndex={-1} onClick={() => onSort(column.key)} title={words.plan.sortBy(column.title)}>
        {column.title}
        {sorted !== "none" && (sorted === "ascending" ? " ↑" : " ↓")}
      </button>
      <i
        className="plan-edge"
        onPointerDown={(event) => {
          const from = event.clientX;
          const was = column.width;
          const target = event.currentTarget;
          target.setPointerCapture(event.pointerId);
          target.onpointermove = (e) => resize(column.key, Math.max(36, was + e.clientX - from));
          target.onpointerup = () => {
            target.onpointermove = null;
          };
        }}
      />
    </span>
  );
}

interface LeftProps extends Props {
  line: Line;
  index: number;
  top: number;
  template: string;
  take: ReturnType<typeof useMoving>["take"] | null;
}

/** The timeline's part of a row. Scrolling draws only the rows that come into sight. */
const TimeRow = memo(function TimeRow({
  line,
  top,
  time,
}: {
  line: Line;
  top: number;
  time: (line: Line) => ReactNode;
}) {
  return (
    <div className="plan-time-row" style={{ transform: `translateY(${top}px)` }}>
      {time(line)}
    </div>
  );
});

const LeftRow = memo(function LeftRow({
  line,
  index,
  top,
  template,
  columns,
  hands,
  plan,
  open,
  folded,
  fold,
  onRow,
  lines,
  take,
}: LeftProps) {
  const here = index === hands.row;
  const style = { transform: `translateY(${top}px)`, gridTemplateColumns: template };
  if (line.kind === "group")
    return (
      <div role="row" className={here ? "grid-row head here" : "grid-row head"} style={{ ...style, display: "flex" }}>
        <span role="gridcell">
          {line.name} <span className="soft-text">{line.count}</span>
        </span>
      </div>
    );
  const picked = hands.many && index >= hands.low && index <= hands.high;
  const row = line.kind === "row" ? line.row : null;
  const troubled = row && columns.some((c) => c.writes && plan.troubles[`${row.id}:${c.writes}`]);
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-level={"depth" in line ? line.depth + 1 : undefined}
      aria-selected={picked || here}
      aria-expanded={row?.kind === "wbs" ? !folded.has(row.id) : undefined}
      data-row={row?.code ?? "draft"}
      data-id={line.id}
      className={[
        "grid-row plan-row",
        here && "here",
        picked && "picked",
        row?.kind === "wbs" && "wbs",
        row?.pending && "pending",
      ]
        .filter(Boolean)
        .join(" ")}
      style={{ ...style, zIndex: troubled ? 6 : here ? 3 : undefined }}
    >
      {take && row && !row.pending && (
        <span
          className="plan-grip"
          aria-hidden="true"
          title={words.plan.grip}
          onPointerDown={(event) => take(event, row)}
        />
      )}
      {columns.map((column, c) => (
        <PlanCell
          key={column.key}
          line={line}
          column={column}
          at={here && c === hands.col}
          inBlock={hands.many && picked && c >= hands.left && c <= hands.right}
          editing={here && c === hands.col ? hands.editing : null}
          trouble={row && column.writes ? plan.troubles[`${row.id}:${column.writes}`] : undefined}
          up={index > 12 && index > lines.length - 4}
          open={open}
          folded={row ? folded.has(row.id) : false}
          fold={fold}
          onText={(text) => hands.setEditing((e) => (e ? { ...e, text } : e))}
          onLeave={() => hands.commit()}
          onChoose={(extend, edit) => {
            if (hands.editing && here && c === hands.col) return;
            hands.commit();
            hands.go(index, c, extend);
            onRow(line);
            if (edit) hands.edit();
          }}
          onDrop={() => row && column.writes && plan.drop(row.id, column.writes)}
          onTake={(text) => row && column.writes && hands.write([row], column.writes, text)}
        />
      ))}
    </div>
  );
});
