import { words as common } from "../words";
import { named, plural, say } from "./named";

export const words = say({
  ...common,
  posting: {
    lenses: "Lenses",
    progress: "Progress",
    hours: "Hours",
    costs: "Costs",
    answers: "Answers",
    feeds: "Feeds",
    history: "History",
    title: (n: number, day: string) => `Page ${n}, to ${day}`,
    counts: (toGo: number, posted: number) =>
      `${toGo} ${plural(toGo, { one: "needs", other: "need" })} an entry, ${posted} posted`,
    plan: "Post as planned",
    planSelected: (n: number) => `Post ${n} as planned`,
    carry: "Carry forward",
    treatments: (n: number) => `Out of sequence: ${n}`,
    of: (n: string, all: string) => (all ? `${n} of ${all}` : n),
    reached: (yes: string[], no: string[]) =>
      [yes.length && `Reached: ${yes.join(", ")}`, no.length && `not yet: ${no.join(", ")}`].filter(Boolean).join("; "),
    shows: named({
      wants: "Needs an entry",
      progress: "In progress",
      due: "Due by the status date",
      critical: "Critical",
      all: "All activities",
    }),
    byResponsible: "Responsible",
    byPerson: "Person",
    byWbs: "WBS element",
    noneShown: "No activity is shown by this filter.",
    close: "Close the page",
    none: "No activity needs an entry on this page.",
    noneHelp: "Show all to post on any activity, or close the page.",
    closeTitle: (n: number) => `Close page ${n}?`,
    closeSure:
      "The page goes dry: it is sealed and can't be changed again, by anybody. The words of its report are sealed with it. The next page opens.",
    closeStatus:
      "The report has no overall status. What it says is sealed with the page: given later, the status stands dated beside the sealed words.",
    closeOpen: (n: number) =>
      `${n} ${plural(n, { one: "activity still needs", other: "activities still need" })} an entry.`,
    closeFound: (open: number, wrong: number) =>
      `${open} ${plural(open, { one: "finding of the checks is", other: "findings of the checks are" })} open${
        wrong ? `; ${wrong} cannot be true and must be mended or answered first` : ""
      }.`,
    keep: "Keep it open",
    next: "Next status date",
    nextOn: (day: string) => `Next status date, ${day}`,
    nextHint: "12 mar, +5d",
    openNext: "Open the next page",
    openTitle: "Open the next page",
    openSure: "The page before stays dry.",
    notNow: "Not now",
    takeBack: "Take this page back",
    takeBackHint: "It says nothing yet; the page before stays dry.",
    changeDate: "Change the status date",
    pageNote: "Note of the page",
    noteShort: "Note",
    dryNote: "This page is dry. It is shown as it was closed.",
    readerNote: "Read only. Posting needs the analyst role.",
    ahead: "out of sequence",
    aheadWhy: "Started before its predecessors allowed",
    askStart: "start?",
    askFinish: "finish?",
    sheet: (day: string) => `Posting sheet, page to ${day}`,
    begun: "started",
    reckoned: (amount: string) => `${amount} of that is reckoned: it follows progress`,
    otherCost: (amount: string) => `${amount} of this page comes from hours and other entries`,
    finishHint: "F2 opens the working",
  },
} as const);
