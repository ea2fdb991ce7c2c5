/** The time of an instant, as drawings place it. */
export const when = (iso: string) => Date.parse(iso.length > 10 ? `${iso}:00Z` : iso);
