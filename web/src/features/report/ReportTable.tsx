import type { Schemas } from "../../api";
import { type FigureKind, format, Mark, useOpenFigure } from "../../shared";
import { Button, Note, PartTitle, Table } from "../../shared/ui";
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
      <Table kind="read" width={table.columns.length > 4 ? "100%" : "auto"} minW="min(100%, 560px)">
        <thead>
          <tr>
            {table.columns.map((c) => (
              <th key={c.key} scope="col" data-num={NUMBERS.includes(c.kind) ? "" : undefined}>
                {c.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row) => (
            <tr key={row.key} data-wbs={row.total ? "" : undefined}>
              {row.cells.map((cell, i) => {
                const column = table.columns[i];
                const kind = cell.kind || column?.kind || "text";
                const said = `${row.cells[0]?.text ?? ""}, ${column?.title ?? ""}`;
                return (
                  <td key={column?.key} data-num={NUMBERS.includes(kind) ? "" : undefined}>
                    <Shown cell={cell} kind={kind} label={said} />
                    {cell.note && <Note as="div">{cell.note}</Note>}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </Table>
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
