import { plural, say } from "./named";
/** The sign of a row that the checks have found something in. */
export const { signs } = say({
  signs: {
    open: (n: number) =>
      `${n} ${plural(n, { one: "finding", other: "findings" })} open. Show ${plural(n, { one: "it", other: "them" })} in Checks`,
  },
});
