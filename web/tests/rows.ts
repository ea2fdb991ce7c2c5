import { allColumns } from "../src/features/plan/columns";
import { groundOf } from "../src/features/plan/conditions";
import { type Row, USUAL } from "../src/features/plan/row";
import { type Lens, linesOf } from "../src/features/plan/tree";

/** A row as the sheet holds it, of what a test names. */
export const row = (id: string, more: Partial<Row> = {}): Row => ({
  ...USUAL,
  id,
  code: id.toUpperCase(),
  name: `Row ${id}`,
  kind: id.startsWith("w") ? "wbs" : "task",
  order: Number(id.slice(1)),
  ...more,
});

export const mapOf = (rows: Row[]) => new Map(rows.map((r) => [r.id, r]));

/** Numbers that look random and are the same each time. */
export function chance(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
}

/** A tree of so many elements and activities, each under an element that came before it. */
export function forest(seed: number, count: number): Row[] {
  const pick = chance(seed);
  const out: Row[] = [];
  for (let i = 1; i <= count; i++) {
    const elements = out.filter((r) => r.kind === "wbs");
    const parent = elements.length && pick(4) ? (elements[pick(elements.length)]?.id ?? null) : null;
    out.push(row(`${pick(3) ? "a" : "w"}${i}`, { parent }));
  }
  return out;
}

const FIELDS = [
  ["agreed", "date"],
  ["depth", "number"],
  ["twice", "formula"],
] as const;

/** What conditions are read against: days of seven and a half hours, near a date in the middle of a year. */
export const ground = groundOf({ start: "2027-01-04T08:00", status: "2027-06-18T17:00", hours_per_day: 7.5 });

const field = (code: string, kind: string) => ({ code, name: code, kind, options: [], formula: "" });
/** Every column of a plan with a few fields of its own. */
export const columns = new Map(
  allColumns({
    fields: [field("zone", "text"), field("wet", "yes_no"), ...FIELDS.map(([code, kind]) => field(code, kind))],
    calendars: [],
    calendar: "c",
    hours_per_day: 7.5,
    responsible: [],
  }).map((c) => [c.key, c]),
);

/** The lines of a sheet. */
export const lay = (rows: Row[], folded: Set<string>, lens: Lens) => linesOf(rows, folded, lens, columns, ground);
