import { named, plural, say } from "./named";
import { words as posting } from "./posting";

export const words = say({
  ...posting,
  costs: {
    label: (day: string) => `Costs, page to ${day}`,
    columns: {
      date: "Date",
      on: "Activity or WBS",
      name: "Name",
      amount: (currency: string) => `Amount, ${currency}`,
      kind: "Source",
      ref: "Reference",
      text: "Text",
      corrects: "Corrects page",
      pays: "Pays",
    },
    none: "No cost was posted on this page.",
    hints: { date: "status date", on: "A150 or WBS 2.1", ref: "invoice number", pays: "order or cost" },
    sources: named({
      invoice: "invoice",
      accrual: "accrual",
      feed: "feed",
      correction: "correction",
      progress: "following progress",
      hours: "hours",
    }),
    accruals: "Open accruals",
    noAccruals: "No accrual is open.",
    age: (days: number) => plural(days, { one: "1 day", other: `${days} days` }),
    ageHead: "Age",
    page: "On page",
    release: "Release",
    releaseOf: (ref: string, on: string) => `Release the accrual ${ref} on ${on}`,
    carriedAt: (ref: string, on: string) => `Amount of the accrual ${ref} on ${on}`,
    carryHint: "What isn't released is carried to the next page. Type over an amount to carry another.",
    totalsOf: "Totals of",
    totalsAll: "all, or WBS 2.1",
    totals: "Actual cost by source",
    here: "This page",
    toDate: "To date",
  },
} as const);
