import { FoldButton, LeadBox } from "../../shared/sheet";
import { words } from "../../shared/words/plan";
import type { Line } from "./tree";

interface Props {
  line: Line;
  folded: boolean;
  fold: (id: string, shut: boolean) => void;
}

/** What stands before a name: the fold of an element, the pin of a milestone. */
export function Lead({ line, folded, fold }: Props) {
  if (line.kind !== "row") return <LeadBox />;
  const { row, parts } = line;
  if (row.kind === "wbs")
    return (
      <FoldButton
        aria-label={folded ? words.sheet.unfold(row.name) : words.sheet.foldRow(row.name)}
        onClick={() => fold(row.id, !folded)}
        disabled={parts === 0}
      >
        {parts === 0 ? "·" : folded ? "▸" : "▾"}
      </FoldButton>
    );
  if (row.kind === "milestone")
    return (
      <LeadBox>
        <svg width="12" height="16" role="img" aria-label={words.plan.milestone}>
          <path d="M6 15V7" stroke="currentColor" strokeWidth="1.6" />
          <circle cx="6" cy="5" r="3.4" fill="currentColor" />
        </svg>
      </LeadBox>
    );
  return <LeadBox />;
}
