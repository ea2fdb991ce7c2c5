import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { Button, Note, RowOf, Textarea, Why } from "../../shared/ui";
import { words } from "../../shared/words/report";
import type { Field, Writing } from "./useReport";

const w = words.report;

interface WordsProps {
  writing: Writing;
  field: Field;
  label: string;
  value: string;
  before?: string;
  drafted?: string;
  may: boolean;
  /** Shows the place to write also where nothing is written. */
  always?: boolean;
  change?: (text: string) => void;
}

/** Why a field was not written, with the way out. */
export function Trouble({ writing, field, row }: { writing: Writing; field: string; row?: string }) {
  const found = writing.trouble(field, row);
  if (!found) return null;
  return (
    <Why role="alert">
      {found.stale ? words.sheet.stale(found.stale.by, found.stale.label) : found.message}
      {found.stale && (
        <>
          {" "}
          <Button look="link" onClick={() => writing.save(w.kept, true)}>
            {words.sheet.mine}
          </Button>{" "}
          <Button look="link" onClick={() => writing.drop(field)}>
            {words.sheet.theirs}
          </Button>
        </>
      )}
    </Why>
  );
}

/** The analyst's words at a place of the report, with what the program drafts and what the last page said. */
export function Words({ writing, field, label, value, before = "", drafted = "", may, always, change }: WordsProps) {
  const [opened, open] = useState(false);
  const [last, showLast] = useState(false);
  const type = change ?? ((text: string) => writing.type(field, text));
  const trouble = writing.trouble(field);
  if (!may)
    return value || drafted ? (
      <Box as="p" whiteSpace="pre-wrap" overflowWrap="anywhere" my="4">
        {value || drafted}
      </Box>
    ) : null;
  if (!value && !drafted && !always && !opened) return null;
  const written = value !== "" || opened || !drafted;
  return (
    <Box my="4" maxW="900px">
      {written ? (
        <Textarea
          aria-label={label}
          width="100%"
          rows={Math.min(
            12,
            Math.max(
              2,
              value.split("\n").reduce((n, line) => n + 1 + Math.floor(line.length / 110), 0),
            ),
          )}
          value={value}
          onChange={(e) => type(e.target.value)}
          borderColor={trouble ? "act" : "control"}
          aria-invalid={trouble !== undefined}
        />
      ) : (
        drafted && (
          <Box whiteSpace="pre-wrap" borderLeftWidth="3px" borderColor="rule" pl="10">
            {drafted}
            <Note as="div">{w.drafted}</Note>
          </Box>
        )
      )}
      <Trouble writing={writing} field={field} />
      <RowOf mt="0" gap="10">
        {!written && (
          <Button
            look="link"
            onClick={() => {
              type(drafted);
              open(true);
            }}
          >
            {w.editDrafted}
          </Button>
        )}
        {before && (
          <Button look="link" aria-expanded={last} onClick={() => showLast(!last)}>
            {w.lastWords}
          </Button>
        )}
      </RowOf>
      {last && before && (
        <Box borderLeftWidth="3px" borderColor="ruleStrong" pl="10" my="4" whiteSpace="pre-wrap" color="soft">
          {before}{" "}
          <Button
            look="link"
            onClick={() => {
              type(before);
              open(true);
              showLast(false);
            }}
          >
            {w.useLast}
          </Button>
        </Box>
      )}
    </Box>
  );
}
