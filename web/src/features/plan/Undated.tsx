import { format } from "../../shared";
import type { Axis } from "../../shared/time";
import { Bar, Button, Soft, Space } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { Row } from "./row";
import { under, useDragOnto } from "./useDragOnto";

const w = words.plan.undated;

const MOST = 12;
const BEGUN = new Set(["in_progress", "complete"]);
/** Work that nothing gives a date: no link leads to it, nothing holds it, and it has not begun. */
export const undatedOf = (rows: Iterable<Row>) =>
  [...rows].filter(
    (r) => r.kind !== "wbs" && !r.pending && !BEGUN.has(r.state) && !r.after && !r.constraint && !r.levelled,
  );

interface Props {
  rows: Row[];
  axis: Axis;
  /** Gives a row a start. */
  begin: (row: Row, day: string) => void;
  /** Takes the keyboard to the start of a row. */
  goTo: (row: Row) => void;
  shut: () => void;
}

/** The work without dates, each piece to be dragged onto the day on which it is to begin; pressed, its start is typed. */
export function Undated({ rows, axis, begin, goTo, shut }: Props) {
  const { held, grip } = useDragOnto<Row, string>((event) => {
    const pane = under(event, "[data-slide=time]");
    return pane ? axis.day(event.clientX - pane.getBoundingClientRect().left) : null;
  }, begin);
  return (
    <Bar kind="bulk" role="group" aria-label={w.title(rows.length)}>
      <Soft width="300px" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
        {held?.under ? w.from(held.what.name, format.weekDay(held.under)) : w.title(rows.length)}
      </Soft>
      {rows.slice(0, MOST).map((row) => (
        <Button key={row.id} data-tip={w.hint} {...grip(row)} onClick={() => goTo(row)}>
          {row.code} {row.name}
        </Button>
      ))}
      {rows.length > MOST && <Soft>{w.more(rows.length - MOST)}</Soft>}
      <Space />
      <Button onClick={shut}>{words.frame.shut}</Button>
    </Bar>
  );
}
