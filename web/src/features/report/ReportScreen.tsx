import { Box, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api";
import { Curve, format, Mark, Notice, useKept, usePlace } from "../../shared";
import { refresh, useSending, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";
import { Anchor, Button, Note, Pair, Reading, RoomHead, Space, Table, Textarea, Told, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";

type Report = Schemas["ReportOut"];
const STATUSES = ["on_plan", "watch", "act"] as const;
const NOTHING = {};

/** The report of a page. */
export function ReportScreen() {
  const { project, page } = usePlace();
  const report = useQuery({
    queryKey: [project, page.code, "report"],
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/report", { params: { path: { project, page: page.code } } }),
      ),
  });
  const sending = useSending(project, `report.${page.code}`);
  if (report.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (report.isError) return <Notice bad>{report.error.message}</Notice>;
  const r = report.data;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/report/editions`;
  return (
    <>
      <RoomHead>
        <h1>
          {words.report.title} {r.number}
        </h1>
        <Told>
          {words.margin.asOf(format.fullDay(r.status_date), r.balance.baseline)}, {r.balance.currency}
        </Told>
        <Space />
        <Anchor look="link" href={`${base}/draft.html`} target="_blank" rel="noreferrer">
          {words.report.draft}, HTML
        </Anchor>
        <Anchor look="link" href={`${base}/draft.pdf`} target="_blank" rel="noreferrer">
          {words.report.draft}, PDF
        </Anchor>
      </RoomHead>
      <Reading tabIndex={0} role="region" aria-label={words.report.title}>
        <Words key={page.code} report={r} />
        <Editions editions={r.editions} base={base} sending={sending} />
        <Facts report={r} />
      </Reading>
    </>
  );
}

type Draft = Pick<Report["draft"], "status" | "reason" | "words">;
const FIELDS = ["status", "reason", "words"] as const;

/** The words of a report: what is typed stays until it is saved, over rooms and pages. */
function Words({ report }: { report: Report }) {
  const { project, page, mayPost, person } = usePlace();
  const queries = useQueryClient();
  const [typed, setTyped] = useKept<Partial<Draft>>(`${person.username}.${project}.${page.code}.report`, NOTHING);
  const [saved, setSaved] = useState(false);
  const draft: Draft = { ...report.draft, ...(mayPost ? typed : {}) };
  const path = { project, page: page.code };
  const reportKey = [project, page.code, "report"];
  const read = async () =>
    queries.setQueryData(
      reportKey,
      await take(client.GET("/api/projects/{project}/pages/{page}/report", { params: { path } })),
    );
  const writes = useWrites({ project, part: `report.${page.code}`, read });
  const held = () => queries.getQueryData<Report>(reportKey) ?? report;
  const type = (next: Partial<Draft>) => {
    setSaved(false);
    setTyped((now) => ({ ...now, ...next }));
  };
  const cells = FIELDS.map((field) => ({ row: "report", field, text: draft[field], said: () => held().draft[field] }));
  /** Saves what was typed, and issues it where that is asked; what somebody else wrote meanwhile is not overwritten unseen. */
  const send = async (issued: boolean, mine = false) => {
    setSaved(false);
    const done = await writes.write(
      async () => {
        if (mayPost) {
          const body = { revision: held().revision, ...draft };
          const put = client.PUT("/api/projects/{project}/pages/{page}/report", { params: { path }, body });
          queries.setQueryData(reportKey, await take(put));
        }
        if (issued) {
          const body = { revision: held().revision };
          await take(client.POST("/api/projects/{project}/pages/{page}/report/issue", { params: { path }, body }));
          await read();
        }
        return true;
      },
      cells,
      mine,
    );
    if (!done) return;
    setTyped(NOTHING);
    setSaved(!issued);
    refresh(queries, project, (key) => key[2] === "report" || key[2] === "curve");
  };
  const trouble = (field: keyof Draft) => writes.troubles[cellKey("report", field)];
  const unsaved = FIELDS.some((f) => draft[f] !== report.draft[f]);
  const mayIssue = person.role === "approver";
  const why = (field: keyof Draft) => {
    const found = trouble(field);
    if (!found) return null;
    return (
      <Why role="alert">
        {found.stale ? words.sheet.stale(found.stale.by, found.stale.label) : found.message}
        {found.stale && (
          <>
            {" "}
            <Button look="link" onClick={() => send(false, true)}>
              {words.sheet.mine}
            </Button>{" "}
            <Button
              look="link"
              onClick={() => {
                setTyped(({ [field]: _, ...others }) => others);
                writes.drop("report", field);
              }}
            >
              {words.sheet.theirs}
            </Button>
          </>
        )}
      </Why>
    );
  };
  return (
    <Box borderWidth="1px" borderColor="ruleStrong" p="12px 14px" mt="4px" bg="paper">
      <Flex gap="8px" align="center" wrap="wrap" role="group" aria-label={words.report.status}>
        <b>{words.report.status}</b>
        {STATUSES.map((s) => (
          <Button key={s} aria-pressed={draft.status === s} disabled={!mayPost} onClick={() => type({ status: s })}>
            <Mark mark={s} size={13} silent /> {words.report.statuses[s]}
          </Button>
        ))}
        <Note>{words.report.propose(report.proposed_word)}</Note>
      </Flex>
      {why("status")}
      <Box mt="10px">
        <Flex justify="space-between" align="baseline">
          <label htmlFor="reason">
            <b>{words.report.reason}</b> <Note>{words.report.reasonHelp}</Note>
          </label>
          {mayPost && report.proposed_reasons.length > 0 && (
            <Button
              look="link"
              onClick={() => {
                type({
                  reason: report.proposed_reasons.join(" "),
                  ...(draft.status ? {} : { status: report.proposed }),
                });
              }}
            >
              {words.report.takeReason}
            </Button>
          )}
        </Flex>
        <Textarea
          id="reason"
          width="100%"
          rows={2}
          value={draft.reason}
          readOnly={!mayPost}
          onChange={(e) => type({ reason: e.target.value })}
          bg="sheet"
          borderColor={trouble("reason") ? "act" : "control"}
          aria-invalid={trouble("reason") !== undefined}
        />
        {why("reason")}
      </Box>
      <Box mt="8px">
        <label htmlFor="words">
          <b>{words.report.words}</b>
        </label>
        <Textarea
          id="words"
          width="100%"
          rows={3}
          value={draft.words}
          readOnly={!mayPost}
          onChange={(e) => type({ words: e.target.value })}
          bg="sheet"
          borderColor="control"
        />
        {why("words")}
      </Box>
      <Flex gap="8px" mt="10px" align="center">
        {mayPost && (
          <Button disabled={writes.busy} onClick={() => send(false)}>
            {words.report.keep}
          </Button>
        )}
        <Button look="seal" disabled={!mayIssue || writes.busy} onClick={() => send(true)}>
          {words.report.issue}
        </Button>
        {!mayIssue && <Note>{words.report.issueNeeds}</Note>}
        <Note role="status">
          {writes.busy ? words.report.sending : saved ? words.report.kept : unsaved ? words.report.unsaved : ""}
        </Note>
        {writes.refused && (
          <Why as="span" role="alert">
            {writes.refused}
          </Why>
        )}
      </Flex>
    </Box>
  );
}

function Editions({ editions, base, sending }: { editions: Schemas["EditionOut"][]; base: string; sending: boolean }) {
  return (
    <section>
      <h2>{words.report.editions}</h2>
      {editions.length === 0 && !sending && <Note as="div">{words.report.noEditions}</Note>}
      {editions.map((e) => (
        <Pair key={e.number} dotted>
          <span>
            <Mark mark={e.status} size={13} silent /> {words.report.edition(e.number, e.status_word, e.issued_by)}
          </span>
          <span>
            <Anchor look="link" href={`${base}/${e.number}.html`} target="_blank" rel="noreferrer">
              HTML
            </Anchor>{" "}
            <Anchor look="link" href={`${base}/${e.number}.pdf`} target="_blank" rel="noreferrer">
              PDF
            </Anchor>
          </span>
        </Pair>
      ))}
    </section>
  );
}

function Facts({ report: r }: { report: Report }) {
  const w = words.report;
  return (
    <>
      <section>
        <h2>{w.worked}</h2>
        <Work rows={r.worked_on} fields={r.field_names} done />
      </section>
      <section>
        <h2>{w.next}</h2>
        <Work rows={r.coming_next} fields={r.field_names} />
      </section>
      <section>
        <h2>{w.money}</h2>
        <Table>
          <thead>
            <tr>
              <th>{r.balance.currency}</th>
              <th data-num="">{w.pv}</th>
              <th data-num="">{w.ev}</th>
              <th data-num="">{w.ac}</th>
            </tr>
          </thead>
          <tbody>
            {r.money.map((m) => (
              <tr key={m.name}>
                <td>{m.name}</td>
                <td data-num="">{format.money(m.pv)}</td>
                <td data-num="">{format.money(m.ev)}</td>
                <td data-num="">{format.money(m.ac)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
      <section>
        <h2>{words.chart.curve}</h2>
        <Curve curve={r.curve} height={230} />
      </section>
      <section>
        <h2>{w.milestones}</h2>
        <Table>
          <thead>
            <tr>
              <th>{w.milestone}</th>
              <th>{w.baseline}</th>
              <th>{w.now}</th>
              <th>{w.against(r.balance.baseline)}</th>
            </tr>
          </thead>
          <tbody>
            {r.milestones.map((m) => (
              <tr key={m.code}>
                <td>{m.name}</td>
                <td>{format.fullDay(m.baseline)}</td>
                <td>{format.fullDay(m.now)}</td>
                <td>
                  {m.reached ? w.reached : ""}
                  {format.late(m.late_days)}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
    </>
  );
}

function Work({ rows, fields, done = false }: { rows: Schemas["WorkOut"][]; fields: string[]; done?: boolean }) {
  if (!rows.length) return <Note as="div">{done ? words.report.nothingPosted : words.report.nothingNext}</Note>;
  return (
    <Table>
      <thead>
        <tr>
          <th>{words.report.activity}</th>
          <th>{words.report.by}</th>
          {fields.map((f) => (
            <th key={f}>{f}</th>
          ))}
          {done ? <th data-num="">{words.report.percent}</th> : <th>{words.report.start}</th>}
          <th>{words.report.finish}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((w) => (
          <tr key={w.code}>
            <td>
              {w.name}
              <Note as="div">
                {w.wbs}
                {w.note ? `. ${w.note}` : ""}
              </Note>
            </td>
            <td>{w.people.join(", ") || words.report.byContract}</td>
            {fields.map((f, i) => (
              <td key={f}>{w.fields[i]}</td>
            ))}
            {done ? <td data-num="">{format.percent(w.percent)}</td> : <td data-num="">{format.day(w.start)}</td>}
            <td data-num="">{format.day(w.finish)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
