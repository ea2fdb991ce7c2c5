import { words as posting } from "./posting";

export const words = {
  ...posting,
  corrections: {
    title: (page: string, what: string) => `Correct ${what} of ${page}`,
    said: (what: string) => `It says ${what}`,
    worked: "Hours should be",
    overtime: "Overtime should be",
    amount: "Amount should be",
    reason: "Because",
    act: (page: string) => `Correct on ${page}`,
    cancel: "Cancel",
    made: "Corrections on this page",
    received: "Corrected later",
    of: "Corrects page",
    on: "On page",
    what: "Activity or WBS",
    who: "Person",
    change: "Change",
    why: "Reason",
    hours: (n: string) => `${n} h`,
    overtimeOf: (n: string) => `${n} h overtime`,
    remove: (page: string, on: string) => `Delete the correction of ${page} on ${on}`,
    hint: "This page is dry. Press F2 on a row, or type, to correct it on the open page.",
    correct: "Correct",
    correctOf: (what: string) => `Correct ${what}`,
  },
} as const;
