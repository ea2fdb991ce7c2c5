import { memo, type RefObject } from "react";
import { words } from "../../shared";
import type { Column } from "./columns";
import { PlanCell } from "./PlanCell";
import type { Line } from "./tree";
import type { Editing, Hands } from "./useHands";
import type { useMoving } from "./useMoving";
import type { PlanHandle, Trouble } from "./usePlan";

/** What can be done from a row, as it is now. Rows read it when something is done, so that they need no new one to be drawn. */
export interface Doing {
  hands: Hands;
  plan: PlanHandle;
  fold: (id: string, shut: boolean) => void;
  take: ReturnType<typeof useMoving>["take"];
}

interface Props {
  line: Line;
  index: number;
  top: number;
  template: string;
  columns: Column[];
  /** The column of the cursor where it is on this row, else -1. */
  col: number;
  editing: Editing | null;
  /** The columns of the chosen block where this row is in it, else -1. */
  from: number;
  to: number;
  troubles: Record<string, Trouble>;
  /** Whether there is no room below for the sentence of a cell that was not written. */
  up: boolean;
  open: boolean;
  folded: boolean;
  grip: boolean;
  doing: RefObject<Doing>;
}

/** One row of the sheet. Drawn again only when something of it changed, not whenever the cursor moves elsewhere. */
export const PlanRow = memo(function PlanRow(props: Props) {
  const { line, index, top, template, columns, col, editing, from, to, troubles, up, open, folded, doing } = props;
  const here = col >= 0;
  const style = { transform: `translateY(${top}px)`, gridTemplateColumns: template };
  if (line.kind === "group")
    return (
      <div role="row" className={here ? "grid-row head here" : "grid-row head"} style={{ ...style, display: "flex" }}>
        <span role="gridcell">
          {line.name} <span className="soft-text">{line.count}</span>
        </span>
      </div>
    );
  const row = line.kind === "row" ? line.row : null;
  const troubled = row && columns.some((c) => c.writes && troubles[`${row.id}:${c.writes}`]);
  const classes = [
    "grid-row plan-row",
    here && "here",
    from >= 0 && "picked",
    row?.kind === "wbs" && "wbs",
    row?.pending && "pending",
  ];
  const choose = (c: number, extend: boolean, edit: boolean) => {
    const { hands } = doing.current;
    if (hands.editing && here && c === hands.col) return;
    hands.commit();
    hands.go(index, c, extend);
    if (edit) hands.edit();
  };
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-level={line.depth + 1}
      aria-selected={from >= 0 || here}
      aria-expanded={row?.kind === "wbs" ? !folded : undefined}
      data-row={row?.code ?? "draft"}
      data-id={line.id}
      className={classes.filter(Boolean).join(" ")}
      style={{ ...style, zIndex: troubled ? 6 : here ? 3 : undefined }}
    >
      {props.grip && row && !row.pending && (
        <span
          className="plan-grip"
          aria-hidden="true"
          title={words.plan.grip}
          onPointerDown={(event) => doing.current.take(event, row)}
        />
      )}
      {columns.map((column, c) => (
        <PlanCell
          key={column.key}
          line={line}
          column={column}
          at={c === col}
          inBlock={from >= 0 && c >= from && c <= to}
          editing={c === col ? editing : null}
          trouble={row && column.writes ? troubles[`${row.id}:${column.writes}`] : undefined}
          up={up}
          open={open}
          folded={folded}
          fold={(id, shut) => doing.current.fold(id, shut)}
          onText={(text) => doing.current.hands.setEditing((e) => (e ? { ...e, text } : e))}
          onLeave={() => doing.current.hands.commit()}
          onChoose={(extend, edit) => choose(c, extend, edit)}
          onDrop={() => row && column.writes && doing.current.plan.drop(row.id, column.writes)}
          onTake={(text) => row && column.writes && doing.current.hands.write([row], column.writes, text)}
        />
      ))}
    </div>
  );
});
