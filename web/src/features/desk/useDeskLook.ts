import type { Schemas } from "../../api";
import { useAddressed } from "../../shared";
import { words } from "../../shared/words/desk";

export type Project = Schemas["ProjectOut"];
/** What the desk can be filtered and grouped by. */
export const BY = ["client", "manager", "state", "kind", "mark_word", "currency"] as const;
/** What a column of an own field begins with; the name of the field follows. */
export const OWN = "own:";
type By = (typeof BY)[number];
const LOOK = { find: "", by: "", is: "", group: "", order: "", due: "", also: "" };
export type Look = typeof LOOK;

/** A project's value of a column; none of what is no column. */
export const valueIn = (p: Project, by: string): string =>
  by.startsWith(OWN) ? (p.own[by.slice(OWN.length)] ?? "") : BY.includes(by as By) ? p[by as By] : "";

/** How a column is called. */
export const titleOf = (by: string) => (by.startsWith(OWN) ? by.slice(OWN.length) : (words.desk.columns[by] ?? by));

const ORDERS: Record<string, (p: Project) => number | string> = {
  name: (p) => p.name.toLowerCase(),
  late: (p) => -(p.late_days ?? Number.NEGATIVE_INFINITY),
  vac: (p) => Number(p.vac ?? Number.POSITIVE_INFINITY),
  cpi: (p) => p.cpi ?? Number.POSITIVE_INFINITY,
  spi: (p) => p.spi ?? Number.POSITIVE_INFINITY,
};
export const ORDER_KEYS = Object.keys(ORDERS);

/** How the desk is looked at: what is shown, in which groups and order; it stands in the address. */
export function useDeskLook(projects: Project[]) {
  const [look, set] = useAddressed("desk", LOOK);
  const wanted = look.find.trim().toLowerCase();
  const shown = projects.filter(
    (p) =>
      (!wanted || `${p.code} ${p.name}`.toLowerCase().includes(wanted)) &&
      (!look.by || !look.is || valueIn(p, look.by) === look.is) &&
      (!look.due || p.report_due !== null),
  );
  const order = ORDERS[look.order];
  if (order)
    shown.sort((a, b) => {
      const [x, y] = [order(a), order(b)];
      return x < y ? -1 : x > y ? 1 : 0;
    });
  const groups = new Map<string, Project[]>();
  for (const p of shown) {
    const key = look.group ? valueIn(p, look.group) : "";
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  const own = new Set(projects.flatMap((p) => Object.keys(p.own).map((name) => OWN + name)));
  const columns = [...BY.filter((by) => projects.some((p) => valueIn(p, by))), ...own];
  return { look, set, shown, groups: [...groups].sort(([a], [b]) => a.localeCompare(b)), columns };
}
