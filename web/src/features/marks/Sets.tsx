import { type FormEvent, useState } from "react";
import { usePlace } from "../../shared";
import { Button, Input, PartTitle, RowOf, Select } from "../../shared/ui";
import { words } from "../../shared/words/marks";
import type { Rule } from "./rules";
import type { useMarks } from "./useMarks";

const w = words.rules;

/** The organisation's sets of rules: one is taken over as a draft; an approver keeps and deletes them. */
export function Sets({ marks, may }: { marks: ReturnType<typeof useMarks>; may: boolean }) {
  const { person, everywhere } = usePlace();
  const [name, setName] = useState("");
  const sets = marks.marks.data?.sets ?? [];
  const approver = person.role === "approver" && everywhere === "approver";
  const keep = (event: FormEvent) => {
    event.preventDefault();
    marks.keepSet(name);
    setName("");
  };
  if (!sets.length && !approver) return null;
  return (
    <section aria-label={w.sets}>
      <PartTitle>{w.sets}</PartTitle>
      <RowOf>
        {may && sets.length > 0 && (
          <Select
            aria-label={w.take}
            value=""
            onChange={(e) => {
              const found = sets.find((s) => String(s.id) === e.target.value);
              if (found)
                marks.setDraft(
                  found.rules.map((r) => ({ match: "all", reason: "", conditions: [], ...r }) as unknown as Rule),
                );
            }}
          >
            <option value="">{w.take}</option>
            {sets.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </Select>
        )}
        {approver &&
          sets.map((s) => (
            <Button key={s.id} look="quiet" aria-label={w.dropOf(s.name)} onClick={() => marks.dropSet(s.id)}>
              {s.name} ×
            </Button>
          ))}
      </RowOf>
      {approver && (
        <RowOf as="form" onSubmit={keep} pt="6">
          <Input
            aria-label={w.keepName}
            placeholder={w.keepName}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit">{w.keep}</Button>
        </RowOf>
      )}
    </section>
  );
}
