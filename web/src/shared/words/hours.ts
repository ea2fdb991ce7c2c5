import { named, plural, say } from "./named";
import { words as posting } from "./posting";

export const words = say({
  ...posting,
  hours: {
    label: (day: string) => `Hours, page to ${day}`,
    by: "Grouped by",
    bys: { activity: "By activity", person: "By person" },
    columns: {
      person: "Person",
      planned: "Planned\nto date",
      before: "Posted\nbefore",
      worked: "Hours,\nthis page",
      overtime: "Overtime,\nthis page",
      to_go: "Remaining,\nsaid here",
      left: "Remaining",
      total: "Worked\nto date",
      budgeted: "Planned\ntotal",
      change: "Against\nplanned work",
      finish: "Forecast\nfinish",
    },
    sum: (name: string, here: string, left: string) => `${name}: ${here} h this page, ${left} h remaining`,
    ask: "remaining?",
    paste: {
      title: (n: number) => `${n} ${plural(n, { one: "line", other: "lines" })} of hours`,
      go: (n: number) => `Post ${n} ${plural(n, { one: "line", other: "lines" })}`,
      pasted: "Pasted",
      goes: "Goes to",
      unknown: "Names no activity or person here, or several: left out",
    },
    byDay: "Each day",
    estimate: "by estimate",
    reckoned: (hours: string) => `${hours} h of it follow progress: reckoned, nobody has posted them`,
    unassigned: "not assigned",
    fixedHere: (code: string) =>
      `The duration of ${code} comes from the estimate: remaining hours do not move its finish.`,
    letWork: "Let the work hours give it",
    moves: "The duration comes from the work hours: remaining hours move the finish",
    fixed:
      "The duration comes from the estimate: remaining hours don't move the finish. Change it in the plan's details",
    none: "No hours are due on this page. Show all assignments to post on any.",
    noneShown: "No hours are shown by this filter.",
    find: "Activity or person",
    shows: named({ due: "Due on this page", all: "All assignments" }),
    another: "Add hours for somebody else",
    activity: "Activity code",
  },
} as const);
