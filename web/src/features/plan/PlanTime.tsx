import { memo, useMemo } from "react";
import type { Schemas } from "../../api";
import { format } from "../../shared";
import {
  type Axis,
  BarDrawing,
  Consequence,
  DoubleRule,
  Ghost,
  HANDLES,
  TIME_ROW as HEIGHT,
  HeldPause,
  TimeLine,
} from "../../shared/time";
import { words } from "../../shared/words/plan";
import { sayOver } from "./resources/saying";
import type { Row } from "./row";
import type { Line } from "./tree";
import type { DragHandle } from "./useDrag";
import type { Effect } from "./usePlan";
import { type Drag, pauseDays } from "./verbs";

const TOP = 5;
const DEPTH = 11;
const ink = (name: string) => `var(--chakra-colors-${name})`;

const NO_OTHERS = {};

const barOf = (r: Row): Schemas["Bar"] => ({
  code: r.code,
  name: r.name,
  wbs: null,
  kind: r.kind,
  state: r.state,
  mark: "",
  start: r.start ?? "",
  finish: r.finish ?? "",
  worked_to: r.worked_to,
  resume: r.resume,
  base_start: r.base_start,
  base_finish: r.base_finish,
  late_days: r.late,
  float_to: r.float_to,
  driving: r.driving,
  drivers: [],
  pauses: r.pauses,
  percent: r.percent,
  out_of_sequence: false,
  others: NO_OTHERS,
});

interface TimeProps {
  row: Row;
  top: number;
  axis: Axis;
  open: boolean;
  /** What is being done to this row. */
  drag: Drag | null;
  /** How the row would look when what is being done is let go. */
  change: Record<string, unknown> | undefined;
  down: DragHandle["down"];
}

/** The timeline's part of one row, with the handles that dragging takes hold of. Drawn again only where it changed. */
export const TimeRow = memo(function TimeRow(props: TimeProps) {
  return <TimeLine top={props.top}>{props.row.start && props.row.finish && <TimeBar {...props} />}</TimeLine>;
});

function TimeBar({ row, axis, open, drag: moving, change, down }: TimeProps) {
  const a = axis.x(row.start ?? "");
  const b = Math.max(axis.x(row.finish ?? ""), a + 3);
  if (row.kind === "wbs")
    return (
      <svg width={axis.width} height={HEIGHT} role="img" aria-label={spanOf(row)}>
        <DoubleRule from={a} to={b} />
      </svg>
    );
  const ghost = change && (change.start || change.finish) ? { ...row, ...change } : null;
  return (
    <svg
      width={axis.width}
      height={HEIGHT}
      role="img"
      aria-label={spanOf(row)}
      data-time={row.id}
      data-mid={(a + b) / 2}
      data-bar={row.code}
    >
      <BarDrawing bar={barOf(row)} axis={axis} />
      {ghost?.start && ghost.finish && <Ghost from={axis.x(ghost.start)} to={axis.x(ghost.finish)} />}
      {moving?.pause && <HeldPause from={moving.from} to={moving.to} says={sayPause(axis, moving)} />}
      {open && !row.pending && <Handles row={row} a={a} b={b} down={down} />}
    </svg>
  );
}

const sayPause = (axis: Axis, { from, to }: Drag) => {
  const [first, last] = pauseDays(axis, from, to);
  return words.time.pause(format.day(first), format.day(last));
};

function Handles({ row, a, b, down }: { row: Row; a: number; b: number; down: DragHandle["down"] }) {
  const free = row.state === "not_started";
  return (
    <g>
      {free && (
        <rect
          x={a - 2}
          y={0}
          width={b - a + 4}
          height={HEIGHT}
          fill="transparent"
          className={HANDLES.grab}
          data-handle="body"
          data-tip={words.time.pauseHow}
          onPointerDown={(e) => down(e, row, "body")}
        />
      )}
      {free && row.kind !== "milestone" && (
        <rect
          x={b - 4}
          y={TOP - 3}
          width={9}
          height={DEPTH + 6}
          fill="transparent"
          className={HANDLES.stretch}
          data-handle="finish"
          onPointerDown={(e) => down(e, row, "finish")}
        />
      )}
      {(["start", "finish"] as const).map((end) => (
        <circle
          key={end}
          cx={end === "start" ? a - 8 : b + 9}
          cy={TOP + DEPTH / 2}
          r={4}
          className={HANDLES.tie}
          data-handle={`tie-${end}`}
          onPointerDown={(e) => down(e, row, `tie-${end}`)}
        />
      ))}
    </g>
  );
}

const centre = (i: number) => i * HEIGHT + TOP + DEPTH / 2;

function pathsOf(lines: Line[], place: Map<string, number>, chosen: Row | null, axis: Axis): string[] {
  if (!chosen) return [];
  const paths: string[] = [];
  const row = (id: string) => {
    const l = lines[place.get(id) ?? -1];
    return l?.kind === "row" ? l.row : null;
  };
  const add = (source: Row, target: Row, type: string) => {
    const [i, j] = [place.get(source.id), place.get(target.id)];
    if (i === undefined || j === undefined || !source.finish || !target.finish || !source.start || !target.start)
      return;
    const x1 = axis.x(type.startsWith("F") ? source.finish : source.start);
    const x2 = axis.x(type.endsWith("S") ? target.start : target.finish);
    const bend = Math.max(10, Math.abs(x2 - x1) / 3);
    paths.push(`M${x1} ${centre(i)}C${x1 + bend} ${centre(i)} ${x2 - bend} ${centre(j)} ${x2} ${centre(j)}`);
  };
  for (const link of chosen.links) {
    const [id = "", type = "FS"] = link.split(":");
    const source = row(id);
    if (source) add(source, chosen, type);
  }
  for (const l of lines)
    if (l.kind === "row")
      for (const link of l.row.links)
        if (link.startsWith(`${chosen.id}:`)) add(chosen, l.row, link.split(":")[1] ?? "FS");
  return paths;
}

/** The lines of the chosen row's links to the rows around it, and the link being drawn. */
export function Ties({
  lines,
  chosen,
  axis,
  drag,
}: {
  lines: Line[];
  chosen: Row | null;
  axis: Axis;
  drag: Drag | null;
}) {
  const place = useMemo(() => new Map(lines.map((l, i) => [l.id, i])), [lines]);
  const paths = useMemo(() => pathsOf(lines, place, chosen, axis), [lines, place, chosen, axis]);
  return (
    <svg className={HANDLES.ties} width={axis.width} height={lines.length * HEIGHT} aria-hidden="true">
      {paths.map((d) => (
        <path key={d} d={d} fill="none" stroke={ink("soft")} strokeWidth={1.2} />
      ))}
      {drag?.part.startsWith("tie") && (
        <path
          d={`M${drag.from} ${centre(place.get(drag.row.id) ?? 0)}L${drag.to} ${drag.y}`}
          stroke={ink("wet")}
          strokeWidth={1.6}
          strokeDasharray="4 3"
        />
      )}
    </svg>
  );
}

/** What letting go would do, said while dragging. */
export function WhatItMoves({ effect, problem, drag }: { effect: Effect | null; problem: string | null; drag: Drag }) {
  return (
    <Consequence bad={problem !== null}>
      {problem ?? (effect ? sayEffect(effect) : words.plan.dragHint(drag.part, drag.row.name))}
    </Consequence>
  );
}

export const sayEffect = (e: Effect) => {
  const finish =
    e.finish === e.finish_before
      ? words.plan.finishStays(format.fullDay(e.finish))
      : words.plan.finishMoves(format.fullDay(e.finish_before), format.fullDay(e.finish));
  const over = e.over.length ? ` ${sayOver(e.over)}` : "";
  return `${e.label.charAt(0).toUpperCase()}${e.label.slice(1)}. ${words.plan.moves(e.moved_count)} ${finish}${over}`;
};

const spanOf = (r: Row) => `${r.name}: ${format.fullDay(r.start)} to ${format.fullDay(r.finish)}`;
