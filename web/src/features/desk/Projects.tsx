import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, type Schemas, take } from "../../api";
import { format, keys, Mark } from "../../shared";
import { Act, type DataColumn, DataTable, PartTitle, Soft } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { Standing } from "./Standing";
import type { Project, useDeskLook } from "./useDeskLook";

const w = words.desk;
/** How many late milestones the screen shows; the workbook has all. */
const MOST = 50;
const to = (code: string, page: string, room: string) =>
  `/${encodeURIComponent(code)}/${encodeURIComponent(page)}/${room}`;

interface Props {
  desk: ReturnType<typeof useDeskLook>;
}

const signed = (bad: boolean, text: string) => (bad ? <Act>{text}</Act> : <Soft>{text}</Soft>);

/** The projects, in groups where that is asked for; each leads to its open page. */
export function Projects({ desk: { groups, view, columns, onSort } }: Props) {
  const grouped = groups.some((g) => g.key !== "");
  const asked = groups.map((g) => g.codes);
  const sums = useQuery({
    queryKey: keys.desk.sums(asked),
    queryFn: () => take(client.POST("/api/desk/sums", { body: { groups: asked } })),
    enabled: grouped,
    placeholderData: keepPreviousData,
  });
  const also = columns.get(view.also);
  const sorts = (...keys: string[]) => keys.map((key): [string, string] => [key, columns.get(key)?.title ?? key]);
  return (
    <DataTable
      aria-label={w.title}
      sort={view.sort}
      onSort={onSort}
      groups={groups.map((g, i) => [
        g.key && (
          <span key={g.key} style={{ paddingLeft: g.depth * 16 }}>
            {g.name} <Soft>{g.codes.length}</Soft>{" "}
            <Soft>
              {(sums.data?.groups[i] ?? [])
                .map((x) => w.sumOf(x.currency, format.money(x.bac), format.money(x.eac)))
                .join("; ")}
            </Soft>
          </span>
        ),
        g.own,
      ])}
      keyOf={(p) => p.code}
      columns={[
        {
          sorts: sorts("name"),
          cell: (p) => (
            <>
              <Link to={to(p.code, p.page, "posting")}>{p.name}</Link>
              {p.standing === "what_if" && <Act> {w.whatIf(p.copy_of ?? "")}</Act>}
              {p.standing === "retired" && <Soft> {w.retired}</Soft>}
              <Standing project={p} />
              <Soft as="div">{[p.code, p.manager, p.client].filter(Boolean).join(" · ")}</Soft>
            </>
          ),
        },
        also && { sorts: sorts(also.key), cell: (p) => also.text(p) || "–" },
        {
          sorts: sorts("mark_word"),
          kind: "date",
          cell: (p) => (
            <>
              <Mark mark={p.mark} silent /> {p.mark_word}
            </>
          ),
        },
        {
          sorts: sorts("status"),
          kind: "date",
          cell: (p) => (
            <>
              {format.date(p.status)}
              {p.page_due && (
                <div>
                  <Link to={to(p.code, p.page, "posting/close")}>
                    <Act>{w.pageDue}</Act>
                  </Link>
                </div>
              )}
              <Soft as="div">{p.baseline ? w.against(p.baseline) : w.noBaseline}</Soft>
            </>
          ),
        },
        {
          sorts: sorts("bac"),
          kind: "num",
          cell: (p) => (
            <>
              {format.money(p.bac)} <Soft>{p.currency}</Soft>
            </>
          ),
        },
        {
          sorts: sorts("eac", "vac"),
          kind: "num",
          cell: (p) => (
            <>
              {format.money(p.eac)}
              <div>{signed(p.vac?.startsWith("-") ?? false, format.money(p.vac))}</div>
            </>
          ),
        },
        { sorts: sorts("spi"), kind: "num", cell: (p) => format.ratio(p.spi) },
        { sorts: sorts("cpi"), kind: "num", cell: (p) => format.ratio(p.cpi) },
        {
          sorts: sorts("finish", "late_days"),
          kind: "date",
          cell: (p) => (
            <>
              {format.date(p.finish)}
              <div>{signed((p.late_days ?? 0) > 0, columns.get("late_days")?.text(p) ?? "–")}</div>
            </>
          ),
        },
        {
          title: w.report,
          kind: "date",
          cell: (p) =>
            p.report_due ? <Link to={to(p.code, p.report_due, "report")}>{w.due(p.report_due)}</Link> : "–",
        },
      ]}
    />
  );
}

const AMOUNTS = ["bac", "pv", "ev", "ac"] as const;
const RATIOS = ["spi", "cpi"] as const;
type Sum = Schemas["SumOut"];

/** Sums never go across currencies; the indices are those of the sums. */
export function Sums({ sums }: { sums: Schemas["SumOut"][] }) {
  return (
    <>
      <PartTitle>{w.sums}</PartTitle>
      <DataTable
        aria-label={w.sums}
        rows={sums}
        keyOf={(x) => x.currency}
        columns={[
          {
            title: w.currency,
            cell: (x) => (
              <>
                {x.currency}
                {x.left_out.length > 0 && <Soft as="div">{w.leftOut(x.left_out.join("; "))}</Soft>}
              </>
            ),
          },
          { title: w.projects, kind: "num", cell: (x) => x.projects },
          ...AMOUNTS.map(
            (key): DataColumn<Sum> => ({
              title: w[key],
              kind: "num",
              tip: (x) => x.reasons[key],
              cell: (x) => format.money(x[key]),
            }),
          ),
          {
            title: (
              <>
                {w.eac}
                <div>{w.vac}</div>
              </>
            ),
            kind: "num",
            tip: (x) => x.reasons.eac ?? x.reasons.vac,
            cell: (x) => (
              <>
                {format.money(x.eac)}
                <div>{signed(x.vac?.startsWith("-") ?? false, format.money(x.vac))}</div>
              </>
            ),
          },
          ...RATIOS.map(
            (key): DataColumn<Sum> => ({
              title: w[key],
              kind: "num",
              tip: (x) => x.reasons[key],
              cell: (x) => format.ratio(x[key]),
            }),
          ),
        ]}
      />
    </>
  );
}

/** Milestones that are late in any project, the latest first, as of each project's status date. */
export function Late({ late: rows, projects }: { late: Schemas["LateOut"][]; projects: Project[] }) {
  const names = new Map(projects.map((p) => [p.code, p.name]));
  const found = rows.filter((m) => names.has(m.project));
  if (found.length === 0) return null;
  return (
    <>
      <PartTitle>{w.lateMilestones}</PartTitle>
      <DataTable
        aria-label={w.lateMilestones}
        rows={found.slice(0, MOST)}
        keyOf={(m) => `${m.project} ${m.code}`}
        columns={[
          {
            title: w.milestone,
            cell: (m) => (
              <>
                <Link to={to(m.project, m.page, "timeline")}>{m.name}</Link> <Soft>{m.code}</Soft>
              </>
            ),
          },
          { title: w.project, cell: (m) => names.get(m.project) },
          { title: w.page, kind: "date", cell: (m) => format.date(m.status) },
          {
            title: w.baselineDate,
            kind: "date",
            cell: (m) => (
              <>
                {format.date(m.baseline_date)} <Soft>{m.baseline}</Soft>
              </>
            ),
          },
          { title: w.now, kind: "date", cell: (m) => format.date(m.now) },
          { title: w.late, kind: "date", cell: (m) => <Act>{format.late(m.late_days)}</Act> },
        ]}
      />
      {found.length > MOST && <Soft as="p">{w.more(found.length - MOST)}</Soft>}
    </>
  );
}
