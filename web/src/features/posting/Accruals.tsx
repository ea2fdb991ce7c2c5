import { Entry, format } from "../../shared";
import { Button, Soft, Table } from "../../shared/ui";
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
      <Table kind="read" width="auto">
        <caption>{w.accruals}</caption>
        <thead>
          <tr>
            <th>{w.columns.on}</th>
            <th>{w.columns.ref}</th>
            <th data-num="">{w.columns.amount(currency)}</th>
            <th>{w.page}</th>
            <th data-num="">{w.ageHead}</th>
            {costs && <td />}
          </tr>
        </thead>
        <tbody>
          {accruals.map((a) => (
            <tr key={accrualKey(a)}>
              <td data-tip={a.name}>{a.on}</td>
              <td>{a.ref || "–"}</td>
              <td data-num="">
                {costs ? (
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
                )}
              </td>
              <td>{a.page}</td>
              <td data-num="">{w.age(a.days)}</td>
              {costs && (
                <td>
                  <Button look="link" aria-label={w.releaseOf(a.ref, a.on)} onClick={() => costs.carry(a, "0")}>
                    {w.release}
                  </Button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </Table>
      {costs && <Soft as="p">{w.carryHint}</Soft>}
    </div>
  );
}
