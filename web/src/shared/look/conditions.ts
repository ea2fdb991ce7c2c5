import type { Kind } from "../sheet";

/** Conditions on a column: what is typed after its name, such as "north", "> 5", "not empty", and what it means of a value. */
export interface Condition {
  key: string;
  text: string;
}

export type { Kind };

/** What conditions are read against: the date that a date without a year is near, and the minutes of a working day. */
export interface Ground {
  near: string;
  day: number;
}

/** A length of time in minutes; null where it is none. */
export function lengthOf(text: string, on: Pick<Ground, "day">): number | null {
  const found = text.trim().match(/^(\d+(?:[.,]\d+)?|[.,]\d+)\s*(min|mo|h|d|w)?[a-z]*$/i);
  const minutes: Record<string, number> = { min: 1, h: 60, d: on.day, w: on.day * 5, mo: on.day * 20 };
  return found ? numberOf(found[1] ?? "") * (minutes[(found[2] ?? "d").toLowerCase()] ?? on.day) : null;
}

const numberOf = (text: string) => (text ? Number(text.replace(/\s/g, "").replace(",", ".")) : Number.NaN);

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

/** A date as typed ("12 feb", "12/2", "2027-02-12") in ISO, the nearest one where no year is said; null where it is none. */
export function dateOf(text: string, near: string): string | null {
  const typed = text.trim().toLowerCase();
  const iso = typed.match(/^(\d{4})-(\d{2})-(\d{2})$/);
  const said = typed.match(/^(\d{1,2})[. /-]*([a-z]{3,9}|\d{1,2})\.?(?:[ ,./-]+(\d{2}|\d{4}))?$/);
  const at = (year: number, month: number, day: number) => {
    const d = new Date(0);
    d.setUTCFullYear(year, month - 1, day);
    return d.getUTCMonth() === month - 1 && d.getUTCDate() === day ? d.toISOString().slice(0, 10) : null;
  };
  if (iso) return at(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  if (!said) return null;
  const name = said[2] ?? "";
  const month = /\d/.test(name) ? Number(name) : MONTHS.findIndex((m) => name.startsWith(m)) + 1;
  if (said[3]) return at(Number(said[3]) + (said[3].length === 2 ? 2000 : 0), month, Number(said[1]));
  const year = Number(near.slice(0, 4));
  const away = (day: string) => Math.abs(Date.parse(day) - Date.parse(near));
  const found = [year - 1, year, year + 1].flatMap((y) => at(y, month, Number(said[1])) ?? []);
  return found.sort((a, b) => away(a) - away(b))[0] ?? null;
}

const compare: Record<string, (a: string | number, b: string | number) => boolean> = {
  ">": (a, b) => a > b,
  "<": (a, b) => a < b,
  ">=": (a, b) => a >= b,
  "<=": (a, b) => a <= b,
  "=": (a, b) => a === b,
};

const parts = (text: string) => text.match(/^(>=|<=|>|<|=)\s*(.*)$/) ?? [];
const bared = (text: string) =>
  text
    .trim()
    .toLowerCase()
    .replace(/^(not )+/, "");

/** What is to be compared with, as the kind reads it; null where it can't be read. */
function read(kind: Kind, text: string, on: Ground): string | number | null {
  if (kind === "date") return dateOf(text, on.near);
  if (kind === "duration") return lengthOf(text, on);
  const number = numberOf(text);
  if (kind === "number") return Number.isNaN(number) ? null : number;
  return kind === "formula" && !Number.isNaN(number) ? number : text;
}

/** The kind of value that a condition compares with and that what was typed is not; null where it can be read. */
export function unreadable(kind: Kind, text: string, on: Ground): Kind | null {
  const [, sign, rest = ""] = parts(bared(text));
  return sign && read(kind, rest, on) === null ? kind : null;
}

/** Whether a condition holds of a value: a number where it counts, an ISO date, else a text; "" where there is none. */
export function meets(value: string | number, kind: Kind, text: string, on: Ground): boolean {
  const typed = text.trim().toLowerCase();
  if (typed === "empty") return value === "";
  if (typed === "not empty") return value !== "";
  if (typed.startsWith("not ")) return !meets(value, kind, typed.slice(4), on);
  const [, sign, rest = ""] = parts(typed);
  if (!sign) {
    const day = kind === "date" ? dateOf(typed, on.near) : null;
    return day ? value === day : String(value).toLowerCase().includes(typed);
  }
  const than = read(kind, rest, on);
  if (value === "" || than === null) return false;
  const same = typeof value === "string" ? value.toLowerCase() : value;
  return typeof same === typeof than && compare[sign]?.(same, than) === true;
}
