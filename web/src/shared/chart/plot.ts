import { type ScaleLinear, type ScaleTime, scaleLinear, scaleUtc } from "d3-scale";
import { money } from "../format";

export const isoOf = (time: number | Date) => new Date(time).toISOString();

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

/** The room of the axis under a drawing, and over it. */
export const AXIS = 30;
const TOP = 10;
/** The widths of a figure of an axis, and of one of a name. */
const FIGURE = 6.5;
export const LETTER = 7;

/** Where times and amounts stand in a drawing. */
export interface Plot {
  x: ScaleTime<number, number>;
  y: ScaleLinear<number, number>;
  amounts: number[];
  left: number;
  right: number;
  width: number;
  height: number;
}

interface Given {
  width: number;
  height: number;
  times: number[];
  amounts: number[];
  /** The longest name at the end of a line, in letters. */
  longest: number;
}

/** The scales of a drawing: amounts from zero, or below it, with room for the longest of them and for the names of the lines. */
export function plotOf({ width, height, times, amounts, longest }: Given): Plot {
  const y = scaleLinear([Math.min(0, ...amounts), Math.max(1, ...amounts)], [height - AXIS, TOP]).nice(4);
  const ticks = y.ticks(4);
  const left = 14 + FIGURE * Math.max(...ticks.map((n) => money(String(n)).length));
  const right = Math.max(width - longest * LETTER - 12, left + 40);
  const x = scaleUtc([Math.min(...times), Math.max(...times)], [left, right]);
  return { x, y, amounts: ticks, left, right, width, height };
}
