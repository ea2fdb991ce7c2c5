import { words } from "../words";
import type { SheetColumn } from "./sheet";
import { cx } from "./style";

interface Props<R> {
  column: SheetColumn<R>;
  at: boolean;
  sort?: string;
  onSort?: (key: string) => void;
  resize?: (key: string, width: number) => void;
}

/** The heading of a column: sorts by it, and its edge is dragged to size it. */
export function Heading<R>({ column, at, sort, onSort, resize }: Props<R>) {
  const sorted = sort === column.key ? "ascending" : sort === `-${column.key}` ? "descending" : "none";
  const title = column.title.replace("\n", " ");
  const classes = [
    "sheet-th",
    column.left && "left",
    column.pin && `pin-${column.pin}`,
    column.writes && "can",
    at && "cursor",
  ];
  /** What it is called where it has no title. */
  const name = title || (column.label ?? words.sheet.mark);
  return (
    <span
      role="columnheader"
      id={`head-${column.key}`}
      aria-sort={onSort ? sorted : undefined}
      aria-label={name}
      className={cx(...classes)}
    >
      {onSort ? (
        <button
          type="button"
          tabIndex={-1}
          onClick={() => onSort(column.key)}
          aria-label={column.title ? undefined : name}
          data-tip={words.sheet.sortBy(name)}
        >
          {column.title}
          {sorted !== "none" && (sorted === "ascending" ? " ↑" : " ↓")}
        </button>
      ) : (
        column.title
      )}
      {resize && (
        <i
          className={cx("sheet-edge")}
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
      )}
    </span>
  );
}
