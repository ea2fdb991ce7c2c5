import { type ReactNode, useMemo } from "react";
import { usePlace } from "../place";
import { Bar, Button, Input, PickLine, Select } from "../ui";
import { words } from "../words";
import { isPlain, LOOK, type LookColumn, type LookColumns, lookOf, titleOf, wrongIn } from "./arrange";
import { Conditions } from "./Conditions";
import { DAY, type Ground } from "./conditions";

const w = words.look;
/** How many values of a column are offered to choose from. */
const MOST = 60;

/** What stands in the address: the look, and the cut where the sheet has cuts of its own. */
type View = typeof LOOK & { show?: string };

interface Props<R> {
  view: View;
  look: (next: Partial<View>) => void;
  columns: LookColumns<R>;
  on: Ground;
  /** The rows that are looked at, whose values conditions offer while they are open. */
  rows?: () => R[];
  /** The column that a new condition asks of. */
  first?: string;
  /** What is sought. */
  find?: string;
  /** What rows stand under where they are in no groups; absent: the sheet has groups of its own. */
  whole?: string;
  /** Whether room is short: groups are chosen where conditions are. */
  short?: boolean;
  /** The cuts that rows can be brought down to, by their words; the first is as usual. */
  shows?: Record<string, string>;
  children?: ReactNode;
}

/** What conditions on figures are read against: dates near the status date, days of eight hours where no unit is said. */
export function useGround(): Ground {
  const { page } = usePlace();
  return useMemo(() => ({ near: page.status.slice(0, 10), day: DAY }), [page.status]);
}

/** What a column holds anywhere, each once. */
function valuesIn<R>(column: LookColumn<R> | undefined, rows: R[]): string[] {
  const found = new Set<string>();
  if (column && (column.kind ?? "text") === "text") for (const row of rows) found.add(column.text(row));
  return [...found].filter(Boolean).sort().slice(0, MOST);
}

/** Finds, groups and filters rows; what is said stands in the address. */
export function LookParts<R>({
  view,
  look,
  columns,
  on,
  rows,
  first = "mark",
  find,
  whole,
  short,
  shows,
  children,
}: Props<R>) {
  const now = lookOf(view);
  const usual = shows && Object.keys(shows)[0];
  const offered = [...columns.values()].map((c) => ({ ...c, title: titleOf(c) }));
  const groups = whole !== undefined && (
    <label>
      {w.group}{" "}
      <Select aria-label={w.group} value={view.group} maxW="150px" onChange={(e) => look({ group: e.target.value })}>
        <option value="">{whole}</option>
        {offered
          .filter((c) => c.groups)
          .map((c) => (
            <option key={c.key} value={c.key}>
              {c.title}
            </option>
          ))}
      </Select>
    </label>
  );
  return (
    <>
      <Input
        type="search"
        aria-label={find ?? w.find}
        placeholder={find ?? w.find}
        width={short ? "104px" : "150px"}
        value={view.find}
        onChange={(e) => look({ find: e.target.value })}
      />
      {shows && (
        <label>
          {!short && whole !== undefined && w.show}
          <Select
            aria-label={w.show}
            value={view.show}
            maxW={short ? "122px" : "130px"}
            onChange={(e) => look({ show: e.target.value })}
          >
            {Object.entries(shows).map(([key, word]) => (
              <option key={key} value={key}>
                {word}
              </option>
            ))}
          </Select>
        </label>
      )}
      {!short && groups}
      <Conditions
        where={now.where}
        put={(next) => look({ where: next.length ? JSON.stringify(next) : "" })}
        offered={offered}
        wrong={wrongIn(columns, on)}
        first={first}
        values={rows && ((key) => valuesIn(columns.get(key), rows()))}
      >
        {short && groups && <PickLine>{groups}</PickLine>}
      </Conditions>
      {children}
      {(!isPlain(now) || view.show !== usual) && (
        <Button look="quiet" onClick={() => look({ ...LOOK, ...(shows && { show: usual }) })}>
          {w.clear}
        </Button>
      )}
    </>
  );
}

/** The same in a line of its own. */
export function LookBar<R>(props: Props<R>) {
  return (
    <Bar kind="view">
      <LookParts {...props} />
    </Bar>
  );
}
