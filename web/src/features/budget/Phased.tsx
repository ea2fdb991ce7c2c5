import { useMemo } from "react";
import type { Schemas } from "../../api";
import { format } from "../../shared";
import { lineOf, ReadSheet, type SheetColumn } from "../../shared/sheet";
import { Soft } from "../../shared/ui";
import { words } from "../../shared/words/budget";

const w = words.budget;
const AMOUNT = 78;

interface Row {
  code: string;
  name: string;
  level: number;
  cells: string[];
  total: string;
  look?: string;
}

const codeOf = (row: Row) => row.code;
const nameOf = (row: Row) => row.name;
const lookOf = (row: Row) => row.look;

/** The last day of a bucket that ends at a midnight. */
const before = (end: string) => new Date(Date.parse(`${end.slice(0, 10)}T00:00Z`) - 86_400_000).toISOString();

/** Amounts by time with totals both ways; names, totals and headings stay in sight while the time slides. */
export function Phased({ phased, label, empty }: { phased: Schemas["PhasedOut"]; label: string; empty: string }) {
  const short = [...phased.rows.flatMap((r) => r.cells), ...phased.columns].every((c) => !/\.\d*[1-9]/.test(c));
  const longest = Math.max(...[...phased.running, phased.total].map((c) => format.money(c, short).length), 0);
  const width = Math.max(AMOUNT, longest * 7.4 + 14);
  const columns = useMemo((): SheetColumn<Row>[] => {
    const amount = (text: string | undefined) => (Number(text) ? format.money(text, short) : "");
    return [
      {
        key: "name",
        title: w.package,
        width: 230,
        left: true,
        pin: "start",
        tree: true,
        text: (r) => (r.look ? r.name : `${r.code} ${r.name}`),
      },
      ...phased.ends.map(
        (end, i): SheetColumn<Row> => ({
          key: end,
          title: w.upTo(format.day(before(end)), before(end).slice(0, 4)),
          width,
          text: (r) => (r.look ? format.money(r.cells[i], short) : amount(r.cells[i])),
        }),
      ),
      {
        key: "total",
        title: w.total,
        width: width + 8,
        pin: "end",
        text: (r) => r.total && format.money(r.total, short),
      },
    ];
  }, [phased.ends, short, width]);
  const lines = useMemo(() => {
    const sums: Row[] = [
      { code: "total", name: w.total, level: 0, cells: phased.columns, total: phased.total, look: "double" },
      { code: "running", name: w.running, level: 0, cells: phased.running, total: "", look: "sum" },
    ];
    return [...phased.rows, ...sums].map((row) => lineOf(row.code, row, row.level));
  }, [phased]);
  if (phased.rows.length === 0) return <Soft as="p">{empty}</Soft>;
  return (
    <ReadSheet
      label={label}
      lines={lines}
      columns={columns}
      codeOf={codeOf}
      nameOf={nameOf}
      look={lookOf}
      most={18}
      tree
    />
  );
}
