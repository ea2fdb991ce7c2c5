import { useState } from "react";
import { Entry, format, Pick, words } from "../../shared";
import { Cross } from "./Cross";

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
}: {
  rates: Rate[];
  put: (next: Rate[]) => void;
  open: boolean;
  currency: string;
}) {
  const [form, setForm] = useState({ from: "", amount: "", per: "hour", overtime: "" });
  const per = PERS.map((p): [string, string] => [p, p.replace("_", " ")]);
  return (
    <table className="plain register">
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
        <tfoot>
          <tr>
            {(["from", "amount"] as const).map((key) => (
              <td key={key}>
                <input
                  className="field"
                  aria-label={key === "from" ? w.newSince : w.newAmount}
                  placeholder={key === "from" ? w.sinceHint : "0.00"}
                  value={form[key]}
                  onChange={(e) => setForm({ ...form, [key]: e.target.value })}
                />
              </td>
            ))}
            <td>
              <select
                className="field"
                aria-label={w.newPer}
                value={form.per}
                onChange={(e) => setForm({ ...form, per: e.target.value })}
              >
                {per.map(([v, word]) => (
                  <option key={v} value={v}>
                    {word}
                  </option>
                ))}
              </select>
            </td>
            <td>
              <input
                className="field"
                aria-label={w.newOvertime}
                value={form.overtime}
                onChange={(e) => setForm({ ...form, overtime: e.target.value })}
              />
            </td>
            <td>
              <button
                type="button"
                className="act-on"
                onClick={() => {
                  put([
                    ...rates,
                    {
                      from: form.from,
                      amount: form.amount,
                      per: form.per,
                      ...(form.overtime ? { overtime: form.overtime } : {}),
                    },
                  ]);
                  setForm({ from: "", amount: "", per: form.per, overtime: "" });
                }}
              >
                {w.addRate}
              </button>
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}
