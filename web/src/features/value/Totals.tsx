import type { Schemas } from "../../api";
import { format } from "../../shared";
import { OnOff, RowOf, Soft } from "../../shared/ui";
import { words } from "../../shared/words/value";
import { ByKind } from "./ByKind";

interface TotalsProps {
  columns: Schemas["FigureOut"][];
  of: Schemas["SelectionOut"];
  split: boolean;
  look: (next: { split: string }) => void;
}

/** The totals of the selected rows, split by kind of cost where that is asked for. */
export function Totals({ columns, of, split, look }: TotalsProps) {
  return (
    <>
      <RowOf role="status" pb="4">
        <strong>{words.value.selected(of.activities)}</strong>
        {columns.map((c) => (
          <span key={c.key} data-tip={of.row.reasons[c.key]}>
            <Soft>{c.head}</Soft> {format.figure(of.row.figures[c.key], c.kind)}
          </span>
        ))}
        <OnOff on={split} set={(on) => look({ split: on ? "kind" : "" })}>
          {words.value.split}
        </OnOff>
      </RowOf>
      {split && of.kinds.length > 0 && <ByKind kinds={of.kinds} />}
    </>
  );
}
