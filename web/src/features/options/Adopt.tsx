import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { FormField, usePlace } from "../../shared";
import { Button, MarginHead, Note, RowOf } from "../../shared/ui";
import { words } from "../../shared/words/options";
import type { OptionRow, useOptionWrites } from "./useOptionWrites";

const w = words.note;

/** Making an option the plan: why, and who approved it; then the way to a baseline of the approved change. */
export function Adopt({ option, does }: { option: OptionRow; does: ReturnType<typeof useOptionWrites> }) {
  const { project, page, person } = usePlace();
  const navigate = useNavigate();
  const [form, setForm] = useState({ reason: "", approved_by: person.full_name });
  const [done, setDone] = useState<{ effect: string; reason: string } | null>(null);
  const field = (key: "reason" | "approved_by", label: string) => (
    <FormField
      label={label}
      value={form[key]}
      why={does.why(key)}
      onChange={(e) => setForm({ ...form, [key]: e.target.value })}
    />
  );
  if (done)
    return (
      <Box role="status" mt="10">
        <p>{w.done(done.effect)}</p>
        {person.role === "approver" ? (
          <Button
            onClick={() =>
              navigate(`/${encodeURIComponent(project)}/${encodeURIComponent(page.code)}/baselines`, {
                state: { reason: done.reason },
              })
            }
          >
            {w.baseline}
          </Button>
        ) : (
          <Note as="p">{w.baselineLater}</Note>
        )}
      </Box>
    );
  if (option.state === "adopted") return null;
  return (
    <form
      onSubmit={async (e) => {
        e.preventDefault();
        setDone(await does.adopt(option.id, form.reason, form.approved_by));
      }}
    >
      <MarginHead>{w.adopt}</MarginHead>
      <Note as="p">{w.adoptSays}</Note>
      {field("reason", w.reason)}
      {field("approved_by", w.approved)}
      <RowOf>
        <Button type="submit" look="seal">
          {w.adoptNow}
        </Button>
      </RowOf>
    </form>
  );
}
