/** Words by keys that come from elsewhere, so that not each need be known here. */
export const named = (words: Record<string, string>) => words;
