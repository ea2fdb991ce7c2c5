import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { FormField, usePlace } from "../../shared";
import { Button, MarginHead, Note, RowOf } from "../../shared/ui";
import { words } from "../../shared/words/options";
import type { OptionRow, useOptionWrites } from "./useOptionWrites";

const w = words.note;

/** Making an option the plan: why; then the way to its change, which somebody else may have to approve. */
export function Adopt({ option, does }: { option: OptionRow; does: ReturnType<typeof useOptionWrites> }) {
  const { project, page } = usePlace();
  const navigate = useNavigate();
  const [reason, setReason] = useState("");
  const [done, setDone] = useState<{ effect: string } | null>(null);
  if (done)
    return (
      <Box role="status" mt="10">
        <p>{w.done(done.effect)}</p>
        <Note as="p">{w.raised}</Note>
        <Button
          onClick={() =>
            navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/budget?part=change`)
          }
        >
          {w.toChange}
        </Button>
      </Box>
    );
  if (option.state === "adopted") return null;
  return (
    <form
      onSubmit={async (e) => {
        e.preventDefault();
        setDone(await does.adopt(option.id, reason));
      }}
    >
      <MarginHead>{w.adopt}</MarginHead>
      <Note as="p">{w.adoptSays}</Note>
      <FormField label={w.reason} value={reason} why={does.why("reason")} onChange={(e) => setReason(e.target.value)} />
      <RowOf>
        <Button type="submit" look="seal">
          {w.adoptNow}
        </Button>
      </RowOf>
    </form>
  );
}
