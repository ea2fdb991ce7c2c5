import { LETTER, type Plot } from "./plot";

/** A text in a drawing, that would best have its middle at `y`. */
export interface Label {
  text: string;
  x: number;
  y: number;
  colour: string;
  strong?: boolean;
}

export const LINE = 15;
const OFFSETS = [0, -1, 1, -2, 2, -3, 3, -4, 4, -5, 5, -6, 6].map((n) => n * LINE);

/** Labels moved up or down, as little as it takes for none to lie on another or beyond the drawing. */
export function apart(labels: Label[], height: number): Label[] {
  const placed: Label[] = [];
  const touch = (a: Label, b: Label) =>
    Math.abs(a.y - b.y) < LINE && a.x < b.x + b.text.length * LETTER && b.x < a.x + a.text.length * LETTER;
  for (const label of labels) {
    const tried = OFFSETS.map((by) => ({ ...label, y: label.y + by }));
    const free = tried.find((t) => t.y > LINE / 2 && t.y < height - LINE && !placed.some((p) => touch(t, p)));
    placed.push(free ?? label);
  }
  return placed;
}

/** Labels from the top down, each under the one before it: so their order is that of the lines they name. */
export function below(labels: Label[]): Label[] {
  let last = Number.NEGATIVE_INFINITY;
  return [...labels]
    .sort((a, b) => a.y - b.y)
    .map((label) => {
      last = Math.max(label.y, last + LINE);
      return { ...label, y: last };
    });
}

/** Where a text begins that ends at a place, no further left than the drawing. */
export const before = (place: number, text: string, { left }: Plot) =>
  Math.max(place - text.length * (LETTER - 0.6), left + 4);
