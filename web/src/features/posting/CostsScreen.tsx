import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { format, Notice, usePlace } from "../../shared";
import { type Asked, useWrites } from "../../shared/book";
import {
  type ListColumn,
  type ListRow,
  ListSheet,
  type ListWrite,
  ReadSheet,
  type SheetColumn,
} from "../../shared/sheet";
import { Button, RowOf, ScrollBox, Soft, Table } from "../../shared/ui";
import { words as correcting } from "../../shared/words/corrections";
import { words } from "../../shared/words/costs";
import { Correct, type Corrected } from "./Correct";
import { Corrections } from "./Corrections";
import { PageHead } from "./PageHead";
import { useCorrections } from "./useCorrections";
import { settle, usePosting } from "./usePosting";

type Sheet = Schemas["CostsSheet"];
const w = words.costs;
const KINDS = ["invoice", "accrual", "feed", "correction"].map((k): [string, string] => [k, w.sources[k] ?? k]);
const BEGIN = { start: { kind: "invoice" }, needs: ["on", "amount"] };

const rowOf = (c: Schemas["CostLine"]): ListRow => ({
  id: c.id,
  cells: { date: c.date, on: c.on, name: c.name, amount: c.amount, kind: c.source, ref: c.ref, corrects: c.corrects },
});

const columnsOf = (currency: string): ListColumn[] => [
  {
    key: "on",
    title: w.columns.on,
    width: 120,
    left: true,
    needed: true,
    hint: w.hints.on,
  },
  {
    key: "amount",
    title: w.columns.amount(currency),
    width: 110,
    needed: true,
    hint: "0.00",
    text: (r) => format.money(r.cells.amount),
  },
  {
    key: "date",
    title: w.columns.date,
    width: 120,
    left: true,
    hint: w.hints.date,
    text: (r) => format.spokenDay(r.cells.date),
  },
  { key: "kind", title: w.columns.kind, width: 96, left: true, options: KINDS, needed: true },
  { key: "ref", title: w.columns.ref, width: 130, left: true, hint: w.hints.ref },
  { key: "name", title: w.columns.name, width: 150, left: true, grow: true, fixed: true },
  { key: "corrects", title: w.columns.corrects, width: 96, left: true, fixed: true },
];

/** The costs of the page and the way to write them. */
function useCosts() {
  const { project, page, setEffect } = usePlace();
  const queries = useQueryClient();
  const path = { project, page: page.code };
  const key = [project, page.code, "costs"];
  const read = () => take(client.GET("/api/projects/{project}/pages/{page}/posting/costs", { params: { path } }));
  const sheet = useQuery({ queryKey: key, queryFn: read });
  const writes = useWrites({
    project,
    part: `costs.${page.code}`,
    read: async () => queries.setQueryData(key, await read()),
  });
  const known = () => queries.getQueryData<Sheet>(key);
  const send = (body: Omit<Schemas["PatchedCostsForm"], "revision">, asked: Asked[], mine = false) =>
    writes.write(
      async () => {
        const posting = queries.getQueryData<Schemas["Sheet"]>([project, page.code, "posting"])?.revision ?? 0;
        const revision = Math.max(known()?.revision ?? 0, posting);
        const done = await take(
          client.PATCH("/api/projects/{project}/pages/{page}/posting/costs", {
            params: { path },
            body: { revision, ...body },
          }),
        );
        queries.setQueryData(key, done.sheet);
        settle(queries, project, page.code, done.effect, ["posting", "balance", "costs"]);
        setEffect(done.effect);
        return done;
      },
      asked,
      mine,
    );
  const said = (row: string, field: string) => () => {
    const found = known()?.rows?.find((r) => r.id === row);
    return found && rowOf(found).cells[field];
  };
  return {
    sheet,
    refused: writes.refused,
    list: {
      troubles: writes.troubles,
      waiting: writes.waiting,
      drop: writes.drop,
      write: (cells: ListWrite[], mine: boolean) => {
        const entries = [...Map.groupBy(cells, (c) => c.row)].map(([id, own]) => ({
          id,
          ...Object.fromEntries(own.map((c) => [c.field, c.text])),
        }));
        void send(
          { entries },
          cells.map((c) => ({ ...c, said: said(c.row, c.field) })),
          mine,
        );
      },
      begin: {
        ...BEGIN,
        add: (cells: Record<string, string>, line: string) =>
          send(
            { entries: [cells] },
            Object.entries(cells).map(([field, text]) => ({ row: line, field, text })),
          ),
      },
      remove: (gone: ListRow[]) => void send({ remove: gone.map((r) => r.id) }, []),
    },
    /** Takes an accrual back by a negative one of the same reference. */
    release: (a: Schemas["AccrualLine"]) => {
      const amount = a.amount.startsWith("-") ? a.amount.slice(1) : `-${a.amount}`;
      void send({ entries: [{ on: a.on, amount, kind: "accrual", ref: a.ref }] }, []);
    },
  };
}

/** Costs of the page as a ledger, the accruals that are open, and actual cost by source. */
export function CostsScreen() {
  const { project, page, mayPost } = usePlace();
  const posting = usePosting();
  const costs = useCosts();
  const { sheet, list } = costs;
  const corrections = useCorrections();
  const [corrected, correct] = useState<Corrected | null>(null);
  if (posting.sheet.isPending || sheet.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (!posting.sheet.data) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  if (!sheet.data) return <Notice bad>{sheet.error?.message}</Notice>;
  const { currency, accruals = [], totals = [] } = sheet.data;
  const refused = costs.refused ?? posting.refused;
  return (
    <>
      <PageHead posting={posting} sheet={posting.sheet.data}>
        {null}
      </PageHead>
      {refused && <Notice bad>{refused}</Notice>}
      {corrections.may && corrected && (
        <Correct
          key={`${corrected.on}.${corrected.ref}`}
          page={page.code}
          of={corrected}
          corrections={corrections}
          shut={() => correct(null)}
        />
      )}
      {corrections.may && !corrected && <Soft p="0 14px 6px">{correcting.corrections.hint}</Soft>}
      <ScrollBox>
        {page.state === "dry" ? (
          <Ledger
            label={w.label(format.fullDay(sheet.data.status))}
            rows={(sheet.data.rows ?? []).map(rowOf)}
            currency={currency}
            open={corrections.may ? correct : undefined}
          />
        ) : (
          <ListSheet
            {...list}
            label={w.label(format.fullDay(sheet.data.status))}
            of={`${project}.${page.code}`}
            rows={(sheet.data.rows ?? []).map(rowOf)}
            columns={columnsOf(currency)}
            open={mayPost}
            name="on"
          />
        )}
        <RowOf alignItems="flex-start" gap="28px" mt="18px">
          <Accruals accruals={accruals} currency={currency} release={mayPost ? costs.release : undefined} />
          <Totals totals={totals} currency={currency} />
        </RowOf>
        <Corrections of={corrections} lens="costs" />
      </ScrollBox>
    </>
  );
}

interface LedgerProps {
  label: string;
  rows: ListRow[];
  currency: string;
  open?: (of: Corrected) => void;
}

/** The ledger of a dry page: read, and corrected on the open one. */
function Ledger({ label, rows, currency, open }: LedgerProps) {
  const columns = useMemo(
    () =>
      columnsOf(currency).map(
        ({ options, hint: _, fixed: __, text, ...c }): SheetColumn<ListRow> => ({
          ...c,
          text: text ?? ((r) => options?.find(([k]) => k === r.cells[c.key])?.[1] ?? r.cells[c.key] ?? ""),
        }),
      ),
    [currency],
  );
  const lines = rows.map((row) => ({ kind: "row" as const, id: row.id, row, depth: 0, parts: 0 }));
  if (lines.length === 0) return <Soft as="p">{w.none}</Soft>;
  return (
    <ReadSheet
      label={label}
      lines={lines}
      columns={columns}
      codeOf={(r) => r.id}
      nameOf={(r) => r.cells.on ?? ""}
      most={14}
      open={
        open &&
        (({ cells: { on = "", name = "", amount = "", ref = "" } }) =>
          open({
            on,
            ref,
            what: [on, name, ref].filter(Boolean).join(" "),
            says: `${format.money(amount)} ${currency}`,
            values: { amount },
          }))
      }
    />
  );
}

interface AccrualsProps {
  accruals: Schemas["AccrualLine"][];
  currency: string;
  release?: (accrual: Schemas["AccrualLine"]) => void;
}

/** What was accrued and is not invoiced yet, the oldest first. */
function Accruals({ accruals, currency, release }: AccrualsProps) {
  if (accruals.length === 0) return <Soft as="p">{w.noAccruals}</Soft>;
  return (
    <Table kind="read" width="auto">
      <caption>{w.accruals}</caption>
      <thead>
        <tr>
          <th>{w.columns.on}</th>
          <th>{w.columns.ref}</th>
          <th data-num="">{w.columns.amount(currency)}</th>
          <th>{w.page}</th>
          <th data-num="">{w.ageHead}</th>
          {release && <td />}
        </tr>
      </thead>
      <tbody>
        {accruals.map((a) => (
          <tr key={`${a.on}.${a.ref}`}>
            <td title={a.name}>{a.on}</td>
            <td>{a.ref || "–"}</td>
            <td data-num="">{format.money(a.amount)}</td>
            <td>{a.page}</td>
            <td data-num="">{w.age(a.days)}</td>
            {release && (
              <td>
                <Button look="link" aria-label={w.releaseOf(a.ref, a.on)} onClick={() => release(a)}>
                  {w.release}
                </Button>
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Totals({ totals, currency }: { totals: Schemas["SourceLine"][]; currency: string }) {
  return (
    <Table kind="read" width="auto">
      <caption>
        {w.totals}, {currency}
      </caption>
      <thead>
        <tr>
          <th>{w.columns.kind}</th>
          <th data-num="">{w.here}</th>
          <th data-num="">{w.toDate}</th>
        </tr>
      </thead>
      <tbody>
        {totals.map((t) => (
          <tr key={t.source}>
            <td>{w.sources[t.source] ?? t.source}</td>
            <td data-num="">{format.money(t.page)}</td>
            <td data-num="">{format.money(t.to_date)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
