import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { format, Notice, useAtOnce, usePlace, useSought } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { cellKey, type ListColumn, type ListRow, ListSheet } from "../../shared/sheet";
import { Button, DataTable, Note, PartTitle, RowOf, ScrollBox, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/budget";
import { Answered, listOf, usePlan } from "../plan";
import { moneyOf, WithMoney } from "./WithMoney";

const w = words.change;
type Money = Schemas["MoneyOut"];
type Change = Schemas["BudgetChange"];

/** What was approved first, what changes made of it, what is built in, and what nobody can explain; reserves and changes. */
export const UnderChange = () => (
  <WithMoney>
    {(money) => (
      <ScrollBox>
        <Note as="p">{w.explains}</Note>
        <Elements money={money} />
        <PartTitle>{w.reserves}</PartTitle>
        <Reserves money={money} />
        <PartTitle>{w.changes}</PartTitle>
        {money.changes.length ? <Changes money={money} /> : <Notice>{w.none}</Notice>}
      </ScrollBox>
    )}
  </WithMoney>
);

const amount = (value: string | null | undefined) => (value == null ? "–" : format.money(value));

const Elements = ({ money }: { money: Money }) => {
  const sought = useSought("element");
  useAtOnce([sought], () => document.querySelector("tr[aria-current=true]")?.scrollIntoView({ block: "nearest" }));
  return (
    <DataTable
      aria-label={words.budget.change}
      rows={money.budget}
      line={(b) => ({ "aria-current": b.code === sought?.code || undefined })}
      keyOf={(b) => b.code}
      columns={[
        {
          title: w.element,
          head: true,
          more: (b) => ({ style: { paddingLeft: 6 + b.level * 14 } }),
          cell: (b) => (b.level ? `${b.code} ${b.name}` : b.name),
        },
        { title: w.original, kind: "num", cell: (b) => amount(b.original) },
        { title: w.approved, kind: "num", cell: (b) => amount(b.approved), tip: (b) => b.why || undefined },
        { title: w.authorised, kind: "num", cell: (b) => amount(b.authorised), tip: (b) => b.why || undefined },
        { title: w.toBuild, kind: "num", cell: (b) => amount(b.to_build), tip: (b) => b.why || undefined },
        { title: w.baseline(money.baseline ?? ""), kind: "num", cell: (b) => amount(b.baseline) },
        {
          title: w.unexplained,
          kind: "num",
          tip: (b) => b.why || undefined,
          cell: (b) => (Number(b.unexplained) ? <b>{amount(b.unexplained)}</b> : amount(b.unexplained)),
        },
      ]}
    />
  );
};

const RESERVES: ListColumn[] = [
  { key: "code", title: words.orders.code, width: 60, left: true, unique: true, needed: true },
  { key: "name", title: w.reserve, width: 150, left: true, grow: true, needed: true, hint: w.reserveHint },
  { key: "held", title: w.held, width: 110, left: true, options: w.holders },
  { key: "amount", title: w.amount, width: 100, needed: true, hint: "0.00", text: (r) => amount(r.cells.amount) },
  { key: "drawn", title: w.drawn, width: 100, fixed: true, text: (r) => amount(r.cells.drawn) },
  { key: "left", title: w.left, width: 100, fixed: true, text: (r) => amount(r.cells.left) },
  { key: "pages", title: w.onPages, width: 300, left: true, grow: true, fixed: true },
];
/** A reserve as a row: what is left of it on the pages on which that became another. */
const reserveRow =
  (pages: string[]) =>
  ({ id, pages: left, ...cells }: Money["reserves"][number]): ListRow => {
    const told = left.map((x, i) => [pages[i], x] as const).filter(([, x], i) => i === 0 || x !== left[i - 1]);
    return { id, cells: { ...cells, pages: told.map(([page, x]) => `${page} ${format.money(x)}`).join(", ") } };
  };

function Reserves({ money }: { money: Money }) {
  const { project, page, person } = usePlace();
  const queries = useQueryClient();
  const asked = moneyOf(project, page.code);
  const plan = usePlan(project, "reserves", asked.queryKey);
  const rowOf = reserveRow(money.pages);
  const { add, ...hands } = listOf(plan, "reserves", (row, field) => {
    const now = queries.getQueryData<Money>(asked.queryKey)?.reserves.find((r) => r.id === row);
    return now && rowOf(now).cells[field];
  });
  const sought = useSought("reserve");
  const open = person.role !== "reader" && page.state === "wet";
  if (!open && money.reserves.length === 0) return <Notice>{w.noReserves}</Notice>;
  return (
    <>
      <ListSheet
        label={w.reserves}
        of={project}
        rows={money.reserves.map(rowOf)}
        columns={RESERVES}
        open={open}
        name="name"
        most={6}
        {...hands}
        begin={{ start: { held: "inside" }, needs: ["name", "amount"], add }}
        seek={sought}
      />
      <Answered plan={plan} />
      {money.reserves.length > 0 && (
        <Note as="p">
          {w.whole}: {amount(money.with_contingency)}. {w.wholeOut}: {amount(money.with_all)}.
        </Note>
      )}
    </>
  );
}

/** What a line of a change moves, with its amount where there are several. */
const lineOf = (c: Change, line: Change["lines"][number]) =>
  `${line.on} ${line.name}${c.lines.length > 1 ? ` ${format.money(line.amount)}` : ""}`;

function Changes({ money }: { money: Money }) {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const asked = moneyOf(project, page.code);
  const again = async () => {
    await queries.fetchQuery(asked);
  };
  const after = async () => refresh(queries, project);
  const writes = useWrites({ project, part: "changes", read: again, after });
  const decide = (code: string, approve: boolean) => {
    const send = (revision: number) =>
      take(
        client.POST("/api/projects/{project}/changes/{change}/decision", {
          params: { path: { project, change: code } },
          body: { revision, approve },
        }),
      );
    const current = () => queries.getQueryData<Money>(asked.queryKey)?.changes.find((c) => c.code === code)?.state;
    void writes.write(send, [{ row: code, field: "from", text: String(approve), current: () => current() ?? "" }]);
  };
  const open = money.may_decide && page.state === "wet";
  const source = (c: Change) => (c.source === "client" ? w.client : (c.source ?? w.nowhere));
  return (
    <DataTable
      aria-label={w.changes}
      rows={money.changes}
      keyOf={(c) => c.code}
      columns={[
        {
          title: w.code,
          head: true,
          cell: (c) => (
            <>
              <b>
                {c.code} {c.name}
              </b>
              <Soft as="div">{c.reason}</Soft>
            </>
          ),
        },
        { title: w.moves, kind: "num", cell: (c) => format.money(c.amount) },
        {
          title: w.on,
          cell: (c) => c.lines.map((line) => <div key={`${line.on} ${line.amount}`}>{lineOf(c, line)}</div>),
        },
        { title: w.from, cell: source },
        { title: w.days, kind: "num", cell: (c) => (c.days === null ? "" : format.tenth(c.days)) },
        {
          title: w.state,
          cell: (c) => (
            <>
              {format.choice(c.state)}
              {c.decided_by && (
                <Soft as="div">{w.by(c.decided_by, c.decided_at ? format.fullDay(c.decided_at) : "")}</Soft>
              )}
              {c.baseline && <Soft as="div">{w.builtIn(c.baseline)}</Soft>}
              {c.state === "raised" && open && (
                <RowOf>
                  <Button aria-label={w.approveOf(c.code)} look="seal" onClick={() => decide(c.code, true)}>
                    {w.approve}
                  </Button>
                  <Button aria-label={w.refuseOf(c.code)} onClick={() => decide(c.code, false)}>
                    {w.refuse}
                  </Button>
                </RowOf>
              )}
              {writes.troubles[cellKey(c.code, "from")] && (
                <Why role="alert" as="div">
                  {writes.troubles[cellKey(c.code, "from")]?.message}
                </Why>
              )}
            </>
          ),
        },
      ]}
    />
  );
}
