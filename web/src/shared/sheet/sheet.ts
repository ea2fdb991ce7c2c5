import type { ReactNode } from "react";
import { asTyped } from "../formats";

/** The height of a line. */
export const ROW = 28;
/** How far each level stands in. */
export const INDENT = 16;

/** What a value is compared as. */
export type Kind = "text" | "number" | "date" | "duration" | "formula";

/** A column of a sheet: what it shows of a row, what editing it starts from, and the cell that typing writes. */
export interface SheetColumn<R> {
  key: string;
  title: string;
  /** How it is called where its title is empty. */
  label?: string;
  width: number;
  left?: boolean;
  /** Takes the room that is left. */
  grow?: boolean;
  /** Stays in sight at this side while the others slide. */
  pin?: "start" | "end";
  /** Shows how deep a row lies. */
  tree?: boolean;
  /** The cell that typing writes; absent: it can't be typed into. */
  writes?: string;
  text: (row: R) => string;
  /** What it is compared as in conditions; absent: a text. */
  kind?: Kind;
  /** What it is sorted and compared by: a number where it counts (minutes of a duration), an ISO date; absent: what it shows. */
  value?: (row: R) => string | number;
  /** Rows can be grouped by it. */
  groups?: boolean;
  /** Absent: what it shows. */
  typed?: (row: R) => string;
  hint?: (row: R) => string | undefined;
  /** What can be chosen, of all rows or of one. */
  choices?: string[] | ((row: R) => string[]);
  /** What Enter writes where nobody has stated what it shows: its value is assumed. */
  assumed?: (row: R) => string | undefined;
  /** No two rows have the same: filling leaves it. */
  unique?: boolean;
  /** Every row has one: clearing leaves it. */
  needed?: boolean;
  /** Drawn in place of its text. */
  draw?: (row: R) => ReactNode;
  /** More classes of the cell. */
  look?: (row: R) => string | undefined;
}

/** A line of a sheet: a row, a heading, or the row that is being begun. */
export type SheetLine<R> =
  | { kind: "row"; id: string; row: R; depth: number; parts: number }
  | { kind: "group"; id: string; name: string; count?: number; depth?: number }
  | { kind: "draft"; id: string; depth: number };

/** The line of a row that has no parts. */
export const lineOf = <R>(id: string, row: R, depth = 0): SheetLine<R> => ({ kind: "row", id, row, depth, parts: 0 });

/** A cell that was not written: what was typed stays, with the sentence beside it. */
export interface Trouble {
  text: string;
  message: string;
  nearest?: string;
  /** What somebody else wrote there meanwhile. */
  stale?: { by: string; label: string };
}

export interface Editing {
  text: string;
  /** Whether arrows move in the text (F2, double click) or leave the cell (typing replaced it). */
  inside: boolean;
}

/** Where a trouble is kept, by the line and the cell. */
export const cellKey = (line: string, writes: string) => `${line}:${writes}`;

/** What editing a cell starts from. */
export const typedOf = <R>(column: SheetColumn<R>, row: R) => {
  const text = (column.typed ?? column.text)(row).replaceAll("\u00a0", " ");
  return column.typed && (column.kind === "number" || column.kind === "duration") ? asTyped(text) : text;
};
