import { useRef } from "react";
import { Modal } from "../../shared";
import { Button, DataTable, Why } from "../../shared/ui";
import { words } from "../../shared/words/hours";
import type { Placed } from "./week";

const w = words.hours.paste;

interface Props {
  lines: Placed[];
  post: (lines: Placed[]) => void;
  shut: () => void;
}

/** Where the lines of a pasted week go, looked at before they are written. */
export function PasteWeek({ lines, post, shut }: Props) {
  const known = lines.filter((l) => l.row && l.hours.length);
  const go = useRef<HTMLButtonElement>(null);
  const textOf = (line: Placed, field: string) => line.hours.find((h) => h.field === field)?.text ?? "";
  return (
    <Modal
      title={w.title(lines.length)}
      out={words.sheet.discard}
      does={
        <Button
          ref={go}
          look="seal"
          disabled={!known.length}
          onClick={() => {
            post(known);
            shut();
          }}
        >
          {w.go(known.length)}
        </Button>
      }
      shut={shut}
      width="860px"
      first={go}
    >
      <DataTable
        rows={lines}
        keyOf={(_, at) => at}
        columns={[
          { title: w.pasted, cell: (l) => [l.activity, l.person].filter(Boolean).join(", ") },
          {
            title: w.goes,
            cell: (l) => (l.row ? `${l.row.activity} ${l.row.name}, ${l.row.person}` : <Why>{w.unknown}</Why>),
          },
          ...(["worked", "overtime", "to_go"] as const).map((field) => ({
            title: words.hours.columns[field].replace("\n", " "),
            kind: "num" as const,
            cell: (l: Placed) => textOf(l, field),
          })),
        ]}
      />
    </Modal>
  );
}
