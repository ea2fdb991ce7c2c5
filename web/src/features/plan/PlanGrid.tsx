import { type ReactNode, useCallback, useEffect, useRef } from "react";
import { usePlace } from "../../shared";
import { INDENT, Landing, ROW, Sheet, SheetSays, type SidePane } from "../../shared/sheet";
import { words } from "../../shared/words/plan";
import type { Column } from "./columns";
import { Lead } from "./Lead";
import type { Row } from "./row";
import type { Line } from "./tree";
import type { PlanHands } from "./useHands";
import { useMoving } from "./useMoving";
import { look, type PlanHandle } from "./usePlan";

const NONE = new Map<string, Row>();
const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;
const lookOf = (row: Row) => (row.kind === "wbs" ? "wbs" : row.pending ? "pending" : undefined);

/** Where the names begin. */
const nameAt = (columns: Column[]) =>
  columns
    .slice(
      0,
      Math.max(
        0,
        columns.findIndex((c) => c.key === "name"),
      ),
    )
    .reduce((sum, c) => sum + c.width, 0);

interface Props {
  lines: Line[];
  columns: Column[];
  hands: PlanHands;
  plan: PlanHandle;
  open: boolean;
  /** All rows, where the sheet shows the tree as it is and rows can be moved in it; else null. */
  tree: Map<string, Row> | null;
  folded: Set<string>;
  fold: (id: string, shut: boolean) => void;
  resize: (key: string, width: number) => void;
  sort: string;
  onSort: (key: string) => void;
  beside: SidePane<Row> | null;
}

/** The plan as a sheet whose rows can be dragged, with the timeline beside it. */
export function PlanGrid(props: Props): ReactNode {
  const { lines, columns, hands, plan, open, tree } = props;
  const box = useRef<HTMLDivElement>(null);
  const moving = useMoving({ lines, all: tree ?? NONE, picked: hands.picked, plan, box });
  const landing = moving.held?.landing;
  const { project } = usePlace();
  useEffect(() => () => void look(project, null), [project]);
  const fold = useRef(props.fold);
  fold.current = props.fold;
  const lead = useCallback(
    (line: Line, shut: boolean) => <Lead line={line} folded={shut} fold={(id, on) => fold.current(id, on)} />,
    [],
  );
  return (
    <Sheet
      label={words.plan.sheet}
      box={box}
      lines={lines}
      columns={columns}
      hands={hands.block}
      troubles={plan.troubles}
      drop={plan.drop}
      waiting={plan.waiting}
      take={(row, line, column, text, mine) => hands.put([{ row, line, column, text }], [], mine)}
      can={hands.can}
      codeOf={codeOf}
      nameOf={nameOf}
      look={lookOf}
      lead={lead}
      tree
      folded={props.folded}
      grip={open && tree ? moving.take : undefined}
      sort={props.sort}
      onSort={props.onSort}
      resize={props.resize}
      beside={props.beside}
      inSight={(seen) => look(project, tree ? seen : null)}
      over={
        landing && (
          <Landing style={{ top: landing.index * ROW - 1, left: nameAt(columns) + 6 + landing.depth * INDENT }} />
        )
      }
    >
      {!open && <SheetSays at="foot">{words.plan.readOnly}</SheetSays>}
      {lines.length === 0 && (
        <SheetSays at="head">{plan.sheet.data?.rows.size === 0 ? words.plan.empty : words.plan.noneSo}</SheetSays>
      )}
    </Sheet>
  );
}
