import { useCallback, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { Button } from "../ui";
import { words } from "../words";
import { Sheet } from "./Sheet";
import type { SheetColumn, SheetLine, Trouble } from "./sheet";
import { cx } from "./style";
import { useSheet, type Write } from "./useSheet";

/** A row of a list: its values as they are kept, by column. */
export interface ListRow {
  id: string;
  cells: Record<string, string>;
}

export interface ListColumn
  extends Pick<SheetColumn<ListRow>, "key" | "title" | "width" | "left" | "grow" | "needed" | "unique"> {
  /** Absent: the word for what is kept. */
  text?: (row: ListRow) => string;
  /** What can be chosen: what is kept, and the word for it. */
  options?: [value: string, word: string][];
  /** What is expected, said in the row that is begun. */
  hint?: string;
  /** Read, never typed. */
  fixed?: boolean;
}

/** A value that was typed into a cell of a list. */
export interface ListWrite {
  row: string;
  field: string;
  text: string;
}

interface Props {
  label: string;
  /** Of what it is a list: what was begun in one is not shown in another. */
  of: string;
  rows: ListRow[];
  columns: ListColumn[];
  open: boolean;
  /** The column that names a row. */
  name: string;
  write: (cells: ListWrite[], mine: boolean) => void;
  /** How a row is begun in the empty one at the foot: what it starts with, and what it needs before it is made. */
  begin?: {
    start?: Record<string, string>;
    needs: string[];
    /** Makes it; the row that was begun stays until this is answered, or goes at once where it gives nothing to wait for. */
    add: (cells: Record<string, string>, line: string) => Promise<unknown> | null;
  };
  remove?: (rows: ListRow[]) => void;
  troubles: Record<string, Trouble>;
  waiting: Record<string, string>;
  drop: (line: string, writes: string) => void;
  /** Told the row that the cursor stands on. */
  stand?: (row: ListRow | null) => void;
  /** How many lines are shown before it scrolls. */
  most?: number;
}

type Begun = ListRow & { sent?: boolean };

let count = 0;
const fresh = (cells: Record<string, string> = {}): Begun => ({ id: `begun${++count}`, cells });
const codeOf = (row: ListRow) => row.cells.code || row.id;
/** What was begun and not made, by the list: it is there again when one comes back. */
const kept = new Map<string, Begun[]>();
const MOST = 14;

/** A list that is worked in as a sheet: its last row is empty, and typing there begins the next one. */
export function ListSheet(props: Props) {
  const { rows, open, begin, remove, write, label } = props;
  const box = useRef<HTMLDivElement>(null);
  const entered = useRef(false);
  const place = `${props.of}:${label}`;
  const [begun, keepBegun] = useState<Begun[]>(() => kept.get(place) ?? [fresh(begin?.start)]);
  const setBegun = (change: (now: Begun[]) => Begun[]) =>
    keepBegun((now) => {
      const next = change(now);
      kept.set(place, next);
      return next;
    });
  const needs = begin?.needs;
  const begins = open && begin !== undefined;
  const isBegun = useCallback((row: ListRow) => row.id.startsWith("begun"), []);
  const drop = useRef(remove);
  drop.current = remove;
  const removes = open && remove !== undefined;
  const columns = useMemo((): SheetColumn<ListRow>[] => {
    const own = props.columns.map(({ options, hint, fixed, ...c }): SheetColumn<ListRow> => {
      const word = (value = "") => options?.find(([v]) => v === value)?.[1] ?? value;
      const text = c.text ?? ((r: ListRow) => word(r.cells[c.key]));
      return {
        ...c,
        text,
        writes: fixed ? undefined : c.key,
        choices: options?.map(([, w]) => w),
        draw: (r) =>
          isBegun(r) && !r.cells[c.key] && hint ? <span className={cx("text hint")} data-hint={hint} /> : null,
      };
    });
    if (!removes) return own;
    const out: SheetColumn<ListRow> = {
      key: "out",
      title: "",
      width: 34,
      text: () => "",
      draw: (r) =>
        isBegun(r) ? null : (
          <Button
            look="quiet"
            tabIndex={-1}
            aria-label={words.sheet.remove(r.cells[props.name] ?? "")}
            onClick={() => drop.current?.([r])}
          >
            ×
          </Button>
        ),
    };
    return [...own, out];
  }, [props.columns, props.name, removes, isBegun]);
  const lines = useMemo(
    () =>
      [...rows, ...(begins ? begun : [])].map(
        (row): SheetLine<ListRow> => ({ kind: "row", id: row.id, row, depth: 0, parts: 0 }),
      ),
    [rows, begun, begins],
  );
  const can = useCallback(
    (row: ListRow, c: SheetColumn<ListRow>) => open && c.writes !== undefined && !(row as Begun).sent,
    [open],
  );
  const keptAs = (field: string, text: string) => {
    const options = props.columns.find((c) => c.key === field)?.options;
    const typed = text.trim().toLowerCase();
    return options?.find(([v, w]) => w.toLowerCase() === typed || v.toLowerCase() === typed)?.[0] ?? text;
  };
  const put = (cells: Write<ListRow, SheetColumn<ListRow>>[], mine = false) => {
    const typed = cells.map(({ row, column, text }) => {
      const field = column.writes ?? "";
      return { row: row.id, field, text: keptAs(field, text) };
    });
    const own = typed.filter((c) => !c.row.startsWith("begun"));
    if (own.length) write(own, mine);
    const cellsOf = new Map<string, Record<string, string>>();
    for (const { row, field, text } of typed)
      if (row.startsWith("begun")) cellsOf.set(row, { ...cellsOf.get(row), [field]: text });
    for (const [id, of] of cellsOf) fill(id, of);
  };
  /** Fills a row that is being begun; once it has what it needs it is made, and the next can be begun. */
  const fill = (id: string, typed: Record<string, string>) => {
    const was = begun.find((b) => b.id === id);
    if (!was || !begin) return;
    const cells = { ...was.cells, ...typed };
    if (!needs?.every((k) => cells[k]?.trim())) {
      setBegun((now) => now.map((b) => (b.id === id ? { ...b, cells } : b)));
      return;
    }
    const next = fresh({ ...begin.start, ...staying(cells) });
    const gone = begin.add(cells, id);
    const last = begun.at(-1)?.id === id;
    setBegun((now) => [
      ...now.flatMap((b) => (b.id !== id ? [b] : gone ? [{ id, cells, sent: true }] : [])),
      ...(last ? [next] : []),
    ]);
    gone?.then((done) =>
      setBegun((now) => now.flatMap((b) => (b.id !== id ? [b] : done === null ? [{ id, cells }] : []))),
    );
    // After the step that Enter makes, and drawn before another key can come: else that key is lost.
    if (entered.current && last) queueMicrotask(() => flushSync(() => hands.goTo(next.id, columns[0]?.key)));
  };
  /** What is chosen, not typed, is mostly the same in the next row. */
  const staying = (cells: Record<string, string>) =>
    Object.fromEntries(props.columns.flatMap((c) => (c.options && cells[c.key] ? [[c.key, cells[c.key] ?? ""]] : [])));
  const hands = useSheet<ListRow, SheetColumn<ListRow>>({
    lines,
    columns,
    can,
    write: put,
    troubles: props.troubles,
    waiting: props.waiting,
    drop: props.drop,
    own: {
      keys: (event) => {
        entered.current = event.key === "Enter" && hands.editing !== null;
        const mod = event.ctrlKey || event.metaKey;
        if (!removes || hands.editing || !mod || (event.key !== "Delete" && event.key !== "Backspace")) return false;
        const picked = hands.picked.filter((r) => !isBegun(r));
        if (picked.length) drop.current?.(picked);
        return true;
      },
    },
  });
  const stand = useRef(props.stand);
  stand.current = props.stand;
  const tell = (row: ListRow | null) => stand.current?.(row && !isBegun(row) ? row : null);
  return (
    <Sheet
      label={label}
      box={box}
      lines={lines}
      columns={columns}
      hands={hands}
      troubles={props.troubles}
      waiting={props.waiting}
      drop={props.drop}
      take={(row, line, column, text, mine) => put([{ row, line, column, text }], mine)}
      can={can}
      codeOf={codeOf}
      nameOf={(row) => row.cells[props.name] || words.sheet.newRow}
      fit={props.most ?? MOST}
      stand={tell}
    />
  );
}
