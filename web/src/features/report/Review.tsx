import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../../api";
import { usePlace } from "../../shared";
import { Button, Note, RowOf, Textarea, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";
import type { Report, Writing } from "./useReport";

const w = words.report;

interface Props {
  report: Report;
  writing: Writing;
}

/** Where the review stands, and what can be done: save, ask, send back, approve, issue. */
export function ReviewBar({ report, writing }: Props) {
  const { mayPost, person } = usePlace();
  const [back, setBack] = useState<string | null>(null);
  const { review } = report;
  const { busy, refused } = writing.writes;
  const approver = person.role === "approver";
  const state =
    review.state === "review"
      ? w.asked(review.by)
      : review.state === "sent_back"
        ? w.sentBack(review.by, review.text)
        : review.state === "approved"
          ? w.approvedBy(review.by)
          : "";
  return (
    <Box borderBottomWidth="1px" borderColor="rule" px="18" pb="8" flex="none">
      <Flex gap="8" align="center" wrap="wrap">
        <b>{report.state === "dry" && review.state === "writing" ? w.sealed : w.review[review.state]}</b>
        <Note>
          {state} {review.changed && review.state !== "writing" ? w.changed : ""}
        </Note>
        <Box flex="1" />
        <Note role="status">{busy ? w.sending : writing.unsaved ? w.unsaved : writing.told}</Note>
        {mayPost && (
          <Button disabled={busy} onClick={() => writing.save(w.kept)}>
            {w.keep}
          </Button>
        )}
        {person.role !== "reader" && review.state !== "review" && (
          <Button disabled={busy} onClick={() => writing.review({ do: "ask", section: "", text: "", about: null })}>
            {w.ask}
          </Button>
        )}
        {approver && review.state === "review" && (
          <>
            <Button disabled={busy} onClick={() => setBack(back === null ? "" : null)}>
              {w.sendBack}
            </Button>
            <Button
              disabled={busy}
              onClick={() => writing.review({ do: "approve", section: "", text: "", about: null })}
            >
              {w.approve}
            </Button>
          </>
        )}
        <Button look="seal" disabled={!approver || busy} onClick={() => writing.issue(w.issued)}>
          {w.issue}
        </Button>
        {!approver && <Note>{w.issueNeeds}</Note>}
      </Flex>
      {report.words_since.length > 0 && <Why>{w.since(report.words_since)}</Why>}
      {refused && <Why role="alert">{refused}</Why>}
      {back !== null && (
        <RowOf>
          <Textarea
            aria-label={w.why}
            placeholder={w.why}
            flex="1"
            rows={2}
            value={back}
            onChange={(e) => setBack(e.target.value)}
          />
          <Button
            look="seal"
            disabled={busy}
            onClick={async () => {
              if (await writing.review({ do: "send_back", section: "", text: back, about: null })) setBack(null);
            }}
          >
            {w.doSendBack}
          </Button>
        </RowOf>
      )}
    </Box>
  );
}

interface CommentsProps {
  title: string;
  section: string;
  comments: Schemas["CommentOut"][];
  writing: Writing;
  commenting: boolean;
  comment: (on: boolean) => void;
}

/** The comments beside a section, and the place to write one. */
export function Comments({ title, section, comments, writing, commenting, comment }: CommentsProps) {
  const { person } = usePlace();
  const [text, setText] = useState("");
  return (
    <Box as="aside" aria-label={w.comments(title)} fontSize="small">
      {comments.map((c) => (
        <Box key={c.id} borderLeftWidth="3px" borderColor={c.settled_by ? "rule" : "wet"} pl="8" mb="6">
          <Box whiteSpace="pre-wrap" overflowWrap="anywhere" color={c.settled_by ? "soft" : "ink"}>
            {c.text}
          </Box>
          <Note>
            {c.by}
            {c.settled_by && `, ${w.settled(c.settled_by)}`}
          </Note>{" "}
          {person.role !== "reader" && !c.settled_by && (
            <Button look="link" onClick={() => writing.review({ do: "settle", section, text: "", about: c.id })}>
              {w.settle}
            </Button>
          )}
        </Box>
      ))}
      {commenting && (
        <>
          <Textarea
            aria-label={w.commentOn(title)}
            autoFocus
            width="100%"
            rows={3}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
          <RowOf mt="2">
            <Button
              onClick={async () => {
                if (!(await writing.review({ do: "comment", section, text, about: null }))) return;
                setText("");
                comment(false);
              }}
            >
              {w.send}
            </Button>
            <Button look="quiet" onClick={() => comment(false)}>
              {w.cancel}
            </Button>
          </RowOf>
        </>
      )}
    </Box>
  );
}
