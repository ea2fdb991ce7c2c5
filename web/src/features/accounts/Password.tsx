import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, Problem, take } from "../../api";
import { Button, FormLine, Input, RowOf, Why } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.own;
const EMPTY = { old: "", new: "", again: "" };
type Key = keyof typeof EMPTY;

/** Another password of one's own. */
export function Password({ then }: { then?: () => void }) {
  const queries = useQueryClient();
  const [form, setForm] = useState(EMPTY);
  const [wrong, setWrong] = useState<{ field?: string; message: string } | null>(null);
  const [done, setDone] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setDone(false);
    if (form.new !== form.again) {
      setWrong({ field: "again", message: w.differ });
      return;
    }
    try {
      const session = await take(client.PUT("/api/session/password", { body: { old: form.old, new: form.new } }));
      setForm(EMPTY);
      setWrong(null);
      setDone(true);
      queries.setQueryData(["session"], session);
      queries.invalidateQueries({ queryKey: ["sessions"] });
      then?.();
    } catch (no) {
      if (!(no instanceof Problem)) throw no;
      setWrong({ field: no.field ?? "old", message: no.message });
    }
  };
  const field = (key: Key, label: string, complete: string) => (
    <FormLine as="label">
      <span>{label}</span>
      <span>
        <Input
          type="password"
          autoComplete={complete}
          value={form[key]}
          aria-invalid={wrong?.field === key || undefined}
          onChange={(e) => setForm({ ...form, [key]: e.target.value })}
        />
        {wrong?.field === key && (
          <Why role="alert" as="span">
            {wrong.message}
          </Why>
        )}
      </span>
    </FormLine>
  );
  return (
    <form onSubmit={submit}>
      {field("old", w.old, "current-password")}
      {field("new", w.new, "new-password")}
      {field("again", w.again, "new-password")}
      <RowOf>
        <Button type="submit" look="seal" disabled={!form.old || !form.new}>
          {w.change}
        </Button>
        {done && <span role="status">{w.changed}</span>}
      </RowOf>
    </form>
  );
}
