import { blockOf } from "../../shared/sheet";
import type { HoursField } from "./useHours";

interface TypedHours {
  code: string;
  field: HoursField;
  text: string;
}

const FIELDS: HoursField[] = ["worked", "overtime", "to_go"];
const HEADS: [RegExp, HoursField][] = [
  [/over/i, "overtime"],
  [/remain|to go|left/i, "to_go"],
  [/hour|work/i, "worked"],
];

/** A pasted week, each line an activity with its hours, overtime and remaining; null where its lines name no activities. */
export function weekOf(text: string): TypedHours[] | null {
  const block = blockOf(text).map((cells) => cells.map((c) => c.trim()));
  const [first = []] = block;
  if (first.length < 2) return null;
  const heads = first.slice(1).map((h) => HEADS.find(([known]) => known.test(h))?.[1]);
  const headed = heads.every(Boolean);
  const lines = (headed ? block.slice(1) : block).filter((l) => l[0]);
  if (!lines.length || lines.some(([code = ""]) => /^[\d.,\s]*$/.test(code))) return null;
  return lines.flatMap(([code = "", ...cells]) =>
    cells.flatMap((cell, i) => {
      const field = headed ? heads[i] : FIELDS[i];
      return field && cell ? [{ code: code.split(" ")[0] ?? code, field, text: cell }] : [];
    }),
  );
}
