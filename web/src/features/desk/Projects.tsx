import { Fragment } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api";
import { format, Mark } from "../../shared";
import { Act, PartTitle, Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { type Project, titleOf, valueIn } from "./useDeskLook";

const w = words.desk;
/** How many late milestones the screen shows; the workbook has all. */
const MOST = 50;
const late = (days: number | null | undefined) => (days == null ? "–" : format.late(days));
const to = (code: string, page: string, room: string) =>
  `/${encodeURIComponent(code)}/${encodeURIComponent(page)}/${room}`;

/** The projects, in groups where that is asked for; each leads to its open page. */
export function Projects({ groups, group, also }: { groups: [string, Project[]][]; group: string; also: string }) {
  return (
    <Table aria-label={w.title}>
      <thead>
        <tr>
          <th>{w.project}</th>
          {also && <th>{titleOf(also)}</th>}
          <th>{w.status}</th>
          <th>{w.page}</th>
          <th data-num="">{w.bac}</th>
          <th data-num="">
            {w.eac}
            <div>{w.vac}</div>
          </th>
          <th data-num="">{w.spi}</th>
          <th data-num="">{w.cpi}</th>
          <th>
            {w.finish}
            <div>{w.late}</div>
          </th>
          <th>{w.report}</th>
        </tr>
      </thead>
      <tbody>
        {groups.map(([name, projects]) => (
          <Fragment key={name}>
            {group && (
              <tr>
                <th colSpan={also ? 10 : 9} scope="rowgroup">
                  {name || w.none} <Soft>{projects.length}</Soft>
                </th>
              </tr>
            )}
            {projects.map((p) => (
              <Row key={p.code} project={p} also={also} />
            ))}
          </Fragment>
        ))}
      </tbody>
    </Table>
  );
}

function Row({ project: p, also }: { project: Project; also: string }) {
  return (
    <tr>
      <td>
        <Link to={to(p.code, p.page, "posting")}>{p.name}</Link>
        <Soft as="div">{[p.code, p.manager, p.client].filter(Boolean).join(" · ")}</Soft>
      </td>
      {also && <td>{valueIn(p, also) || "–"}</td>}
      <td data-date="">
        <Mark mark={p.mark} silent /> {p.mark_word}
      </td>
      <td data-date="">
        {format.date(p.status)}
        <Soft as="div">{p.baseline ? w.against(p.baseline) : w.noBaseline}</Soft>
      </td>
      <td data-num="">
        {format.money(p.bac)} <Soft>{p.currency}</Soft>
      </td>
      <td data-num="">
        {format.money(p.eac)}
        <div>{p.vac?.startsWith("-") ? <Act>{format.money(p.vac)}</Act> : <Soft>{format.money(p.vac)}</Soft>}</div>
      </td>
      <td data-num="">{format.ratio(p.spi)}</td>
      <td data-num="">{format.ratio(p.cpi)}</td>
      <td data-date="">
        {format.date(p.finish)}
        <div>{(p.late_days ?? 0) > 0 ? <Act>{late(p.late_days)}</Act> : <Soft>{late(p.late_days)}</Soft>}</div>
      </td>
      <td data-date="">
        {p.report_due ? <Link to={to(p.code, p.report_due, "report")}>{w.due(p.report_due)}</Link> : "–"}
      </td>
    </tr>
  );
}

/** Sums never go across currencies; the indices are those of the sums. */
export function Sums({ sums }: { sums: Schemas["SumOut"][] }) {
  return (
    <>
      <PartTitle>{w.sums}</PartTitle>
      <Table aria-label={w.sums}>
        <thead>
          <tr>
            <th>{w.currency}</th>
            <th data-num="">{w.projects}</th>
            {(["bac", "pv", "ev", "ac", "eac", "vac", "spi", "cpi"] as const).map((key) => (
              <th key={key} data-num="">
                {w[key]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sums.map((x) => (
            <tr key={x.currency}>
              <td>
                {x.currency}
                {x.left_out.length > 0 && <Soft as="div">{w.leftOut(x.left_out.join("; "))}</Soft>}
              </td>
              <td data-num="">{x.projects}</td>
              {(["bac", "pv", "ev", "ac", "eac", "vac"] as const).map((key) => (
                <td key={key} data-num="" data-tip={x.reasons[key]}>
                  {format.money(x[key])}
                </td>
              ))}
              {(["spi", "cpi"] as const).map((key) => (
                <td key={key} data-num="" data-tip={x.reasons[key]}>
                  {format.ratio(x[key])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
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
      <Table aria-label={w.lateMilestones}>
        <thead>
          <tr>
            <th>{w.milestone}</th>
            <th>{w.project}</th>
            <th>{w.page}</th>
            <th>{w.baselineDate}</th>
            <th>{w.now}</th>
            <th>{w.late}</th>
          </tr>
        </thead>
        <tbody>
          {found.slice(0, MOST).map((m) => (
            <tr key={`${m.project} ${m.code}`}>
              <td>
                <Link to={to(m.project, m.page, "timeline")}>{m.name}</Link> <Soft>{m.code}</Soft>
              </td>
              <td>{names.get(m.project)}</td>
              <td data-date="">{format.date(m.status)}</td>
              <td data-date="">
                {format.date(m.baseline_date)} <Soft>{m.baseline}</Soft>
              </td>
              <td data-date="">{format.date(m.now)}</td>
              <td data-date="">
                <Act>{format.late(m.late_days)}</Act>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {found.length > MOST && <Soft as="p">{w.more(found.length - MOST)}</Soft>}
    </>
  );
}
