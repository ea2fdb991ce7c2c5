import { useQuery } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, SUMMARY, summaryText } from "../../shared";
import { type DataColumn, DataTable, Soft } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { words as value } from "../../shared/words/value";
import type { Project } from "./useDeskLook";

const w = words.desk;
/** A row of the statement of a project. */
interface Row {
  of: Schemas["ProjectStatistics"];
  row: Schemas["StatisticOut"];
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
    <DataTable
      aria-label={w.tabs.summary}
      groups={found.data.projects.map((of) => [null, of.rows.map((row) => ({ of, row }))])}
      keyOf={({ row }) => row.row}
      columns={[
        {
          title: w.project,
          reach: (at, own) => (at === 0 ? own.length : 0),
          cell: ({ of: p }) => (
            <>
              {p.name}
              <Soft as="div">{`${p.code} · ${format.date(p.status)} · ${p.baseline ? w.against(p.baseline) : w.noBaseline}`}</Soft>
            </>
          ),
        },
        {
          head: true,
          cell: ({ of: p, row }) => `${value.value.rows[row.row]}${row.kind === "money" ? ` ${p.currency}` : ""}`,
        },
        ...SUMMARY.map(
          (c): DataColumn<Row> => ({
            title: value.value.columns[c],
            kind: "num",
            cell: ({ row }) => summaryText(row, c),
          }),
        ),
      ]}
    />
  );
}
