import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useMemo } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, groupBy, keys, Notice, useAddressed, usePlace } from "../../shared";
import { lineOf, ReadSheet, type SheetColumn, type SheetLine } from "../../shared/sheet";
import { Files, RoomHead, Select, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/value";
import { BUCKETS, type Bucket } from "./buckets";

const w = words.value;
type Line = Schemas["WorkLine"];
type Out = Schemas["WorkByTimeOut"];
type Series = "worked" | "remaining" | "planned";
const SERIES: Series[] = ["worked", "remaining", "planned"];
const VIEW = { show: "worked", in: "hours", group: "activity" };

const idOf = (x: Line) => `${x.activity}¦${x.resource}` || "total";
const nameOf = (x: Line) => `${x.name} ${x.person}`.trim() || w.total;
const hoursText = (n: number) => (n ? format.tenth(n) : "");

function columnsOf(out: Out, series: Series, money: boolean, group: string): SheetColumn<Line>[] {
  const total = (s: Series, title: string): SheetColumn<Line> => ({
    key: s,
    title,
    width: money ? 92 : 72,
    look: (x) => `${s === series ? "name" : "soft"}${s === "worked" && x.reckoned ? " reckoned" : ""}`,
    hint: (x) => (s === "worked" && x.reckoned ? w.reckoned : undefined) ?? x.reasons?.[s] ?? x.reasons?.[`${s}.cost`],
    text: (x) => {
      const found = x[s];
      if (!found) return "–";
      return money ? format.money(found.total_cost) : hoursText(found.total_hours) || "0";
    },
  });
  return [
    {
      key: "who",
      title: w.who,
      width: 240,
      left: true,
      grow: true,
      look: () => "name",
      text: (x) => (x.activity ? (group === "person" ? `${x.activity} ${x.name}` : x.person) : w.total),
      hint: nameOf,
    },
    total("planned", w.plannedTotal),
    total("worked", w.workedTotal),
    total("remaining", w.remainingTotal),
    ...out.ends.map(
      (end, i): SheetColumn<Line> => ({
        key: end,
        title: format.day(before(end)),
        width: money ? 84 : 58,
        look: (x) => (series === "worked" && x.reckoned ? "reckoned" : undefined),
        text: (x) => {
          const found = x[series];
          if (!found) return "";
          if (!money) return hoursText(found.hours[i] ?? 0);
          const cost = found.cost[i];
          return cost && Number(cost) ? format.money(cost, true) : "";
        },
      }),
    ),
  ];
}

/** The last day of a bucket, of the midnight that closes it. */
const before = (end: string) =>
  end.endsWith("T00:00")
    ? new Date(Date.parse(`${end.slice(0, 10)}T00:00Z`) - 86_400_000).toISOString().slice(0, 16)
    : end;

const linesOf = (out: Out, group: string): SheetLine<Line>[] => [
  ...[...groupBy(out.lines, (x) => (group === "person" ? x.person : `${x.activity} ${x.name}`))].flatMap(
    ([name, own]): SheetLine<Line>[] => [
      { kind: "group", id: `group:${name}`, name, depth: 0 },
      ...own.map((row) => lineOf(idOf(row), row)),
    ],
  ),
  lineOf("total", out.total),
];

interface Props {
  bucket: Bucket;
  look: (next: { by: string }) => void;
  children: ReactNode;
}

/** Hours or cost of everybody on everything by time: planned in the baseline, worked, and remaining. */
export function Work({ bucket, look, children }: Props) {
  const { project, page } = usePlace();
  const [view, show] = useAddressed(`${project}/value/work`, VIEW);
  const path = { project, page: page.code };
  const work = useQuery({
    queryKey: keys.page(project, page.code).work(bucket),
    queryFn: () =>
      take(client.GET("/api/projects/{project}/pages/{page}/work", { params: { path, query: { bucket } } })),
  });
  const series = SERIES.find((s) => s === view.show) ?? "worked";
  const money = view.in !== "hours";
  const columns = useMemo(
    () => (work.data ? columnsOf(work.data, series, money, view.group) : []),
    [work.data, series, money, view.group],
  );
  const lines = useMemo(() => (work.data ? linesOf(work.data, view.group) : []), [work.data, view.group]);
  if (work.isPending) return <Bones />;
  if (!work.data) return <Notice bad>{work.error?.message}</Notice>;
  const { status, baseline, currency } = work.data;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/work`;
  return (
    <>
      <RoomHead>
        <h1>{w.title}</h1>
        <Told>{words.margin.asOf(format.fullDay(status), baseline)}</Told>
        <Space />
        <label>
          <Told>{w.series} </Told>
          <Select aria-label={w.series} value={series} onChange={(e) => show({ show: e.target.value })}>
            {SERIES.map((s) => (
              <option key={s} value={s}>
                {w.seriesNames[s]}
              </option>
            ))}
          </Select>
        </label>
        <label>
          <Told>{w.measure} </Told>
          <Select
            aria-label={w.measure}
            value={money ? "cost" : "hours"}
            onChange={(e) => show({ in: e.target.value })}
          >
            <option value="hours">{w.inHours}</option>
            <option value="cost">{w.inCost(currency)}</option>
          </Select>
        </label>
        <label>
          <Told>{w.group} </Told>
          <Select aria-label={w.group} value={view.group} onChange={(e) => show({ group: e.target.value })}>
            {Object.entries(w.groups).map(([key, word]) => (
              <option key={key} value={key}>
                {word}
              </option>
            ))}
          </Select>
        </label>
        <label>
          <Told>{w.bucket} </Told>
          <Select aria-label={w.bucket} value={bucket} onChange={(e) => look({ by: e.target.value })}>
            {BUCKETS.map((b) => (
              <option key={b} value={b}>
                {words.choices[b]}
              </option>
            ))}
          </Select>
        </label>
        <Files base={base} query={`bucket=${bucket}`} />
      </RoomHead>
      {children}
      {work.data.lines.length === 0 ? (
        <Notice>{w.noWork}</Notice>
      ) : (
        <ReadSheet label={w.workOf} lines={lines} columns={columns} codeOf={idOf} nameOf={nameOf} />
      )}
    </>
  );
}
