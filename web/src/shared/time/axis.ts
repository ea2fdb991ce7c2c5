import { day as dayOf, weekDay } from "../format";
import { firstDay } from "../formats";
import { language } from "../words/language";

/** Where instants stand on the timeline, and its ticks. Positions are pixels from the first day shown. */
export type Scale = "hour" | "day" | "week" | "month" | "quarter" | "year" | "fit";
export const SCALES: Scale[] = ["hour", "day", "week", "month", "quarter", "year", "fit"];

const DAY = 86_400_000;
/** The pixels of a day. */
const WIDTHS: Record<Scale, number> = { hour: 240, day: 24, week: 8, month: 2.6, quarter: 1.1, year: 0.42, fit: 8 };

export const ms = (iso: string) => Date.parse(`${iso.length === 10 ? `${iso}T00:00` : iso}:00Z`);

export interface Axis {
  width: number;
  /** The pixels of a day. */
  perDay: number;
  x: (iso: string) => number;
  /** The date at a place, as YYYY-MM-DD. */
  day: (x: number) => string;
  /** The instant at a place, to the nearest so many minutes. */
  at: (x: number, minutes: number) => string;
  ticks: { x: number; label: string; ruled: boolean }[];
}

const MONTHS = new Intl.DateTimeFormat(language(), { month: "short", year: "2-digit", timeZone: "UTC" });
const isoOf = (d: Date) => d.toISOString().slice(0, 10);

/** The scale whose ticks suit a width of a day. */
const suited = (per: number): Exclude<Scale, "fit"> =>
  per >= 120 ? "hour" : per >= 16 ? "day" : per >= 5 ? "week" : per >= 1.8 ? "month" : per >= 0.7 ? "quarter" : "year";

/** The tick of a day, if it has one: its label, and whether a rule goes down from it. */
function tickOf(d: Date, scale: Exclude<Scale, "fit">, count: number): { label: string; ruled: boolean } | null {
  const begins = d.getUTCDay() === firstDay();
  const first = d.getUTCDate() === 1;
  const month = d.getUTCMonth();
  if (scale === "hour") return { label: weekDay(isoOf(d)), ruled: true };
  if (scale === "day") return { label: begins ? weekDay(isoOf(d)) : "", ruled: begins };
  if (scale === "week") return begins ? { label: count % 2 ? "" : dayOf(isoOf(d)), ruled: true } : null;
  if (scale === "month") return first ? { label: MONTHS.format(d), ruled: true } : null;
  if (scale === "quarter") return first && month % 3 === 0 ? { label: MONTHS.format(d), ruled: true } : null;
  return first && month === 0 ? { label: String(d.getUTCFullYear()), ruled: true } : null;
}

/** The hours of a day that have a tick of their own. */
const HOURS = [6, 12, 18];

/**
 * An axis from the week before the first instant to some weeks after the last; `fit` makes it as wide as the room there is.
 */
export function axisOf(start: string, finish: string, scale: Scale, room = 0): Axis {
  const first = new Date(ms(start.slice(0, 10)) - 3 * DAY);
  first.setUTCDate(first.getUTCDate() - ((first.getUTCDay() + 7 - firstDay()) % 7));
  const end = ms(finish.slice(0, 10)) + 21 * DAY;
  const days = Math.ceil((end - first.getTime()) / DAY);
  const per = scale === "fit" ? Math.max(room / days, 0.05) : WIDTHS[scale];
  const drawn = scale === "fit" ? suited(per) : scale;
  const x = (iso: string) => Math.round(((ms(iso) - first.getTime()) / DAY) * per * 10) / 10;
  const ticks: Axis["ticks"] = [];
  for (let i = 0; i < days; i++) {
    const tick = tickOf(new Date(first.getTime() + i * DAY), drawn, ticks.length);
    if (tick) ticks.push({ x: i * per, ...tick });
    if (drawn === "hour") for (const h of HOURS) ticks.push({ x: (i + h / 24) * per, label: `${h}:00`, ruled: false });
  }
  const day = (at: number) => new Date(first.getTime() + Math.floor(at / per) * DAY).toISOString().slice(0, 10);
  const at = (place: number, minutes: number) => {
    const step = minutes * 60_000;
    return new Date(first.getTime() + Math.round(((place / per) * DAY) / step) * step).toISOString().slice(0, 16);
  };
  return { width: Math.ceil(days * per), perDay: per, x, day, at, ticks };
}
