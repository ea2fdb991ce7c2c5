import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, Notice, useAddressed, usePlace, words } from "../../shared";
import { Button, Select, Table } from "../../shared/ui";
import { Estimates } from "./Estimates";
import { Running } from "./Running";

type Bucket = "day" | "week" | "month";
const w = words.budget;
const VIEW = { by: "month", part: "time" };
const BUCKETS: Bucket[] = ["day", "week", "month"];

/** The budget of the plan as it stands, by time, with totals both ways; costs by kind; estimates. */
export function BudgetScreen() {
  const { project } = usePlace();
  const [{ by, part }, look] = useAddressed(`${project}/budget`, VIEW);
  const bucket = by as Bucket;
  const [chosen, setChosen] = useState("");
  const budget = useQuery({
    queryKey: [project, "budget", bucket, chosen],
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
      <div className="sheet-head">
        <h1>{w.title}</h1>
        <span className="told">
          {budget.data ? w.asOf(budget.data.currency, format.fullDay(budget.data.status)) : ""}
        </span>
        <span className="space" />
        {part === "time" && (
          <fieldset className="row-of" aria-label={w.by}>
            {BUCKETS.map((b) => (
              <Button key={b} aria-pressed={bucket === b} onClick={() => look({ by: b })}>
                {w[b]}
              </Button>
            ))}
          </fieldset>
        )}
      </div>
      <nav className="parts" aria-label={w.title}>
        <Button look="bare" className={part === "time" ? "active" : ""} onClick={() => look({ part: "time" })}>
          {w.time}
        </Button>
        <Button
          look="bare"
          className={part === "estimates" ? "active" : ""}
          onClick={() => look({ part: "estimates" })}
        >
          {w.estimates}
        </Button>
      </nav>
      {part === "estimates" ? (
        <Estimates />
      ) : budget.isPending ? (
        <Notice>{words.frame.loading}</Notice>
      ) : budget.isError ? (
        <Notice bad>{budget.error.message}</Notice>
      ) : (
        <div className="scroll-box">
          <Kinds budget={budget.data} chosen={chosen} setChosen={setChosen} />
          <h2 className="part-title">{w.table}</h2>
          <Phased phased={budget.data.budget} empty={w.empty} />
          {budget.data.budget.ends.length > 1 && (
            <Running phased={budget.data.budget} currency={budget.data.currency} />
          )}
          <h2 className="part-title">{w.outside}</h2>
          <Phased phased={budget.data.outside} empty={w.noOutside} />
        </div>
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
    queryKey: [project, "plan-names"],
    queryFn: () => take(client.GET("/api/projects/{project}/plan", { params: { path: { project } } })),
    select: (p) => p.rows.filter((r) => r.kind === "wbs").map((r) => ({ id: r.id, name: `${r.code} ${r.name}` })),
  });
  return (
    <div className="kinds">
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
          <span key={k.kind} className="kind">
            <span className="total-name">{w.kinds[k.kind] ?? k.kind}</span> <b>{format.money(k.amount)}</b>
          </span>
        ))}
      <span className="kind sum">
        <span className="total-name">{w.total}</span> <b>{format.money(budget.total)}</b>
      </span>
      <span className="kind">
        <span className="total-name">{w.kinds.outside}</span>{" "}
        {format.money(budget.kinds.find((k) => k.kind === "outside")?.amount)}
      </span>
    </div>
  );
}

function Phased({ phased, empty }: { phased: Schemas["PhasedOut"]; empty: string }) {
  if (phased.rows.length === 0) return <p className="soft-text">{empty}</p>;
  const short = [...phased.rows.flatMap((r) => r.cells), ...phased.columns].every((c) => !/\.\d*[1-9]/.test(c));
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls sideways, so keys must reach it
    <div className="wide-table" tabIndex={0} role="region" aria-label={w.table}>
      <Table className="plain phased">
        <thead>
          <tr>
            <th>{w.package}</th>
            {phased.ends.map((e) => (
              <th key={e} className="num">
                {w.upTo(format.day(before(e)), e.slice(0, 4))}
              </th>
            ))}
            <th className="num">{w.total}</th>
          </tr>
        </thead>
        <tbody>
          {phased.rows.map((r) => (
            <tr key={r.code}>
              <th scope="row" style={{ paddingLeft: 8 + r.level * 12 }}>
                {r.code} {r.name}
              </th>
              {r.cells.map((c, i) => (
                <td key={phased.ends[i]} className="num">
                  {Number(c) ? format.money(c, short) : ""}
                </td>
              ))}
              <td className="num sum">{format.money(r.total, short)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="totals">
            <th scope="row">{w.total}</th>
            {phased.columns.map((c, i) => (
              <td key={phased.ends[i]} className="num">
                {format.money(c, short)}
              </td>
            ))}
            <td className="num sum">{format.money(phased.total, short)}</td>
          </tr>
          <tr>
            <th scope="row">{w.running}</th>
            {phased.running.map((c, i) => (
              <td key={phased.ends[i]} className="num">
                {format.money(c, short)}
              </td>
            ))}
            <td />
          </tr>
        </tfoot>
      </Table>
    </div>
  );
}

/** The last day of a bucket that ends at a midnight. */
const before = (end: string) => new Date(Date.parse(`${end.slice(0, 10)}T00:00Z`) - 86_400_000).toISOString();
