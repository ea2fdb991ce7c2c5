import { useId } from "react";
import { words } from "../../shared";
import type { Column } from "./columns";
import type { Line } from "./tree";
import type { Editing } from "./useHands";
import type { Trouble } from "./usePlan";

interface Props {
  line: Line;
  column: Column;
  at: boolean;
  inBlock: boolean;
  editing: Editing | null;
  trouble?: Trouble;
  up: boolean;
  open: boolean;
  folded: boolean;
  fold: (id: string, shut: boolean) => void;
  onText: (text: string) => void;
  onLeave: () => void;
  onChoose: (extend: boolean, edit: boolean) => void;
  onDrop: () => void;
  onTake: (text: string) => void;
}

/** How far each level stands in. */
export const INDENT = 16;

/** One cell of the plan sheet: its text, the editor over it, or what was typed with the reason it was not written. */
export function PlanCell(props: Props) {
  const { line, column, at, inBlock, editing, trouble, up, open, onText, onLeave, onChoose } = props;
  const list = useId();
  const row = line.kind === "row" ? line.row : null;
  const wrong = trouble !== undefined && !editing;
  const text = row ? column.text(row) : "";
  const name = column.key === "name";
  const depth = "depth" in line ? line.depth : 0;
  const wbsCell = row?.kind === "wbs" && !["code", "name", "weight"].includes(column.key);
  const classes = [
    "cell plan-cell",
    column.left && "left",
    column.writes && open && !wbsCell ? "can" : "soft-cell",
    at && "cursor",
    inBlock && "block",
    wrong && "wrong",
    row?.odd === "duration" && column.key === "duration" && "odd",
    row?.odd === "deadline" && column.key === "end" && "odd",
  ];
  return (
    <div
      role="gridcell"
      id={`plan-${line.id}-${column.key}`}
      data-cell={`${row?.code ?? "draft"}:${column.key}`}
      className={classes.filter(Boolean).join(" ")}
      title={(row && column.hint?.(row)) || (text.length > 12 ? text : undefined)}
      aria-label={wrong ? undefined : `${column.title}, ${row?.name || "new row"}: ${text || "empty"}`}
      aria-invalid={wrong || undefined}
      style={name ? { paddingLeft: 6 + depth * INDENT } : undefined}
      onMouseDown={(event) => {
        if (event.target instanceof HTMLInputElement || event.target instanceof HTMLButtonElement) return;
        onChoose(event.shiftKey, false);
      }}
      onDoubleClick={() => onChoose(false, true)}
    >
      {name && <Lead {...props} />}
      {editing ? (
        <>
          <input
            className={column.left ? "text" : undefined}
            style={name ? { left: 6 + depth * INDENT + 14, width: "auto", right: 0 } : undefined}
            aria-label={`${column.title}, ${row?.name || "new row"}`}
            value={editing.text}
            list={column.choices ? list : undefined}
            // biome-ignore lint/a11y/noAutofocus: typing has begun in this cell
            autoFocus
            onFocus={(e) => editing.inside && e.target.select()}
            onChange={(e) => onText(e.target.value)}
            onBlur={onLeave}
          />
          {column.choices && (
            <datalist id={list}>
              {column.choices.map((c) => (
                <option key={c} value={c} />
              ))}
            </datalist>
          )}
        </>
      ) : (
        <span className="plan-text">
          {wrong ? trouble.text || "(cleared)" : line.kind === "draft" && name ? words.plan.typeName : text}
        </span>
      )}
      {wrong && (
        <div className={up ? "trouble up" : "trouble"} role="alert">
          {trouble.message}
          <div>
            {trouble.nearest && (
              <button type="button" className="link" onClick={() => props.onTake(trouble.nearest ?? "")}>
                {words.posting.take(trouble.nearest)}
              </button>
            )}
            <button type="button" className="link" onClick={props.onDrop}>
              {words.plan.leaveIt}
            </button>
          </div>
        </div>
      )}
    </div>
  );
}

/** What stands before a name: the fold of an element, the pin of a milestone. */
function Lead({ line, folded, fold }: Props) {
  if (line.kind !== "row") return <i className="plan-lead" />;
  const { row, parts } = line;
  if (row.kind === "wbs")
    return (
      <button
        type="button"
        className="plan-lead"
        tabIndex={-1}
        aria-label={folded ? words.plan.unfold(row.name) : words.plan.foldRow(row.name)}
        onClick={() => fold(row.id, !folded)}
        disabled={parts === 0}
      >
        {parts === 0 ? "·" : folded ? "▸" : "▾"}
      </button>
    );
  if (row.kind === "milestone")
    return (
      <svg className="plan-lead" width="12" height="16" role="img" aria-label={words.plan.milestone}>
        <path d="M6 15V7" stroke="currentColor" strokeWidth="1.6" />
        <circle cx="6" cy="5" r="3.4" fill="currentColor" />
      </svg>
    );
  return <i className="plan-lead" />;
}
