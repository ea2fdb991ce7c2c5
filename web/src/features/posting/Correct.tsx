import { type FormEvent, useState } from "react";
import { Button, Input, RowOf, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/corrections";
import { STATED } from "./statement";
import type { useCorrections } from "./useCorrections";

const w = words.corrections;

const FIELDS = ["worked", "overtime", "amount", ...STATED] as const;
type Value = (typeof FIELDS)[number];

/** What is corrected: an entry of a dry page, what it says, and what can be said otherwise. */
export interface Corrected {
  on: string;
  resource?: string;
  ref?: string;
  what: string;
  says: string;
  /** What was said later and stands now, where it is that which the values are of. */
  stands?: string;
  values: Partial<Record<Value, string>>;
}

interface Props {
  page: string;
  of: Corrected;
  corrections: ReturnType<typeof useCorrections>;
  shut: () => void;
}

/** What an entry of a dry page should have said, and why: it becomes an entry of the open page. */
export function Correct({ page, of, corrections, shut }: Props) {
  const { make, wet, troubles, refused, drop } = corrections;
  const [typed, setTyped] = useState<Record<string, string>>({ ...of.values, reason: "" });
  const fields = [...FIELDS.filter((f) => f in of.values), "reason"] as const;
  const trouble = fields.map((f) => troubles[`correction:${f}`]?.message).find(Boolean) ?? refused;
  const leave = () => {
    for (const f of fields) drop("correction", f);
    shut();
    document.querySelector<HTMLElement>("[data-sheet]")?.focus();
  };
  const correct = async (event: FormEvent) => {
    event.preventDefault();
    const { reason = "", ...values } = typed;
    const changed = Object.fromEntries(
      Object.entries(values).filter(([k, v]) => k === "amount" || v !== of.values[k as Value]),
    );
    const done = await make({
      corrects: page,
      on: of.on,
      resource: of.resource ?? "",
      ref: of.ref ?? "",
      reason,
      ...changed,
    });
    if (done) leave();
  };
  return (
    <RowOf
      as="form"
      pt="0"
      px="14"
      pb="8"
      aria-label={w.title(page, of.what)}
      onSubmit={correct}
      onKeyDown={(e) => e.key === "Escape" && leave()}
    >
      <strong>{w.title(page, of.what)}</strong>
      <Soft flexBasis="100%">
        {w.itSays(of.says)}
        {of.stands && ` ${w.stands(of.stands)}`}
      </Soft>
      {fields.map((field, i) => (
        <label key={field}>
          <Soft mr="6">{w[field]}</Soft>
          <Input
            ref={i === 0 ? focus : undefined}
            width={WIDTHS[field] ?? "90px"}
            value={typed[field] ?? ""}
            aria-invalid={troubles[`correction:${field}`] ? true : undefined}
            aria-describedby="correction-why"
            onChange={(e) => setTyped({ ...typed, [field]: e.target.value })}
          />
        </label>
      ))}
      <Button look="seal" type="submit">
        {w.act(wet)}
      </Button>
      <Button onClick={leave}>{w.cancel}</Button>
      {trouble && (
        <Why role="alert" id="correction-why" flexBasis="100%">
          {trouble}
        </Why>
      )}
    </RowOf>
  );
}

const WIDTHS: Record<string, string> = { reason: "220px", milestones_reached: "220px" };

const focus = (input: HTMLInputElement | null) => {
  if (input && !input.dataset.focused) {
    input.dataset.focused = "yes";
    input.focus();
    input.select();
  }
};
