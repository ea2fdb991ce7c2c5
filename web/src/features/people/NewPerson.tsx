import { useState } from "react";
import type { Schemas } from "../../api";
import { FormChoice, FormDialog, FormField, oneOf, type Wrong, wrongOf } from "../../shared";
import { ChoiceLine, Input } from "../../shared/ui";
import { words } from "../../shared/words/people";
import { ROLES } from "./usePeople";

const w = words.people;
const EMPTY: Schemas["NewPerson"] = { username: "", full_name: "", role: "reader", administrator: false };

interface Props {
  add: (person: Schemas["NewPerson"]) => Promise<Schemas["GivenOut"]>;
  then: (given: Schemas["GivenOut"]) => void;
}

/** Somebody new: what they sign in with, what reports call them, what they may do. */
export function NewPerson({ add, then }: Props) {
  const [open, setOpen] = useState(false);
  const [form, setForm] = useState(EMPTY);
  const [wrong, setWrong] = useState<Wrong | null>(null);
  const submit = async () => {
    try {
      then(await add(form));
      setForm(EMPTY);
      setWrong(null);
      setOpen(false);
    } catch (no) {
      setWrong(wrongOf(no));
    }
  };
  const field = (key: "username" | "full_name") => ({
    value: form[key],
    why: wrong?.field === key ? wrong.message : undefined,
    autoComplete: "off",
    onChange: (e: { target: { value: string } }) => setForm({ ...form, [key]: e.target.value }),
  });
  const elsewhere = wrong && !["username", "full_name"].includes(wrong.field ?? "") ? wrong.message : undefined;
  return (
    <FormDialog title={w.add} go={w.addIt} open={open} setOpen={setOpen} submit={submit} wrong={elsewhere}>
      <FormField label={w.username} {...field("username")} />
      <FormField label={w.name} {...field("full_name")} />
      <FormChoice
        label={w.role}
        value={form.role}
        onChange={(e) => setForm({ ...form, role: oneOf(ROLES, e.target.value) })}
      >
        {Object.entries(w.roles).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </FormChoice>
      <ChoiceLine>
        <Input
          type="checkbox"
          look="bare"
          checked={form.administrator}
          onChange={(e) => setForm({ ...form, administrator: e.target.checked })}
        />
        {w.administrator}
      </ChoiceLine>
    </FormDialog>
  );
}
