import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, take } from "../../api";
import { FormField, keys, type Wrong, wrongOf } from "../../shared";
import { Button, RowOf } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.own;
const EMPTY = { old: "", new: "", again: "" };
type Key = keyof typeof EMPTY;

/** Another password of one's own. */
export function Password() {
  const queries = useQueryClient();
  const [form, setForm] = useState(EMPTY);
  const [wrong, setWrong] = useState<Wrong | null>(null);
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
      queries.setQueryData(keys.session, session);
      queries.invalidateQueries({ queryKey: keys.sessions });
    } catch (no) {
      setWrong({ field: "old", ...wrongOf(no) });
    }
  };
  const field = (key: Key, label: string, complete: string) => (
    <FormField
      label={label}
      type="password"
      autoComplete={complete}
      value={form[key]}
      why={wrong?.field === key ? wrong.message : undefined}
      onChange={(e) => setForm({ ...form, [key]: e.target.value })}
    />
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
