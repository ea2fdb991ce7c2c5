import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { AmountCurve, Bones, format, keys, Notice, type Spot, useAddressed, usePlace, when } from "../../shared";
import { lineOf, ReadSheet, type SheetColumn } from "../../shared/sheet";
import { Files, OnOff, RowOf, ScrollBox, Select, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/budget";

const w = words.spending;
type Line = Schemas["SpendingLine"];
type Out = Schemas["SpendingOut"];
const SERIES = ["budget", "actual", "forecast", "difference", "running"] as const;
type Series = (typeof SERIES)[number];
const VIEW = { rows: "wbs", of: "budget,forecast,difference,running" };
const CURVES: { series: Series; ink: string; dash?: string }[] = [
  { series: "budget", ink: "pv", dash: "6 3" },
  { series: "forecast", ink: "ac", dash: "2 4" },
  { series: "actual", ink: "ac" },
];

/** One figure of a row by time; the first of a row says its name. */
interface Row {
  line: Line;
  series: Series;
  first: boolean;
}

const idOf = ({ line, series }: Row) => `${line.kind}.${line.code}.${line.sums}.${series}`;
const nameOf = ({ line }: Row) => `${line.code} ${line.name}`;
const lookOf = ({ line, first }: Row) =>
  line.kind === "project" && first ? "double" : line.kind === "wbs" && first ? "wbs" : undefined;

/** The last day of a bucket, of the midnight that closes it. */
const before = (end: string) => new Date(Date.parse(`${end.slice(0, 10)}T00:00Z`) - 86_400_000).toISOString();

function columnsOf(out: Out): SheetColumn<Row>[] {
  const totals = out.total.totals;
  const longest = Math.max(...Object.values(totals).map((t) => format.money(t, true).length));
  const width = Math.max(78, longest * 7.4 + 14);
  const look = (row: Row, text = "") =>
    Number(text) < 0 && row.series !== "budget" ? "late" : row.series === "budget" ? "soft" : undefined;
  return [
    {
      key: "name",
      title: w.row,
      width: 220,
      left: true,
      pin: "start",
      tree: true,
      text: ({ line, first }) => {
        if (!first) return "";
        if (line.kind === "project") return w.total;
        return line.kind === "wbs" || line.kind === "activity" ? `${line.code} ${line.name}` : line.name;
      },
      hint: nameOf,
    },
    {
      key: "series",
      title: w.line,
      width: 132,
      left: true,
      pin: "start",
      look: () => "soft",
      text: (r) => w.series[r.series],
    },
    ...out.ends.map(
      (end, i): SheetColumn<Row> => ({
        key: end,
        title: words.budget.upTo(format.day(before(end)), before(end).slice(0, 4)),
        width,
        look: (r) => look(r, r.line.series[r.series]?.[i]),
        text: (r) => {
          const text = r.line.series[r.series]?.[i];
          return Number(text) ? format.money(text, true) : "";
        },
      }),
    ),
    {
      key: "total",
      title: words.budget.total,
      width: width + 8,
      pin: "end",
      look: (r) => look(r, r.line.totals[r.series]),
      text: (r) => (r.series === "running" ? "" : format.money(r.line.totals[r.series], true)),
    },
  ];
}

/** What was budgeted, spent and is forecast by time, with the difference and its running sum: the monthly look at spending. */
export function Spending({ bucket }: { bucket: "day" | "week" | "month" }) {
  const { project, page } = usePlace();
  const [view, look] = useAddressed(`${project}/budget/spending`, VIEW);
  const chosen = useMemo(() => SERIES.filter((s) => view.of.split(",").includes(s)), [view.of]);
  const path = { project, page: page.code };
  const found = useQuery({
    queryKey: keys.page(project, page.code).spending(bucket, view.rows),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/spending", {
          params: { path, query: { bucket, by: view.rows } },
        }),
      ),
    placeholderData: (known) => known,
  });
  const out = found.data;
  const columns = useMemo(() => (out ? columnsOf(out) : []), [out]);
  const lines = useMemo(
    () =>
      [...(out?.lines ?? []), ...(out ? [out.total] : [])].flatMap((line) =>
        chosen.map((series, i) => {
          const row: Row = { line, series, first: i === 0 };
          return lineOf(idOf(row), row, line.level);
        }),
      ),
    [out, chosen],
  );
  if (found.isPending) return <Bones />;
  if (!out) return <Notice bad>{found.error?.message}</Notice>;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/spending`;
  const whose = out.of === "baseline" ? w.against(out.baseline ?? "") : w.present;
  return (
    <ScrollBox>
      <RowOf mt="0" rowGap="4" columnGap="12">
        <Told>{w.asOf(out.currency, format.fullDay(out.status), whose)}</Told>
        <Space />
        <label>
          <Told>{w.rows} </Told>
          <Select value={view.rows} onChange={(e) => look({ rows: e.target.value })}>
            {out.choices.map((c) => (
              <option key={c.key} value={c.key}>
                {c.name}
              </option>
            ))}
          </Select>
        </label>
        {SERIES.map((s) => (
          <OnOff
            key={s}
            on={chosen.includes(s)}
            set={(on) => {
              const next = SERIES.filter((x) => (x === s ? on : chosen.includes(x)));
              if (next.length) look({ of: next.join(",") });
            }}
          >
            {w.series[s]}
          </OnOff>
        ))}
        <Files base={base} query={new URLSearchParams({ bucket, by: view.rows }).toString()} />
      </RowOf>
      {out.lines.length === 0 ? (
        <Notice>{w.empty}</Notice>
      ) : (
        <>
          {out.ends.length > 1 && <Curves out={out} />}
          <Soft as="p">{w.says}</Soft>
          <ReadSheet
            label={words.budget.against}
            lines={lines}
            columns={columns}
            codeOf={idOf}
            nameOf={nameOf}
            look={lookOf}
            most={22}
            tree
          />
        </>
      )}
    </ScrollBox>
  );
}

/** Budget, forecast and actual added up; actual ends where the page does. */
function Curves({ out }: { out: Out }) {
  const lines = useMemo(() => {
    const status = when(out.status);
    return CURVES.map(({ series, ...drawn }) => {
      const spots = (out.curve[series] ?? []).flatMap((c, i): Spot[] => {
        const sum = Number(c);
        const [before, end] = [out.ends[i - 1], when(out.ends[i] ?? "")];
        if (series !== "actual") return [[end, sum]];
        return before && when(before) >= status ? [] : [[Math.min(end, status), sum]];
      });
      return { key: series, name: w.series[series], spots, ...drawn };
    });
  }, [out]);
  return <AmountCurve label={w.curve(out.currency)} height={170} lines={lines} />;
}
