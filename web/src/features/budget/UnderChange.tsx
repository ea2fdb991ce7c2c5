import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { format, Notice, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";
import { Button, DataTable, Note, PartTitle, RowOf, ScrollBox, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/budget";
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
        {money.reserves.length ? <Reserves money={money} /> : <Notice>{w.noReserves}</Notice>}
        <PartTitle>{w.changes}</PartTitle>
        {money.changes.length ? <Changes money={money} /> : <Notice>{w.none}</Notice>}
      </ScrollBox>
    )}
  </WithMoney>
);

const amount = (value: string | null | undefined) => (value == null ? "–" : format.money(value));

const Elements = ({ money }: { money: Money }) => (
  <DataTable
    aria-label={words.budget.change}
    rows={money.budget}
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

function Reserves({ money }: { money: Money }) {
  return (
    <>
      <DataTable
        width="auto"
        aria-label={w.reserves}
        rows={money.reserves}
        keyOf={(r) => r.code}
        columns={[
          { title: w.reserve, head: true, cell: (r) => `${r.code} ${r.name}` },
          {
            title: "",
            label: w.reserve,
            cell: (r) => <Soft as="span">{r.held === "inside" ? w.inside : w.outside}</Soft>,
          },
          { title: w.amount, kind: "num", cell: (r) => amount(r.amount) },
          { title: w.drawn, kind: "num", cell: (r) => amount(r.drawn) },
          { title: w.left, kind: "num", cell: (r) => <b>{amount(r.left)}</b> },
          {
            title: w.onPages,
            cell: (r) =>
              r.pages
                .map((x, i) => [money.pages[i], x] as const)
                .filter(([, x], i) => i === 0 || x !== r.pages[i - 1])
                .map(([page, x]) => `${page} ${format.money(x)}`)
                .join(", "),
          },
        ]}
      />
      <Note as="p">
        {w.whole}: {amount(money.with_contingency)}. {w.wholeOut}: {amount(money.with_all)}.
      </Note>
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
