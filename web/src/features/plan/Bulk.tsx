import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api";
import { format, keys, usePlace } from "../../shared";
import { Bar, Button, Input, Named, Select } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { Column } from "./columns";
import type { PlanHands } from "./useHands";
import type { PlanInfo } from "./usePlan";

interface Props {
  hands: PlanHands;
  info: PlanInfo;
  columns: Column[];
}

/** What can be done to the chosen rows at once. Each is one undo step. */
export function Bulk({ hands, info, columns }: Props) {
  const [field, setField] = useState("duration");
  const [text, setText] = useState("");
  const on = hands.picked.filter((r) => r.kind !== "wbs");
  const writable = columns.filter((c) => c.writes && c.writes !== "code");
  const b = words.plan.bulk;
  return (
    <Bar kind="bulk" data-bulk="" role="toolbar" aria-label={b.title(hands.picked.length)}>
      <b>{b.title(hands.picked.length)}</b>
      <Select aria-label={b.column} value={field} onChange={(e) => setField(e.target.value)}>
        {writable.map((c) => (
          <option key={c.key} value={c.writes}>
            {c.title}
          </option>
        ))}
      </Select>
      <Input
        aria-label={b.value}
        value={text}
        placeholder={b.value}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && hands.write(hands.picked, field, text)}
      />
      <Button onClick={() => hands.write(hands.picked, field, text)}>{b.set}</Button>
      <Button onClick={hands.chain} data-tip="Ctrl+L">
        {b.chain}
      </Button>
      {info.resources.length > 0 && (
        <Button disabled={!on.length} onClick={hands.choosePeople} data-tip="Ctrl+B">
          {b.people}
        </Button>
      )}
      <Button onClick={() => hands.move(true)} data-tip="Alt+Shift+↑">
        {b.up}
      </Button>
      <Button onClick={() => hands.move(false)} data-tip="Alt+Shift+↓">
        {b.down}
      </Button>
      <Button onClick={() => hands.structure("indent")} data-tip="Alt+Shift+→">
        {b.indent}
      </Button>
      <Button onClick={() => hands.structure("outdent")} data-tip="Alt+Shift+←">
        {b.outdent}
      </Button>
      <Button onClick={hands.gather} data-tip="Ctrl+Shift+Enter">
        {b.gather}
      </Button>
      <Button onClick={hands.remove} data-tip="Ctrl+Delete">
        {b.remove}
      </Button>
      <CostOf rows={hands.picked.map((r) => r.id)} />
    </Bar>
  );
}

const MOST = 400;

/** What the chosen rows cost as planned, by kind and in all. */
function CostOf({ rows }: { rows: string[] }) {
  const { project } = usePlace();
  const chosen = rows.slice(0, MOST).join(",");
  const budget = useQuery({
    queryKey: keys.project(project).budget("month", chosen),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/budget", {
          params: { path: { project }, query: { bucket: "month", rows: chosen } },
        }),
      ),
    enabled: rows.length <= MOST,
    placeholderData: (before) => before,
  });
  if (!budget.data) return null;
  const inside = budget.data.kinds.filter((k) => k.kind !== "outside" && Number(k.amount));
  return (
    <Named role="status">
      {words.plan.bulk.cost}{" "}
      {inside
        .map((k) => `${(words.cost.kinds[k.kind] ?? k.kind).toLowerCase()} ${format.money(k.amount, true)}`)
        .join(", ")}
      {inside.length > 1 && `, ${words.plan.bulk.inAll} ${format.money(budget.data.total, true)}`}
      {inside.length === 0 && "0"}
    </Named>
  );
}
