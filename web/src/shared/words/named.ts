/** Words by keys that come from elsewhere, so that not each need be known here. */
export const named = (words: Record<string, string>) => words;

/** Values that are chosen from, each with its word, in the order in which they are offered. */
export const pairs = (list: [value: string, word: string][]) => list;
