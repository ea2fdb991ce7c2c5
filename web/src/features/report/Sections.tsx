import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../../api";
import { Curve, format, Mark, SmallLines, usePlace } from "../../shared";
import { Button, DataTable, Note, Select } from "../../shared/ui";
import { words } from "../../shared/words/report";
import { Added, AddLater } from "./Added";
import { ReportTable } from "./ReportTable";
import { Comments } from "./Review";
import { type Report, textOf, type Writing } from "./useReport";
import { Trouble, Words } from "./Words";

const w = words.report;
const STATUSES = ["on_plan", "watch", "act"] as const;
const ofAll = ({ section }: { section: string }) => section === "overall";
type Section = Schemas["ReportSection"];
type Head = Section["heads"][number];

interface Props {
  report: Report;
  writing: Writing;
}

/** The sections of the report. */
export function Sections({ report, writing }: Props) {
  return (
    <>
      {report.sections.map((s) => (
        <OneSection key={s.key} section={s} report={report} writing={writing} />
      ))}
    </>
  );
}

/** A section with the words of the analyst, its figures, and the reviewers' comments beside it. */
function OneSection({ section: s, report, writing }: Props & { section: Section }) {
  const { mayPost, person } = usePlace();
  const [commenting, comment] = useState(false);
  const [opened, open] = useState(false);
  const [adding, add] = useState(false);
  const field = s.key === "summary" ? "words" : (`texts.${s.key}` as const);
  const comments = report.review.comments.filter((c) => c.section === s.key);
  const beside = commenting || comments.length > 0;
  const always = s.key === "summary" || s.key === "decisions";
  const label = w.wordsOf(s.title);
  return (
    <section aria-label={s.title}>
      <Flex align="baseline" gap="6">
        <h2>{s.title}</h2>
        {mayPost && !always && !textOf(writing.draft, field) && !opened && (
          <Button look="quiet" aria-label={w.addWordsOf(s.title)} onClick={() => open(true)}>
            {w.addWords}
          </Button>
        )}
        {s.key !== "overall" && <AddLater section={s} report={report} adding={adding} add={add} />}
        {person.role !== "reader" && !commenting && (
          <Button look="quiet" aria-label={w.commentOn(s.title)} onClick={() => comment(true)}>
            {w.comment}
          </Button>
        )}
      </Flex>
      <Box display="grid" gridTemplateColumns={beside ? "minmax(0, 1fr) 240px" : "minmax(0, 1fr)"} gap="18">
        <Box minW="0">
          {s.key === "overall" && <Overall report={report} writing={writing} />}
          <Words
            writing={writing}
            field={field}
            label={label}
            value={textOf(writing.draft, field)}
            before={always || opened ? s.words_before : ""}
            drafted={s.drafted}
            may={mayPost}
            always={always || opened}
          />
          {s.key !== "overall" && <Added section={s} report={report} writing={writing} adding={adding} add={add} />}
          {s.sentences.map((x) => (
            <Note as="p" key={x}>
              {x}
            </Note>
          ))}
          {s.heads.length > 0 && <Heads section={s} writing={writing} may={mayPost} />}
          {s.chart === "curve" && <Curve curve={report.curve} height={230} />}
          {s.chart === "indices" && s.tables[0] && <Indices table={s.tables[0]} />}
          {s.tables.map((t) => (
            <ReportTable key={t.key} table={t} />
          ))}
        </Box>
        {beside && (
          <Comments
            title={s.title}
            section={s.key}
            comments={comments}
            writing={writing}
            commenting={commenting}
            comment={comment}
          />
        )}
      </Box>
    </section>
  );
}

/** The overall status and why. */
export function Overall({ report, writing }: Props) {
  const { mayPost, person } = usePlace();
  const { draft, type } = writing;
  const [opened, add] = useState(false);
  const section = { key: "overall", title: w.overall, heads: [], added: report.draft.added.filter(ofAll) };
  // Without an overall status the report can't be issued: the place to give it is open.
  const adding = report.state === "dry" && person.role !== "reader" && (opened || !report.draft.status);
  const added = { section, report, adding, add };
  const trend = draft.status === report.draft.status ? w.trend[report.trend] : "";
  return (
    <Box borderWidth="1px" borderColor="ruleStrong" py="10" px="14" my="4" bg="paper" maxW="900px">
      <Flex gap="8" align="center" wrap="wrap" role="group" aria-label={words.report.title}>
        {STATUSES.map((s) => (
          <Button key={s} aria-pressed={draft.status === s} disabled={!mayPost} onClick={() => type("status", s)}>
            <Mark mark={s} size={13} silent /> {w.statuses[s]}
          </Button>
        ))}
        <Note>
          {w.propose(report.proposed_word)} {draft.status && trend}
        </Note>
      </Flex>
      <Trouble writing={writing} field="status" />
      <Flex justify="space-between" align="baseline" mt="8">
        <span>
          <b>{w.reason}</b> <Note>{w.reasonHelp}</Note>
        </span>
        {mayPost && report.proposed_reasons.length > 0 && (
          <Button
            look="link"
            onClick={() => {
              type("reason", report.proposed_reasons.join(" "));
              if (!draft.status) type("status", report.proposed);
            }}
          >
            {w.takeReason}
          </Button>
        )}
      </Flex>
      <Words
        writing={writing}
        field="reason"
        label={w.reason}
        value={draft.reason}
        before={report.reason_before}
        may={mayPost}
        always
      />
      <Added {...added} writing={writing} />
      <AddLater {...added} />
    </Box>
  );
}

/** Schedule, cost and the project's own heads: where each stands, which way it went, and why. */
function Heads({ section, writing, may }: { section: Section; writing: Writing; may: boolean }) {
  const marked = (h: Head) => {
    const own = writing.draft.heads[h.name] ?? { mark: "", reason: "" };
    const mark = own.mark || h.proposed;
    const field = `heads.${h.name}` as const;
    const explained = may && (mark === "watch" || mark === "act" || own.reason !== "");
    return { own, mark, field, explained, put: (to: string, why: string) => writing.type(field, `${to}\n${why}`) };
  };
  return (
    <DataTable
      rows={section.heads}
      keyOf={(h) => h.name}
      columns={[
        { head: true, more: () => ({ style: { width: "120px" } }), cell: (h) => w.ownHeads[h.name] ?? h.name },
        {
          more: () => ({ style: { width: "210px" } }),
          cell: (h) => {
            const { own, mark, field, explained, put } = marked(h);
            return (
              <>
                {mark && <Mark mark={mark} size={13} silent />}{" "}
                {may ? (
                  <Select
                    aria-label={w.headMark(h.name)}
                    value={own.mark}
                    aria-invalid={writing.trouble(field) !== undefined}
                    onChange={(e) => put(e.target.value, own.reason)}
                  >
                    <option value="">{h.own ? w.ownHead : `${w.figures}: ${words.marks[h.proposed]}`}</option>
                    {STATUSES.map((s) => (
                      <option key={s} value={s}>
                        {w.statuses[s]}
                      </option>
                    ))}
                  </Select>
                ) : (
                  h.word
                )}
                {!explained && <Trouble writing={writing} field={field} />}
                <Note as="div">{h.mark === mark ? w.trend[h.trend] : ""}</Note>
              </>
            );
          },
        },
        {
          cell: (h) => {
            const { own, mark, field, explained, put } = marked(h);
            if (!may) return h.reason;
            const drafted = mark && mark === h.proposed && mark !== "on_plan" ? h.proposed_reasons.join(" ") : "";
            return (
              <Words
                writing={writing}
                field={field}
                label={w.headReason(h.name)}
                value={own.reason}
                drafted={drafted}
                change={(text) => put(own.mark, text)}
                may
                always={explained}
              />
            );
          },
        },
      ]}
    />
  );
}

const INDICES = [
  { key: "spi", name: words.measures.spi, ink: "ev" },
  { key: "cpi", name: words.measures.cpi, ink: "ac" },
  { key: "spi_t", name: words.measures.spi_t, ink: "ink" },
];

/** The indices over the pages, from the table below. */
function Indices({ table }: { table: Schemas["ReportTable"] }) {
  const at = Object.fromEntries(table.columns.map((c, i) => [c.key, i]));
  const value = (row: Schemas["ReportRow"], key: string) => {
    const text = row.cells[at[key] ?? -1]?.text;
    return text == null ? null : Number(text);
  };
  const points = table.rows.map((row) => ({
    label: format.day(row.cells[at.status ?? -1]?.text),
    values: { spi: value(row, "spi"), cpi: value(row, "cpi"), spi_t: value(row, "spi_t") },
  }));
  return points.length > 1 ? <SmallLines title="" points={points} series={INDICES} level={1} /> : null;
}
