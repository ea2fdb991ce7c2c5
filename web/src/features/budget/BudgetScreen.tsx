import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, namesOf, oneOf, useAddressed, usePlace } from "../../shared";
import { Button, Named, PartBar, PartTitle, RoomHead, RowOf, ScrollBox, Select, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/budget";
import { Estimates } from "./Estimates";
import { Orders } from "./Orders";
import { Phased } from "./Phased";
import { Running } from "./Running";
import { Spending } from "./Spending";
import { UnderChange } from "./UnderChange";

type Bucket = "day" | "week" | "month";
const w = words.budget;
const VIEW = { by: "month", part: "time", show: "plan" };
const PARTS = [
  ["time", w.time],
  ["orders", w.orders],
  ["change", w.change],
  ["estimates", w.estimates],
] as const;
const SHOWS = [
  ["plan", w.plan],
  ["against", w.against],
] as const;
const BUCKETS: [Bucket, ...Bucket[]] = ["month", "day", "week"];

/** The budget of the plan as it stands, by time, with totals both ways; costs by kind; estimates. */
export function BudgetScreen() {
  const { project } = usePlace();
  const [{ by, part, show }, look] = useAddressed(`${project}/budget`, VIEW);
  const bucket = oneOf(BUCKETS, by);
  const [chosen, setChosen] = useState("");
  const budget = useQuery({
    queryKey: keys.project(project).budget(bucket, chosen),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/budget", {
          params: { path: { project }, query: { bucket, rows: chosen } },
        }),
      ),
    placeholderData: (before) => before,
  });
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>
          {budget.data && !(part === "time" && show === "against")
            ? w.asOf(budget.data.currency, format.fullDay(budget.data.status))
            : ""}
        </Told>
        <Space />
        {part === "time" && (
          <RowOf as="fieldset" aria-label={w.shows}>
            {SHOWS.map(([key, name]) => (
              <Button key={key} aria-pressed={show === key} onClick={() => look({ show: key })}>
                {name}
              </Button>
            ))}
          </RowOf>
        )}
        {part === "time" && (
          <RowOf as="fieldset" aria-label={w.by}>
            {BUCKETS.map((b) => (
              <Button key={b} aria-pressed={bucket === b} onClick={() => look({ by: b })}>
                {w[b]}
              </Button>
            ))}
          </RowOf>
        )}
      </RoomHead>
      <PartBar label={w.title} parts={PARTS} at={part} go={(key) => look({ part: key })} />
      {part === "estimates" ? (
        <Estimates />
      ) : part === "orders" ? (
        <Orders />
      ) : part === "change" ? (
        <UnderChange />
      ) : show === "against" ? (
        <Spending bucket={bucket} />
      ) : budget.isPending ? (
        <Bones />
      ) : budget.isError ? (
        <Notice bad>{budget.error.message}</Notice>
      ) : (
        <ScrollBox>
          <Kinds budget={budget.data} chosen={chosen} setChosen={setChosen} />
          <PartTitle>{w.table}</PartTitle>
          <Phased phased={budget.data.budget} label={w.table} empty={w.empty} />
          {budget.data.budget.ends.length > 1 && (
            <Running phased={budget.data.budget} currency={budget.data.currency} />
          )}
          <PartTitle>{w.outside}</PartTitle>
          <Phased phased={budget.data.outside} label={w.outside} empty={w.noOutside} />
        </ScrollBox>
      )}
    </>
  );
}

function Kinds({
  budget,
  chosen,
  setChosen,
}: {
  budget: Schemas["BudgetOut"];
  chosen: string;
  setChosen: (rows: string) => void;
}) {
  const { project } = usePlace();
  const plan = useQuery({
    ...namesOf(project),
    select: (p) => p.rows.filter((r) => r.kind === "wbs").map((r) => ({ id: r.id, name: `${r.code} ${r.name}` })),
  });
  return (
    <RowOf rowGap="6" columnGap="18" mt="0">
      <label>
        {w.costOf}{" "}
        <Select value={chosen} onChange={(e) => setChosen(e.target.value)}>
          <option value="">{w.project}</option>
          {(plan.data ?? []).map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}
            </option>
          ))}
        </Select>
      </label>
      {budget.kinds
        .filter((k) => k.kind !== "outside")
        .map((k) => (
          <Named key={k.kind}>
            <small>{words.cost.kinds[k.kind] ?? k.kind}</small> <b>{format.money(k.amount)}</b>
          </Named>
        ))}
      <Named>
        <small>{w.total}</small> <b>{format.money(budget.total)}</b>
      </Named>
      <Named>
        <small>{words.cost.kinds.outside}</small> {format.money(budget.kinds.find((k) => k.kind === "outside")?.amount)}
      </Named>
    </RowOf>
  );
}
