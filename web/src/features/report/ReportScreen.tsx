import { Box, Flex } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { Curve, format, Mark, Notice, usePlace, words } from "../../shared";
import { Anchor, Button, Table, Textarea } from "../../shared/ui";

type Report = Schemas["ReportOut"];
const STATUSES = ["on_plan", "watch", "act"] as const;
const STATUS_WORDS = { on_plan: "On plan", watch: "Watch", act: "Act" };

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
  if (report.isPending) return <Notice>{words.frame.loading}</Notice>;
  if (report.isError) return <Notice bad>{report.error.message}</Notice>;
  const r = report.data;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/report/editions`;
  return (
    <>
      <div className="sheet-head">
        <h1>
          {words.report.title} {r.number}
        </h1>
        <span className="told">
          {words.margin.asOf(format.fullDay(r.status_date), r.balance.baseline)}, {r.balance.currency}
        </span>
        <span className="space" />
        <Anchor look="link" href={`${base}/draft.html`} target="_blank" rel="noreferrer">
          {words.report.draft}, HTML
        </Anchor>
        <Anchor look="link" href={`${base}/draft.pdf`} target="_blank" rel="noreferrer">
          {words.report.draft}, PDF
        </Anchor>
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so keys must reach it */}
      <div className="reading" tabIndex={0} role="region" aria-label={words.report.title}>
        <Words key={page.code} report={r} />
        <Editions editions={r.editions} base={base} />
        <Facts report={r} />
      </div>
    </>
  );
}

function Words({ report }: { report: Report }) {
  const { project, page, mayPost, person } = usePlace();
  const queries = useQueryClient();
  const [status, setStatus] = useState(report.draft.status);
  const [reason, setReason] = useState(report.draft.reason);
  const [text, setText] = useState(report.draft.words);
  const path = { project, page: page.code };
  const reportKey = [project, page.code, "report"];
  const settle = (r: Report) => {
    queries.setQueryData(reportKey, r);
    queries.invalidateQueries({ queryKey: [project, page.code, "posting"] });
    queries.invalidateQueries({ queryKey: ["frame", project] });
  };
  const revision = () => queries.getQueryData<Report>(reportKey)?.revision ?? report.revision;
  const write = async () => {
    const send = (rev: number) =>
      take(
        client.PUT("/api/projects/{project}/pages/{page}/report", {
          params: { path },
          body: { revision: rev, status, reason, words: text },
        }),
      );
    try {
      settle(await send(revision()));
    } catch (error) {
      // Figures that moved meanwhile change no word; words that somebody else wrote are not overwritten unasked.
      if (!(error instanceof Problem) || error.code !== "stale") throw error;
      const wrote = error.changes.filter((c) => c.label.startsWith("words of report")).at(-1);
      if (wrote)
        throw new Problem(
          409,
          "stale",
          `${wrote.by} wrote the words of this report meanwhile. Yours are still here; copy them, then reload to see theirs.`,
        );
      settle(await send(error.revision ?? 0));
    }
  };
  const keep = useMutation({ mutationFn: write });
  const issue = useMutation({
    mutationFn: async () => {
      if (mayPost) await write();
      await take(
        client.POST("/api/projects/{project}/pages/{page}/report/issue", {
          params: { path },
          body: { revision: revision() },
        }),
      );
      await queries.invalidateQueries({ queryKey: reportKey });
    },
  });
  const wrong = [issue.error, keep.error].find((e) => e !== null);
  const at = (field: string) => (wrong instanceof Problem && wrong.field === field ? wrong.message : null);
  const elsewhere =
    wrong &&
    !(wrong instanceof Problem && (wrong.field === "reason" || wrong.field === "status" || wrong.field === "words"));
  const mayIssue = person.role === "approver";
  return (
    <Box borderWidth="1px" borderColor="ruleStrong" p="12px 14px" mt="4px" bg="paper">
      <Flex gap="8px" align="center" wrap="wrap" role="group" aria-label={words.report.status}>
        <b>{words.report.status}</b>
        {STATUSES.map((s) => (
          <Button key={s} aria-pressed={status === s} disabled={!mayPost} onClick={() => setStatus(s)}>
            <Mark mark={s} size={13} silent /> {STATUS_WORDS[s]}
          </Button>
        ))}
        <span className="field-note">{words.report.propose(report.proposed_word)}</span>
      </Flex>
      {at("status") && (
        <div className="field-wrong" role="alert">
          {at("status")}
        </div>
      )}
      <Box mt="10px">
        <Flex justify="space-between" align="baseline">
          <label htmlFor="reason">
            <b>{words.report.reason}</b> <span className="field-note">{words.report.reasonHelp}</span>
          </label>
          {mayPost && report.proposed_reasons.length > 0 && (
            <Button
              look="link"
              onClick={() => {
                setReason(report.proposed_reasons.join(" "));
                if (!status) setStatus(report.proposed);
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
          value={reason}
          readOnly={!mayPost}
          onChange={(e) => setReason(e.target.value)}
          bg="sheet"
          borderColor={at("reason") ? "act" : "ruleStrong"}
          aria-invalid={at("reason") !== null}
        />
        {at("reason") && (
          <div className="field-wrong" role="alert">
            {at("reason")}
          </div>
        )}
      </Box>
      <Box mt="8px">
        <label htmlFor="words">
          <b>{words.report.words}</b>
        </label>
        <Textarea
          id="words"
          width="100%"
          rows={3}
          value={text}
          readOnly={!mayPost}
          onChange={(e) => setText(e.target.value)}
          bg="sheet"
          borderColor="ruleStrong"
        />
        {at("words") && (
          <div className="field-wrong" role="alert">
            {at("words")}
          </div>
        )}
      </Box>
      <Flex gap="8px" mt="10px" align="center">
        {mayPost && (
          <Button
            onClick={() => {
              issue.reset();
              keep.mutate();
            }}
          >
            {words.report.keep}
          </Button>
        )}
        <Button
          look="seal"
          disabled={!mayIssue || issue.isPending}
          onClick={() => {
            keep.reset();
            issue.mutate();
          }}
        >
          {words.report.issue}
        </Button>
        {!mayIssue && <span className="field-note">{words.report.issueNeeds}</span>}
        {keep.isSuccess && !wrong && (
          <span className="field-note" role="status">
            {words.report.kept}
          </span>
        )}
        {elsewhere && (
          <span className="field-wrong" role="alert">
            {wrong.message}
          </span>
        )}
      </Flex>
    </Box>
  );
}

function Editions({ editions, base }: { editions: Schemas["EditionOut"][]; base: string }) {
  return (
    <section>
      <h2>{words.report.editions}</h2>
      {editions.length === 0 && <div className="field-note">{words.report.noEditions}</div>}
      {editions.map((e) => (
        <div key={e.number} className="pair dotted">
          <span>
            <Mark mark={e.status} size={13} silent /> Edition {e.number}, {e.status_word}, issued by {e.issued_by}
          </span>
          <span>
            <Anchor look="link" href={`${base}/${e.number}.html`} target="_blank" rel="noreferrer">
              HTML
            </Anchor>{" "}
            <Anchor look="link" href={`${base}/${e.number}.pdf`} target="_blank" rel="noreferrer">
              PDF
            </Anchor>
          </span>
        </div>
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
        <Table className="plain">
          <thead>
            <tr>
              <th>{r.balance.currency}</th>
              <th className="n">Planned value</th>
              <th className="n">Earned value</th>
              <th className="n">Actual cost</th>
            </tr>
          </thead>
          <tbody>
            {r.money.map((m) => (
              <tr key={m.name}>
                <td>{m.name}</td>
                <td className="n">{format.money(m.pv)}</td>
                <td className="n">{format.money(m.ev)}</td>
                <td className="n">{format.money(m.ac)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
      <section>
        <h2>{words.value.curve}</h2>
        <Curve curve={r.curve} height={230} />
      </section>
      <section>
        <h2>{w.milestones}</h2>
        <Table className="plain">
          <thead>
            <tr>
              <th>Milestone</th>
              <th>Baseline</th>
              <th>Now</th>
              <th>Against {r.balance.baseline ?? "no baseline"}</th>
            </tr>
          </thead>
          <tbody>
            {r.milestones.map((m) => (
              <tr key={m.code}>
                <td>{m.name}</td>
                <td>{format.fullDay(m.baseline)}</td>
                <td>{format.fullDay(m.now)}</td>
                <td>
                  {m.reached ? "reached, " : ""}
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
  if (!rows.length)
    return (
      <div className="field-note">
        {done ? "Nothing was posted on this page." : "Nothing is planned for the next period."}
      </div>
    );
  return (
    <Table className="plain">
      <thead>
        <tr>
          <th>Activity</th>
          <th>By</th>
          {fields.map((f) => (
            <th key={f}>{f}</th>
          ))}
          {done ? <th className="n">{words.plan.columns.percent}</th> : <th>Start</th>}
          <th>Finish</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((w) => (
          <tr key={w.code}>
            <td>
              {w.name}
              <div className="field-note">
                {w.wbs}
                {w.note ? `. ${w.note}` : ""}
              </div>
            </td>
            <td>{w.people.join(", ") || words.report.byContract}</td>
            {fields.map((f, i) => (
              <td key={f}>{w.fields[i]}</td>
            ))}
            {done ? (
              <td className="n">{format.percent(w.percent)}</td>
            ) : (
              <td className="nowrap">{format.day(w.start)}</td>
            )}
            <td className="nowrap">{format.day(w.finish)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
