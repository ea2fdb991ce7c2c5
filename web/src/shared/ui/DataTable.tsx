import type { ComponentProps, HTMLAttributes, ReactNode, TdHTMLAttributes } from "react";
import { Button, Table } from "./controls";

type Kind = "num" | "date";
type Data = { [data: `data-${string}`]: string | undefined };

/** A column of a table that is read: what stands over it, and what it says of a row. */
export interface DataColumn<R> {
  /** Absent: it has no heading. */
  title?: ReactNode;
  /** How it is called where its heading shows no word. */
  label?: string;
  /** What a press on the heading sorts by, by key and word; several stand under each other. */
  sorts?: [key: string, word: string][];
  kind?: Kind;
  /** Names the row. */
  head?: boolean;
  width?: string;
  cell: (row: R, at: number) => ReactNode;
  tip?: (row: R) => string | undefined;
  /** More of a cell: how far it stands in, what it is drawn as. */
  more?: (row: R) => TdHTMLAttributes<HTMLTableCellElement> & Data;
  /** How many rows down a cell reaches; 0: the one above reaches down to it. */
  reach?: (at: number, rows: R[]) => number;
}

/** What may be left out stands as false. */
type Columns<R> = (DataColumn<R> | false | null | undefined)[];
type Group<R> = readonly [title: ReactNode, rows: readonly R[]];

interface Props<R> extends Omit<ComponentProps<typeof Table>, "rows" | "columns" | "children"> {
  columns: Columns<R>;
  rows?: readonly R[];
  /** Rows under headings of their own; a heading without words is left out. */
  groups?: readonly Group<R>[];
  keyOf: (row: R, at: number) => string | number;
  caption?: ReactNode;
  /** The key that rows are sorted by, with a minus where down; and what pressing a heading asks for. */
  sort?: string;
  onSort?: (key: string) => void;
  /** More of a line: what it is marked as. */
  line?: (row: R) => HTMLAttributes<HTMLTableRowElement> & Data;
  /** What is said in the place of all cells but the first. */
  instead?: (row: R) => ReactNode;
  /** What stands across the table under a row. */
  below?: (row: R) => ReactNode;
  /** Where each row is taken hold of by itself. */
  hold?: (row: R) => HTMLAttributes<HTMLTableSectionElement>;
}

const mark = (kind: Kind | undefined) => (kind ? { [`data-${kind}`]: "" } : {});

/** A table that is read: headings from the columns, a line for each row. What is worked in is a sheet. */
export function DataTable<R>(props: Props<R>) {
  const { columns: given, rows, groups, keyOf, caption, sort, onSort, line, instead, below, hold, ...table } = props;
  const columns = given.filter((c) => !!c);
  const headed = columns.some((c) => c.title !== undefined || c.label || c.sorts);
  const parts: readonly Group<R>[] = groups ?? [[null, rows ?? []]];
  const lines = (row: R, at: number, own: readonly R[]) => (
    <Line key={keyOf(row, at)} row={row} at={at} rows={own} columns={columns} {...{ line, instead, below }} />
  );
  return (
    <Table {...table}>
      {caption && <caption>{caption}</caption>}
      {headed && (
        <thead>
          <tr>
            {columns.map((c, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns stand where they stand
              <Heading key={i} column={c} sort={sort} onSort={onSort} />
            ))}
          </tr>
        </thead>
      )}
      {hold
        ? parts.flatMap(([, own]) =>
            own.map((row, at) => (
              <tbody key={keyOf(row, at)} {...hold(row)}>
                {lines(row, at, own)}
              </tbody>
            )),
          )
        : parts.map(([title, own], i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: groups stand where they stand
            <tbody key={i}>
              {title && (
                <tr>
                  <th colSpan={columns.length} scope="rowgroup">
                    {title}
                  </th>
                </tr>
              )}
              {own.map((row, at) => lines(row, at, own))}
            </tbody>
          ))}
    </Table>
  );
}

interface HeadingProps<R> extends Pick<Props<R>, "sort" | "onSort"> {
  column: DataColumn<R>;
}

function Heading<R>({ column: c, sort = "", onSort }: HeadingProps<R>) {
  if (c.title === undefined && !c.label && !c.sorts) return <td style={{ width: c.width }} />;
  const by = c.sorts?.find(([key]) => key === sort.replace("-", ""));
  const sorted = by ? (sort.startsWith("-") ? "descending" : "ascending") : "none";
  return (
    <th
      scope="col"
      style={{ width: c.width, paddingBottom: c.sorts && 0 }}
      aria-label={c.label}
      aria-sort={c.sorts && onSort ? sorted : undefined}
      {...mark(c.kind)}
    >
      {c.title}
      {c.sorts?.map(([key, word]) => (
        <div key={key}>
          <Button look="bare" minH="24px" minW="24px" onClick={() => onSort?.(key)}>
            {word}
            {by?.[0] === key && (sorted === "ascending" ? " ↑" : " ↓")}
          </Button>
        </div>
      ))}
    </th>
  );
}

interface LineProps<R> extends Pick<Props<R>, "line" | "instead" | "below"> {
  row: R;
  at: number;
  rows: readonly R[];
  columns: DataColumn<R>[];
}

function Line<R>({ row, at, rows, columns, line, instead, below }: LineProps<R>) {
  const across = instead?.(row);
  const under = below?.(row);
  const cells = columns.map((c, i) => {
    const reach = c.reach?.(at, [...rows]) ?? 1;
    if (!reach) return null;
    const Cell = c.head ? "th" : "td";
    return (
      <Cell
        // biome-ignore lint/suspicious/noArrayIndexKey: columns stand where they stand
        key={i}
        scope={c.head ? "row" : undefined}
        rowSpan={reach > 1 ? reach : undefined}
        data-tip={c.tip?.(row)}
        {...mark(c.kind)}
        {...c.more?.(row)}
      >
        {c.cell(row, at)}
      </Cell>
    );
  });
  return (
    <>
      <tr {...line?.(row)}>
        {across === undefined
          ? cells
          : [
              cells[0],
              <td key="instead" colSpan={columns.length - 1}>
                {across}
              </td>,
            ]}
      </tr>
      {under && (
        <tr>
          <td colSpan={columns.length}>{under}</td>
        </tr>
      )}
    </>
  );
}
