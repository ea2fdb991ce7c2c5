import { formats } from "./formats";
import { words } from "./words";
import { language } from "./words/language";

/** Figures and dates as the ledger writes them. Nothing is computed here. */
const THIN = "\u00a0";
const MINUS = "\u2212";

const named = (how: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(language(), { ...how, timeZone: "UTC" });
const each = (how: Intl.DateTimeFormatOptions, count: number, at: (i: number) => number) =>
  Array.from({ length: count }, (_, i) => named(how).format(at(i)));
const months = (month: "short" | "long") => each({ month }, 12, (i) => Date.UTC(2000, i, 1));
const MONTHS = months("short");
const LONG = months("long");
/** From Sunday on. */
const DAYS = each({ weekday: "short" }, 7, (i) => Date.UTC(2000, 0, 2 + i));

const parts = (iso: string) => ({ y: iso.slice(0, 4), m: Number(iso.slice(5, 7)) - 1, d: Number(iso.slice(8, 10)) });
const inOrder = (d: number, month: string | undefined) => (formats().month_first ? `${month} ${d}` : `${d} ${month}`);
const withYear = (text: string, year: string) => `${text}${formats().month_first ? "," : ""} ${year}`;

export const day = (iso: string | null | undefined) => (iso ? inOrder(parts(iso).d, MONTHS[parts(iso).m]) : "");

/** A date as tables say it. */
export const date = (iso: string | null | undefined) => (iso ? withYear(day(iso), parts(iso).y) : "");

/** The day of the week, short. */
export const dayName = (iso: string | null | undefined) =>
  iso ? (DAYS[new Date(`${iso.slice(0, 10)}T00:00Z`).getUTCDay()] ?? "") : "";

/** A day with the day of the week before it. */
export const weekDay = (iso: string | null | undefined) => (iso ? `${dayName(iso)} ${day(iso)}` : "");

export const fullDay = (iso: string | null | undefined) =>
  iso ? withYear(inOrder(parts(iso).d, LONG[parts(iso).m]), parts(iso).y) : "";

/** A date in full, or the text as it was typed where it is no date yet. */
export const spokenDay = (text: string | null | undefined) =>
  text && !/^\d{4}-\d{2}-\d{2}/.test(text) ? text : fullDay(text);

export const monthName = (month: number) => LONG[month] ?? "";

const grouped = (whole: string) => whole.replace(/\B(?=(\d{3})+(?!\d))/g, THIN);
const pointed = (text: string) => text.replace(".", formats().decimal);

/** A decimal text as money: thin spaces, true minus. A cell short of room may leave out cents that are all zero. */
export const money = (amount: string | null | undefined, short = false) => {
  if (amount == null) return "–";
  const negative = amount.startsWith("-");
  const [whole = "0", rest] = amount.replace("-", "").split(".");
  const cents = rest && !(short && /^0+$/.test(rest)) ? `${formats().decimal}${rest}` : "";
  return `${negative ? MINUS : ""}${grouped(whole)}${cents}`;
};

export const signed = (amount: string) => (amount.startsWith("-") ? money(amount) : `+${money(amount)}`);

export const ratio = (value: number | null | undefined) => (value == null ? "–" : pointed(value.toFixed(3)));

const rounded = (value: number) => String(Math.round(value * 10) / 10);
const bare = (value: number) => pointed(rounded(value));

/** A number to one decimal, where it has any. */
export const tenth = (value: number) => bare(value).replace("-", MINUS);

export const percent = (value: number | null | undefined) => (value == null ? "–" : bare(value));

/** A drift in words. */
export const late = (days: number | null | undefined) => {
  const w = words.format;
  if (days == null) return w.unknown;
  const shown = bare(Math.abs(days));
  if (shown === "0") return w.onTheDay;
  return days > 0 ? w.late(shown) : w.early(shown);
};

export const drift = (days: number) => `${days > 0 ? "+" : MINUS}${bare(Math.abs(days))} d`;

/** "6d" as "6 d", the way cells show time to go. */
export const span = (text: string | null | undefined) => (text ? pointed(text.replace(/(min|[a-z]+)$/, " $1")) : "");

/** What is chosen, in words. */
export const choice = (value: string) => words.choices[value] ?? value.replaceAll("_", " ");

/** Any figure of a working of a working, by its kind in the catalogue of figures. */
export const figure = (value: string | null | undefined, kind = "money") => {
  const w = words.format;
  if (value == null || value === "") return "–";
  if (/^\d{4}-\d{2}-\d{2}/.test(value)) return fullDay(value);
  if (kind === "flag") return value === "true" ? w.yes : w.no;
  if (!/^-?\d+(\.\d+)?$/.test(value)) return kind === "choice" ? choice(value) : value;
  if (kind === "ratio") return ratio(Number(value));
  if (kind === "number") return w.days(money(Number(value).toFixed(2)), Number(value));
  if (kind === "percent") return `${money(String(Math.round(Number(value) * 100) / 100))} %`;
  if (kind === "duration") return `${money(value)} min`;
  return money(value);
};

/** A sentence's part with its first letter in capital. */
export const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
/** The time of an instant of the clock, on the reader's clock. */
export const clock = (iso: string) =>
  new Date(iso).toLocaleTimeString(language(), { hour: "2-digit", minute: "2-digit", hourCycle: "h23" });
/** An instant to the minute, as the book has it. */
export const moment = (iso: string) => `${date(iso)} ${iso.slice(11, 16)}`;
/** Hours of work. */
export const hours = (value: number | null | undefined) => (value == null ? "–" : `${tenth(value)} h`);
