import { useMemo, useState } from "react";
import { Bones, format, Notice, usePlace } from "../../shared";
import { type ListColumn, type ListRow, ListSheet, ReadSheet, type SheetColumn } from "../../shared/sheet";
import { Button, RowOf, ScrollBox, Soft } from "../../shared/ui";
import { words as correcting } from "../../shared/words/corrections";
import { words } from "../../shared/words/costs";
import { Accruals } from "./Accruals";
import { Correct, type Corrected } from "./Correct";
import { Corrections } from "./Corrections";
import { CostTotals } from "./CostTotals";
import { PageHead } from "./PageHead";
import { useCorrections } from "./useCorrections";
import { rowOf, useCosts } from "./useCosts";
import { usePosting } from "./usePosting";

const w = words.costs;
const KINDS = ["invoice", "accrual", "feed", "correction"].map((k): [string, string] => [k, w.sources[k] ?? k]);

const columnsOf = (currency: string, take: (row: string, pays: string) => void): ListColumn[] => [
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
  { key: "ref", title: w.columns.ref, width: 110, left: true, hint: w.hints.ref },
  {
    key: "pays",
    title: w.columns.pays,
    width: 104,
    left: true,
    hint: w.hints.pays,
    choices: (r) => r.cells.may_pay?.split("\n") ?? [],
    draw: (r) =>
      r.cells.proposed ? (
        <Button
          look="link"
          tabIndex={-1}
          aria-label={w.takeProposed(r.cells.proposed)}
          onClick={() => take(r.id, r.cells.proposed ?? "")}
        >
          {w.proposed(r.cells.proposed)}
        </Button>
      ) : null,
  },
  { key: "text", title: w.columns.text, width: 150, left: true, grow: true },
  { key: "name", title: w.columns.name, width: 150, left: true, grow: true, fixed: true },
  { key: "corrects", title: w.columns.corrects, width: 96, left: true, fixed: true },
];

/** Costs of the page as a ledger, the accruals that are open, and actual cost by source. */
export function CostsScreen() {
  const { project, page, mayPost } = usePlace();
  const posting = usePosting();
  const costs = useCosts();
  const { sheet, list } = costs;
  const corrections = useCorrections();
  const [corrected, correct] = useState<Corrected | null>(null);
  if (posting.sheet.isPending || sheet.isPending) return <Bones />;
  if (!posting.sheet.data) return <Notice bad>{posting.sheet.error?.message}</Notice>;
  if (!sheet.data) return <Notice bad>{sheet.error?.message}</Notice>;
  const { currency, accruals = [] } = sheet.data;
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
      {corrections.may && !corrected && (
        <Soft pt="0" px="14" pb="6">
          {correcting.corrections.hint}
        </Soft>
      )}
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
            columns={columnsOf(currency, (row, text) => list.write([{ row, field: "pays", text }], false))}
            open={mayPost}
            name="on"
          />
        )}
        <RowOf alignItems="flex-start" gap="24" mt="18">
          <Accruals accruals={accruals} currency={currency} costs={mayPost ? costs : undefined} />
          <CostTotals currency={currency} />
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
      columnsOf(currency, () => {}).map(
        ({ options, hint: _, fixed: __, draw: ___, text, ...c }): SheetColumn<ListRow> => ({
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
