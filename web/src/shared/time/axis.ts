/** Where instants stand on the timeline, and its ticks. Positions are pixels from the first day shown. */
export type Scale = "day" | "week" | "month";
export const SCALES: Scale[] = ["day", "week", "month"];

const DAY = 86_400_000;
const WIDTHS: Record<Scale, number> = { day: 24, week: 8, month: 2.6 };

export const ms = (iso: string) => Date.parse(`${iso.length === 10 ? `${iso}T00:00` : iso}:00Z`);

export interface Axis {
  width: number;
  x: (iso: string) => number;
  /** The date at a place, as YYYY-MM-DD. */
  day: (x: number) => string;
  ticks: { x: number; label: string; ruled: boolean }[];
}

const label = (d: Date, scale: Scale) =>
  d.toLocaleDateString(
    "en-GB",
    scale === "month"
      ? { month: "short", year: "2-digit", timeZone: "UTC" }
      : { weekday: scale === "day" ? "short" : undefined, day: "numeric", month: "short", timeZone: "UTC" },
  );

/** An axis from the week before the first instant to some weeks after the last. */
export function axisOf(start: string, finish: string, scale: Scale): Axis {
  const per = WIDTHS[scale];
  const first = new Date(ms(start.slice(0, 10)) - 3 * DAY);
  first.setUTCDate(first.getUTCDate() - ((first.getUTCDay() + 6) % 7));
  const end = ms(finish.slice(0, 10)) + 21 * DAY;
  const days = Math.ceil((end - first.getTime()) / DAY);
  const x = (iso: string) => Math.round(((ms(iso) - first.getTime()) / DAY) * per * 10) / 10;
  const ticks: Axis["ticks"] = [];
  for (let i = 0; i < days; i++) {
    const d = new Date(first.getTime() + i * DAY);
    const monday = d.getUTCDay() === 1;
    const month = d.getUTCDate() === 1;
    if (scale === "day" || (scale === "week" && monday) || (scale === "month" && month))
      ticks.push({
        x: i * per,
        label: scale === "day" && !monday ? "" : scale === "week" && ticks.length % 2 ? "" : label(d, scale),
        ruled: scale !== "day" || monday,
      });
  }
  const day = (at: number) => new Date(first.getTime() + Math.floor(at / per) * DAY).toISOString().slice(0, 10);
  return { width: Math.ceil(days * per), x, day, ticks };
}
