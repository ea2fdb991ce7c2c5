import { memo, type PointerEvent, type ReactNode, type RefObject } from "react";
import { Soft } from "../ui";
import { words } from "../words";
import { SheetCell } from "./SheetCell";
import { cellKey, type Editing, INDENT, type SheetColumn, type SheetLine, type Trouble } from "./sheet";
import { cx } from "./style";
import type { Hands } from "./useSheet";

/** What can be done from a row, as it is now. Rows read it when something is done, so that they need no new one to be drawn. */
export interface Doing<R, C extends SheetColumn<R>> {
  hands: Hands<R, C>;
  drop: (line: string, writes: string) => void;
  take: (row: R, line: string, column: C, text: string, mine: boolean) => void;
  grip?: (event: PointerEvent<Element>, row: R) => void;
}

export interface RowProps<R, C extends SheetColumn<R>> {
  line: SheetLine<R>;
  index: number;
  top: number;
  template: string;
  columns: C[];
  /** The column of the cursor where it is on this row, else -1. */
  col: number;
  editing: Editing | null;
  /** The columns of the chosen block where this row is in it, else -1. */
  from: number;
  to: number;
  troubles: Record<string, Trouble>;
  waiting: Record<string, string>;
  /** Whether there is no room below for the sentence of a cell that was not written. */
  up: boolean;
  can: (row: R, column: C) => boolean;
  codeOf: (row: R) => string;
  nameOf: (row: R) => string;
  look?: (row: R) => string | undefined;
  folded: boolean;
  /** What stands before a row's name. */
  lead?: (line: SheetLine<R>, folded: boolean) => ReactNode;
  grip: boolean;
  /** Whether rows lie in one another. */
  tree: boolean;
  doing: RefObject<Doing<R, C>>;
}

function Row<R, C extends SheetColumn<R>>(props: RowProps<R, C>) {
  const { line, index, top, template, columns, col, editing, from, to, troubles, doing } = props;
  const here = col >= 0;
  const style = { transform: `translateY(${top}px)`, gridTemplateColumns: template };
  if (line.kind === "group")
    return (
      <div
        role="row"
        aria-rowindex={index + 2}
        className={cx("grid-row head", here && "here")}
        style={{ ...style, display: "flex", paddingLeft: 10 + (line.depth ?? 0) * INDENT }}
      >
        <span role="gridcell" id={`cell-${line.id}-${columns[Math.max(col, 0)]?.key}`}>
          {line.name} {line.count !== undefined && <Soft>{line.count}</Soft>}
        </span>
      </div>
    );
  const row = line.kind === "row" ? line.row : null;
  const code = row ? props.codeOf(row) : "draft";
  const name = row ? props.nameOf(row) : words.sheet.newRow;
  const troubled = row && columns.some((c) => c.writes && troubles[cellKey(line.id, c.writes)]);
  const classes = ["grid-row", here && "here", from >= 0 && "picked", row && props.look?.(row)];
  const choose = (c: number, extend: boolean, edit: boolean) => {
    const { hands } = doing.current;
    if (hands.editing && here && c === hands.col) return;
    hands.commit();
    hands.choose(index, c, extend);
    if (edit) hands.edit();
  };
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-level={props.tree ? line.depth + 1 : undefined}
      aria-selected={from >= 0 || here}
      aria-expanded={props.tree && line.kind === "row" && line.parts > 0 ? !props.folded : undefined}
      data-row={code}
      data-id={line.id}
      data-look={row ? props.look?.(row) : undefined}
      className={cx(...classes)}
      style={{ ...style, zIndex: troubled ? 6 : here ? 3 : undefined }}
    >
      {props.grip && row && (
        <span
          className={cx("sheet-grip")}
          aria-hidden="true"
          data-tip={words.sheet.grip}
          onPointerDown={(event) => doing.current.grip?.(event, row)}
        />
      )}
      {columns.map((column, c) => (
        <SheetCell
          key={column.key}
          line={line}
          column={column}
          code={code}
          name={name}
          can={row !== null && column.writes !== undefined && props.can(row, column)}
          at={c === col}
          inBlock={from >= 0 && c >= from && c <= to}
          editing={c === col ? editing : null}
          trouble={row && column.writes ? troubles[cellKey(line.id, column.writes)] : undefined}
          waiting={row && column.writes ? props.waiting[cellKey(line.id, column.writes)] : undefined}
          up={props.up}
          lead={column.tree ? props.lead?.(line, props.folded) : undefined}
          onText={(text) => doing.current.hands.setEditing((e) => (e ? { ...e, text } : e))}
          onLeave={() => doing.current.hands.commit()}
          onChoose={(extend, edit) => choose(c, extend, edit)}
          onDrop={() => column.writes && doing.current.drop(line.id, column.writes)}
          onTake={(text, mine) => row && doing.current.take(row, line.id, column, text, mine)}
        />
      ))}
    </div>
  );
}

/** One row of a sheet. Drawn again only when something of it changed, not whenever the cursor moves elsewhere. */
export const SheetRow = memo(Row) as typeof Row;
