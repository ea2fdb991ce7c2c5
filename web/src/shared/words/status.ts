import { words as posting } from "./posting";

export const words = {
  ...posting,
  status: {
    title: "Status date",
    move: "Move the status date",
    leave: "Cancel",
    hint: "Type another date, such as 12 mar or -1d: what it does is said here before it is done.",
    more: (n: number) => `${n} more`,
    to: (day: string, finish: string) => `To ${day}: the forecast finish is ${finish}`,
    finishMoves: (by: string) => `Finish ${by} against the baseline`,
    comesDue: (n: number, names: string[]) => `${n} more ${n === 1 ? "needs" : "need"} an entry: ${names.join(", ")}`,
    noLongerDue: (n: number, names: string[]) =>
      `${n} ${n === 1 ? "needs" : "need"} no entry any more: ${names.join(", ")}`,
    after: (amount: string, on: string, day: string) => `${amount} on ${on} counts only from its date on, ${day}`,
    moves: (n: number) => `${n} ${n === 1 ? "activity moves" : "activities move"}`,
  },
} as const;
