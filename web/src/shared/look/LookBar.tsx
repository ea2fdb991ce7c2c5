import { type ReactNode, useMemo } from "react";
import type { Schemas } from "../../api";
import { usePlace } from "../place";
import { Bar, Button, Input, Select } from "../ui";
import { words } from "../words";
import { type FigureRow, isPlain, type LOOK, type LookColumn, lookOf, wrongIn } from "./arrange";
import { Conditions } from "./Conditions";
import type { Ground } from "./conditions";

const w = words.look;
type Figure = Schemas["FigureOut"];

interface Props {
  view: typeof LOOK;
  look: (next: Partial<typeof LOOK>) => void;
  offered: Figure[];
  columns: Map<string, LookColumn<FigureRow>>;
  children?: ReactNode;
}

/** What conditions on figures are read against: dates near the status date, days of eight hours where no unit is said. */
export function useGround(): Ground {
  const { page } = usePlace();
  return useMemo(() => ({ near: page.status.slice(0, 10), day: 480 }), [page.status]);
}

const GROUPED = ["text", "choice", "flag"];

/** Find, filter and group the activities of a sheet of figures. */
export function LookBar({ view, look, offered, columns, children }: Props) {
  const on = useGround();
  const now = lookOf(view);
  const groups = offered.filter((f) => f.scopes.includes("activity") && GROUPED.includes(f.kind));
  const conditions = [
    { key: "mark", title: w.mark },
    ...offered.filter((f) => f.scopes.includes("activity")).map((f) => ({ key: f.key, title: f.word })),
  ];
  return (
    <Bar kind="view">
      <Input
        type="search"
        aria-label={w.find}
        placeholder={w.find}
        value={view.find}
        onChange={(e) => look({ find: e.target.value })}
      />
      <label>
        {w.group}
        <Select aria-label={w.group} value={view.group} maxW="150px" onChange={(e) => look({ group: e.target.value })}>
          <option value="">{w.tree}</option>
          <option value="mark">{w.mark}</option>
          {groups.map((f) => (
            <option key={f.key} value={f.key}>
              {f.word}
            </option>
          ))}
        </Select>
      </label>
      <Conditions
        where={now.where}
        put={(next) => look({ where: next.length ? JSON.stringify(next) : "" })}
        offered={conditions}
        wrong={wrongIn(columns, on)}
        first="mark"
      />
      {children}
      {!isPlain(now) && (
        <Button look="quiet" onClick={() => look({ find: "", where: "", sort: "", group: "" })}>
          {w.clear}
        </Button>
      )}
    </Bar>
  );
}
