/**
 * Under which keys what was read is kept. What belongs to a project begins with its code, then the page (null: of the project
 * as it is now), then which part it is: so that a change can have all of it read again, but for the parts it brought itself.
 */
export const keys = {
  session: ["session"],
  sessions: ["sessions"],
  people: ["people"],
  access: (of?: string) => (of === undefined ? ["access"] : ["access", of]),
  audit: (kind: string, text: string) => ["audit", kind, text],
  figures: ["figures"],
  myWork: ["my work"],
  templates: ["templates"],
  kinds: ["kinds"],
  holidays: (country: string, year: number, region: string) => ["holidays", country, year, region],
  resources: ["resources"],
  frame: (project: string) => ["frame", project],
  /** What was typed and is not written: it is read from nowhere. */
  begun: (place: string) => ["begun", place],
  draft: (place: string) => ["draft", place],
  writing: (project: string, part: string) => ["writing", project, part],
  effect: (project: string) => ["effect", project],
  desk: {
    all: ["desk"],
    sums: (groups: string[][]) => ["desk", "sums", groups],
    curve: (currency: string, codes: string[]) => ["desk", "curve", currency, codes],
    statistics: (codes: string[]) => ["desk", "statistics", codes],
    people: (bucket?: string, of?: string | string[]) => [
      "desk",
      "people",
      ...(bucket === undefined ? [] : [bucket, of]),
    ],
  },
  project: (project: string) => {
    const part = (name: string, ...more: unknown[]) => [project, null, name, ...more];
    return {
      all: [project],
      part,
      about: part("about"),
      budget: (bucket: string, chosen: string) => part("budget", bucket, chosen),
      distribution: part("distribution"),
      editions: (one: string, other: string) => part("editions", one, other),
      estimates: part("estimates"),
      feeds: part("feeds"),
      history: (activity?: string) => part("history", activity),
      journal: (query: object) => part("journal", query),
      lists: part("lists"),
      loads: (bucket: string) => part("loads", bucket),
      assigned: (row: string) => part("loads", "assigned", row),
      remedies: (row: string, start: string, end: string) => part("loads", "remedies", row, start, end),
      choosing: (rows: string[], units: string) => part("loads", "choosing", rows, units),
      members: part("members"),
      names: part("names"),
      nextStatus: part("next status"),
      options: {
        all: part("options"),
        board: part("options", "board"),
        level: (way: string) => part("options", "level", way),
        overlay: (revision: number, seen: string) => part("options", "overlay", revision, seen),
      },
      plan: (option: number | null = null) => (option === null ? part("plan") : part("options", "plan", option)),
      row: (id: string, option: number | null) => part("row", id, option),
      shelf: part("shelf"),
      differences: (earlier: string, later: string) => part("shelf", earlier, later),
    };
  },
  page: (project: string, page: string) => {
    const part = (name: string, ...more: unknown[]) => [project, page, name, ...more];
    return {
      all: [project, page],
      activity: (code: string) => part("activity", code),
      asking: (weeks: number) => part("asking", weeks),
      balance: part("balance"),
      buffers: part("buffers"),
      checks: part("checks"),
      compared: (other: string) => part("compared", other),
      corrections: part("corrections"),
      costs: part("costs"),
      costTotals: (of: string) => part("cost totals", of),
      curve: (wbs: string, bucket: string, baselines?: string, of?: object) =>
        part("curve", wbs, bucket, baselines, of),
      hours: part("hours"),
      lines: (query: object) => part("lines", query),
      money: part("money"),
      spending: (bucket: string, by: string) => part("spending", bucket, by),
      marks: part("marks"),
      marksTried: (rules: string) => part("marks", "tried", rules),
      offered: part("offered"),
      posting: part("posting"),
      report: part("report"),
      selection: (body: unknown) => part("selection", body),
      signs: part("signs"),
      statistics: part("statistics"),
      status: (asked: string) => part("status", asked),
      timeline: (baselines: string) => part("timeline", baselines),
      tray: (feed: number) => part("tray", feed),
      treatments: part("treatments"),
      trend: part("trend"),
      tried: (...asked: unknown[]) => part("tried", ...asked),
      value: (columns = "") => part("value", columns),
      work: (bucket: string) => part("work", bucket),
      working: (measure: string, kind: string, code: string) => part("working", measure, kind, code),
    };
  },
};

/** What a key of a project is of: the page, and the part. */
export const partOf = ([, page, part]: readonly unknown[]) => ({ page, part: String(part) });
