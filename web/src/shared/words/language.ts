/** The language of the page, as the server says it. */
export const language = () => document.documentElement.lang || "en";
