import { type ReactNode, useId } from "react";
import { Button } from "../ui";
import { words } from "../words";
import { type Editing, INDENT, type SheetColumn, type SheetLine, type Trouble } from "./sheet";
import { cx } from "./style";

interface Props<R> {
  line: SheetLine<R>;
  column: SheetColumn<R>;
  code: string;
  name: string;
  /** Whether typing writes this cell. */
  can: boolean;
  at: boolean;
  inBlock: boolean;
  editing: Editing | null;
  trouble?: Trouble;
  waiting?: string;
  up: boolean;
  lead?: ReactNode;
  onText: (text: string) => void;
  onLeave: () => void;
  onChoose: (extend: boolean, edit: boolean) => void;
  onDrop: () => void;
  onTake: (text: string, mine: boolean) => void;
}

/** One cell of a sheet: its text, the editor over it, or what was typed with the reason it was not written. */
export function SheetCell<R>(props: Props<R>) {
  const { line, column, can, at, inBlock, editing, trouble, lead, onText, onLeave, onChoose } = props;
  const list = useId();
  const row = line.kind === "row" ? line.row : null;
  const wrong = trouble !== undefined && !editing;
  const text = props.waiting ?? (row ? column.text(row) : "");
  const inset = column.tree ? 6 + (line.depth ?? 0) * INDENT : 0;
  const title = column.title.replace("\n", " ");
  const assumed = row && props.waiting === undefined && column.assumed?.(row);
  const classes = [
    "cell",
    column.left && "left",
    column.pin && `pin-${column.pin}`,
    can && "can",
    row && column.look?.(row),
    at && "cursor",
    inBlock && "block",
    assumed && "assumed",
    wrong && "wrong",
    props.waiting !== undefined && "waiting",
  ];
  const choices = typeof column.choices === "function" ? row && column.choices(row) : column.choices;
  const drawn = row && column.draw && !wrong && props.waiting === undefined ? column.draw(row) : null;
  return (
    <div
      role="gridcell"
      id={`cell-${line.id}-${column.key}`}
      data-at={at ? "" : undefined}
      data-free={column.left ? "" : undefined}
      data-cell={`${props.code}:${column.key}`}
      className={cx(...classes)}
      data-tip={(assumed ? words.sheet.assumedWhy : row && column.hint?.(row)) || (text.length > 9 ? text : undefined)}
      aria-label={wrong ? undefined : words.sheet.cell(title, props.name, assumed ? words.sheet.assumed(text) : text)}
      aria-invalid={wrong || undefined}
      aria-readonly={!can || undefined}
      style={inset ? { paddingLeft: inset } : undefined}
      onMouseDown={(event) => {
        if (event.target instanceof Element && event.target.closest("input, button, [role=alert]")) return;
        onChoose(event.shiftKey, false);
      }}
      onDoubleClick={() => onChoose(false, true)}
    >
      {lead}
      {editing ? (
        <>
          <input
            className={cx(column.left && "text")}
            style={inset ? { left: inset + 14, width: "auto", right: 0 } : undefined}
            aria-label={`${title}, ${props.name}`}
            value={editing.text}
            list={choices ? list : undefined}
            // biome-ignore lint/a11y/noAutofocus: typing has begun in this cell
            autoFocus
            onFocus={(e) => editing.inside && e.target.select()}
            onChange={(e) => onText(e.target.value)}
            onBlur={onLeave}
          />
          {choices && (
            <datalist id={list}>
              {choices.map((c) => (
                <option key={c} value={c} />
              ))}
            </datalist>
          )}
        </>
      ) : (
        (drawn ?? (
          <span className={cx("text")}>
            {wrong
              ? trouble.text || words.sheet.cleared
              : line.kind === "draft" && column.tree
                ? words.sheet.typeName
                : text}
          </span>
        ))
      )}
      {wrong && <TroubleNote {...props} trouble={trouble} />}
    </div>
  );
}

/** Why a cell was not written, and what can be done about it. */
function TroubleNote<R>({ trouble, up, onDrop, onTake }: Props<R> & { trouble: Trouble }) {
  const { stale, nearest } = trouble;
  return (
    <div className={cx("trouble", up && "up")} role="alert">
      {stale ? words.sheet.stale(stale.by, stale.label) : trouble.message}
      <div>
        {stale && (
          <Button look="link" onClick={() => onTake(trouble.text, true)}>
            {words.sheet.mine}
          </Button>
        )}
        {nearest && (
          <Button look="link" onClick={() => onTake(nearest, false)}>
            {words.sheet.take(nearest)}
          </Button>
        )}
        <Button look="link" onClick={onDrop}>
          {stale ? words.sheet.theirs : words.sheet.discard}
        </Button>
      </div>
    </div>
  );
}
