import { Flex } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { Bones, format, Notice, useAddressed, usePlace } from "../../shared";
import { Anchor, Button, PartBar, Reading, RoomHead, Soft, Space, Told } from "../../shared/ui";
import { words } from "../../shared/words/report";
import { Distribution } from "./Distribution";
import { Editions } from "./Editions";
import { LayoutPanel } from "./LayoutPanel";
import { ReviewBar } from "./Review";
import { Overall, Sections } from "./Sections";
import { type Report, useDraft, useReportQuery } from "./useReport";

const w = words.report;
const PARTS = Object.entries(w.parts);
const VIEW = { part: "", one: "", other: "" };

/** The report of a page: written, reviewed, issued; its editions; and who gets them. */
export function ReportScreen() {
  const { project, page } = usePlace();
  const [view, look] = useAddressed(`${project}/report`, VIEW);
  const report = useReportQuery();
  if (report.isPending) return <Bones />;
  if (!report.data) return <Notice bad>{report.error?.message}</Notice>;
  const r = report.data;
  const base = `/api/projects/${encodeURIComponent(project)}/pages/${encodeURIComponent(page.code)}/report/editions`;
  const parts = (
    <PartBar
      label={w.partsOf}
      parts={PARTS.map(([key, word]) => [
        key,
        key === "editions" && r.editions.length ? `${word} ${r.editions.length}` : word,
      ])}
      at={view.part}
      go={(key) => look({ part: key })}
    />
  );
  return view.part === "editions" ? (
    <Part report={r} parts={parts}>
      <Editions key={page.code} report={r} base={base} view={view} look={look} />
    </Part>
  ) : view.part === "distribution" ? (
    <Part report={r} parts={parts}>
      <Distribution />
    </Part>
  ) : (
    <Written key={page.code} report={r} base={base} parts={parts} />
  );
}

function Head({ report: r, children }: { report: Report; children?: ReactNode }) {
  return (
    <RoomHead>
      <h1>
        {w.title} {r.number}
      </h1>
      <Told>
        {words.margin.asOf(format.fullDay(r.status_date), r.balance.baseline)}, {r.balance.currency}
      </Told>
      <Space />
      {children}
    </RoomHead>
  );
}

function Part({ report, parts, children }: { report: Report; parts: ReactNode; children: ReactNode }) {
  return (
    <>
      <Head report={report} />
      {parts}
      <Reading tabIndex={0} role="region" aria-label={w.title}>
        {children}
      </Reading>
    </>
  );
}

/** The report itself: its sections with the words of the analyst, the review, and issuing. */
function Written({ report, base, parts }: { report: Report; base: string; parts: ReactNode }) {
  const { mayPost } = usePlace();
  const writing = useDraft(report);
  const [laying, lay] = useState(false);
  const hidden = !report.sections.some((s) => s.key === "overall");
  return (
    <>
      <Head report={report}>
        {(["html", "pdf", "xlsx"] as const).map((form) => (
          <Anchor
            key={form}
            look="link"
            href={`${base}/draft.${form}`}
            target={form === "xlsx" ? undefined : "_blank"}
            rel="noreferrer"
          >
            {form.toUpperCase()}
          </Anchor>
        ))}
        {mayPost && (
          <Button aria-expanded={laying} onClick={() => lay(!laying)}>
            {w.layout}
          </Button>
        )}
      </Head>
      {parts}
      <ReviewBar report={report} writing={writing} />
      <Flex flex="1" minH="0">
        <Reading tabIndex={0} role="region" aria-label={w.title}>
          {report.fields.length > 0 && (
            <Soft as="p">{report.fields.map(([name, value]) => `${name}: ${value}`).join(" · ")}</Soft>
          )}
          {hidden && <Overall report={report} writing={writing} />}
          <Sections report={report} writing={writing} />
        </Reading>
        {laying && <LayoutPanel key={report.revision} report={report} writing={writing} close={() => lay(false)} />}
      </Flex>
    </>
  );
}
