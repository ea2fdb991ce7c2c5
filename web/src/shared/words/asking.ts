import { named, plural, say } from "./named";
import { words as posting } from "./posting";

const rows = (n: number) => plural(n, { one: "1 row", other: `${n} rows` });

export const words = say({
  ...posting,
  asking: {
    ask: "Ask…",
    title: "Ask for progress",
    askNow: (n: number) => (n ? `Ask ${n} ${plural(n, { one: "person", other: "people" })}` : "Ask"),
    askWhom: "Ask",
    cancel: "Cancel",
    ahead: "Due within weeks after the status date",
    until: "Until",
    untilHint: "11 mar 18:00",
    nobody:
      "Nobody is responsible for anything yet, and no resource is a person. Say so in the plan, column Responsible.",
    who: "Who",
    due: "Due",
    how: "Answers by",
    byPage: "My work",
    bySheet: "sheet, by mail",
    byHand: "sheet, by hand",
    email: "Mail address",
    emailOf: (name: string) => `Mail address of ${name}`,
    asked: "asked already",
    remind: (n: number) => `Remind ${n}`,
    bring: "Read a sheet…",
    inbox: (n: number) => `Read the inbox (${n})`,
    seen: "Seen",
    askedOf: (n: number, answered: number) =>
      `Asked ${plural(n, { one: "1 person", other: `${n} people` })}, ${answered} ${plural(answered, { one: "has", other: "have" })} answered`,
    untilDay: (day: string, time: string) => `until ${day} ${time}`,
    answered: "Answered",
    of: (n: number, all: number) => `${n} of ${all}`,
    mail: "Mail",
    remindedOn: (day: string) => `reminded ${day}`,
    sheet: "Their sheet",
    outbox: "Look at the outbox",
    tray: "Answers to be taken",
    empty: "No answer waits. What was taken stands on the page.",
    none: "Nobody has been asked on this page. Ask whoever is responsible how far their work is: what they say comes here, and counts when you take it.",
    dry: "Nobody was asked on this page.",
    silent: "Not answered:",
    rowsOf: (name: string, n: number) => `${name} (${rows(n)})`,
    via: {
      page: (day: string, time: string) => `from their own page, ${day} ${time}`,
      sheet: (day: string, time: string) => `by their sheet, read ${day} ${time}`,
    } as Record<string, (day: string, time: string) => string>,
    activity: "Activity",
    answer: "The answer",
    stands: "What stands",
    moves: "Moves it by",
    finish: "Project finish",
    nothing: "nothing",
    posted: (says: string) => `posted on this page: ${says}`,
    take: "Take",
    takeOf: (code: string) => `Take the answer to ${code}`,
    takeSo: "Take it so",
    takeAllOf: (name: string) => `Take all of ${name}`,
    takeAll: (n: number) => `Take all ${n}`,
    change: "Change",
    changeOf: (code: string) => `Change the answer to ${code}`,
    leave: "Leave",
    leaveOf: (code: string) => `Leave the answer to ${code}`,
    cells: named({
      percent: "% complete",
      remaining: "Days left",
      actual_start: "Started",
      actual_finish: "Finished",
      carry_to: "Will start",
    }),
    together: (
      t: { count: number; was: string; finish: string; eac: string | null; to_go: number },
      format: { day: (t: string) => string; signed: (t: string) => string },
    ) =>
      [
        `Taking all ${t.count}: finish ${format.day(t.was)} → ${format.day(t.finish)}`,
        t.eac && `EAC ${format.signed(t.eac)}`,
        `${plural(t.to_go, { one: "1 row still needs", other: `${t.to_go} rows still need` })} an entry.`,
      ]
        .filter(Boolean)
        .join(", "),
  },
} as const);
