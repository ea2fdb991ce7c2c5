import { useMemo, useRef, useState } from "react";
import { Modal } from "../../shared";
import { Button, ChoiceLine, type DataColumn, DataTable, Input, Select, Why } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { Column } from "./columns";
import { type OutlineLine, outlineOf } from "./paste";
import type { Pasting } from "./useHands";

const SHOWN = 8;
const STEP = 14;
const w = words.plan.paste;

interface Props {
  pasting: Pasting;
  columns: Column[];
  /** Why it was not done. */
  refused: string | null;
  shut: () => void;
}

/** What a block that is pasted as rows is taken for, to be put right before it is done. */
export function PasteDialog({ pasting: { text, taken, make }, columns, refused, shut }: Props) {
  const [told, setTold] = useState({
    headed: taken.headed,
    found: Array.from({ length: taken.wide }, (_, i) => taken.found[i] ?? null),
  });
  const now = useMemo(() => outlineOf(text, columns, told), [text, columns, told]);
  const offered = columns.filter((c) => c.writes);
  const choose = (at: number, key: string) =>
    setTold(({ headed, found }) => ({
      headed,
      found: found.map((c, i) => (i === at ? (offered.find((o) => o.key === key) ?? null) : c?.key === key ? null : c)),
    }));
  const go = useRef<HTMLButtonElement>(null);
  const named = told.found.some((c) => c?.key === "name");
  return (
    <Modal
      title={w.title(now.lines.length)}
      out={words.sheet.discard}
      does={
        <Button ref={go} look="seal" disabled={!named} onClick={() => make(now)}>
          {w.go(now.lines.length)}
        </Button>
      }
      shut={shut}
      width="900px"
      first={go}
    >
      <p>{w.help}</p>
      <ChoiceLine>
        <Input
          type="checkbox"
          look="bare"
          checked={told.headed}
          onChange={(e) => setTold({ ...told, headed: e.target.checked })}
        />
        {w.headed}
      </ChoiceLine>
      <DataTable
        rows={now.lines.slice(0, SHOWN)}
        keyOf={(_, at) => at}
        columns={told.found.map(
          (c, i): DataColumn<OutlineLine> => ({
            title: (
              <Select aria-label={w.column(i + 1)} value={c?.key ?? ""} onChange={(e) => choose(i, e.target.value)}>
                <option value="">{w.leave}</option>
                {offered.map((o) => (
                  <option key={o.key} value={o.key}>
                    {o.title.replace("\n", " ")}
                  </option>
                ))}
              </Select>
            ),
            more: ({ level }) => (c?.key === "name" ? { style: { paddingLeft: 6 + level * STEP } } : {}),
            cell: ({ cells }) => (c?.writes && cells[c.writes]) ?? "",
          }),
        )}
      />
      {now.lines.length > SHOWN && <p>{w.more(now.lines.length - SHOWN)}</p>}
      {(!named || refused) && (
        <Why role="alert" as="p">
          {named ? refused : w.noName}
        </Why>
      )}
    </Modal>
  );
}
