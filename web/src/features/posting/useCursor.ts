import { type ClipboardEvent, type KeyboardEvent, useState } from "react";
import { FIELDS, typedOf } from "./cells";
import type { Field, Row, Trouble, Typed } from "./usePosting";

interface Hands {
  rows: Row[];
  open: boolean;
  post: (code: string, typed: Typed) => void;
  drop: (code: string, field: Field) => void;
  trouble: (code: string, field: Field) => Trouble | undefined;
  moved: (row: number) => void;
}

export interface Editing {
  text: string;
  /** Whether arrows move in the text (F2, double click) or leave the cell (typing replaced it). */
  inside: boolean;
}

/** The cursor of the sheet and what the keys do, as in any spreadsheet. */
export function useCursor({ rows, open, post, drop, trouble, moved }: Hands) {
  const [row, setRow] = useState(0);
  const [col, setCol] = useState(2);
  const [anchor, setAnchor] = useState<number | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const at = rows[Math.min(row, rows.length - 1)];
  const field = FIELDS[col] ?? "percent";
  const go = (r: number, c: number, extend = false) => {
    const next = Math.max(0, Math.min(rows.length - 1, r));
    setAnchor(extend ? (anchor ?? row) : null);
    setRow(next);
    setCol(Math.max(0, Math.min(FIELDS.length - 1, c)));
    setEditing(null);
    moved(next);
  };
  const edit = (text?: string) => {
    if (!open || !at) return;
    setEditing({ text: text ?? trouble(at.code, field)?.text ?? typedOf(at, field), inside: text === undefined });
  };
  const commit = () => {
    if (!editing || !at) return;
    const unchanged = editing.text === typedOf(at, field);
    if (!unchanged) post(at.code, { [field]: editing.text });
    else if (trouble(at.code, field)) drop(at.code, field);
    setEditing(null);
  };
  const picked = anchor === null ? [] : rows.slice(Math.min(anchor, row), Math.max(anchor, row) + 1);

  const keys = (event: KeyboardEvent) => {
    const { key, shiftKey, ctrlKey, metaKey, altKey } = event;
    if (editing) {
      if (key === "Enter") commitAnd(() => go(row + (shiftKey ? -1 : 1), col));
      else if (key === "Tab") commitAnd(() => go(row, col + (shiftKey ? -1 : 1)));
      else if (key === "Escape") setEditing(null);
      else if (!editing.inside && key === "ArrowDown") commitAnd(() => go(row + 1, col));
      else if (!editing.inside && key === "ArrowUp") commitAnd(() => go(row - 1, col));
      else return;
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    if (ctrlKey || metaKey) {
      if (key.toLowerCase() !== "d" || !open || !at) return;
      const above = rows[row - 1];
      if (above) post(at.code, { [field]: typedOf(above, field) });
      event.preventDefault();
      return;
    }
    const step: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      Enter: [shiftKey ? -1 : 1, 0],
      PageDown: [15, 0],
      PageUp: [-15, 0],
    };
    const by = step[key];
    if (by) go(row + by[0], col + by[1], shiftKey && key.startsWith("Arrow"));
    else if (key === "Tab" && (shiftKey ? col > 0 : col < FIELDS.length - 1)) go(row, col + (shiftKey ? -1 : 1));
    else if (key === "Home") go(ctrlKey ? 0 : row, 0);
    else if (key === "End") go(ctrlKey ? rows.length - 1 : row, FIELDS.length - 1);
    else if (key === "F2") edit();
    else if (key === "Escape" && at && trouble(at.code, field)) drop(at.code, field);
    else if (key === "Escape") setAnchor(null);
    else if ((key === "Delete" || key === "Backspace") && open && at) post(at.code, { [field]: "" });
    else if (key.length === 1 && !altKey && key !== "[" && key !== "]" && key !== "?") edit(key);
    else return;
    event.preventDefault();
  };
  const commitAnd = (then: () => void) => {
    commit();
    then();
  };
  const copy = (event: ClipboardEvent) => {
    if (editing || !at) return;
    const block = picked.length
      ? picked.map((r) => FIELDS.map((f) => typedOf(r, f)).join("\t")).join("\n")
      : typedOf(at, field);
    event.clipboardData.setData("text/plain", block);
    event.preventDefault();
  };
  /** A block from a spreadsheet, laid from the cursor right and down; each row is one entry. */
  const paste = (event: ClipboardEvent) => {
    if (editing || !open) return;
    event.preventDefault();
    const lines = event.clipboardData.getData("text/plain").replace(/\r/g, "").replace(/\n$/, "").split("\n");
    lines.forEach((line, i) => {
      const target = rows[row + i];
      if (!target) return;
      const typed: Typed = {};
      line.split("\t").forEach((text, j) => {
        const f = FIELDS[col + j];
        if (f) typed[f] = text;
      });
      post(target.code, typed);
    });
  };
  return { row, col, at, field, editing, setEditing, picked, go, edit, commit, keys, copy, paste };
}
