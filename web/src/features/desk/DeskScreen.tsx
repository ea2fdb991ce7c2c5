import { Box, Flex, Heading } from "@chakra-ui/react";
import { useEffect } from "react";
import { Link, useOutletContext } from "react-router";
import type { Schemas } from "../../api";
import { Frame, format, Mark, Notice, useDesk } from "../../shared";
import { Act, Files, PartTitle, Soft, Table } from "../../shared/ui";
import { words } from "../../shared/words/desk";
import { PersonMenu } from "../accounts";
import { BringFile } from "../exchange";
import { NewProject } from "./NewProject";

/** Whether somebody begins projects. */
const begins = (person: Schemas["PersonOut"]) => person.role === "analyst" || person.role === "approver";

/** All projects with their open page. */
export function DeskScreen() {
  const { person, mode, turn } = useOutletContext<{ person: Schemas["PersonOut"]; mode: string; turn: () => void }>();
  const desk = useDesk();
  useEffect(() => {
    document.title = `${words.desk.title} · ${words.product}`;
  }, []);
  return (
    <Frame title={words.product} under={words.desk.title} end={<PersonMenu person={person} mode={mode} turn={turn} />}>
      <Box p="18px 28px">
        <Flex gap="14px" align="center" mb="12px">
          <Heading as="h1" fontFamily="heading" fontWeight="600" fontSize="19px" flex="1">
            {words.desk.title}
          </Heading>
          {desk.data && desk.data.projects.length > 0 && <Files base="/api/desk" />}
          {person.administrator && <Link to="/people">{words.desk.people}</Link>}
          {begins(person) && <NewProject />}
        </Flex>
        {desk.isError && <Notice bad>{desk.error.message}</Notice>}
        {desk.data?.projects.length === 0 && <Notice>{words.desk.empty}</Notice>}
        {desk.data && desk.data.projects.length > 0 && (
          <>
            <Projects projects={desk.data.projects} />
            <Sums sums={desk.data.sums} />
            <Late late={desk.data.late} projects={desk.data.projects} />
          </>
        )}
        {begins(person) && (
          <Box mt="26px">
            <PartTitle>{words.desk.bring}</PartTitle>
            <BringFile />
          </Box>
        )}
      </Box>
    </Frame>
  );
}

const w = words.desk;
/** How many late milestones the screen shows; the workbook has all. */
const MOST = 50;
const late = (days: number | null | undefined) => (days == null ? "–" : format.late(days));

function Projects({ projects }: { projects: Schemas["ProjectOut"][] }) {
  return (
    <Table>
      <thead>
        <tr>
          <th>{w.project}</th>
          <th>{w.status}</th>
          <th>{w.page}</th>
          <th data-num="">{w.bac}</th>
          <th data-num="">{w.eac}</th>
          <th data-num="">{w.vac}</th>
          <th data-num="">{w.spi}</th>
          <th data-num="">{w.cpi}</th>
          <th>{w.finish}</th>
          <th>{w.late}</th>
        </tr>
      </thead>
      <tbody>
        {projects.map((p) => (
          <tr key={p.code}>
            <td>
              <Link to={`/${encodeURIComponent(p.code)}/${encodeURIComponent(p.page)}/posting`}>{p.name}</Link>
              <Soft as="div">{[p.code, p.manager].filter(Boolean).join(" · ")}</Soft>
            </td>
            <td data-date="">
              <Mark mark={p.mark} silent /> {p.mark_word}
            </td>
            <td data-date="">
              {format.date(p.status)}
              <Soft as="div">{p.baseline ? w.against(p.baseline) : w.noBaseline}</Soft>
            </td>
            <td data-num="">
              {format.money(p.bac, true)} <Soft>{p.currency}</Soft>
            </td>
            <td data-num="">{format.money(p.eac, true)}</td>
            <td data-num="">
              {p.vac?.startsWith("-") ? <Act>{format.money(p.vac, true)}</Act> : format.money(p.vac, true)}
            </td>
            <td data-num="">{format.ratio(p.spi)}</td>
            <td data-num="">{format.ratio(p.cpi)}</td>
            <td data-date="">{format.date(p.finish)}</td>
            <td data-date="">{(p.late_days ?? 0) > 0 ? <Act>{late(p.late_days)}</Act> : late(p.late_days)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** Sums never go across currencies; the indices are those of the sums. */
function Sums({ sums }: { sums: Schemas["SumOut"][] }) {
  return (
    <>
      <PartTitle>{w.sums}</PartTitle>
      <Table>
        <thead>
          <tr>
            <th>{w.currency}</th>
            <th data-num="">{w.projects}</th>
            <th data-num="">{w.bac}</th>
            <th data-num="">{w.pv}</th>
            <th data-num="">{w.ev}</th>
            <th data-num="">{w.ac}</th>
            <th data-num="">{w.eac}</th>
            <th data-num="">{w.vac}</th>
            <th data-num="">{w.spi}</th>
            <th data-num="">{w.cpi}</th>
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
                <td key={key} data-num="" title={x.reasons[key]}>
                  {format.money(x[key], true)}
                </td>
              ))}
              {(["spi", "cpi"] as const).map((key) => (
                <td key={key} data-num="" title={x.reasons[key]}>
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
function Late({ late, projects }: { late: Schemas["LateOut"][]; projects: Schemas["ProjectOut"][] }) {
  const names = new Map(projects.map((p) => [p.code, p.name]));
  if (late.length === 0) return null;
  return (
    <>
      <PartTitle>{w.lateMilestones}</PartTitle>
      <Table>
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
          {late.slice(0, MOST).map((m) => (
            <tr key={`${m.project} ${m.code}`}>
              <td>
                <Link to={`/${encodeURIComponent(m.project)}/${encodeURIComponent(m.page)}/timeline`}>{m.name}</Link>{" "}
                <Soft>{m.code}</Soft>
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
      {late.length > MOST && <Soft as="p">{w.more(late.length - MOST)}</Soft>}
    </>
  );
}
