import type { Schemas } from "../../api";
import { format } from "../../shared";
import { DataTable } from "../../shared/ui";
import { words } from "../../shared/words/value";

const w = words.value;
const AMOUNTS = ["budget", "actual", "remaining", "forecast", "difference"] as const;
type Kind = Schemas["KindOfCostOut"];

/** A selection by kind of cost, its sums last. */
export const ByKind = ({ kinds }: { kinds: Kind[] }) => (
  <DataTable
    aria-label={w.byKind}
    maxW="720px"
    mb="6"
    rows={kinds}
    keyOf={(k) => k.name}
    line={(k) => (k.sums ? { "data-wbs": "" } : {})}
    columns={[
      { title: w.kindHeads.kind, head: true, cell: (k) => k.name },
      ...AMOUNTS.map((key) => ({
        title: w.kindHeads[key],
        kind: "num" as const,
        cell: (k: Kind) => format.money(k[key]),
      })),
    ]}
  />
);
