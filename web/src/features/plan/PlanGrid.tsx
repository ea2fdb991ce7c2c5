import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, type UIEvent, useEffect, useRef } from "react";
import { usePlace, words } from "../../shared";
import type { Column } from "./columns";
import { INDENT } from "./PlanCell";
import { type Doing, PlanRow } from "./PlanRow";
import type { Row } from "./row";
import { type Line, ROW } from "./tree";
import type { Hands } from "./useHands";
import { useMoving } from "./useMoving";
import { look, type PlanHandle } from "./usePlan";

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
  time: ((line: Line, top: number) => ReactNode) | null;
  under: ReactNode;
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
  /** Moves the panes themselves: a custom property on the grid would have every cell styled anew. */
  const follow = (panes: string) => (event: UIEvent<HTMLElement>) => {
    for (const pane of box.current?.querySelectorAll<HTMLElement>(panes) ?? [])
      pane.style.transform = `translateX(${-event.currentTarget.scrollLeft}px)`;
  };
  const total = Math.max(virtual.getTotalSize(), 0) + 120;
  const template = columns.map((c) => `${c.width}px`).join(" ");
  const width = columns.reduce((sum, c) => sum + c.width, 0);
  const items = virtual.getVirtualItems();
  const doing = useRef<Doing>({ hands, plan, fold: props.fold, take: moving.take });
  doing.current = { hands, plan, fold: props.fold, take: moving.take };
  const isPicked = (index: number) => hands.many && index >= hands.low && index <= hands.high;
  const { project } = usePlace();
  useEffect(() => {
    look(project, props.tree ? items.flatMap((v) => lines[v.index]?.id ?? []) : null);
  });
  useEffect(() => () => void look(project, null), [project]);
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
                  <PlanRow
                    key={line.id}
                    line={line}
                    index={v.index}
                    top={v.start}
                    template={template}
                    columns={columns}
                    col={v.index === hands.row ? hands.col : -1}
                    editing={v.index === hands.row ? hands.editing : null}
                    from={isPicked(v.index) ? hands.left : -1}
                    to={isPicked(v.index) ? hands.right : -1}
                    troubles={plan.troubles}
                    up={v.index > 12 && v.index > lines.length - 4}
                    open={open}
                    folded={props.folded.has(line.id)}
                    grip={open && props.tree !== null}
                    doing={doing}
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
                  return line ? time(line, v.start) : null;
                })}
              </div>
            </div>
          )}
        </div>
      </div>
      {time && <Divider split={split} setSplit={props.setSplit} />}
      <div className="plan-bars">
        <div style={{ width: time ? split : "100%" }} onScroll={follow(".plan-slide")} aria-hidden="true">
          <div style={{ width }} />
        </div>
        {time && (
          <div
            ref={bars}
            style={{ flex: 1 }}
            onScroll={follow(".plan-slide-time")}
            aria-hidden="true"
            data-timescroll=""
          >
            <div style={{ width: timeWidth }} />
          </div>
        )}
      </div>
      {!open && <div className="plan-shut">{words.plan.readOnly}</div>}
      {lines.length === 0 && (
        <div className="plan-empty">{plan.sheet.data?.rows.size === 0 ? words.plan.empty : words.plan.noneSo}</div>
      )}
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
