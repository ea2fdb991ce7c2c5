import { useState } from "react";
import type { Schemas } from "../../api";
import { FormChoice, FormDialog, FormField, useForm } from "../../shared";
import { ChoiceLine, Input } from "../../shared/ui";
import { words } from "../../shared/words/people";

const w = words.people;
const EMPTY: Schemas["NewPerson"] = { username: "", full_name: "", role: "reader", administrator: false };

interface Props {
  add: (person: Schemas["NewPerson"]) => Promise<Schemas["GivenOut"]>;
  then: (given: Schemas["GivenOut"]) => void;
}

/** Somebody new: what they sign in with, what reports call them, what they may do. */
export function NewPerson({ add, then }: Props) {
  const [open, setOpen] = useState(false);
  const form = useForm<Schemas["NewPerson"]>(EMPTY, async (person) => {
    then(await add(person));
    setOpen(false);
  });
  return (
    <FormDialog title={w.add} go={w.addIt} open={open} setOpen={setOpen} submit={form.submit} wrong={form.wrong}>
      <FormField label={w.username} autoComplete="off" {...form.entry("username")} />
      <FormField label={w.name} autoComplete="off" {...form.entry("full_name")} />
      <FormChoice label={w.role} {...form.entry("role")}>
        {Object.entries(w.roles).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </FormChoice>
      <ChoiceLine>
        <Input type="checkbox" look="bare" {...form.register("administrator")} />
        {w.administrator}
      </ChoiceLine>
    </FormDialog>
  );
}
