/** What the parts of a curve's drawing share: its colours, and where a time stands across it. */
import type { Schemas } from "../../api";

export type CurveOut = Schemas["CurveOut"];
export const when = (iso: string) => Date.parse(`${iso}:00Z`);

export const ink = (name: string) => `var(--chakra-colors-${name})`;
export const INKS = {
  pv: ink("pv"),
  ev: ink("ev"),
  ac: ink("ac"),
  ink: ink("ink"),
  soft: ink("soft"),
  rule: ink("rule"),
  wet: ink("wet"),
};

/** The room of the axis under the drawing, that of the amounts at its left, and that of names at its right. */
export const AXIS = 30;
export const PLOT = 72;
export const RIGHT = 102;

/** What is drawn over a curve: on its time axis, in the width that it has. */
export interface OverProps {
  curve: CurveOut;
  width: number;
  first: number;
  last: number;
}

/** Where a time stands across the drawing. */
export const across = (t: number, { first, last }: Pick<OverProps, "first" | "last">, width: number) =>
  PLOT + ((t - first) / Math.max(last - first, 1)) * Math.max(width - PLOT - RIGHT, 1);
