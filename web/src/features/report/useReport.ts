import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, type Schemas, take } from "../../api";
import { keys, reportOf, useKept, usePlace } from "../../shared";
import { refresh, useWrites } from "../../shared/book";
import { cellKey } from "../../shared/sheet";

export type Report = Schemas["ReportOut"];
export type Draft = Report["draft"];
/** A text of the draft: its status, its reason, the summary, the words of a section or what is said of a head. */
export type Field = "status" | "reason" | "words" | `texts.${string}` | `heads.${string}`;

const NOTHING: Record<string, string> = {};

/** What a field of a draft says; of a head its mark, then its reason on a line of its own. */
export function textOf(draft: Draft, field: string): string {
  if (field === "status" || field === "reason" || field === "words") return draft[field];
  const [kind, key = ""] = [field.slice(0, 5), field.slice(6)];
  if (kind === "texts") return draft.texts[key] ?? "";
  const head = draft.heads[key];
  return head ? `${head.mark}\n${head.reason}` : "\n";
}

/** A draft with other fields. */
export function withTyped(draft: Draft, typed: Record<string, string>): Draft {
  const out: Draft = { ...draft, texts: { ...draft.texts }, heads: { ...draft.heads } };
  for (const [field, text] of Object.entries(typed)) {
    if (field === "status" || field === "reason" || field === "words") out[field] = text;
    else if (field.startsWith("texts.")) out.texts[field.slice(6)] = text;
    else {
      const end = text.indexOf("\n");
      out.heads[field.slice(6)] = { mark: text.slice(0, end), reason: text.slice(end + 1) };
    }
  }
  return out;
}

/** The report of the page that is shown. */
export function useReportQuery() {
  const { project, page } = usePlace();
  return useQuery(reportOf(project, page.code));
}

/** The words of a report: what is typed stays until it is saved, over rooms and pages; and all that is done with it. */
export function useDraft(report: Report) {
  const { project, page, mayPost, person } = usePlace();
  const queries = useQueryClient();
  const [kept, setTyped] = useKept(`${person.username}.${project}.${page.code}.report`, NOTHING);
  const [told, tell] = useState("");
  const typed = mayPost ? kept : NOTHING;
  const draft = withTyped(report.draft, typed);
  const path = { project, page: page.code };
  const key = keys.page(project, page.code).report;
  const put = (answer: Report) => {
    queries.setQueryData(key, answer);
    return answer;
  };
  const read = async () =>
    put(await take(client.GET("/api/projects/{project}/pages/{page}/report", { params: { path } })));
  const writes = useWrites({ project, part: `report.${page.code}`, read });
  const held = () => queries.getQueryData<Report>(key) ?? report;
  const fields = Object.keys(typed).filter((f) => textOf(draft, f) !== textOf(report.draft, f));
  const cells = [...new Set(["status", "reason", "words", ...fields])].map((field) => ({
    row: "report",
    field,
    text: textOf(draft, field),
    current: () => textOf(held().draft, field),
  }));
  /** Every field that issuing may find wanting. */
  const all = () => {
    const heads = report.sections.flatMap((s) => s.heads.map((h) => `heads.${h.name}`));
    return [
      ...cells,
      ...heads.filter((f) => !cells.some((c) => c.field === f)).map((field) => ({ row: "report", field, text: "" })),
    ];
  };
  const write = async (revision: number) => {
    const { status, reason, words, texts, heads } = withTyped(held().draft, typed);
    const body = { revision, status, reason, words, texts, heads };
    return put(await take(client.PUT("/api/projects/{project}/pages/{page}/report", { params: { path }, body })));
  };
  /** Whether what issuing finds wanting is to be gone to, once it is shown. */
  const wanting = useRef(false);
  useEffect(() => {
    const at = wanting.current && document.querySelector<HTMLElement>("#sheet [aria-invalid=true]");
    if (!at) return;
    wanting.current = false;
    at.focus();
  });
  const done = (text: string) => {
    tell(text);
    refresh(queries, project, ({ part }) => part === "report" || part === "curve");
  };
  /** Saves what was typed; what somebody else wrote meanwhile is not overwritten unseen. */
  const save = async (text: string, mine = false) => {
    tell("");
    if (!(await writes.write((revision) => write(revision), cells, mine))) return;
    setTyped(NOTHING);
    done(text);
  };
  /** Saves, then issues. */
  const issue = async (text: (number: number) => string) => {
    tell("");
    writes.dropAll();
    wanting.current = true;
    const edition = await writes.write(async (revision) => {
      const body = { revision: mayPost ? (await write(revision)).revision : revision };
      const made = await take(
        client.POST("/api/projects/{project}/pages/{page}/report/issue", { params: { path }, body }),
      );
      return { number: made.number, revision: (await read()).revision };
    }, all());
    if (!edition) return;
    wanting.current = false;
    setTyped(NOTHING);
    done(text(edition.number));
  };
  /** Says something in the review; what was typed is saved first, so that it is what is reviewed. */
  const review = async (body: Schemas["ReviewForm"]) => {
    tell("");
    const answer = await writes.write(
      async (revision) => {
        if (mayPost && fields.length) await write(revision);
        return put(
          await take(client.POST("/api/projects/{project}/pages/{page}/report/review", { params: { path }, body })),
        );
      },
      fields.length ? cells : [],
    );
    if (answer) setTyped(NOTHING);
    return answer !== null;
  };
  /** Adds to the words of a page that is dry: they are sealed, so it stands beside them. */
  const add = async (body: Schemas["AdditionForm"], section: string) => {
    tell("");
    const answer = await writes.write(
      async () =>
        put(
          await take(client.POST("/api/projects/{project}/pages/{page}/report/additions", { params: { path }, body })),
        ),
      [{ row: section, field: "text", text: body.text ?? "" }],
    );
    if (answer) done("");
    return answer !== null;
  };
  const lay = async (chosen: Omit<Schemas["LayoutForm"], "revision">) => {
    const answer = await writes.write(
      async (revision) => {
        const body = { revision, ...chosen };
        return put(
          await take(client.PUT("/api/projects/{project}/pages/{page}/report/layout", { params: { path }, body })),
        );
      },
      [
        { row: "layout", field: "sections", text: "" },
        { row: "layout", field: "heads", text: "" },
        { row: "layout", field: "levels", text: "" },
      ],
    );
    if (answer) done("");
    return answer !== null;
  };
  return {
    draft,
    unsaved: fields.length > 0,
    told,
    writes,
    save,
    issue,
    review,
    add,
    lay,
    type: (field: Field, text: string) => {
      tell("");
      setTyped((now) => ({ ...now, [field]: text }));
    },
    trouble: (field: string, row = "report") => writes.troubles[cellKey(row, field)],
    drop: (field: string) => {
      setTyped(({ [field]: _, ...others }) => others);
      writes.drop("report", field);
    },
  };
}

export type Writing = ReturnType<typeof useDraft>;
