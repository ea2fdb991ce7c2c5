import { words as common } from "../words";
import { named, say } from "./named";

export const words = say({
  ...common,
  checks: {
    title: "Checks",
    counts: (open: number, fresh: number, wrong: number) =>
      [
        open === 0 ? "Nothing open" : `${open} open`,
        fresh > 0 && `${fresh} new since the last page`,
        wrong > 0 && `${wrong} cannot be true`,
      ]
        .filter(Boolean)
        .join(", "),
    parts: named({ "": "Findings", quality: "Plan quality", limits: "Limits" }),
    partsOf: "Parts of the checks",
    severities: named({ error: "Cannot be true", ask: "Needs an entry", plan: "Plan quality" }),
    heading: (says: string, open: number, all: number) =>
      open === all ? `${all} ${says}` : `${open} of ${all} open, ${says}`,
    columns: {
      code: "Code",
      name: "Name",
      fresh: "New",
      text: "Accepted because",
      until: "Until page",
      by: "By",
      where: "Mend",
    },
    fresh: "new",
    good: "for good",
    answered: "Accepted too",
    only: (code: string) => `Only ${code}`,
    go: "Go to the cell",
    goOf: (name: string) => `Go to the cell of ${name}`,
    none: "The checks find nothing here.",
    noneOpen: "Nothing is open. What was accepted is shown by “Accepted too”.",
    label: (day: string) => `Findings, page to ${day}`,
    why: "Why it matters",
    mend: "How to mend it",
    answer: "Accepted",
    answeredBy: (by: string, page: string, until: string) =>
      `${by || "Somebody"} on ${page}, ${until ? `until ${until}` : "for good"}`,
    howToAnswer:
      "Type a reason in “Accepted because”, for one row or several: it is kept with the page and quiets the finding.",
    quality: "Quality of the plan",
    criterion: "Criterion",
    caught: "Found",
    of: "Of",
    share: "Share",
    asCsv: "Export as CSV",
    openOnly: "Of the activities that are not complete; over-allocation of the resources.",
    limits: named({
      lag: "Long lag, from working days",
      float: "Long float, from working days",
      duration: "Long duration, from working days",
      percent: "% complete apart from share of time, from",
    }),
    limitsSay: "They hold for the project. An empty one is the usual: 10, 44, 44 and 25.",
  },
} as const);
