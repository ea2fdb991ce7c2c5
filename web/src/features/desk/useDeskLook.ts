import { useMemo } from "react";
import type { Schemas } from "../../api";
import { format, useAddressed } from "../../shared";
import { byKey, DAY, grouped, isFound, LOOK, type LookColumn, lookOf, nextSort } from "../../shared/look";
import { words } from "../../shared/words/desk";

const w = words.desk;
export type Project = Schemas["ProjectOut"];
/** What the address says: the look, whether only those count whose report is due, and a column that is shown beside. */
export const VIEW = { ...LOOK, due: "", also: "" };

const BY = ["client", "manager", "state", "kind", "mark_word", "currency"] as const;
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
    ...BY.map((key): LookColumn<Project> => ({ key, title: w.columns[key] ?? key, text: (p) => p[key], groups: true })),
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
  const found = projects.filter((p) => isFound(look, `${p.code} ${p.name}`) && (!view.due || p.report_due !== null));
  const groups = grouped(found, look, columns, on);
  return {
    view,
    set,
    columns,
    on,
    groups,
    shown: groups.flatMap(([, own]) => own),
    onSort: (key: string) => set({ sort: nextSort(view.sort, key) }),
  };
}
