import { named, plural, say } from "./named";

export const words = say({
  lookAhead: {
    title: "Look-ahead",
    ahead: "Weeks of the look-ahead",
    by: "Look-ahead by",
    bys: named({ person: "by responsible", resource: "by resource", element: "by element" }),
    weeks: (n: number) => plural(n, { one: "1 week", other: `${n} weeks` }),
  },
} as const);
