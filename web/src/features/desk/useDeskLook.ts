import { useMemo } from "react";
import type { Schemas } from "../../api";
import { format, useAddressed } from "../../shared";
import { byKey, DAY, grouped, isFound, LOOK, type LookColumn, lookOf, nextSort } from "../../shared/look";
import { words } from "../../shared/words/desk";

const w = words.desk;
export type Project = Schemas["ProjectOut"];
/** What the address says: the look, whether only those count whose report is due, and a column that is shown beside. */
export const VIEW = { ...LOOK, due: "", also: "", below: "", retired: "" };

const BY = ["place", "client", "manager", "state", "kind", "mark_word", "currency"] as const;
/** What parts the names of a place, from the top down. */
const PART = " / ";
const NOTHING = "";
const number = (of: (p: Project) => string | number | null) => (p: Project) => {
  const value = of(p);
  return value === null || value === NOTHING ? NOTHING : Number(value);
};
const money = (key: "bac" | "pv" | "ev" | "ac" | "eac" | "vac"): LookColumn<Project> => ({
  key,
  title: w[key],
  kind: "number",
  text: (p) => format.money(p[key]),
  value: number((p) => p[key]),
});
const ratio = (key: "spi" | "cpi"): LookColumn<Project> => ({
  key,
  title: w[key],
  kind: "number",
  text: (p) => format.ratio(p[key]),
  value: number((p) => p[key]),
});
const date = (key: "status" | "finish", title: string): LookColumn<Project> => ({
  key,
  title,
  kind: "date",
  text: (p) => format.date(p[key]),
  value: (p) => p[key],
});

/** What the desk can be found, filtered, sorted and grouped by: of what a project says of itself, only what some project says. */
export function deskColumns(projects: Project[]): LookColumn<Project>[] {
  const own = new Set(projects.flatMap((p) => Object.keys(p.own)));
  const texts = [
    ...BY.map(
      (key): LookColumn<Project> => ({ key, title: w.columns[key] ?? key, text: (p) => p[key] ?? "", groups: true }),
    ),
    ...[...own].map(
      (name): LookColumn<Project> => ({
        key: `own:${name}`,
        title: name,
        text: (p) => p.own[name] ?? "",
        groups: true,
      }),
    ),
  ];
  return [
    { key: "name", title: w.project, text: (p) => p.name },
    ...texts.filter((c) => projects.some((p) => c.text(p))),
    date("status", w.page),
    ...(["bac", "pv", "ev", "ac", "eac", "vac"] as const).map(money),
    ...(["spi", "cpi"] as const).map(ratio),
    date("finish", w.finish),
    {
      key: "late_days",
      title: w.late,
      kind: "number",
      text: (p) => (p.late_days == null ? "–" : format.late(p.late_days)),
      value: number((p) => p.late_days),
    },
  ];
}

/** A group, with the codes of all in it and below it, and the projects that stand in it themselves. */
export interface Level {
  key: string;
  name: string;
  depth: number;
  codes: string[];
  own: Project[];
}

/** Groups within groups: a place has as many levels as it has names, and what is grouped by then is one below. */
export function levels(groups: [name: string, rows: Project[]][], by: string, then?: LookColumn<Project>): Level[] {
  const found = new Map<string, Level>();
  for (const [name, rows] of groups)
    for (const p of rows) {
      const path = by === "place" ? name.split(PART) : by ? [name] : [];
      if (then) path.push(...(then.text(p) || "–").split(then.key === "place" ? PART : "\n"));
      path.forEach((_, i) => {
        const key = path.slice(0, i + 1).join(PART);
        const level = found.get(key) ?? { key, name: path[i] ?? "", depth: i, codes: [], own: [] };
        level.codes.push(p.code);
        if (i === path.length - 1) level.own.push(p);
        found.set(key, level);
      });
      if (!path.length) {
        const all = found.get("") ?? { key: "", name: "", depth: 0, codes: [], own: [] };
        all.codes.push(p.code);
        all.own.push(p);
        found.set("", all);
      }
    }
  // Each group before those below it, those of one parent as they came.
  const order = [...found.values()];
  const below = (key: string) =>
    order.filter((l) => l.depth === key.split(PART).length && l.key.startsWith(`${key}${PART}`));
  const walk = (level: Level): Level[] => [level, ...below(level.key).flatMap(walk)];
  return order.filter((l) => l.depth === 0).flatMap(walk);
}

/** How the desk is looked at: what is shown, in which groups and order; it stands in the address. */
export function useDeskLook(projects: Project[]) {
  const [view, set] = useAddressed("desk", VIEW);
  const columns = useMemo(() => byKey(deskColumns(projects)), [projects]);
  const on = useMemo(
    () => ({
      near:
        projects
          .map((p) => p.status)
          .sort()
          .at(-1)
          ?.slice(0, 10) ?? "",
      day: DAY,
    }),
    [projects],
  );
  const look = lookOf(view);
  const found = projects.filter(
    (p) =>
      isFound(look, `${p.code} ${p.name}`) &&
      (!view.due || p.report_due !== null) &&
      (view.retired !== "" || p.standing !== "retired"),
  );
  const groups = grouped(found, look, columns, on);
  return {
    view,
    set,
    columns,
    on,
    groups: levels(groups, view.group, columns.get(view.below)),
    shown: groups.flatMap(([, own]) => own),
    onSort: (key: string) => set({ sort: nextSort(view.sort, key) }),
  };
}
