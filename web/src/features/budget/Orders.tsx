import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api";
import { format, Notice, usePlace, useSought } from "../../shared";
import { type ListColumn, type ListRow, ListSheet } from "../../shared/sheet";
import { DataTable, Note, PartTitle, ScrollBox, Soft } from "../../shared/ui";
import { words } from "../../shared/words/budget";
import { Answered, listOf, usePlan } from "../plan";
import { moneyOf, WithMoney } from "./WithMoney";

const w = words.orders;
type Owed = Schemas["OwedOut"];
type Order = Schemas["OrderOut"];
type Money = Schemas["MoneyOut"];

/** What is ordered, and what each cost still brings. */
export const Orders = () => (
  <WithMoney>
    {(money) => (
      <ScrollBox filled>
        <Placed orders={money.orders} />
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

const sum = (key: "amount" | "invoiced" | "accrued" | "left", title: string): ListColumn => ({
  key,
  title,
  width: 86,
  fixed: true,
  text: (r) => format.money(r.cells[key]),
});
const COLUMNS: ListColumn[] = [
  { key: "code", title: w.order, width: 76, left: true, unique: true, hint: w.hints.code },
  { key: "supplier", title: w.supplier, width: 120, left: true, grow: true, hint: w.hints.supplier },
  { key: "lines", title: w.forWhat, width: 170, left: true, grow: true, hint: w.hints.lines },
  { key: "text", title: w.text, width: 90, left: true, grow: true },
  { key: "date", title: w.date, width: 124, left: true, text: (r) => format.spokenDay(r.cells.date) },
  { key: "state", title: w.state, width: 68, left: true, options: w.states },
  sum("amount", w.amount),
  sum("invoiced", w.invoiced),
  sum("accrued", w.accrued),
  sum("left", w.left),
];
const rowOf = ({ id, lines: _, typed, date, ...cells }: Order): ListRow => ({
  id,
  cells: { ...cells, lines: typed, date: date ?? "" },
});

/** The orders as a sheet; the lines of the one that the cursor stands on are read below it. */
function Placed({ orders }: { orders: Order[] }) {
  const { project, page, person } = usePlace();
  const queries = useQueryClient();
  const asked = moneyOf(project, page.code);
  const plan = usePlan(project, "orders", asked.queryKey);
  const [shown, show] = useState("");
  const open = person.role !== "reader" && page.state === "wet";
  const { add, ...hands } = listOf(plan, "orders", (row, field) => {
    const now = queries.getQueryData<Money>(asked.queryKey)?.orders.find((o) => o.id === row);
    return now && rowOf(now).cells[field];
  });
  const sought = useSought("order");
  const order = orders.find((o) => o.id === shown) ?? orders[0];
  if (!open && orders.length === 0) return <Notice>{w.none}</Notice>;
  return (
    <>
      <ListSheet
        label={words.budget.orders}
        of={project}
        rows={orders.map(rowOf)}
        columns={COLUMNS}
        open={open}
        name="code"
        most={8}
        {...hands}
        begin={{ start: { state: "open" }, needs: ["lines"], add }}
        seek={sought}
        stand={(row) => row && show(row.id)}
      />
      <Answered plan={plan} />
      {order && <Lines order={order} />}
    </>
  );
}

const Lines = ({ order }: { order: Order }) => (
  <>
    <PartTitle>{w.linesOf(order.code, order.supplier)}</PartTitle>
    <DataTable
      width="auto"
      aria-label={w.linesOf(order.code, order.supplier)}
      rows={order.lines}
      keyOf={(line, at) => `${line.code} ${at}`}
      columns={[
        { title: w.code, head: true, cell: (line) => line.code },
        { title: w.cost, cell: (line) => line.name },
        { title: w.activity, cell: (line) => line.activity },
        { title: w.amount, kind: "num", cell: (line) => format.money(line.amount) },
        { title: w.planned, kind: "num", cell: (line) => line.planned && format.money(line.planned) },
        { title: "", label: w.note, cell: (line) => line.over && w.over },
      ]}
    />
  </>
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
                {o.code} {o.name} <Soft as="span">{`${o.activity} ${o.activity_name}`}</Soft>
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
