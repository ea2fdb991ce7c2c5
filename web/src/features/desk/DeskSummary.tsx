import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice } from "../../shared";
import { Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { words as value } from "../../shared/words/value";
import type { Project } from "./useDeskLook";

const w = words.desk;
const COLUMNS = ["baseline", "actual", "remaining", "now", "variance"] as const;
type Row = Schemas["StatisticOut"];

/** A figure in its unit; how far dates lie apart in working days. */
function shown(row: Row, column: (typeof COLUMNS)[number]): string {
  const found = row[column];
  if (found == null) return "–";
  const kind = column === "variance" ? row.variance_kind : row.kind;
  if (kind === "instant") return format.date(found);
  const text =
    column === "variance" ? format.signed(found) : kind === "money" ? format.money(found) : format.money(found, true);
  return kind === "days" ? value.value.days(text) : kind === "hours" ? value.value.hours(text) : text;
}

/** Money, work and time of every project: in the baseline, to date, to go, the forecast, and the difference. */
export function DeskSummary({ projects }: { projects: Project[] }) {
  const codes = projects.map((p) => p.code);
  const found = useQuery({
    queryKey: keys.desk.statistics(codes),
    queryFn: () => take(client.GET("/api/desk/statistics", { params: { query: { codes } } })),
    enabled: codes.length > 0,
  });
  if (codes.length === 0) return <Notice>{w.nothingShown}</Notice>;
  if (found.isPending) return <Bones />;
  if (!found.data) return <Notice bad>{found.error?.message}</Notice>;
  return (
    <Table aria-label={w.tabs.summary}>
      <thead>
        <tr>
          <th>{w.project}</th>
          <th />
          {COLUMNS.map((c) => (
            <th key={c} data-num="">
              {value.value.columns[c]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {found.data.projects.map((p) => (
          <Fragment key={p.code}>
            {p.rows.map((row, i) => (
              <tr key={row.row}>
                {i === 0 && (
                  <td rowSpan={p.rows.length}>
                    {p.name}
                    <Soft as="div">{`${p.code} · ${format.date(p.status)} · ${p.baseline ? w.against(p.baseline) : w.noBaseline}`}</Soft>
                  </td>
                )}
                <th scope="row">
                  {value.value.rows[row.row]}
                  {row.kind === "money" && ` ${p.currency}`}
                </th>
                {COLUMNS.map((c) => (
                  <td key={c} data-num="">
                    {shown(row, c)}
                  </td>
                ))}
              </tr>
            ))}
          </Fragment>
        ))}
      </tbody>
    </Table>
  );
}
