import { type Row, USUAL } from "../src/features/plan/row";

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
