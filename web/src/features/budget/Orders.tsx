import type { Schemas } from "../../api";
import { format, Notice } from "../../shared";
import { DataTable, Note, PartTitle, ScrollBox, Soft } from "../../shared/ui";
import { words } from "../../shared/words/budget";
import { WithMoney } from "./WithMoney";

const w = words.orders;
type Owed = Schemas["OwedOut"];

/** What is ordered, and what each cost still brings. */
export const Orders = () => (
  <WithMoney>
    {(money) => (
      <ScrollBox>
        {money.orders.length === 0 ? <Notice>{w.none}</Notice> : <Placed orders={money.orders} />}
        <PartTitle>{w.owed}</PartTitle>
        <Note as="p">{w.says}</Note>
        <Costs costs={money.costs} label={w.owed} total={money.totals} />
        {money.outside.length > 0 && (
          <>
            <PartTitle>{w.outside}</PartTitle>
            <Costs costs={money.outside} label={w.outside} />
          </>
        )}
      </ScrollBox>
    )}
  </WithMoney>
);

const Placed = ({ orders }: { orders: Schemas["OrderOut"][] }) => (
  <DataTable
    aria-label={words.budget.orders}
    rows={orders}
    keyOf={(o) => o.code}
    columns={[
      { title: w.order, head: true, cell: (o) => o.code },
      {
        title: w.supplier,
        cell: (o) => (
          <>
            {o.supplier}
            <Soft as="div">{[o.text, o.state === "closed" && w.closed].filter(Boolean).join(", ")}</Soft>
          </>
        ),
      },
      { title: w.date, kind: "date", cell: (o) => o.date && format.spokenDay(o.date) },
      {
        title: w.forWhat,
        cell: (o) =>
          o.lines.map((line) => (
            <div key={`${line.code} ${line.amount}`}>
              {line.activity} {line.name} {format.money(line.amount)}
              {line.over && <Soft as="span"> {w.over(format.money(line.planned))}</Soft>}
            </div>
          )),
      },
      { title: w.amount, kind: "num", cell: (o) => format.money(o.amount) },
      { title: w.invoiced, kind: "num", cell: (o) => format.money(o.invoiced) },
      { title: w.accrued, kind: "num", cell: (o) => format.money(o.accrued) },
      { title: w.left, kind: "num", cell: (o) => format.money(o.left) },
    ]}
  />
);

const SUMS = [
  ["expected", w.expected],
  ["to_order", w.toOrder],
  ["counted", w.counted],
  ["to_pay", w.toPay],
] as const;

function Costs({ costs, label, total }: { costs: Owed[]; label: string; total?: Record<string, string> }) {
  const last = total ? [{ ...NOBODY, ...total } as Owed] : [];
  return (
    <DataTable
      aria-label={label}
      rows={[...costs, ...last]}
      keyOf={(o, at) => `${o.activity} ${o.code || at}`}
      line={(o) => (o.activity ? {} : { "data-total": "" })}
      columns={[
        {
          title: w.cost,
          head: true,
          cell: (o) =>
            o.activity ? (
              <>
                {o.name} <Soft as="span">{`${o.activity} ${o.activity_name}`}</Soft>
              </>
            ) : (
              w.total
            ),
        },
        ...SUMS.map(([key, title]) => ({
          title,
          kind: "num" as const,
          cell: (o: Owed) => (
            <>
              {format.money(o[key])}
              {key === "counted" && Number(o.reckoned) !== 0 && (
                <Soft as="div">
                  <i>{w.ofProgress(format.money(o.reckoned))}</i>
                </Soft>
              )}
              {key === "to_pay" && o.closed && <Soft as="div">{w.finalIn}</Soft>}
            </>
          ),
        })),
      ]}
    />
  );
}

const NOBODY = { code: "", name: "", activity: "", activity_name: "", ordered: "", reckoned: "0", closed: false };
