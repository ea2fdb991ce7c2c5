import { plural, say } from "./named";
import { words as posting } from "./posting";

export const words = say({
  ...posting,
  status: {
    title: "Status date",
    move: "Move the status date",
    leave: "Cancel",
    hint: "Type another date, such as 12 mar or -1d: what it does is said here before it is done.",
    more: (n: number) => `${n} more`,
    to: (day: string, finish: string) => `To ${day}: the forecast finish is ${finish}`,
    finishMoves: (by: string) => `Finish ${by} against the baseline`,
    comesDue: (n: number, names: string[]) =>
      `${n} more ${plural(n, { one: "needs", other: "need" })} an entry: ${names.join(", ")}`,
    noLongerDue: (n: number, names: string[]) =>
      `${n} ${plural(n, { one: "needs", other: "need" })} no entry any more: ${names.join(", ")}`,
    after: (amount: string, on: string, day: string) => `${amount} on ${on} counts only from its date on, ${day}`,
    moves: (n: number) => `${n} ${plural(n, { one: "activity moves", other: "activities move" })}`,
  },
} as const);
