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
    curveOf: "Curve of",
    estimates: "EAC",
    estimate1: "Forecasts",
    bars: "Bars",
    baselines: "Baselines",
    files: (form: string) => `As ${form}`,
    project: "Project",
    partsOf: "Parts of value",
    parts: { "": "Measures", statistics: "Statistics", work: "Work by time", pages: "Over the pages" } as Record<
      string,
      string
    >,
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
    trend: "Figures of every page",
    indices: "SPI, CPI and SPI(t)",
    estimate: (currency: string) => `EAC, ${currency}`,
    drift: "Finish against the baseline, working days",
    trendHeads: {
      page: "Page",
      spi: "SPI",
      cpi: "CPI",
      spi_t: "SPI(t)",
      eac: "EAC",
      finish: "Forecast finish",
      late: "Variance",
      float: "Float of the driving path",
    },
    comparedWith: "This page against",
    changed: (n: number, other: string) =>
      n === 0
        ? `Nothing changed since ${other}.`
        : `${n === 1 ? "1 activity" : `${n} activities`} changed since ${other}, what moved furthest first`,
    changedHeads: { activity: "Activity", mark: "Mark", days: "Finish moved", ev: "EV", ac: "AC", eac: "EAC" },
    moreChanged: (n: number) => `and ${n} more`,
    selected: (n: number) => `Selection, ${n === 1 ? "1 activity" : `${n} activities`}`,
    noWork: "Nobody is assigned to anything, and no hours were posted.",
  },
} as const;
