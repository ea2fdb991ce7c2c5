import { useQueryClient } from "@tanstack/react-query";
import { client, take } from "../../api";
import { FormField, keys, Refused, useForm, wrongOf } from "../../shared";
import { Button, RowOf } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.own;
const EMPTY = { old: "", new: "", again: "" };

/** Another password of one's own. */
export function Password() {
  const queries = useQueryClient();
  const form = useForm<typeof EMPTY>(EMPTY, async (filled) => {
    if (filled.new !== filled.again) throw new Refused("again", w.differ);
    const body = { old: filled.old, new: filled.new };
    const session = await take(client.PUT("/api/session/password", { body })).catch((no: unknown) => {
      throw new Refused(wrongOf(no).field ?? "old", wrongOf(no).message);
    });
    queries.setQueryData(keys.session, session);
    queries.invalidateQueries({ queryKey: keys.sessions });
  });
  const [old, next] = form.watch(["old", "new"]);
  const field = (key: keyof typeof EMPTY, label: string, complete: string) => (
    <FormField label={label} type="password" autoComplete={complete} {...form.entry(key)} />
  );
  return (
    <form onSubmit={form.submit}>
      {field("old", w.old, "current-password")}
      {field("new", w.new, "new-password")}
      {field("again", w.again, "new-password")}
      <RowOf>
        <Button type="submit" look="seal" disabled={!old || !next}>
          {w.change}
        </Button>
        {form.sent && !old && <span role="status">{w.changed}</span>}
      </RowOf>
    </form>
  );
}
