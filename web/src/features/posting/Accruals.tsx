import { Entry, format } from "../../shared";
import { Button, DataTable, Soft } from "../../shared/ui";
import { words } from "../../shared/words/costs";
import { type Accrual, accrualKey, type useCosts } from "./useCosts";

const w = words.costs;

interface Props {
  accruals: Accrual[];
  currency: string;
  /** The ways to write them, where one may. */
  costs?: ReturnType<typeof useCosts>;
}

/** What was accrued and is not invoiced yet, the oldest first; an amount that is typed over is carried from now. */
export function Accruals({ accruals, currency, costs }: Props) {
  if (accruals.length === 0) return <Soft as="p">{w.noAccruals}</Soft>;
  return (
    <div>
      <DataTable
        width="auto"
        caption={w.accruals}
        rows={accruals}
        keyOf={(a) => accrualKey(a)}
        columns={[
          { title: w.columns.on, tip: (a) => a.name, cell: (a) => a.on },
          { title: w.columns.ref, cell: (a) => a.ref || "–" },
          {
            title: w.columns.amount(currency),
            kind: "num",
            cell: (a) =>
              costs ? (
                <Entry
                  label={w.carriedAt(a.ref, a.on)}
                  value={format.money(a.amount)}
                  write={(text) => costs.carry(a, text)}
                  trouble={costs.troubles[`${accrualKey(a)}:carried`]?.message}
                  bare
                  right
                />
              ) : (
                format.money(a.amount)
              ),
          },
          { title: w.page, cell: (a) => a.page },
          { title: w.ageHead, kind: "num", cell: (a) => w.age(a.days) },
          costs && {
            cell: (a) => (
              <Button look="link" aria-label={w.releaseOf(a.ref, a.on)} onClick={() => costs.carry(a, "0")}>
                {w.release}
              </Button>
            ),
          },
        ]}
      />
      {costs && <Soft as="p">{w.carryHint}</Soft>}
    </div>
  );
}
