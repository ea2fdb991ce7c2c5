import { format, usePlace } from "../../shared";
import { Act, Button, DataTable, PartTitle, Soft, Why } from "../../shared/ui";
import { words } from "../../shared/words/buffers";
import type { Buffers, useBuffers } from "./useBuffers";

const w = words.buffers.handOver;
type HandOver = Buffers["hand_overs"][number];

/** Those that come first: what somebody waits for now. */
const ORDER = ["waits", "binds", "loop", "untied", "over"];

/** Who waits for whom: the hand-overs of the promise, which of them bind, and taking one away. */
export function HandOvers({ data, does }: { data: Buffers; does: ReturnType<typeof useBuffers> }) {
  const { person } = usePlace();
  const open = data.wet && person.role !== "reader";
  if (data.hand_overs.length === 0) return null;
  const rows = [...data.hand_overs].sort((a, b) => ORDER.indexOf(a.state) - ORDER.indexOf(b.state));
  const held = (h: HandOver) => h.state === "waits" || h.state === "binds";
  return (
    <section aria-label={w.title}>
      <PartTitle>{w.title}</PartTitle>
      <Soft as="p">{w.help}</Soft>
      {does.refused && <Why role="alert">{does.refused}</Why>}
      <DataTable
        rows={rows}
        keyOf={(h) => `${h.source} ${h.target} ${h.resource}`}
        columns={[
          { title: w.taker, cell: (h) => <Named code={h.target} name={h.target_name} /> },
          { title: w.starts, cell: (h) => format.weekDay(h.start) },
          { title: w.of, cell: (h) => h.resource_name },
          { title: w.giver, cell: (h) => <Named code={h.source} name={h.source_name} /> },
          { title: w.ends, cell: (h) => format.weekDay(h.finish) },
          {
            title: w.state,
            cell: (h) => (h.state === "waits" ? <Act>{w.states[h.state]}</Act> : (w.states[h.state] ?? h.state)),
          },
          {
            title: "",
            cell: (h) =>
              open &&
              held(h) && (
                <Button look="link" onClick={() => does.untie(h.source, h.target, h.resource)}>
                  {w.untie}
                </Button>
              ),
          },
        ]}
      />
    </section>
  );
}

function Named({ code, name }: { code: string; name: string }) {
  const { seek } = usePlace();
  return (
    <Button look="link" onClick={() => seek(code)}>
      {code} {name}
    </Button>
  );
}
