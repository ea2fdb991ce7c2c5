import { words as common } from "../words";
import { plural, say } from "./named";

const answers = (n: number) => plural(n, { one: "1 answer", other: `${n} answers` });

export const words = say({
  ...common,
  myWork: {
    title: "My work",
    none: "Nobody asks you for progress at present.",
    to: (day: string) => `To ${day}`,
    progress: (n: number, all: number) => `${n} of ${all} answered`,
    until: (day: string, time: string) => `until ${day} ${time}`,
    planned: (day: string) => `planned to be done by ${day}`,
    stands: (percent: string, days: string) =>
      `so far ${percent} %, ${days} ${plural(Number(days.replace(",", ".")), { one: "day", other: "days" })} left`,
    due: (day: string) => `not begun, due ${day}`,
    notBegun: "Not begun so far.",
    notSent: "typed, not sent yet",
    onItsWay: "on its way",
    answered: (day: string) => `answered ${day}`,
    taken: "answered, and taken",
    far: "How far, %",
    left: "Days left",
    units: (all: string) => `Units done, of ${all}`,
    started: "Started on",
    willStart: "Will start on",
    finished: "Finished on",
    hours: (kind: "worked" | "to_go", who: string) =>
      `${kind === "worked" ? "Hours since last page" : "Hours left"}${who && `, ${who}`}`,
    word: "A word",
    send: (n: number) => (n ? `Send ${answers(n)}` : "Send"),
    typed: (n: number) => `${answers(n)} typed, kept on this device until you send.`,
    sending: (n: number) => `Sending ${answers(n)}…`,
    away: (n: number) =>
      `No line. ${answers(n)} ${plural(n, { one: "is", other: "are" })} kept on this device and sent by itself when the line is back.`,
    all: "Everything you typed has arrived.",
  },
} as const);
