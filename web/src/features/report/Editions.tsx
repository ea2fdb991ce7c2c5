import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Problem, type Schemas, take } from "../../api";
import { format, keys, Mark, Notice, usePlace } from "../../shared";
import { Anchor, Button, ChoiceLine, DataTable, Input, Note, RowOf, Select, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";
import { shown } from "./ReportTable";
import { useDistribution } from "./useDistribution";
import type { Report } from "./useReport";

const w = words.report;
type Edition = Schemas["EditionOut"];

interface Props {
  report: Report;
  base: string;
  view: { one: string; other: string };
  look: (next: Partial<{ part: string; one: string; other: string }>) => void;
}

/** The issued editions of a page: their files, who they were sent to, and what one says otherwise than another. */
export function Editions({ report, base, view, look }: Props) {
  const sending = useDistribution();
  return (
    <>
      <section>
        <h2>{w.editions}</h2>
        {report.brought_in && <Notice>{report.brought_in}</Notice>}
        {report.editions.length === 0 && <Note as="div">{w.noEditions}</Note>}
        {report.editions.map((e) => (
          <OneEdition key={e.number} edition={e} base={base} sending={sending.data} look={look} />
        ))}
        {sending.data?.outbox && (
          <RowOf>
            <Anchor look="link" href={sending.data.outbox} target="_blank" rel="noreferrer">
              {w.outbox}
            </Anchor>
          </RowOf>
        )}
      </section>
      {sending.data && <Comparing editions={sending.data.editions} view={view} look={look} />}
    </>
  );
}

interface OneProps {
  edition: Edition;
  base: string;
  sending: Schemas["SendingOut"] | undefined;
  look: Props["look"];
}

function OneEdition({ edition: e, base, sending, look }: OneProps) {
  const { person } = usePlace();
  const [open, setOpen] = useState(false);
  return (
    <Box borderBottomWidth="1px" borderColor="rule" py="6">
      <RowOf mt="0">
        <Mark mark={e.status} size={13} silent />
        {w.edition(e.number, e.status_word, e.issued_by, format.date(e.issued_at))}
        <Box flex="1" />
        {e.files.map((form) => (
          <Anchor
            key={form}
            look="link"
            href={`${base}/${e.number}.${form}`}
            target={form === "xlsx" ? undefined : "_blank"}
            rel="noreferrer"
          >
            {form.toUpperCase()}
          </Anchor>
        ))}
        {person.role === "approver" ? (
          <Button aria-expanded={open} onClick={() => setOpen(!open)}>
            {w.sendTo(e.number)}
          </Button>
        ) : (
          person.role === "analyst" && <Note>{w.sendNeeds}</Note>
        )}
      </RowOf>
      {e.deliveries.map((d, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: deliveries are only ever added at the end
        <Note as="div" key={i}>
          {d.name}, {d.email}: {d.state === "delivered" ? w.delivered : w.bounced}, {format.date(d.sent_at)}
          {d.state === "bounced" ? `. ${d.detail}` : ""}
        </Note>
      ))}
      {open && sending && <Sending edition={e} people={sending.recipients} look={look} close={() => setOpen(false)} />}
    </Box>
  );
}

interface SendingProps {
  edition: Edition;
  people: Schemas["RecipientOut"][];
  look: Props["look"];
  close: () => void;
}

/** Who of the list an edition goes to. */
function Sending({ edition, people, look, close }: SendingProps) {
  const { project, page } = usePlace();
  const queries = useQueryClient();
  const had = new Set(edition.deliveries.filter((d) => d.state === "delivered").map((d) => d.email));
  const [to, setTo] = useState(people.filter((p) => !had.has(p.email)).map((p) => p.id));
  const [wrong, setWrong] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const send = async (again: boolean) => {
    setBusy(true);
    setWrong(null);
    try {
      const path = { project, page: page.code, number: String(edition.number) };
      await take(
        client.POST("/api/projects/{project}/pages/{page}/report/editions/{number}/send", {
          params: { path },
          body: { to, again },
        }),
      );
      await queries.invalidateQueries({ queryKey: keys.page(project, page.code).report });
      close();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong(error);
    } finally {
      setBusy(false);
    }
  };
  if (!people.length)
    return (
      <RowOf>
        <Note>{w.nobody}</Note>
        <Button look="link" onClick={() => look({ part: "distribution" })}>
          {w.toList}
        </Button>
      </RowOf>
    );
  return (
    <Box as="fieldset" pt="6" pr="0" pb="0" pl="18">
      <Note as="legend">{w.to}</Note>
      {people.map((p) => (
        <ChoiceLine key={p.id}>
          <Input
            look="bare"
            type="checkbox"
            checked={to.includes(p.id)}
            onChange={(e) => setTo(e.target.checked ? [...to, p.id] : to.filter((x) => x !== p.id))}
          />
          {p.name}, {p.email}
        </ChoiceLine>
      ))}
      {wrong && <Why role="alert">{wrong.message}</Why>}
      <RowOf>
        <Button look="seal" disabled={busy} onClick={() => send(false)}>
          {busy ? w.sending : w.sendTo(edition.number)}
        </Button>
        {wrong?.code === "sent-already" && (
          <Button disabled={busy} onClick={() => send(true)}>
            {w.sendAgain}
          </Button>
        )}
        <Button look="quiet" onClick={close}>
          {w.cancel}
        </Button>
      </RowOf>
    </Box>
  );
}

interface ComparingProps {
  editions: Schemas["IssuedOut"][];
  view: Props["view"];
  look: Props["look"];
}

const nameOf = (e: Schemas["IssuedOut"]) => `${e.page}/${e.number}`;

/** Two editions of the project side by side: what one says otherwise than the other. */
function Comparing({ editions, view, look }: ComparingProps) {
  const { project } = usePlace();
  const kept = editions.filter((e) => e.kept);
  const names = kept.map(nameOf);
  const one = names.includes(view.one) ? view.one : (names[0] ?? "");
  const other = names.includes(view.other) ? view.other : (names.find((n) => n !== one) ?? "");
  const [page = "", number = ""] = one.split("/");
  const compared = useQuery({
    queryKey: keys.project(project).editions(one, other),
    queryFn: () =>
      take(
        client.GET("/api/projects/{project}/pages/{page}/report/editions/{number}/compared", {
          params: { path: { project, page, number }, query: { other } },
        }),
      ),
    enabled: names.length > 1,
  });
  if (names.length < 2) return null;
  const choice = (value: string, label: string, put: (value: string) => void) => (
    <label>
      {label}{" "}
      <Select value={value} onChange={(e) => put(e.target.value)}>
        {kept.map((e) => (
          <option key={nameOf(e)} value={nameOf(e)}>
            {`${e.page}, ${w.compareOne.toLowerCase()} ${e.number}`}
          </option>
        ))}
      </Select>
    </label>
  );
  const { data } = compared;
  return (
    <section>
      <h2>{w.compare}</h2>
      <RowOf>
        {choice(one, w.compareOne, (value) => look({ one: value }))}
        {choice(other, w.compareWith, (value) => look({ other: value }))}
      </RowOf>
      {compared.isError && <Notice bad>{compared.error.message}</Notice>}
      {data && <Note as="p">{w.differs(data.rows.length, data.same)}</Note>}
      {data && data.rows.length > 0 && (
        <DataTable
          rows={data.rows}
          keyOf={(r) => `${r.section}.${r.row}.${r.column}`}
          columns={[
            { title: w.heads3.section, cell: (r) => r.section },
            { title: w.heads3.row, cell: (r) => r.row },
            { title: w.heads3.column, cell: (r) => r.column },
            { title: w.heads3.was, cell: (r) => valueText(r.was, r.kind) },
            { title: w.heads3.now, cell: (r) => valueText(r.now, r.kind) },
          ]}
        />
      )}
    </section>
  );
}

/** What an edition says at a place, in the words of the report. */
const valueText = (text: string, kind: string) =>
  !text ? "–" : kind === "mark" ? words.marks[text] : shown(text, kind);
