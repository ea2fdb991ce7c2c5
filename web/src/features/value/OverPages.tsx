import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useRef } from "react";
import { client, take } from "../../api";
import { Bones, format, keys, Mark, Notice, Pictures, SmallLines, usePlace } from "../../shared";
import { Files, PartTitle, RoomHead, RowOf, ScrollBox, Select, Soft, Space, Table, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";

const w = words.value;
const INDICES = [
  { key: "spi", name: words.measures.spi, ink: "ev" },
  { key: "cpi", name: words.measures.cpi, ink: "ac" },
  { key: "spi_t", name: words.measures.spi_t, ink: "ink" },
];

interface Props {
  other: string;
  look: (next: { other: string }) => void;
  children: ReactNode;
}

/** The figures of every page so far, in small charts and a table, and what changed since another page. */
export function OverPages({ other, look, children }: Props) {
  const { project, page } = usePlace();
  const path = { project, page: page.code };
  const trend = useQuery({
    queryKey: keys.page(project, page.code).trend,
    queryFn: () => take(client.GET("/api/projects/{project}/pages/{page}/trend", { params: { path } })),
  });
  const box = useRef<HTMLDivElement>(null);
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}`;
  if (trend.isPending) return <Bones />;
  if (!trend.data) return <Notice bad>{trend.error?.message}</Notice>;
  const { pages, currency, baseline } = trend.data;
  const points = pages.map((p) => ({
    label: format.day(p.status),
    values: { spi: p.spi, cpi: p.cpi, spi_t: p.spi_t, eac: p.eac === null ? null : Number(p.eac), late: p.late_days },
  }));
  const before = pages.filter((p) => p.page !== page.code).map((p) => p.page);
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(page.status), baseline)}</Told>
        <Space />
        <Files base={`${base}/trend`} />
        <Pictures
          of={box}
          title={`${w.trend}, ${words.margin.asOf(format.fullDay(page.status), baseline)}`}
          name={`${project}-${page.code}-pages`}
        />
      </RoomHead>
      {children}
      <ScrollBox tabIndex={0} role="region" aria-label={w.trend}>
        <RowOf ref={box} gap="24" alignItems="flex-start">
          <SmallLines title={w.indices} points={points} series={INDICES} level={1} />
          <SmallLines
            title={w.estimate(currency)}
            points={points}
            series={[{ key: "eac", name: words.measures.eac, ink: "ink" }]}
          />
          <SmallLines title={w.drift} points={points} series={[{ key: "late", name: "", ink: "act" }]} level={0} />
        </RowOf>
        <Table kind="read" width="auto">
          <caption>{w.trend}</caption>
          <thead>
            <tr>
              <td />
              <th>{w.trendHeads.page}</th>
              <th data-num="">{w.trendHeads.spi}</th>
              <th data-num="">{w.trendHeads.cpi}</th>
              <th data-num="">{w.trendHeads.spi_t}</th>
              <th data-num="">{`${w.trendHeads.eac}, ${currency}`}</th>
              <th data-num="">{w.trendHeads.finish}</th>
              <th data-num="">{w.trendHeads.late}</th>
              <th data-num="">{w.trendHeads.float}</th>
            </tr>
          </thead>
          <tbody>
            {pages.map((p) => (
              <tr key={p.page}>
                <td>
                  <Mark mark={p.mark} />
                </td>
                <td>
                  {p.page}, {format.weekDay(p.status)}
                </td>
                <td data-num="">{format.ratio(p.spi)}</td>
                <td data-num="">{format.ratio(p.cpi)}</td>
                <td data-num="">{format.ratio(p.spi_t)}</td>
                <td data-num="">{format.money(p.eac)}</td>
                <td data-num="">{format.weekDay(p.finish)}</td>
                <td data-num="">{format.late(p.late_days)}</td>
                <td data-num="">{p.float_days === null ? "–" : words.format.in(format.tenth(p.float_days), "d")}</td>
              </tr>
            ))}
          </tbody>
        </Table>
        {before.length > 0 && (
          <Compared other={before.includes(other) ? other : (before.at(-1) ?? "")} pages={before} look={look} />
        )}
      </ScrollBox>
    </>
  );
}

interface ComparedProps {
  other: string;
  pages: string[];
  look: (next: { other: string }) => void;
}

/** The activities that are otherwise than on another page, what moved furthest first. */
function Compared({ other, pages, look }: ComparedProps) {
  const { project, page } = usePlace();
  const compared = useQuery({
    queryKey: keys.page(project, page.code).compared(other),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/compared", {
          params: { path: { project, page: page.code }, query: { with: other } },
        }),
      ),
  });
  const { data } = compared;
  const h = w.changedHeads;
  return (
    <>
      <RowOf pt="14">
        <PartTitle>
          <label>
            {w.comparedWith}{" "}
            <Select value={other} onChange={(e) => look({ other: e.target.value })}>
              {pages.map((p) => (
                <option key={p}>{p}</option>
              ))}
            </Select>
          </label>
        </PartTitle>
        <Files
          base={`/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/compared`}
          query={new URLSearchParams({ with: other }).toString()}
          forms={["csv"]}
        />
      </RowOf>
      {data && <Soft as="p">{w.changed(data.count, data.other)}</Soft>}
      {data && data.count > 0 && (
        <Table kind="read" width="auto">
          <thead>
            <tr>
              <th>{h.mark}</th>
              <th>{h.activity}</th>
              <th data-num="">{h.days}</th>
              <th data-num="">{h.ev}</th>
              <th data-num="">{h.ac}</th>
              <th data-num="">{h.eac}</th>
            </tr>
          </thead>
          <tbody>
            {data.rows.map((r) => (
              <tr key={r.code}>
                <td style={{ whiteSpace: "nowrap" }}>
                  {r.was && r.was !== r.mark && (
                    <>
                      <Mark mark={r.was} /> →{" "}
                    </>
                  )}
                  <Mark mark={r.mark} />
                </td>
                <td>
                  {r.code} {r.name}
                </td>
                <td data-num="">{r.days ? format.drift(r.days) : "–"}</td>
                <td data-num="">{Number(r.ev) ? format.signed(r.ev) : "–"}</td>
                <td data-num="">{Number(r.ac) ? format.signed(r.ac) : "–"}</td>
                <td data-num="">{Number(r.eac) ? format.signed(r.eac) : "–"}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {data && data.count > data.rows.length && <Soft as="p">{w.moreChanged(data.count - data.rows.length)}</Soft>}
    </>
  );
}
