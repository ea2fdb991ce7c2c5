import { useQuery } from "@tanstack/react-query";
import { postingOf, usePlace } from "../../shared";
import { Soft } from "../../shared/ui";
import { words } from "../../shared/words/corrections";
import { Correct } from "./Correct";
import { Corrections } from "./Corrections";
import { correctedStatement } from "./statement";
import { useCorrections } from "./useCorrections";
import type { Row } from "./usePosting";

/** The way to correct a statement of a dry page, from what stands of that activity on the open one. */
export function CorrectStatement({ row, shut }: { row: Row | undefined; shut: () => void }) {
  const { project, page } = usePlace();
  const corrections = useCorrections();
  const { wet } = corrections;
  const open = useQuery({
    ...postingOf(project, wet),
    enabled: corrections.may && row !== undefined,
  });
  if (!corrections.may) return null;
  const now = row && open.data?.rows?.find((r) => r.code === row.code);
  if (!now)
    return (
      <Soft pt="0" px="14" pb="6">
        {words.corrections.hint}
      </Soft>
    );
  return (
    <Correct key={row.code} page={page.code} of={correctedStatement(row, now)} corrections={corrections} shut={shut} />
  );
}

/** The corrections of statements that the page makes or receives. */
export function StatementCorrections() {
  return <Corrections of={useCorrections()} lens="progress" />;
}
