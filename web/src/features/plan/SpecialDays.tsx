import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api";
import { format, keys, templates } from "../../shared";
import { type ListColumn, ListSheet } from "../../shared/sheet";
import { Button, RowOf, Select, Soft } from "../../shared/ui";
import { words } from "../../shared/words/plan";
import type { useWholeList } from "./useWholeList";

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

const show = ({ from, to, shifts, name = "" }: Exception) => ({ from, to, shifts: hoursOf(shifts), name });
const make = ({ from = "", to = "", shifts = "", name = "" }: Record<string, string>): Exception => ({
  from,
  to: to.trim() || from,
  shifts: shifts.trim() ? shifts : [],
  name,
});
export const asExceptions = { field: "exceptions", show, make, begin: { needs: ["from"] } };
const COLUMNS: ListColumn[] = [
  { key: "from", title: w.from, width: 150, left: true, needed: true, hint: w.dateHint },
  { key: "to", title: w.to, width: 150, left: true, hint: w.toHint },
  { key: "shifts", title: w.hours, width: 170, left: true, hint: w.off },
  { key: "name", title: w.called, width: 200, left: true, hint: w.called },
].map((c) => (c.key === "from" || c.key === "to" ? { ...c, text: (r) => format.spokenDay(r.cells[c.key]) } : c));
interface Props {
  sheet: ReturnType<typeof useWholeList<Exception>>["sheet"];
  open: boolean;
  /** The calendar's name. */
  of: string;
}

/** The days with other hours than their week. */
export function Special({ sheet, open, of }: Props) {
  return <ListSheet {...sheet} label={w.specialOf(of)} columns={COLUMNS} open={open} name="name" />;
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
  const [region, setRegion] = useState("");
  const [told, setTold] = useState("");
  const offered = useQuery(templates);
  const found = useQuery({
    queryKey: keys.holidays(country, year, region),
    queryFn: () => take(client.GET("/api/holidays", { params: { query: { country, year, region } } })),
    enabled: country !== "",
    placeholderData: (before) => (before?.country === country ? before : undefined),
  });
  const bring = () => {
    const free = (found.data?.days ?? []).filter(
      (d) => !exceptions.some((e) => e.from <= d.date && d.date <= (e.to || e.from)),
    );
    setTold(w.brought(free.length));
    if (free.length) put([...exceptions, ...free.map((d) => ({ from: d.date, to: d.date, shifts: [], name: d.name }))]);
  };
  return (
    <RowOf mb="8">
      <Select
        aria-label={w.country}
        value={country}
        onChange={(e) => {
          setCountry(e.target.value);
          setRegion("");
        }}
      >
        <option value="">{w.country}</option>
        {(offered.data?.countries ?? []).map((c) => (
          <option key={c.code} value={c.code}>
            {c.name}
          </option>
        ))}
      </Select>
      {(found.data?.regions ?? []).length > 0 && (
        <Select aria-label={w.region} value={region} onChange={(e) => setRegion(e.target.value)}>
          <option value="">{w.wholeCountry(found.data?.days.length ?? 0, region !== "")}</option>
          {found.data?.regions.map((r) => (
            <option key={r.code} value={r.code}>
              {w.adds(r.code, r.adds.length, r.adds.map((d) => d.name).join(", "))}
            </option>
          ))}
        </Select>
      )}
      <Button disabled={!found.data || found.isPlaceholderData} onClick={bring}>
        {w.bring(year)}
      </Button>
      <Soft role="status">{found.isError ? found.error.message : told}</Soft>
    </RowOf>
  );
}
