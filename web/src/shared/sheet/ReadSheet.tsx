import { type KeyboardEvent, type ReactNode, useRef } from "react";
import { useAtOnce, useWhenever } from "../useWhenever";
import { Sheet, type SidePane } from "./Sheet";
import type { SheetColumn, SheetLine, Trouble } from "./sheet";
import { type Hands, useSheet, type Write } from "./useSheet";

interface Props<R> {
  label: string;
  lines: SheetLine<R>[];
  columns: SheetColumn<R>[];
  codeOf: (row: R) => string;
  nameOf: (row: R) => string;
  look?: (row: R) => string | undefined;
  /** How many lines are shown before it scrolls; absent: it takes the room there is. */
  most?: number;
  tree?: boolean;
  folded?: Set<string>;
  /** What stands before a name in a tree. */
  lead?: (line: SheetLine<R>, shut: boolean) => ReactNode;
  /** What stands beside the rows; it is told the row that the cursor is on. */
  beside?: (here: R | null) => SidePane<R>;
  /** The column that the cursor stands in to begin with. */
  first?: string;
  /** The key that lines are sorted by, with a minus where down; and what pressing a heading asks for. */
  sort?: string;
  onSort?: (key: string) => void;
  /** The line that the cursor is taken to, once for each that is given. */
  seek?: { code: string; key?: string } | null;
  stand?: (row: R | null) => void;
  /** The rows of the block that is selected; none where it is one row. */
  picks?: (rows: R[]) => void;
  /** Opens what a cell holds: F2, or typing on it. */
  open?: (row: R, column: SheetColumn<R>) => void;
  /** Keys of the room's own, asked first; true where it took them. */
  keys?: (event: KeyboardEvent, row: R, column: SheetColumn<R>) => boolean;
  /** A paste of the room's own, asked first with the row that the cursor is on; true where it took it. */
  paste?: (text: string, row: R) => boolean;
  /** What can be typed, where anything can. */
  can?: (row: R, column: SheetColumn<R>) => boolean;
  write?: (cells: Write<R, SheetColumn<R>>[], mine: boolean) => void;
  troubles?: Record<string, Trouble>;
  waiting?: Record<string, string>;
  drop?: (line: string, writes: string) => void;
}

const NOTHING = {};
const never = () => false;
const idle = () => undefined;

/** A sheet that is mostly read: its cells can be reached, selected and copied, and those typed into that `can` names. */
export function ReadSheet<R>(props: Props<R>) {
  const { lines, columns, troubles = NOTHING, waiting = NOTHING, drop = idle, can = never, write = idle } = props;
  const { open, keys, paste, seek } = props;
  const box = useRef<HTMLDivElement>(null);
  const hands: Hands<R, SheetColumn<R>> = useSheet<R, SheetColumn<R>>({
    lines,
    columns,
    can,
    write: (cells) => write(cells, false),
    troubles,
    waiting,
    drop,
    first: props.first,
    onSort: props.onSort,
    own: {
      keys: (event): boolean => (keys && hands.here && hands.column ? keys(event, hands.here, hands.column) : false),
      paste: (text) => (paste && hands.here && !hands.editing ? paste(text, hands.here) : false),
      edit: () => {
        if (!open) return false;
        if (hands.here && hands.column) open(hands.here, hands.column);
        return true;
      },
    },
  });
  // Before the next key, which goes on from there.
  useAtOnce([seek], () => {
    if (seek) hands.goTo(seek.code, seek.key);
  });
  const { picks } = props;
  const { low, high } = hands;
  useWhenever([low, high, lines], () => picks?.(low === high ? [] : hands.picked));
  return (
    <Sheet
      label={props.label}
      box={box}
      lines={lines}
      columns={columns}
      hands={hands}
      troubles={troubles}
      waiting={waiting}
      drop={drop}
      take={(row, line, column, text, mine) => write([{ row, line, column, text }], mine)}
      can={can}
      codeOf={props.codeOf}
      nameOf={props.nameOf}
      look={props.look}
      lead={props.lead}
      tree={props.tree}
      folded={props.folded}
      stand={props.stand}
      sort={props.sort}
      onSort={props.onSort}
      beside={props.beside?.(hands.here)}
      fit={props.most}
    />
  );
}
