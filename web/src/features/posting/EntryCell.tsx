import { words } from "../../shared";
import { shown } from "./cells";
import type { Editing } from "./useCursor";
import type { Field, Row, Trouble } from "./usePosting";

interface Props {
  row: Row;
  field: Field;
  index: number;
  here: boolean;
  open: boolean;
  editing: Editing | null;
  trouble?: Trouble;
  up: boolean;
  onText: (text: string) => void;
  onLeave: () => void;
  onChoose: (edit: boolean) => void;
  onDrop: () => void;
  onTake: (text: string, mine: boolean) => void;
}

const NAMES: Record<Field, string> = {
  actual_start: words.columns.actual_start,
  actual_finish: words.columns.actual_finish,
  percent: "Done %",
  remaining: words.columns.remaining,
  cost: words.columns.cost,
  note: words.columns.note,
};

/** One entry cell: its word, the editor over it, or what was typed with the reason that it was not written. */
export function EntryCell({
  row,
  field,
  index,
  here,
  open,
  editing,
  trouble,
  up,
  onText,
  onLeave,
  onChoose,
  onDrop,
  onTake,
}: Props) {
  const value = shown(row, field);
  const wrong = trouble !== undefined && !editing;
  const classes = [
    "cell entry",
    index === 0 && "first-entry",
    value.old && "old",
    !open && "dry",
    here && open && "cursor",
    wrong && "wrong",
    field === "note" && "left",
  ];
  return (
    <div
      role="gridcell"
      tabIndex={-1}
      id={`cell-${row.code}-${field}`}
      data-cell={`${row.code}:${field}`}
      className={classes.filter(Boolean).join(" ")}
      aria-label={wrong ? undefined : `${NAMES[field]}, ${row.name}: ${value.text || value.ask || "empty"}`}
      aria-invalid={wrong || undefined}
      title={value.title}
      onClick={() => onChoose(false)}
      onDoubleClick={() => onChoose(true)}
    >
      {editing ? (
        <input
          className={field === "note" ? "text" : undefined}
          aria-label={`${NAMES[field]}, ${row.name}`}
          value={editing.text}
          // biome-ignore lint/a11y/noAutofocus: typing has begun in this cell
          autoFocus
          onFocus={(e) => editing.inside && e.target.select()}
          onChange={(e) => onText(e.target.value)}
          onBlur={onLeave}
          onClick={(e) => e.stopPropagation()}
        />
      ) : (
        <span>
          {wrong ? trouble.text || "(cleared)" : value.ask ? <span className="ask">{value.ask}</span> : value.text}
        </span>
      )}
      {wrong && <TroubleNote trouble={trouble} up={up} onDrop={onDrop} onTake={onTake} />}
    </div>
  );
}

function TroubleNote({
  trouble,
  up,
  onDrop,
  onTake,
}: {
  trouble: Trouble;
  up: boolean;
  onDrop: () => void;
  onTake: Props["onTake"];
}) {
  const { stale, nearest } = trouble;
  return (
    <div className={up ? "trouble up" : "trouble"} role="alert" onClick={(e) => e.stopPropagation()}>
      {stale ? words.posting.stale(stale.by, stale.label) : trouble.message}
      <div>
        {stale && (
          <button type="button" className="link" onClick={() => onTake(trouble.text, true)}>
            {words.posting.mine}
          </button>
        )}
        {nearest && (
          <button type="button" className="link" onClick={() => onTake(nearest, false)}>
            {words.posting.take(nearest)}
          </button>
        )}
        <button type="button" className="link" onClick={onDrop}>
          {stale ? words.posting.theirs : "Leave it"}
        </button>
      </div>
    </div>
  );
}
