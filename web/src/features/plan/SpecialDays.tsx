import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api";
import { Entry, words } from "../../shared";
import { Button, Select, Table } from "../../shared/ui";
import { Cross } from "./Cross";
import { NextRow } from "./NextRow";

export interface Exception {
  from: string;
  to: string;
  /** As they are kept, or as typed while the answer is on its way. */
  shifts?: string[] | string;
  name?: string;
}
const w = words.calendars;

/** Hours as people read them. */
export const hoursOf = (shifts: string[] | string | undefined) =>
  Array.isArray(shifts) ? shifts.join(", ") : (shifts ?? "");

/** The days with other hours than their week. */
export function Special({
  exceptions,
  put,
  open,
}: {
  exceptions: Exception[];
  put: (next: Exception[]) => void;
  open: boolean;
}) {
  return (
    <Table className="plain register">
      <thead>
        <tr>
          <th>{w.from}</th>
          <th>{w.to}</th>
          <th>{w.hours}</th>
          <th>{w.called}</th>
          {open && <th aria-label={w.remove} />}
        </tr>
      </thead>
      <tbody>
        {exceptions.map((e, i) => (
          <tr key={`${e.from} ${e.to}`}>
            {(["from", "to", "shifts", "name"] as const).map((key) => (
              <td key={key}>
                <Entry
                  bare
                  label={`${w[key === "shifts" ? "hours" : key === "name" ? "called" : key]}, ${e.name ?? e.from}`}
                  value={key === "shifts" ? hoursOf(e.shifts) : (e[key] ?? "")}
                  placeholder={key === "shifts" ? w.off : ""}
                  disabled={!open}
                  write={(text) => put(exceptions.map((x, j) => (j === i ? ({ ...x, [key]: text } as Exception) : x)))}
                />
              </td>
            ))}
            {open && (
              <td>
                <Cross label={w.drop(e.name ?? e.from)} act={() => put(exceptions.filter((x) => x !== e))} />
              </td>
            )}
          </tr>
        ))}
      </tbody>
      {open && (
        <NextRow
          cells={[
            { key: "from", label: w.from, hint: w.dateHint },
            { key: "to", label: w.to, hint: w.toHint },
            { key: "shifts", label: w.hours, hint: w.off },
            { key: "name", label: w.called, hint: w.called },
          ]}
          word={w.special}
          add={({ from = "", to = "", shifts, name }) => {
            if (!from.trim()) return false;
            put([...exceptions, { from, to, shifts: shifts ? [shifts] : [], name }]);
            return true;
          }}
        />
      )}
    </Table>
  );
}

/** The public holidays of a country, brought in for a year. */
export function Holidays({
  year,
  exceptions,
  put,
}: {
  year: number;
  exceptions: Exception[];
  put: (next: Exception[]) => void;
}) {
  const [country, setCountry] = useState("");
  const [said, setSaid] = useState("");
  const templates = useQuery({ queryKey: ["templates"], queryFn: () => take(client.GET("/api/templates")) });
  const bring = async () => {
    const found = await take(client.GET("/api/holidays", { params: { query: { country, year } } }));
    const free = (found.days ?? []).filter(
      (d) => !exceptions.some((e) => e.from <= d.date && d.date <= (e.to || e.from)),
    );
    setSaid(w.brought(free.length));
    if (free.length) put([...exceptions, ...free.map((d) => ({ from: d.date, to: d.date, shifts: [], name: d.name }))]);
  };
  return (
    <div className="row-of holidays">
      <Select aria-label={w.country} value={country} onChange={(e) => setCountry(e.target.value)}>
        <option value="">{w.country}</option>
        {(templates.data?.countries ?? []).map((c) => (
          <option key={c.code} value={c.code}>
            {c.name}
          </option>
        ))}
      </Select>
      <Button disabled={!country} onClick={bring}>
        {w.bring(year)}
      </Button>
      <span className="soft-text" role="status">
        {said}
      </span>
    </div>
  );
}
