import { useState } from "react";
import { Problem } from "../../api";
import { Modal } from "../../shared";
import { Button, DataTable, FormLine, Input, RowOf, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/asking";
import type { useAsking } from "./useAsking";

const w = words.asking;

interface Props {
  asking: ReturnType<typeof useAsking>;
  weeks: number;
  setWeeks: (weeks: number) => void;
  shut: () => void;
}

/** Whom to ask for what, until when. */
export function AskDialog({ asking, weeks, setWeeks, shut }: Props) {
  const offered = asking.asking.data?.offered ?? [];
  const [left, leave] = useState(() => new Set<string>());
  const [emails, setEmails] = useState<Record<string, string>>({});
  const [until, setUntil] = useState("");
  const [wrong, setWrong] = useState<{ field?: string; text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const chosen = offered.filter((o) => o.count > 0 && !left.has(o.name));
  const emailOf = (name: string) => emails[name] ?? offered.find((o) => o.name === name)?.email ?? "";
  const send = async () => {
    setBusy(true);
    try {
      await asking.ask({ whom: chosen.map((o) => ({ name: o.name, email: emailOf(o.name) })), weeks, until });
      shut();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setWrong({ field: error.field, text: error.message });
    }
    setBusy(false);
  };
  const tick = (name: string, on: boolean) =>
    leave((now) => new Set(on ? [...now].filter((n) => n !== name) : [...now, name]));
  return (
    <Modal
      title={w.title}
      out={w.cancel}
      does={
        <Button look="seal" disabled={!chosen.length || busy} onClick={send}>
          {w.askNow(chosen.length)}
        </Button>
      }
      shut={shut}
      width="760px"
    >
      <RowOf mt="0">
        <FormLine as="label">
          {w.ahead}
          <Input
            type="number"
            min={0}
            max={26}
            width="70px"
            value={weeks}
            onChange={(e) => setWeeks(Math.max(0, Math.min(26, Math.round(Number(e.target.value) || 0))))}
          />
        </FormLine>
        <FormLine as="label">
          {w.until}
          <Input
            width="150px"
            value={until}
            placeholder={w.untilHint}
            aria-invalid={wrong?.field === "until" || undefined}
            onChange={(e) => setUntil(e.target.value)}
          />
        </FormLine>
      </RowOf>
      {wrong && <Why role="alert">{wrong.text}</Why>}
      {offered.length === 0 ? (
        <p>{w.nobody}</p>
      ) : (
        <DataTable
          rows={offered}
          keyOf={(o) => o.name}
          columns={[
            {
              label: w.askWhom,
              cell: (o) => (
                <Input
                  type="checkbox"
                  look="bare"
                  aria-label={o.name}
                  checked={o.count > 0 && !left.has(o.name)}
                  disabled={!o.count}
                  onChange={(e) => tick(o.name, e.target.checked)}
                />
              ),
            },
            { title: w.who, head: true, cell: (o) => o.name },
            { title: w.due, kind: "num", cell: (o) => o.count },
            {
              title: w.how,
              cell: (o) => (o.signs_in ? w.byPage : <Soft>{emailOf(o.name) ? w.bySheet : w.byHand}</Soft>),
            },
            {
              title: w.email,
              cell: (o) => (
                <Input
                  aria-label={w.emailOf(o.name)}
                  width="220px"
                  value={emailOf(o.name)}
                  onChange={(e) => setEmails({ ...emails, [o.name]: e.target.value })}
                />
              ),
            },
            { cell: (o) => (o.asked ? <Soft>{w.asked}</Soft> : "") },
          ]}
        />
      )}
    </Modal>
  );
}
