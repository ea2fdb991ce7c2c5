import { Entry, format, Pick, words } from "../../shared";
import { Table } from "../../shared/ui";
import { Cross } from "./Cross";
import { NextRow } from "./NextRow";

export interface Rate {
  from: string;
  amount: string;
  per: string;
  overtime?: string;
}
const w = words.resources;
const PERS = ["hour", "started_hour", "day", "week", "month", "use", "unit"];

/** The rates of a resource, each in force from its date until the next of its kind. */
export function Rates({
  rates,
  put,
  open,
  currency,
  of,
}: {
  rates: Rate[];
  put: (next: Rate[]) => void;
  open: boolean;
  currency: string;
  /** Of which resource. */
  of: string;
}) {
  const per = PERS.map((p): [string, string] => [p, p.replace("_", " ")]);
  return (
    <Table className="plain register">
      <thead>
        <tr>
          <th>{w.since}</th>
          <th>{w.amount(currency)}</th>
          <th>{w.per}</th>
          <th>{w.overtime}</th>
          {open && <th aria-label={w.remove} />}
        </tr>
      </thead>
      <tbody>
        {rates.map((r, i) => {
          const change = (key: keyof Rate) => (text: string) =>
            put(rates.map((x, j) => (j === i ? { ...x, [key]: text } : x)));
          return (
            <tr key={`${r.per}${r.from}`}>
              <td>
                <Entry bare label={w.since} value={format.spokenDay(r.from)} disabled={!open} write={change("from")} />
              </td>
              <td>
                <Entry
                  bare
                  right
                  label={w.amount(currency)}
                  value={r.amount}
                  disabled={!open}
                  write={change("amount")}
                />
              </td>
              <td>
                <Pick bare label={w.per} value={r.per} options={per} disabled={!open} write={change("per")} />
              </td>
              <td>
                <Entry
                  bare
                  right
                  label={w.overtime}
                  value={r.overtime ?? ""}
                  disabled={!open}
                  write={change("overtime")}
                />
              </td>
              {open && (
                <td>
                  <Cross label={w.dropRate(r.from)} act={() => put(rates.filter((x) => x !== r))} />
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
      {open && (
        <NextRow
          cells={[
            { key: "from", label: w.newSince, hint: w.sinceHint },
            { key: "amount", label: w.newAmount, hint: "0.00" },
            { key: "per", label: w.newPer, options: per },
            { key: "overtime", label: w.newOvertime },
          ]}
          word={w.addRate}
          of={of}
          add={({ overtime, ...rate }) => {
            put([...rates, { ...rate, ...(overtime ? { overtime } : {}) } as Rate]);
            return true;
          }}
        />
      )}
    </Table>
  );
}
