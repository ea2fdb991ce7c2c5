/** The sign of a row that the checks have found something in. */
export const signs = {
  open: (n: number) => `${n} ${n === 1 ? "finding" : "findings"} open. Show ${n === 1 ? "it" : "them"} in Checks`,
};
