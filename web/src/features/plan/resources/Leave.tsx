import { format } from "../../../shared";
import { type ListColumn, ListSheet } from "../../../shared/sheet";
import { Soft } from "../../../shared/ui";
import { words } from "../../../shared/words/resources";
import type { PlanHandle } from "../usePlan";
import { useWholeList } from "../useWholeList";
import type { Resource } from "./columns";

interface Away {
  from: string;
  to: string;
  name?: string;
  /** As they are kept, or as typed while the answer is on its way. */
  units?: number | string;
}
const w = words.resources;
const show = ({ from, to, name = "", units = 0 }: Away) => ({ from, to, name, units: String(units) });
const make = ({ from = "", to = "", name = "", units = "" }: Record<string, string>): Away => ({
  from,
  to: to.trim() || from,
  name,
  units,
});
const COLUMNS: ListColumn[] = [
  { key: "from", title: w.away.from, width: 150, left: true, needed: true, hint: w.away.fromHint },
  { key: "to", title: w.away.to, width: 150, left: true, hint: w.away.toHint },
  { key: "name", title: w.away.what, width: 220, left: true, hint: w.away.whatHint },
  { key: "units", title: w.away.units, width: 110, hint: w.away.nobody },
].map((c) => (c.key === "from" || c.key === "to" ? { ...c, text: (r) => format.spokenDay(r.cells[c.key]) } : c));
const BEGIN = { needs: ["from"] };

/** Leave, and other units than usual for some days; the calendar stays as it is. */
export function Leave({ resource, plan, open }: { resource: Resource; plan: PlanHandle; open: boolean }) {
  const { id, name } = resource;
  const list = useWholeList<Away>({
    id,
    field: "exceptions",
    list: resource.exceptions ?? [],
    plan,
    show,
    make,
    begin: BEGIN,
  });
  return (
    <>
      <Soft as="p">{w.away.help}</Soft>
      <ListSheet {...list.sheet} label={w.away.of(name)} columns={COLUMNS} open={open} name="name" />
    </>
  );
}
