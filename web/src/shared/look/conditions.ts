import { formats, numberOf } from "../formats";
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

/** The minutes of a working day where a project says none. */
export const DAY = 480;

const LENGTH = /^([\d.,]+)\s*(min|mo|h|d|w)?[a-z]*$/i;

function lengthIn(text: string, day: number, number: (text: string) => number): number | null {
  const [, count, unit = "d"] = text.trim().match(LENGTH) ?? [];
  const minutes: Record<string, number> = { min: 1, h: 60, d: day, w: day * 5, mo: day * 20 };
  const found = number(count ?? "") * (minutes[unit.toLowerCase()] ?? day);
  return Number.isNaN(found) ? null : found;
}

/** A length of time that was typed, in minutes; null where it is none. */
export const lengthOf = (text: string, on: Pick<Ground, "day">) => lengthIn(text, on.day, numberOf);

/** A length of time as the book writes it, in minutes of working days of so many; null where it is none. */
export const minutesOf = (text: string, day: number) =>
  lengthIn(text, day, (count) => (count ? Number(count) : Number.NaN));

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

const NUMBERED = /^(\d{1,2})([. /-]+)(\d{1,2})\.?(?:[ ,./-]+(\d{2}|\d{4}))?$/;
const DAY_FIRST = /^(\d{1,2})[. /-]*([a-z]{3,9})\.?(?:[ ,./-]+(\d{2}|\d{4}))?$/;
const MONTH_FIRST = /^([a-z]{3,9})\.?[ -]*(\d{1,2})(?:[ ,]+(\d{2}|\d{4}))?$/;

/** Day, month and year, where it is stated, of what was typed; with points the day always comes first. */
function datedAs(typed: string): [day: number, month: number, year: string | undefined] | null {
  const monthOf = (name = "") => MONTHS.findIndex((m) => name.startsWith(m)) + 1;
  const [, one, between = "", two, third] = typed.match(NUMBERED) ?? [];
  if (one && formats().month_first && !between.includes(".")) return [Number(two), Number(one), third];
  if (one) return [Number(one), Number(two), third];
  const [, day, name, year] = typed.match(DAY_FIRST) ?? [];
  if (day) return [Number(day), monthOf(name), year];
  const [, before, after, last] = typed.match(MONTH_FIRST) ?? [];
  return before ? [Number(after), monthOf(before), last] : null;
}

/** A date as typed ("12 feb", "feb 12", "12/2", "2027-02-12") in ISO, the nearest one where no year is stated; null where it is none. */
export function dateOf(text: string, near: string): string | null {
  const typed = text.trim().toLowerCase();
  const iso = typed.match(/^(\d{4})-(\d{2})-(\d{2})$/);
  const at = (year: number, month: number, day: number) => {
    const d = new Date(0);
    d.setUTCFullYear(year, month - 1, day);
    return d.getUTCMonth() === month - 1 && d.getUTCDate() === day ? d.toISOString().slice(0, 10) : null;
  };
  if (iso) return at(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const found = datedAs(typed);
  if (!found) return null;
  const [day, month, stated] = found;
  if (stated) return at(Number(stated) + (stated.length === 2 ? 2000 : 0), month, day);
  const year = Number(near.slice(0, 4));
  const away = (date: string) => Math.abs(Date.parse(date) - Date.parse(near));
  const dates = [year - 1, year, year + 1].flatMap((y) => at(y, month, day) ?? []);
  return dates.sort((a, b) => away(a) - away(b))[0] ?? null;
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
