import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useRef } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Mark, Notice, Pictures, SmallLines, usePlace } from "../../shared";
import { DataTable, Files, PartTitle, RoomHead, RowOf, ScrollBox, Select, Soft, Space, Told } from "../../shared/ui";
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
  const { pages, currency, baseline, first, changed } = trend.data;
  const points = pages.map((p) => ({
    label: format.day(p.status),
    values: {
      spi: p.spi,
      cpi: p.cpi,
      spi_t: p.spi_t,
      eac: p.eac === null ? null : Number(p.eac),
      late: p.late_days,
      first: p.first_late_days,
      bac: p.bac === null ? null : Number(p.bac),
    },
  }));
  const late = [{ key: "late", name: first ? w.againstMeasured : "", ink: "act" }];
  if (first) late.push({ key: "first", name: w.againstFirst(first), ink: "ink" });
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
            series={[
              { key: "eac", name: words.measures.eac, ink: "ink" },
              ...(first ? [{ key: "bac", name: w.bac, ink: "pv" }] : []),
            ]}
          />
          <SmallLines title={w.drift} points={points} series={late} level={0} />
        </RowOf>
        <DataTable
          width="auto"
          caption={w.trend}
          rows={pages}
          keyOf={(p) => p.page}
          columns={[
            { cell: (p) => <Mark mark={p.mark} /> },
            {
              title: w.trendHeads.page,
              cell: (p) => (
                <>
                  {p.page}, {format.weekDay(p.status)}
                </>
              ),
            },
            { title: w.trendHeads.spi, kind: "num", cell: (p) => format.ratio(p.spi) },
            { title: w.trendHeads.cpi, kind: "num", cell: (p) => format.ratio(p.cpi) },
            { title: w.trendHeads.spi_t, kind: "num", cell: (p) => format.ratio(p.spi_t) },
            { title: `${w.trendHeads.eac}, ${currency}`, kind: "num", cell: (p) => format.money(p.eac) },
            { title: w.trendHeads.finish, kind: "num", cell: (p) => format.weekDay(p.finish) },
            { title: w.trendHeads.late, kind: "num", cell: (p) => format.late(p.late_days) },
            ...(first
              ? [
                  { title: w.trendHeads.baseline, cell: (p: Schemas["PageFigures"]) => p.baseline },
                  {
                    title: w.againstFirst(first),
                    kind: "num" as const,
                    cell: (p: Schemas["PageFigures"]) => format.late(p.first_late_days),
                  },
                ]
              : []),
            {
              title: w.trendHeads.float,
              kind: "num",
              cell: (p) => (p.float_days === null ? "–" : words.format.in(format.tenth(p.float_days), "d")),
            },
          ]}
        />
        {changed.map((c) => (
          <Soft as="p" key={c.page}>
            {w.rebased(c.page, c.was, c.now, c.reason)}{" "}
            {w.rebasedFrom(
              format.date(c.now_finish),
              format.date(c.was_finish),
              format.money(c.now_bac),
              format.money(c.was_bac),
              currency,
            )}
          </Soft>
        ))}
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
        <DataTable
          width="auto"
          rows={data.rows}
          keyOf={(r) => r.code}
          columns={[
            {
              title: h.mark,
              more: () => ({ style: { whiteSpace: "nowrap" } }),
              cell: (r) => (
                <>
                  {r.was && r.was !== r.mark && (
                    <>
                      <Mark mark={r.was} /> →{" "}
                    </>
                  )}
                  <Mark mark={r.mark} />
                </>
              ),
            },
            {
              title: h.activity,
              cell: (r) => (
                <>
                  {r.code} {r.name}
                </>
              ),
            },
            { title: h.days, kind: "num", cell: (r) => (r.days ? format.drift(r.days) : "–") },
            { title: h.ev, kind: "num", cell: (r) => (Number(r.ev) ? format.signed(r.ev) : "–") },
            { title: h.ac, kind: "num", cell: (r) => (Number(r.ac) ? format.signed(r.ac) : "–") },
            { title: h.eac, kind: "num", cell: (r) => (Number(r.eac) ? format.signed(r.eac) : "–") },
          ]}
        />
      )}
      {data && data.count > data.rows.length && <Soft as="p">{w.moreChanged(data.count - data.rows.length)}</Soft>}
    </>
  );
}
