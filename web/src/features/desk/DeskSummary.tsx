import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { client, take } from "../../api";
import { Bones, format, keys, Notice, SUMMARY, summaryText } from "../../shared";
import { Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { words as value } from "../../shared/words/value";
import type { Project } from "./useDeskLook";

const w = words.desk;

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
          {SUMMARY.map((c) => (
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
                {SUMMARY.map((c) => (
                  <td key={c} data-num="">
                    {summaryText(row, c)}
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
