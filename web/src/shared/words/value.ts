import { words as common } from "../words";

export const words = {
  ...common,
  value: {
    title: "Value",
    measures: "Measures",
    of: (name: string) => `Curve of ${name}`,
    expand: "Open all",
    fold: "Fold all",
    bucket: "By",
    project: "Project",
    partsOf: "Parts of value",
    parts: { "": "Measures", statistics: "Statistics", work: "Work by time" } as Record<string, string>,
    scope: "Of",
    statisticsOf: (name: string) => `Statistics of ${name}`,
    rows: { start: "Start", finish: "Finish", duration: "Duration", work: "Work", cost: "Cost" } as Record<
      string,
      string
    >,
    columns: {
      baseline: "Baseline",
      now: "Now",
      actual: "Actual",
      remaining: "Remaining",
      variance: "Variance",
    } as Record<string, string>,
    days: (n: string) => `${n} d`,
    hours: (n: string) => `${n} h`,
    later: (n: string) => `${n} d later`,
    earlier: (n: string) => `${n} d earlier`,
    same: "on the day",
    whole: "All of it as CSV",
    workOf: "Work by time",
    series: "Show",
    seriesNames: { worked: "Worked", remaining: "Remaining", planned: "Planned in the baseline" } as Record<
      string,
      string
    >,
    measure: "In",
    inHours: "hours",
    inCost: (currency: string) => currency,
    group: "Group by",
    groups: { activity: "activity", person: "person" } as Record<string, string>,
    who: "Activity, person",
    plannedTotal: "Planned",
    workedTotal: "Worked",
    remainingTotal: "Remaining",
    total: "Total",
    noWork: "Nobody is assigned to anything, and no hours were posted.",
  },
} as const;
