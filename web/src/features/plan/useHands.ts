import { type ClipboardEvent, type Dispatch, type KeyboardEvent, type SetStateAction, useState } from "react";
import { type Column, typedOf } from "./columns";
import { blockOf, cellsOf, outlineOf } from "./paste";
import { type Row, USUAL, type Verb } from "./row";
import { childrenOf, type Draft, type Line } from "./tree";
import type { PlanHandle } from "./usePlan";

export interface Editing {
  text: string;
  /** Whether arrows move in the text (F2, double click) or leave the cell (typing replaced it). */
  inside: boolean;
}

interface Given {
  lines: Line[];
  columns: Column[];
  plan: PlanHandle;
  rows: Map<string, Row>;
  open: boolean;
  tree: boolean;
  draft: Draft | null;
  setDraft: Dispatch<SetStateAction<Draft | null>>;
  fold: (id: string, shut: boolean) => void;
}

const PAGE = 16;
const ON_WBS = new Set(["code", "name", "weight"]);
let count = 0;

/** The cursor of the plan sheet and what the keys do: a spreadsheet's hands on a tree. */
export function useHands({ lines, columns, plan, rows, open, tree, draft, setDraft, fold }: Given) {
  const [at, setAt] = useState({ id: "", row: 0, col: 1 });
  const [anchor, setAnchor] = useState<{ row: number; col: number } | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  // The cursor stays on its row when rows come and go above it.
  const found = lines.findIndex((l) => l.id === at.id);
  const row = found >= 0 ? found : Math.min(at.row, Math.max(lines.length - 1, 0));
  const col = Math.min(at.col, columns.length - 1);
  const line = lines[row];
  const column = columns[col];
  const here = line?.kind === "row" ? line.row : null;

  const go = (r: number, c: number, extend = false) => {
    const next = Math.max(0, Math.min(lines.length - 1, r));
    setAnchor(extend ? (anchor ?? { row, col }) : null);
    setAt({ id: lines[next]?.id ?? "", row: next, col: Math.max(0, Math.min(columns.length - 1, c)) });
    setEditing(null);
    if (draft && lines[next]?.kind !== "draft") setDraft(null);
  };
  const goTo = (id: string) => {
    setAt({ id, row, col });
    setAnchor(null);
  };
  const [low, high] = anchor ? [Math.min(anchor.row, row), Math.max(anchor.row, row)] : [row, row];
  const [left, right] = anchor ? [Math.min(anchor.col, col), Math.max(anchor.col, col)] : [col, col];
  const picked = lines.slice(low, high + 1).flatMap((l) => (l.kind === "row" && !l.row.pending ? [l.row] : []));

  const writable = (r: Row | null, c: Column | undefined) =>
    open && !!c?.writes && !!r && !r.pending && (r.kind !== "wbs" || ON_WBS.has(c.writes));
  const troubleAt = (id: string, c: Column | undefined) => (c?.writes ? plan.troubles[`${id}:${c.writes}`] : undefined);

  const edit = (text?: string) => {
    if (line?.kind === "draft") {
      setAt({ id: "draft", row, col: nameCol });
      setEditing({ text: text ?? "", inside: false });
      return;
    }
    if (!writable(here, column) || !here || !column) return;
    setEditing({ text: text ?? troubleAt(here.id, column)?.text ?? typedOf(column, here), inside: text === undefined });
  };
  const nameCol = Math.max(
    0,
    columns.findIndex((c) => c.key === "name"),
  );

  /** Makes the row that is being begun; the next one can be begun before it is answered. */
  const begin = (text: string, next: boolean): string | null => {
    if (!draft || !text.trim()) {
      setDraft(null);
      setEditing(null);
      return null;
    }
    const name = `new${++count}`;
    const verbs: Verb[] = [
      { do: "add", list: "activities", cells: { name: text }, after: draft.after, parent: draft.parent, as: name },
    ];
    if (draft.indent) verbs.push({ do: "indent", rows: [name] });
    const { after, parent } = draft;
    const waiting: Row = {
      ...USUAL,
      code: "",
      kind: "task",
      duration: "1d",
      pending: true,
      id: name,
      name: text.trim(),
      parent: after ? (rows.get(after)?.parent ?? plan.pending.find((p) => p.id === after)?.parent ?? null) : parent,
      order: (rows.get(after ?? "")?.order ?? plan.pending.find((p) => p.id === after)?.order ?? 1e9) + 1e-9,
    };
    plan.setPending((now) => [...now, waiting]);
    plan.change(verbs).then((e) => {
      plan.setPending((now) => now.filter((p) => p.id !== name));
      const id = e?.made?.[name];
      if (!id) return;
      setAt((now) => (now.id === name ? { ...now, id } : now));
      setDraft((now) => (now?.after === name ? { ...now, after: id } : now));
    });
    if (next) {
      setDraft({ parent: waiting.parent, after: name, indent: false });
      setAt({ id: "draft", row: row + 1, col: nameCol });
      setEditing({ text: "", inside: false });
    } else {
      setDraft(null);
      setEditing(null);
      setAt({ id: name, row, col: nameCol });
    }
    return name;
  };

  const commit = (): boolean => {
    if (!editing) return true;
    if (line?.kind === "draft") {
      begin(editing.text, false);
      return true;
    }
    if (here && column?.writes) {
      const unchanged = editing.text === typedOf(column, here);
      if (!unchanged) write([here], column.writes, editing.text);
      else if (troubleAt(here.id, column)) plan.drop(here.id, column.writes);
    }
    setEditing(null);
    return true;
  };

  /** One cell of one or many rows, as one step. */
  const write = (targets: Row[], field: string, text: string) => {
    const on = targets.filter((r) => r.kind !== "wbs" || ON_WBS.has(field));
    const first = on[0];
    if (!first) return;
    const verbs = on.map((r): Verb => ({ do: "set", row: r.id, cells: { [field]: text } }));
    plan.change(verbs, { row: first.id, field, text });
  };

  const startDraft = (after: Row | null, indent = false, text = "") => {
    if (!open || !tree) return;
    const inside = after?.kind === "wbs" && (childrenOf(rows.values()).get(after.id)?.length ?? 0) === 0;
    setDraft(
      after
        ? inside
          ? { parent: after.id, after: null, indent }
          : { parent: after.parent, after: after.id, indent }
        : { parent: null, after: null, indent: false },
    );
    setAt({ id: "draft", row: row + 1, col: nameCol });
    setAnchor(null);
    setEditing({ text, inside: false });
  };

  const shiftDraft = (deeper: boolean) => {
    if (!draft) return;
    if (deeper) {
      const before = draft.after ? rows.get(draft.after) : null;
      if (before?.kind === "wbs") setDraft({ parent: before.id, after: lastChild(before.id), indent: false });
      else if (draft.after) setDraft({ ...draft, indent: true });
      return;
    }
    if (draft.indent) setDraft({ ...draft, indent: false });
    else if (draft.after) {
      const parent = (rows.get(draft.after) ?? plan.pending.find((p) => p.id === draft.after))?.parent;
      if (parent) setDraft({ parent: rows.get(parent)?.parent ?? null, after: parent, indent: false });
    } else if (draft.parent)
      setDraft({ parent: rows.get(draft.parent)?.parent ?? null, after: draft.parent, indent: false });
  };
  const lastChild = (id: string) => childrenOf(rows.values()).get(id)?.at(-1)?.id ?? null;

  const structure = (verb: string) => {
    const ids = picked.map((r) => r.id);
    if (ids.length && open && tree) plan.change([{ do: verb, rows: ids }]);
  };
  const move = (up: boolean) => {
    const first = picked[0];
    if (!first || !open || !tree) return;
    const siblings = childrenOf(rows.values()).get(first.parent) ?? [];
    const chosen = picked.filter((r) => r.parent === first.parent).map((r) => r.id);
    const edge = siblings.findIndex((r) => r.id === (up ? chosen[0] : chosen.at(-1)));
    const target = siblings[up ? edge - 2 : edge + 1];
    if (up ? edge <= 0 : !target) return;
    if (up && edge === 1) plan.change([{ do: "place", rows: chosen, parent: first.parent, first: true }]);
    else plan.change([{ do: "place", rows: chosen, after: target?.id }]);
  };
  const remove = () => {
    const ids = picked.map((r) => r.id);
    if (!ids.length || !open) return;
    plan.change([{ do: "remove", rows: ids }]);
    setAnchor(null);
  };
  const milestone = () => {
    const on = picked.filter((r) => r.kind !== "wbs");
    if (!on.length || !open) return;
    const make = on.some((r) => r.kind !== "milestone");
    plan.change(
      on.map((r) => ({
        do: "set",
        row: r.id,
        cells: make ? { kind: "milestone", duration: "" } : { kind: "task", duration: "1d" },
      })),
    );
  };
  const chain = () => {
    const on = picked.filter((r) => r.kind !== "wbs");
    if (on.length > 1 && open) plan.change([{ do: "chain", rows: on.map((r) => r.id) }]);
  };
  const gather = () => {
    if (picked.length && open && tree)
      plan.change([{ do: "element", rows: picked.map((r) => r.id), name: "New element" }]);
  };
  const fillDown = () => {
    if (!open || !column) return;
    const from = anchor && low < high ? picked[0] : rowAbove();
    const to = anchor && low < high ? picked.slice(1) : here ? [here] : [];
    if (!from || !to.length) return;
    const verbs: Verb[] = [];
    for (let c = left; c <= right; c++) {
      const one = columns[c];
      if (!one?.writes || one.writes === "code") continue;
      const text = typedOf(one, from);
      for (const r of to) if (writable(r, one)) verbs.push({ do: "set", row: r.id, cells: { [one.writes]: text } });
    }
    const first = to[0];
    if (verbs.length && first)
      plan.change(verbs, { row: first.id, field: column.writes ?? "", text: typedOf(column, from) });
  };
  const rowAbove = () => {
    for (let i = row - 1; i >= 0; i--) {
      const l = lines[i];
      if (l?.kind === "row" && l.row.kind !== "wbs") return l.row;
    }
    return null;
  };

  const editKeys = (event: KeyboardEvent) => {
    const { key, shiftKey } = event;
    const input = event.target as HTMLInputElement;
    const atEnd = input.selectionStart === input.value.length;
    const onDraft = line?.kind === "draft";
    if (key === "Enter" && onDraft) begin(editing?.text ?? "", true);
    else if (key === "Enter") {
      commit();
      go(row + (shiftKey ? -1 : 1), col);
    } else if (key === "Tab" && onDraft) {
      if (editing?.text.trim() && !shiftKey && draft && !draft.indent) shiftDraft(true);
      else shiftDraft(!shiftKey);
    } else if (key === "Tab" && column?.key === "name" && tree && here) {
      commit();
      plan.change([{ do: shiftKey ? "outdent" : "indent", rows: [here.id] }]);
    } else if (key === "Tab") {
      commit();
      go(row, col + (shiftKey ? -1 : 1));
    } else if (key === "Escape") {
      setEditing(null);
      if (onDraft) {
        setDraft(null);
        go(row - 1, col);
      }
    } else if (!editing?.inside && (key === "ArrowDown" || key === "ArrowUp")) {
      commit();
      go(row + (key === "ArrowDown" ? 1 : -1), col);
    } else if (!editing?.inside && key === "ArrowRight" && atEnd) {
      if (onDraft) begin(editing?.text ?? "", false);
      else commit();
      setAt((now) => ({ ...now, col: Math.min(col + 1, columns.length - 1) }));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const keys = (event: KeyboardEvent) => {
    if (editing) {
      editKeys(event);
      return;
    }
    const { key, shiftKey, ctrlKey, metaKey, altKey } = event;
    const mod = ctrlKey || metaKey;
    const name = key.toLowerCase();
    if (altKey && !mod && (key === "ArrowUp" || key === "ArrowDown")) move(key === "ArrowUp");
    else if (altKey && !mod && key === "ArrowRight") structure("indent");
    else if (altKey && !mod && key === "ArrowLeft") structure("outdent");
    else if (mod && shiftKey && key === "Enter") gather();
    else if (mod && key === "Enter") startDraft(here);
    else if (mod && name === "d") fillDown();
    else if (mod && name === "l") chain();
    else if (mod && name === "m") milestone();
    else if (mod && name === "a") {
      setAnchor({ row: 0, col: 0 });
      setAt({ id: lines.at(-1)?.id ?? "", row: lines.length - 1, col: columns.length - 1 });
    } else if (mod && (key === "Home" || key === "End")) go(key === "Home" ? 0 : lines.length - 1, col);
    else if (mod && (key === "Delete" || key === "Backspace")) remove();
    else if (mod || altKey) return;
    else if (key === "Insert") startDraft(here);
    else if (key.startsWith("Arrow") || key.startsWith("Page")) {
      const by: Record<string, [number, number]> = {
        ArrowDown: [1, 0],
        ArrowUp: [-1, 0],
        ArrowLeft: [0, -1],
        ArrowRight: [0, 1],
        PageDown: [PAGE, 0],
        PageUp: [-PAGE, 0],
      };
      const step = by[key];
      if (step) go(row + step[0], col + step[1], shiftKey);
    } else if (key === "Enter") {
      if (line?.kind === "draft") edit();
      else if (row === lines.length - 1 && tree && open && column?.key === "name" && !shiftKey) startDraft(here);
      else go(row + (shiftKey ? -1 : 1), col);
    } else if (key === "Tab" && column?.key === "name" && tree && open && here)
      structure(shiftKey ? "outdent" : "indent");
    else if (key === "Tab" && (shiftKey ? col > 0 : col < columns.length - 1)) go(row, col + (shiftKey ? -1 : 1));
    else if (key === "Home" || key === "End") go(row, key === "Home" ? 0 : columns.length - 1, shiftKey);
    else if (key === "F2") edit();
    else if (key === " " && here?.kind === "wbs") fold(here.id, true);
    else if (key === "Escape") {
      if (here && column?.writes && troubleAt(here.id, column)) plan.drop(here.id, column.writes);
      setAnchor(null);
      setDraft(null);
    } else if ((key === "Delete" || key === "Backspace") && open) {
      if (column?.writes && column.writes !== "name" && column.writes !== "code") write(picked, column.writes, "");
    } else if (key.length === 1 && !"[]?/".includes(key)) edit(key);
    else return;
    event.preventDefault();
  };

  const copy = (event: ClipboardEvent) => {
    if (editing) return;
    const cols = anchor ? columns.slice(left, right + 1) : column ? [column] : [];
    event.clipboardData.setData("text/plain", picked.map((r) => cols.map((c) => typedOf(c, r)).join("\t")).join("\n"));
    event.preventDefault();
  };
  /** A block onto cells that are there; below the last row, or on a row being begun, its lines become rows. */
  const paste = (event: ClipboardEvent) => {
    if (!open) return;
    const text = event.clipboardData.getData("text/plain").replace(/\r/g, "").replace(/\n+$/, "");
    const many = text.includes("\n");
    if (editing && !(line?.kind === "draft" && many)) return;
    event.preventDefault();
    if (line?.kind === "draft" || lines.length === 0) {
      const where = draft ?? { parent: null, after: null, indent: false };
      plan.change([{ do: "outline", lines: outlineOf(text, columns), parent: where.parent, after: where.after }]);
      setEditing(null);
      setDraft(null);
      return;
    }
    const block = blockOf(text);
    const verbs = cellsOf(block, lines.slice(row), columns.slice(col), writable);
    const beyond = block.length - (lines.length - row);
    if (beyond > 0 && tree && column?.key === "name")
      verbs.push({
        do: "outline",
        lines: outlineOf(text.split("\n").slice(-beyond).join("\n"), columns),
        parent: here?.parent ?? null,
        after: lastChild(here?.parent ?? "") ?? undefined,
      });
    if (verbs.length && here)
      plan.change(verbs, { row: here.id, field: column?.writes ?? "", text: block[0]?.[0] ?? "" });
  };
  return {
    row,
    col,
    low,
    high,
    left,
    right,
    here,
    column,
    editing,
    setEditing,
    picked,
    go,
    goTo,
    edit,
    commit,
    keys,
    copy,
    paste,
    startDraft,
    remove,
    chain,
    milestone,
    structure,
    move,
    gather,
    many: low !== high,
    write,
    writable,
  };
}

export type Hands = ReturnType<typeof useHands>;
