import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api";
import { useKept, usePlace } from "../../shared";
import { Button, Note, RowOf, Select, Textarea } from "../../shared/ui";
import { words } from "../../shared/words/report";
import type { Report, Writing } from "./useReport";
import { Trouble } from "./Words";

const w = words.report;
const NOTHING = { head: "", mark: "", text: "" };
const MARKS = Object.entries(w.statuses);

interface Props {
  section: Pick<Schemas["ReportSection"], "key" | "title" | "added" | "heads">;
  report: Report;
  writing: Writing;
  /** Whether something is being added, and the way to begin and to leave it. */
  adding: boolean;
  add: (on: boolean) => void;
}

/** Begins to add to a section, where its page is closed and one may write. */
export function AddLater({ section, report, adding, add }: Omit<Props, "writing">) {
  const { person } = usePlace();
  if (report.state !== "dry" || person.role === "reader" || adding) return null;
  return (
    <Button look="quiet" aria-label={w.addTo(section.title)} onClick={() => add(true)}>
      {w.addLater}
    </Button>
  );
}

/** What was added to a section after its page was closed, and where more is added. */
export function Added({ section, report, writing, adding, add }: Props) {
  return (
    <>
      {section.key === "overall" && report.draft.sealed && <Dated>{report.draft.sealed}</Dated>}
      {section.added.map((x) => (
        <Dated key={x.line}>{x.line}</Dated>
      ))}
      {adding && <Adding section={section} report={report} writing={writing} shut={() => add(false)} />}
    </>
  );
}

const Dated = ({ children }: { children: string }) => (
  <Box
    as="p"
    whiteSpace="pre-wrap"
    overflowWrap="anywhere"
    borderLeftWidth="3px"
    borderColor="ruleStrong"
    pl="10"
    my="4"
  >
    {children}
  </Box>
);

function Adding({ section, report, writing, shut }: Omit<Props, "adding" | "add"> & { shut: () => void }) {
  const { project, person } = usePlace();
  const [typed, type] = useKept(`${person.username}.${project}.${report.page}.added.${section.key}`, NOTHING);
  const marked = section.key === "overall" || section.heads.length > 0;
  const head = typed.head || section.heads[0]?.name;
  const wrong = writing.trouble(section.key === "overall" ? "status" : `heads.${head}`);
  const send = async () => {
    const body = { subject: head ? `heads.${head}` : section.key, mark: typed.mark, text: typed.text };
    if (!(await writing.add(body, section.key))) return;
    type(NOTHING);
    shut();
  };
  return (
    <Box role="group" aria-label={w.addTo(section.title)} my="6" maxW="900px">
      <Note as="p">{w.addHelp}</Note>
      <RowOf mt="2">
        {section.heads.length > 0 && (
          <Select aria-label={w.addHead} value={head} onChange={(e) => type({ ...typed, head: e.target.value })}>
            {section.heads.map((h) => (
              <option key={h.name} value={h.name}>
                {w.ownHeads[h.name] ?? h.name}
              </option>
            ))}
          </Select>
        )}
        {marked && (
          <Select
            aria-label={w.addMark}
            aria-invalid={wrong ? true : undefined}
            value={typed.mark}
            onChange={(e) => type({ ...typed, mark: e.target.value })}
          >
            <option value="">{w.asSealed}</option>
            {MARKS.map(([mark, word]) => (
              <option key={mark} value={mark}>
                {word}
              </option>
            ))}
          </Select>
        )}
      </RowOf>
      <Textarea
        aria-label={w.addText}
        width="100%"
        rows={2}
        value={typed.text}
        onChange={(e) => type({ ...typed, text: e.target.value })}
      />
      <Trouble writing={writing} field="text" row={section.key} />
      <RowOf mt="2">
        <Button onClick={send}>{w.addIt}</Button>
        <Button look="quiet" onClick={shut}>
          {w.cancel}
        </Button>
      </RowOf>
    </Box>
  );
}
