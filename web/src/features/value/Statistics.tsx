import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, usePlace } from "../../shared";
import { Files, RoomHead, ScrollBox, Select, Space, Table, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";

const w = words.value;
const COLUMNS = ["baseline", "now", "actual", "remaining", "variance"] as const;
type Row = Schemas["StatisticOut"];

interface Props {
  wbs: string;
  look: (next: { wbs: string }) => void;
  children: ReactNode;
}

/** A figure of a row in its unit; how far dates lie apart in words. */
function shown(row: Row, column: (typeof COLUMNS)[number]): string {
  const value = row[column];
  if (value == null) return "–";
  const kind = column === "variance" ? row.variance_kind : row.kind;
  if (kind === "instant") return format.spokenDay(value.slice(0, 10));
  if (kind === "money") return column === "variance" ? format.signed(value) : format.money(value);
  if (kind === "hours") return w.hours(column === "variance" ? format.signed(value) : format.money(value));
  if (row.kind !== "instant") return w.days(column === "variance" ? format.signed(value) : format.money(value));
  const days = Number(value);
  if (days === 0) return w.same;
  return days > 0 ? w.later(value) : w.earlier(value.replace("-", ""));
}

/** Start, finish, duration, work and cost of the project or a branch: in the baseline, now, actual, remaining, and the variance. */
export function Statistics({ wbs, look, children }: Props) {
  const { project, page } = usePlace();
  const path = { project, page: page.code };
  const statistics = useQuery({
    queryKey: keys.page(project, page.code).statistics,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/statistics", { params: { path } })),
  });
  if (statistics.isPending) return <Bones />;
  if (!statistics.data) return <Notice bad>{statistics.error?.message}</Notice>;
  const { scopes, status, baseline, currency } = statistics.data;
  const scope = scopes.find((s) => (wbs ? s.kind === "wbs" && s.code === wbs : s.kind === "project"));
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/statistics`;
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(status), baseline)}</Told>
        <Space />
        <Files base={base} />
        <label>
          <Told>{w.scope} </Told>
          <Select aria-label={w.scope} value={wbs} maxW="260px" onChange={(e) => look({ wbs: e.target.value })}>
            {scopes.map((s) => (
              <option key={`${s.kind}.${s.code}`} value={s.kind === "project" ? "" : s.code}>
                {s.kind === "project" ? w.project : `${s.code} ${s.name}`}
              </option>
            ))}
          </Select>
        </label>
      </RoomHead>
      {children}
      <ScrollBox tabIndex={0} role="region" aria-label={w.statisticsOf(scope?.name ?? "")}>
        {scope && (
          <Table kind="read" width="auto">
            <caption>
              {w.statisticsOf(scope.name)}, {currency}
            </caption>
            <thead>
              <tr>
                <td />
                {COLUMNS.map((c) => (
                  <th key={c} data-num="">
                    {w.columns[c]}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {scope.rows.map((row) => (
                <tr key={row.row}>
                  <th scope="row">{w.rows[row.row]}</th>
                  {COLUMNS.map((c) => (
                    <td key={c} data-num="" title={scope.reasons[`${row.row}.${c}`]}>
                      {shown(row, c)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Table>
        )}
      </ScrollBox>
    </>
  );
}
