import { type Dispatch, type KeyboardEvent, type SetStateAction, useCallback, useState } from "react";
import { blockOf, copiedFrom, useSheet, type Write } from "../../shared/sheet";
import { words } from "../../shared/words/plan";
import type { Column } from "./columns";
import { outlineOf, type Taken } from "./paste";
import { type Row, USUAL, type Verb } from "./row";
import { childrenOf, type Draft, type Line } from "./tree";
import type { PlanHandle } from "./usePlan";

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
  onSort: (key: string) => void;
  resize: (key: string, width: number) => void;
}

/** A block that is about to be pasted as rows. */
export interface Pasting {
  text: string;
  taken: Taken;
  make: (taken: Taken) => Promise<void>;
}

const ON_WBS = new Set(["code", "name", "weight"]);
/** What the schedule says: of copied rows it is left out unless one asks for it, or it would bind them. */
const RECKONED = new Set(["begin", "end"]);
let count = 0;

/** Cells as the fewest verbs: one for each row. */
function verbsOf(cells: Write<Row, Column>[]): Verb[] {
  const byRow = new Map<string, Record<string, string>>();
  for (const { row, column, text } of cells) {
    const known = byRow.get(row.id) ?? {};
    byRow.set(row.id, { ...known, [column.writes ?? ""]: text });
  }
  return [...byRow].map(([row, typed]) => ({ do: "set", row, cells: typed }));
}

/** The hands of the plan sheet: those of every sheet, and what only a tree of work can have done to it. */
export function useHands({ lines, columns, plan, rows, open, tree, draft, setDraft, fold, onSort, resize }: Given) {
  const [asked, setAsked] = useState<Pasting | null>(null);
  /** The rows for which somebody is being chosen. */
  const [choosing, setChoosing] = useState<Row[] | null>(null);
  const can = useCallback(
    (r: Row, c: Column) => open && !!c.writes && (r.kind !== "wbs" || ON_WBS.has(c.writes)),
    [open],
  );
  const put = (cells: Write<Row, Column>[], more: Verb[] = [], mine = false) => {
    const verbs = [...verbsOf(cells), ...more];
    return verbs.length ? plan.write(verbs, cells, mine) : Promise.resolve(null);
  };
  const sheet = useSheet<Row, Column>({
    lines,
    columns,
    can,
    write: (cells) => void put(cells),
    troubles: plan.troubles,
    waiting: plan.waiting,
    drop: plan.drop,
    first: "name",
    onSort,
    resize,
    own: {
      keys: (event) => ownKeys(event),
      paste: (text) => ownPaste(text),
      leave: () => draft && setDraft(null),
      edit: (text) => editDraft(text),
      commit: (text) => commitDraft(text),
    },
  });
  const { row, line, here, setAt, setAnchor, setEditing } = sheet;
  const picked = sheet.picked.filter((r) => !r.pending);
  const onDraft = line?.kind === "draft";
  const nameCol = Math.max(
    0,
    columns.findIndex((c) => c.key === "name"),
  );
  function editDraft(text?: string) {
    if (!onDraft) return false;
    setAt({ id: "draft", row, col: nameCol });
    setEditing({ text: text ?? "", inside: false });
    return true;
  }
  function commitDraft(text: string) {
    if (!onDraft) return false;
    begin(text, false);
    return true;
  }

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

  const structure = (verb: "indent" | "outdent") => {
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
      plan.change([{ do: "element", rows: picked.map((r) => r.id), name: words.plan.newElement }]);
  };
  /** One cell of many rows, as one step. */
  const write = (targets: Row[], field: string, text: string) => {
    const found = columns.find((c) => c.writes === field);
    if (found) put(targets.filter((r) => can(r, found)).map((r) => ({ row: r, line: r.id, column: found, text })));
  };

  const draftKeys = (event: KeyboardEvent, text: string): boolean => {
    const { key, shiftKey } = event;
    if (key === "Enter") begin(text, true);
    else if (key === "Tab") {
      if (begin(text, false) && !shiftKey) {
        sheet.origin.current = nameCol;
        setAt((now) => ({ ...now, col: Math.min(nameCol + 1, columns.length - 1) }));
      }
    } else if (key === "Escape") {
      setDraft(null);
      sheet.go(row - 1, nameCol);
    } else return false;
    event.stopPropagation();
    return true;
  };
  function ownKeys(event: KeyboardEvent): boolean {
    const { key, shiftKey, altKey } = event;
    const mod = (event.ctrlKey || event.metaKey) && !event.getModifierState("AltGraph");
    if (altKey && shiftKey && !mod && key.startsWith("Arrow")) {
      if (onDraft) {
        if (key === "ArrowLeft" || key === "ArrowRight") shiftDraft(key === "ArrowRight");
      } else if (key === "ArrowUp" || key === "ArrowDown") move(key === "ArrowUp");
      else structure(key === "ArrowRight" ? "indent" : "outdent");
      return true;
    }
    if (onDraft && sheet.editing && draftKeys(event, sheet.editing.text)) return true;
    // Enter on the last row begins the next one, where the row was begun.
    const from = columns[sheet.origin.current ?? sheet.col];
    const next = key === "Enter" && !shiftKey && !mod && row === lines.length - 1 && from?.key === "name";
    if (next && here && tree && open) {
      sheet.commit();
      startDraft(here);
      event.stopPropagation();
      return true;
    }
    if (sheet.editing) return false;
    if (onDraft && key === "Enter") return editDraft();
    if (key === "Insert" || (mod && !shiftKey && key === "Enter")) startDraft(here);
    else if (mod && shiftKey && key === "Enter") gather();
    else if (mod && key.toLowerCase() === "l") chain();
    else if (mod && key.toLowerCase() === "m") milestone();
    else if (mod && key.toLowerCase() === "b") choosePeople();
    else if (mod && (key === "Delete" || key === "Backspace")) remove();
    else if (key === " " && here?.kind === "wbs") fold(here.id, true);
    else return false;
    return true;
  }
  function choosePeople() {
    const on = picked.filter((r) => r.kind !== "wbs");
    if (open && on.length) setChoosing(on);
  }
  /** What the columns of a block are that was copied from this sheet; codes that are taken are given anew. */
  function ownColumns(text: string) {
    const keys = copiedFrom(text);
    if (!keys?.includes("name")) return undefined;
    const at = keys.indexOf("code");
    const codes = new Set([...rows.values()].map((r) => r.code));
    const taken = blockOf(text).some((cells) => codes.has(cells[at] ?? ""));
    const found = keys.map(
      (key) =>
        columns.find((c) => c.key === key && c.writes && !RECKONED.has(key) && !(key === "code" && taken)) ?? null,
    );
    return { found, headed: false };
  }
  /** Lines of a block as new rows. Where it has several columns, it is asked first what they are. */
  function take(text: string, parent: string | null, after: string | null, cells: Write<Row, Column>[] = []) {
    const taken = outlineOf(text, columns, ownColumns(text));
    if (!taken.lines.length) return;
    // What is asked stays until it is done: what was refused is said there.
    const make = async ({ lines: made, columns: used }: Taken) => {
      plan.note(words.plan.taken(used.map((c) => c.title.toLowerCase())));
      if (await put(cells, [{ do: "outline", lines: made, parent, after: after ?? undefined }])) setAsked(null);
    };
    if (taken.wide > 1) setAsked({ text, taken, make });
    else make(taken);
  }
  /** Below the last row, or on a row being begun, the lines of a block become rows. */
  function ownPaste(text: string): boolean {
    if (!open) return true;
    if (sheet.editing && !(onDraft && text.includes("\n"))) return false;
    if (onDraft || lines.length === 0) {
      const where = draft ?? { parent: null, after: null, indent: false };
      take(text, where.parent, where.after);
      setEditing(null);
      setDraft(null);
      return true;
    }
    const block = blockOf(text);
    const beyond = block.length - (lines.length - sheet.low);
    if (beyond <= 0 || !tree) return false;
    const under = here?.parent ?? null;
    // Lines of several columns are rows of their own; no row that is there is written over by place.
    if (block.some((cells) => cells.length > 1)) {
      take(text, under, lastChild(under ?? ""));
      return true;
    }
    if (columns[sheet.left]?.key !== "name") return false;
    const cells = block.flatMap((texts, i) => {
      const on = lines[sheet.low + i];
      return texts.flatMap((cell, j): Write<Row, Column>[] => {
        const c = columns[sheet.left + j];
        return on?.kind === "row" && c && can(on.row, c) ? [{ row: on.row, line: on.id, column: c, text: cell }] : [];
      });
    });
    take(text.split("\n").slice(-beyond).join("\n"), under, lastChild(under ?? ""), cells);
    return true;
  }
  return {
    ...sheet,
    picked,
    can,
    put,
    write,
    startDraft,
    remove,
    chain,
    milestone,
    structure,
    move,
    gather,
    many: sheet.low !== sheet.high,
    block: sheet,
    pasting: asked,
    leavePaste: () => setAsked(null),
    choosePeople,
    choosing,
    leaveChoosing: () => setChoosing(null),
  };
}

export type PlanHands = ReturnType<typeof useHands>;
