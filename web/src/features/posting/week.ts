import { blockOf } from "../../shared/sheet";
import type { HoursField, Line } from "./useHours";

interface TypedHours {
  field: HoursField;
  text: string;
}

/** A pasted line: what it calls its activity and its person, and the hours that it says. */
interface WeekLine {
  activity: string;
  person: string;
  hours: TypedHours[];
}

const FIELDS: HoursField[] = ["worked", "overtime", "to_go"];
const HEADS: [RegExp, HoursField | "person" | "activity"][] = [
  [/over/i, "overtime"],
  [/remain|to go|left/i, "to_go"],
  [/hour|work/i, "worked"],
  [/person|who|resource|people/i, "person"],
  [/activity|task|code|name/i, "activity"],
];

/** A pasted week, each line an activity with its hours, overtime and remaining; null where its lines name no activities. */
export function weekOf(text: string): WeekLine[] | null {
  const block = blockOf(text).map((cells) => cells.map((c) => c.trim()));
  const [first = []] = block;
  if (first.length < 2) return null;
  const heads = first.map((h) => HEADS.find(([known]) => known.test(h))?.[1]);
  const headed = heads.slice(1).every(Boolean);
  const lines = (headed ? block.slice(1) : block).filter((l) => l[0]);
  if (!lines.length || lines.some(([code = ""]) => /^[\d.,\s]*$/.test(code))) return null;
  const kinds = headed ? heads.map((h, i) => h ?? (i ? "" : "activity")) : ["activity", ...FIELDS];
  return lines.map((cells) => {
    const at = (kind: string) => cells[kinds.indexOf(kind)] ?? "";
    const hours = FIELDS.map((field) => ({ field, text: at(field) })).filter((h) => h.text !== "");
    return { activity: at("activity"), person: at("person"), hours };
  });
}

/** The code of what a text names: by its code, by a code that it begins with, or by its name; undefined where it names none, or several. */
export function named(list: string[][], text: string): string | undefined {
  const bare = text.trim().toLowerCase();
  const lower = list.map(([code = "", name = ""]) => ({ code, key: code.toLowerCase(), name: name.toLowerCase() }));
  const known = lower.find((x) => x.key === bare) ?? lower.find((x) => x.key === bare.split(/\s/)[0]);
  if (known) return known.code;
  const same = lower.filter((x) => x.name === bare);
  const found = same.length ? same : lower.filter((x) => bare.length > 2 && x.name.includes(bare));
  return found.length === 1 ? found[0]?.code : undefined;
}

/** A pasted line with the row that it goes to; without one what it names is not known. */
export interface Placed extends WeekLine {
  row?: Line;
}

/** The lines of a week with their rows: of the person that each names, else of `person`. */
export function placed(
  week: WeekLine[],
  person: string,
  activities: string[][],
  people: string[][],
  rowOf: (activity: string, resource: string) => Line,
): Placed[] {
  return week.map((line) => {
    const activity = named(activities, line.activity);
    const who = line.person ? named(people, line.person) : person;
    return activity && who ? { ...line, row: rowOf(activity, who) } : line;
  });
}
