import { Dialog, Portal } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { Problem, type Schemas } from "../../api";
import { Button, ChoiceLine, FormLine, Input, RowOf, Select, Why } from "../../shared/ui";
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
  const [form, setForm] = useState(EMPTY);
  const [wrong, setWrong] = useState<{ field?: string; message: string } | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      then(await add(form));
      setForm(EMPTY);
      setWrong(null);
      setOpen(false);
    } catch (no) {
      if (!(no instanceof Problem)) throw no;
      setWrong({ field: no.field, message: no.message });
    }
  };
  const field = (key: "username" | "full_name", label: string) => (
    <FormLine as="label">
      <span>{label}</span>
      <span>
        <Input
          value={form[key]}
          autoComplete="off"
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
    <Dialog.Root open={open} onOpenChange={(e) => setOpen(e.open)}>
      <Dialog.Trigger asChild>
        <Button look="seal">{w.add}</Button>
      </Dialog.Trigger>
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content maxW="520px">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading">{w.add}</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              <form onSubmit={submit}>
                {field("username", w.username)}
                {field("full_name", w.name)}
                <FormLine as="label">
                  <span>{w.role}</span>
                  <Select
                    value={form.role}
                    onChange={(e) => setForm({ ...form, role: e.target.value as Schemas["NewPerson"]["role"] })}
                  >
                    {Object.entries(w.roles).map(([key, word]) => (
                      <option key={key} value={key}>
                        {word}
                      </option>
                    ))}
                  </Select>
                </FormLine>
                <ChoiceLine>
                  <Input
                    type="checkbox"
                    look="bare"
                    checked={form.administrator}
                    onChange={(e) => setForm({ ...form, administrator: e.target.checked })}
                  />
                  {w.administrator}
                </ChoiceLine>
                {wrong && !["username", "full_name"].includes(wrong.field ?? "") && (
                  <Why role="alert" as="p">
                    {wrong.message}
                  </Why>
                )}
                <RowOf>
                  <Button type="submit" look="seal">
                    {w.addIt}
                  </Button>
                  <Dialog.CloseTrigger asChild position="static">
                    <Button>{words.frame.shut}</Button>
                  </Dialog.CloseTrigger>
                </RowOf>
              </form>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
