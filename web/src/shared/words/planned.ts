import { words as posting } from "./posting";

export const words = {
  ...posting,
  planned: {
    title: "Post as planned",
    carryTitle: "Carry forward unfinished work",
    scope: {
      page: (n: number) => `all ${n} that need an entry`,
      due: "all unfinished work that is due",
      some: (n: number) => `${n} shown`,
      picked: (n: number) => `${n} selected`,
    },
    of: "Of",
    ways: { to_date: "Each to the status date", finished: "Only those that should be finished" } as Record<
      string,
      string
    >,
    way: "What is posted",
    to: "To",
    toHint: "15 mar, +5d",
    counts: (finished: number, going: number) =>
      [finished && `${finished} finished`, going && `${going} in progress`].filter(Boolean).join(", ") || "Nothing",
    carries: (n: number) => `${n} ${n === 1 ? "activity is" : "activities are"} carried`,
    nothing: {
      page: "Everything that was due by the status date has its entry on this page.",
      due: "All unfinished work that is due has its entry on this page.",
      chosen: "Nothing here to post: each has its entry on this page, or was not due by the status date.",
      finished: "Nothing here to carry: each of these is complete.",
    },
    when: "Give the date that unfinished work is carried to.",
    finish: (day: string) => `forecast finish ${day}`,
    moves: (n: number) => `${n} ${n === 1 ? "finish moves" : "finishes move"}`,
    critical: (n: number) => `${n} become${n === 1 ? "s" : ""} critical`,
    notCritical: (n: number) => `${n} no longer critical`,
    more: (n: number) => `and ${n} more`,
    act: (n: number) => (n ? `Post ${n} as planned` : "Post as planned"),
    carry: (n: number) => (n ? `Carry ${n} forward` : "Carry forward"),
    cancel: "Cancel",
    moved: (days: string) => days,
    doing: "Reckoning…",
  },
  treatments: {
    title: "Out-of-sequence work: three treatments",
    names: { retained: "Retained logic", override: "Progress override", recorded: "Recorded dates" } as Record<
      string,
      string
    >,
    says: {
      retained: "What remains waits for its predecessors.",
      override: "What has started goes on without waiting for them.",
      recorded: "As retained; and where work has overlapped, its predecessors show negative float.",
    } as Record<string, string>,
    finish: "Forecast finish",
    drift: "Variance",
    float: "Float of the driving path",
    inForce: "In force",
    choose: "Choose",
    chooseOf: (name: string) => `Choose ${name}`,
    activity: "Activity",
    dates: (begin: string, finish: string) => `${begin} to ${finish}`,
    floatOf: (days: string) => `float ${days} d`,
    ahead: "out of sequence",
    none: "No dates differ between the treatments.",
    close: "Close",
  },
} as const;
