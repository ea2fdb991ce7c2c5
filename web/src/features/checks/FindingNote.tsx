import { Box } from "@chakra-ui/react";
import { format, Mark } from "../../shared";
import { Button, MarginHead, MarginTitle, Soft } from "../../shared/ui";
import { words } from "../../shared/words/checks";
import { useGo, useList } from "./useChecks";

const w = words.checks;

/** The margin of a finding: why it matters, how it is mended, and who accepted it. */
export function FindingNote({ topic }: { topic: { check: string; code: string } }) {
  const { list } = useList();
  const go = useGo();
  const check = list.data?.checks?.find((c) => c.check === topic.check);
  const found = check?.rows.find((r) => r.code === topic.code);
  if (!check || !found) return null;
  return (
    <Box>
      <MarginTitle>{found.name}</MarginTitle>
      <Box color="soft">{found.code}</Box>
      <Box mt="6" display="flex" gap="6" alignItems="baseline">
        {found.mark && <Mark mark={found.mark} />}
        <span>{format.sentence(check.says)}</span>
      </Box>
      <MarginHead>{w.why}</MarginHead>
      <p>{check.why}</p>
      <MarginHead>{w.mend}</MarginHead>
      <p>{check.mend}</p>
      <Button mt="8" onClick={() => go(check.cell, found.code)}>
        {w.go}
      </Button>
      <MarginHead>{w.answer}</MarginHead>
      {found.answer ? (
        <>
          <p>{found.answer.text}</p>
          <Soft>{w.answeredBy(found.answer.by, found.answer.page, found.answer.until)}</Soft>
        </>
      ) : (
        <Soft>{w.howToAnswer}</Soft>
      )}
    </Box>
  );
}
