import { type ReactNode, useCallback, useLayoutEffect, useMemo, useRef } from "react";
import { flushSync } from "react-dom";
import { asTyped } from "../formats";
import { Button } from "../ui";
import { useAtOnce } from "../useWhenever";
import { words } from "../words";
import { Sheet } from "./Sheet";
import type { SheetColumn, Trouble } from "./sheet";
import { cx } from "./style";
import { type Begin, isBegun, type ListRow, nameNow, type Typed, useBegun } from "./useBegun";
import { useSheet, type Write } from "./useSheet";

export interface ListColumn
  extends Pick<
    SheetColumn<ListRow>,
    "key" | "title" | "label" | "width" | "left" | "grow" | "needed" | "unique" | "kind" | "choices"
  > {
  /** Absent: the word for what is kept. */
  text?: (row: ListRow) => string;
  /** What can be chosen: what is kept, and the word for it. */
  options?: [value: string, word: string][];
  /** What is expected, said in the row that is begun. */
  hint?: string;
  /** Read, never typed. */
  fixed?: boolean;
  /** What is drawn in the place of its text, of rows that are there. */
  draw?: (row: ListRow) => ReactNode;
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
  /** How a row is begun in the empty one at the foot. */
  begin?: Begin;
  remove?: (rows: ListRow[]) => void;
  troubles: Record<string, Trouble>;
  waiting: Record<string, string>;
  drop: (line: string, writes: string) => void;
  /** The row, by its code, and the column that the cursor is taken to, once for each that is given. */
  seek?: { code: string; key?: string } | null;
  /** Told the row that the cursor stands on. */
  stand?: (row: ListRow | null) => void;
  /** How many lines are shown before it scrolls. */
  most?: number;
}

const codeOf = (row: ListRow) => row.cells.code || row.id;
const lineOf = (row: ListRow) => ({ kind: "row" as const, id: row.id, row, depth: 0, parts: 0 });
const MOST = 14;

/** A list that is worked in as a sheet: its last row is empty, and typing there begins the next one. */
export function ListSheet(props: Props) {
  return <List key={`${props.of}:${props.label}`} {...props} />;
}

function List(props: Props) {
  const { rows, open, begin, remove, write, label } = props;
  const box = useRef<HTMLDivElement>(null);
  const entered = useRef(false);
  const begins = open && begin !== undefined;
  /** What is chosen, not typed, is mostly the same in the next row. */
  const stays = (cells: Record<string, string>) =>
    Object.fromEntries(props.columns.flatMap((c) => (c.options && cells[c.key] ? [[c.key, cells[c.key] ?? ""]] : [])));
  const begun = useBegun(`${props.of}:${label}`, begin, stays);
  const drop = useRef(remove);
  drop.current = remove;
  const removes = open && remove !== undefined;
  const start = begin?.start;
  const columns = useMemo((): SheetColumn<ListRow>[] => {
    const own = props.columns.map(({ options, hint, fixed, draw, ...c }): SheetColumn<ListRow> => {
      const word = (value = "") => options?.find(([v]) => v === value)?.[1] ?? value;
      const kept = (r: ListRow) => {
        const text = word(r.cells[c.key]);
        return c.kind === "number" ? asTyped(text) : text;
      };
      return {
        ...c,
        // What is begun stands as it was typed.
        text: (r) => (isBegun(r) && !options ? (r.cells[c.key] ?? "") : (c.text ?? kept)(r)),
        writes: fixed ? undefined : c.key,
        choices: options?.map(([, w]) => w) ?? c.choices,
        draw: (r) => {
          if (!isBegun(r)) return draw?.(r) ?? null;
          if (r.cells[c.key]) return null;
          const lacks = c.needed && Object.entries(r.cells).some(([k, v]) => v.trim() && v !== start?.[k]);
          const expected = lacks ? words.sheet.lacks : hint && asTyped(hint);
          return expected ? <span className={cx("text hint", lacks && "lacks")} data-hint={expected} /> : null;
        },
      };
    });
    if (!removes) return own;
    const out: SheetColumn<ListRow> = {
      key: "out",
      title: "",
      label: words.sheet.out,
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
  }, [props.columns, props.name, removes, start]);
  const known = new Set(rows.map((row) => row.id));
  /** Those that were begun and are rows of the list now: they give way to these. */
  const settled = begun.rows.filter((row) => row.made !== undefined && known.has(row.made));
  const under = new Set(settled.map((row) => row.made));
  const lines = [...rows.filter((row) => !under.has(row.id)), ...(begins ? begun.rows : [])].map(lineOf);
  const can = useCallback((_: ListRow, c: SheetColumn<ListRow>) => open && c.writes !== undefined, [open]);
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
    const own = typed.filter((c) => !isBegun({ id: c.row }));
    if (own.length) write(own, mine);
    const filled: Typed = new Map();
    for (const { row, field, text } of typed)
      if (isBegun({ id: row })) filled.set(row, { ...filled.get(row), [field]: text });
    if (!filled.size) return;
    const next = begun.fill(filled);
    // After the step that Enter makes, and drawn before another key can come: else that key is lost.
    if (entered.current && next) queueMicrotask(() => flushSync(() => hands.goTo(next.id, columns[0]?.key)));
  };
  const hands = useSheet<ListRow, SheetColumn<ListRow>>({
    lines,
    columns,
    can,
    write: put,
    troubles: props.troubles,
    waiting: props.waiting,
    drop: props.drop,
    nameNow,
    more: begins ? (n) => begun.more(n).map(lineOf) : undefined,
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
  const { seek } = props;
  useAtOnce([seek], () => {
    const found = seek && rows.find((row) => codeOf(row) === seek.code);
    if (found) hands.goTo(found.id, seek.key);
  });
  useLayoutEffect(() => {
    if (!settled.length) return;
    const late = begun.settle(known);
    if (late.length) write(late, false);
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
