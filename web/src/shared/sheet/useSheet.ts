import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from "react";
import { blockOf, copied, plainText, textOf } from "./clipboard";
import { cellKey, type Editing, type SheetColumn, type SheetLine, type Trouble, typedOf } from "./sheet";

/** One cell to be written. */
export interface Write<R, C> {
  row: R;
  line: string;
  column: C;
  text: string;
}

interface Given<R, C> {
  lines: SheetLine<R>[];
  columns: C[];
  /** Whether a cell of a row can be written. */
  can: (row: R, column: C) => boolean;
  /** Writes cells as one step; the first is the one that a refusal stands beside. */
  write: (cells: Write<R, C>[]) => void;
  troubles: Record<string, Trouble>;
  /** What was typed and is not answered yet: it counts already. */
  waiting: Record<string, string>;
  drop: (line: string, writes: string) => void;
  /** The name that a line has now, where it was begun under another. */
  nameNow?: (id: string) => string | undefined;
  /** More lines at the foot, for a block that is longer than what is left of the sheet. */
  more?: (n: number) => Extract<SheetLine<R>, { kind: "row" }>[];
  /** The column that the cursor stands in to begin with. */
  first?: string;
  /** Keys and pastes of the room's own, asked first; true where it took them. */
  own?: {
    keys?: (event: KeyboardEvent) => boolean;
    paste?: (text: string) => boolean;
    leave?: () => void;
    edit?: (text?: string) => boolean;
    commit?: (text: string) => boolean;
  };
  /** Sorting and sizing from the keyboard, with the cursor on a heading. */
  onSort?: (key: string) => void;
  resize?: (key: string, width: number) => void;
}

const PAGE = 16;
const STEP = 12;
const STEPS: Record<string, [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageDown: [PAGE, 0],
  PageUp: [-PAGE, 0],
};
/** Characters that are shortcuts of the frame: typing them on a cell begins no entry. */
const FRAME_KEYS = "[]?/";
const HEAD = -1;

/** Whether a modifier is held that makes a key a command; AltGr only makes another character. */
const commands = (event: KeyboardEvent) => (event.ctrlKey || event.metaKey) && !event.getModifierState("AltGraph");

/** The cursor of a sheet and what the keys do: a spreadsheet's hands, the same on every sheet. */
export function useSheet<R, C extends SheetColumn<R>>(given: Given<R, C>) {
  const { lines, columns, can, troubles, own } = given;
  const [at, setAt] = useState(() => ({
    id: "",
    row: 0,
    col: Math.max(
      0,
      columns.findIndex((c) => c.key === given.first),
    ),
  }));
  const [anchor, setAnchor] = useState<{ row: number; col: number } | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  /** The column in which a row of Tabs began: Enter returns there. */
  const origin = useRef<number | null>(null);
  /** Escape was pressed last: Tab leaves the sheet. */
  const leaving = useRef(false);

  const last = Math.max(lines.length - 1, 0);
  const inHead = at.row === HEAD;
  // The cursor stays on its row when rows come and go above it.
  const there = inHead ? HEAD : lines.findIndex((l) => l.id === at.id);
  const now = there < 0 ? given.nameNow?.(at.id) : undefined;
  const found = now === undefined ? there : lines.findIndex((l) => l.id === now);
  // To begin with it stands on the first row that can be worked in, not on a heading.
  const first = at.id ? -1 : lines.findIndex((l) => l.kind === "row");
  const row = found >= 0 ? found : at.row === 0 && first > 0 ? first : Math.max(0, Math.min(at.row, last));
  const col = Math.max(0, Math.min(at.col, columns.length - 1));
  const line = inHead ? undefined : lines[row];
  const column = columns[col];
  const here = line?.kind === "row" ? line.row : null;
  const from = anchor && !inHead ? anchor : { row, col };
  const [low, high] = [Math.min(from.row, row), Math.min(Math.max(from.row, row), last)];
  const [left, right] = [Math.min(from.col, col), Math.max(from.col, col)];
  const pickedLines = inHead ? [] : lines.slice(low, high + 1);
  const picked = pickedLines.flatMap((l) => (l.kind === "row" ? [l.row] : []));
  const chosen = columns.slice(left, right + 1);

  const place = (r: number, c: number) => {
    const toHead = r < 0 && (given.onSort || given.resize) !== undefined;
    const next = toHead ? HEAD : Math.max(0, Math.min(last, r));
    setAt({ id: toHead ? "" : (lines[next]?.id ?? ""), row: next, col: Math.max(0, Math.min(columns.length - 1, c)) });
    setEditing(null);
    if (lines[next]?.kind !== "draft") own?.leave?.();
  };
  const go = (r: number, c: number, extend = false) => {
    setAnchor(extend ? { row: from.row, col: from.col } : null);
    place(extend ? Math.max(r, 0) : r, c);
  };
  const choose = (r: number, c: number, extend = false) => {
    origin.current = null;
    go(r, c, extend);
  };
  /** Goes to a line that may only be there in a moment. */
  const goTo = (id: string, key?: string) => {
    const c = key === undefined ? col : columns.findIndex((x) => x.key === key);
    setAt((now) => ({ id, row: now.row === HEAD ? 0 : now.row, col: c < 0 ? col : c }));
    setAnchor(null);
  };

  const writable = (l: SheetLine<R> | undefined, c: C | undefined) => l?.kind === "row" && !!c?.writes && can(l.row, c);
  const troubleAt = (l: SheetLine<R> | undefined, c: C | undefined) =>
    l && c?.writes ? troubles[cellKey(l.id, c.writes)] : undefined;
  const writeOf = (l: SheetLine<R> | undefined, c: C | undefined, text: string): Write<R, C>[] =>
    l?.kind === "row" && c && writable(l, c) ? [{ row: l.row, line: l.id, column: c, text }] : [];
  /** What a cell says, as it would be typed. */
  const textAt = (l: { id: string; row: R }, c: C) =>
    (c.writes ? given.waiting[cellKey(l.id, c.writes)] : undefined) ?? typedOf(c, l.row);
  const write = (cells: Write<R, C>[]) => {
    if (cells.length) given.write(cells);
  };

  const edit = (text?: string) => {
    if (own?.edit?.(text)) return;
    if (!writable(line, column) || line?.kind !== "row" || !column) return;
    setEditing({ text: text ?? troubleAt(line, column)?.text ?? textAt(line, column), inside: text === undefined });
  };
  const commit = () => {
    if (!editing) return;
    if (own?.commit?.(editing.text)) return;
    if (line?.kind === "row" && column?.writes) {
      if (editing.text !== textAt(line, column)) write(writeOf(line, column, editing.text));
      else if (column.assumed?.(line.row)) confirm();
      else if (troubleAt(line, column)) given.drop(line.id, column.writes);
    }
    setEditing(null);
  };
  /** States what is only assumed in the cells that are selected. */
  const confirm = () =>
    write(
      pickedLines.flatMap((l) =>
        chosen.flatMap((c) => {
          const text = l.kind === "row" ? c.assumed?.(l.row) : undefined;
          return text ? writeOf(l, c, text) : [];
        }),
      ),
    );
  const clear = () =>
    write(
      pickedLines.flatMap((l) =>
        chosen.flatMap((c) => (l.kind === "row" && !c.needed && textAt(l, c) !== "" ? writeOf(l, c, "") : [])),
      ),
    );
  /** Fills a selection from its first row, or a cell from the one above. */
  const fillDown = () => {
    const many = low < high;
    const source = many
      ? pickedLines.find((l) => l.kind === "row")
      : lines.slice(0, row).findLast((l) => l.kind === "row" && chosen.some((c) => writable(l, c)));
    if (source?.kind !== "row") return;
    const targets = many ? pickedLines.slice(pickedLines.indexOf(source) + 1) : pickedLines;
    write(
      targets.flatMap((l) =>
        chosen.flatMap((c) => {
          const text = textAt(source, c);
          return l.kind === "row" && !c.unique && textAt(l, c) !== text ? writeOf(l, c, text) : [];
        }),
      ),
    );
  };
  /** The line after or before one that can be worked in: hands that type go over headings. */
  const beyond = (from: number, by: 1 | -1) => {
    let next = from + by;
    while (lines[next]?.kind === "group") next += by;
    return lines[next] ? next : from + by;
  };
  const tab = (back: boolean) => {
    const next = col + (back ? -1 : 1);
    origin.current ??= col;
    if (next >= 0 && next < columns.length) go(row, next);
    else if (back ? row > 0 : row < last) go(beyond(row, back ? -1 : 1), back ? columns.length - 1 : 0);
    else return false;
    return true;
  };
  const enter = (back: boolean) => {
    const c = origin.current ?? col;
    origin.current = null;
    go(Math.max(beyond(row, back ? -1 : 1), 0), c);
  };

  const editKeys = (event: KeyboardEvent): boolean => {
    const { key, shiftKey } = event;
    const input = event.target as HTMLInputElement;
    if (key === "Enter") {
      commit();
      enter(shiftKey);
    } else if (key === "Tab") {
      commit();
      tab(shiftKey);
    } else if (key === "Escape") setEditing(null);
    else if (!editing?.inside && (key === "ArrowDown" || key === "ArrowUp")) {
      commit();
      choose(beyond(row, key === "ArrowDown" ? 1 : -1), col);
    } else if (!editing?.inside && key === "ArrowRight" && input.selectionStart === input.value.length) {
      commit();
      choose(row, col + 1);
    } else return false;
    event.stopPropagation();
    return true;
  };
  const headKeys = (event: KeyboardEvent): boolean => {
    const { key, shiftKey } = event;
    if (shiftKey && column && (key === "ArrowLeft" || key === "ArrowRight"))
      given.resize?.(column.key, Math.max(36, column.width + (key === "ArrowLeft" ? -STEP : STEP)));
    else if (key === "ArrowLeft" || key === "ArrowRight") place(HEAD, col + (key === "ArrowLeft" ? -1 : 1));
    else if (key === "ArrowDown" || key === "Escape") place(0, col);
    else if ((key === "Enter" || key === " ") && column) given.onSort?.(column.key);
    else return false;
    return true;
  };
  const moveKeys = (event: KeyboardEvent): boolean => {
    const { key, shiftKey } = event;
    const mod = commands(event);
    const step = STEPS[key];
    if (mod && (key === "Home" || key === "End"))
      shiftKey
        ? go(key === "Home" ? 0 : last, key === "Home" ? 0 : columns.length - 1, true)
        : choose(key === "Home" ? 0 : last, key === "Home" ? 0 : columns.length - 1);
    else if (mod && key.toLowerCase() === "a") {
      setAt({ id: lines[last]?.id ?? "", row: last, col: columns.length - 1 });
      setAnchor({ row: 0, col: 0 });
    } else if (mod) return false;
    else if (step) {
      const stays = key.startsWith("Page") ? Math.max(row + step[0], 0) : row + step[0];
      shiftKey ? go(stays, col + step[1], true) : choose(stays, col + step[1]);
    } else if (key === "Enter") {
      confirm();
      enter(shiftKey);
    } else if (key === "Home" || key === "End") choose(row, key === "Home" ? 0 : columns.length - 1, shiftKey);
    else return false;
    return true;
  };
  const keys = (event: KeyboardEvent) => {
    const { key, altKey } = event;
    const left = leaving.current;
    leaving.current = false;
    const took = () => {
      if (own?.keys?.(event)) return true;
      if (editing) return editKeys(event);
      if (inHead && headKeys(event)) return true;
      const mod = commands(event);
      const alt = altKey && !event.getModifierState("AltGraph");
      if (alt) return false;
      if (key === "Tab") return !left && tab(event.shiftKey);
      if (moveKeys(event)) return true;
      if (mod) {
        if (key.toLowerCase() !== "d") return false;
        fillDown();
      } else if (key === "F2") edit();
      else if (key === "Escape") {
        leaving.current = true;
        if (line && column?.writes && troubleAt(line, column)) given.drop(line.id, column.writes);
        setAnchor(null);
      } else if (key === "Delete" || key === "Backspace") clear();
      else if (key.length === 1 && !FRAME_KEYS.includes(key)) edit(key);
      else return false;
      return true;
    };
    if (took()) event.preventDefault();
  };
  const copy = (event: ClipboardEvent) => {
    if (editing) return;
    const text = textOf(pickedLines.flatMap((l) => (l.kind === "row" ? [chosen.map((c) => textAt(l, c))] : [])));
    event.clipboardData.setData("text/plain", text);
    copied(
      text,
      chosen.map((c) => c.key),
    );
    event.preventDefault();
  };
  /** A block onto the cells that are there, from the cursor right and down; one cell onto all that are selected. */
  const paste = (event: ClipboardEvent) => {
    const text = plainText(event.clipboardData);
    if (own?.paste?.(text)) {
      event.preventDefault();
      return;
    }
    if (editing) return;
    event.preventDefault();
    const block = blockOf(text);
    const one = block.length === 1 && block[0]?.length === 1 ? block[0][0] : undefined;
    if (one !== undefined) {
      write(pickedLines.flatMap((l) => chosen.flatMap((c) => writeOf(l, c, one))));
      return;
    }
    const rows = lines.slice(low).filter((l) => l.kind === "row");
    const more = block.length - rows.length;
    if (given.more && more > 0) rows.push(...given.more(more));
    write(block.flatMap((cells, i) => cells.flatMap((cell, j) => writeOf(rows[i], columns[left + j], cell))));
  };
  return {
    row: inHead ? HEAD : row,
    col,
    low,
    high,
    left,
    right,
    many: low !== high || left !== right,
    line,
    here,
    column,
    picked,
    editing,
    setEditing,
    setAt,
    setAnchor,
    origin,
    go,
    goTo,
    choose,
    edit,
    commit,
    writable,
    troubleAt,
    keys,
    copy,
    paste,
  };
}

export type Hands<R, C extends SheetColumn<R>> = ReturnType<typeof useSheet<R, C>>;
