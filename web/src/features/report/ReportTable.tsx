import type { Schemas } from "../../api";
import { type FigureKind, format, Mark, useOpenFigure } from "../../shared";
import { Button, type DataColumn, DataTable, Note, PartTitle } from "../../shared/ui";
import { words } from "../../shared/words/report";

type Cell = Schemas["ReportCell"];
const NUMBERS = ["money", "ratio", "percent", "day", "days", "length"];

/** A cell's value as it is read. */
export function shown(text: string | null, kind: string): string {
  if (text === null) return "–";
  if (kind === "money") return format.money(text);
  if (kind === "ratio") return format.ratio(Number(text));
  if (kind === "percent") return `${format.percent(Number(text))} %`;
  if (kind === "day") return format.date(text);
  if (kind === "days") return format.late(Number(text));
  if (kind === "length") return words.report.days(format.tenth(Number(text)));
  return text;
}

/** A table of the report; each of its numbers opens its working. */
export function ReportTable({ table }: { table: Schemas["ReportTable"] }) {
  if (!table.rows.length) return <Note as="p">{table.empty}</Note>;
  return (
    <>
      {table.title && <PartTitle as="h3">{table.title}</PartTitle>}
      <DataTable
        width={table.columns.length > 4 ? "100%" : "auto"}
        minW="min(100%, 560px)"
        rows={table.rows}
        keyOf={(row) => row.key}
        line={(row) => ({ "data-wbs": row.total ? "" : undefined })}
        columns={table.columns.map((column, i): DataColumn<Schemas["ReportRow"]> => {
          const kindOf = (cell: Cell | undefined) => cell?.kind || column.kind;
          return {
            title: column.title,
            kind: NUMBERS.includes(column.kind) ? "num" : undefined,
            more: ({ cells }) => ({ "data-num": NUMBERS.includes(kindOf(cells[i])) ? "" : undefined }),
            cell: ({ cells }) => {
              const cell = cells[i];
              return (
                cell && (
                  <>
                    <Shown cell={cell} kind={kindOf(cell)} label={`${cells[0]?.text ?? ""}, ${column.title}`} />
                    {cell.note && <Note as="div">{cell.note}</Note>}
                  </>
                )
              );
            },
          };
        })}
      />
    </>
  );
}

/** A cell: a mark with its word, a figure that opens its working, or words. */
function Shown({ cell, kind, label }: { cell: Cell; kind: string; label: string }) {
  const open = useOpenFigure();
  const text = shown(cell.text, kind);
  if (kind === "mark" && cell.text)
    return (
      <>
        <Mark mark={cell.text} size={13} silent /> {words.marks[cell.text]}
      </>
    );
  const { figure } = cell;
  if (!figure) return <>{text}</>;
  return (
    <Button
      look="figure"
      aria-label={`${label}: ${text}`}
      onClick={() => open(figure.measure, figure.kind as FigureKind, figure.code, figure.page)}
    >
      {text}
    </Button>
  );
}
