import { Box } from "@chakra-ui/react";
import { area, line } from "d3-shape";
import { utcFriday, utcMonday, utcSaturday, utcSunday, utcThursday, utcTuesday, utcWednesday } from "d3-time";
import { type ReactNode, useMemo, useRef } from "react";
import { date, day, money } from "../format";
import { firstDay } from "../formats";
import { useWidth } from "../useWidth";
import { apart, below, type Label } from "./labels";
import { AXIS, INKS, ink, isoOf, type Plot, plotOf } from "./plot";

/** A place of a line: a time and an amount. */
export type Spot = readonly [time: number, amount: number];

export interface CurveLine {
  key: string;
  /** What stands at its end. */
  name: string;
  spots: Spot[];
  ink: string;
  dash?: string;
  weight?: number;
}

export interface CurveProps {
  /** What it shows, in words. */
  label: string;
  height: number;
  lines: CurveLine[];
  status?: number;
  /** Between which amounts something lies. */
  band?: (readonly [time: number, low: number, high: number])[];
  /** Strokes from one spot to another, such as brackets. */
  strokes?: { from: Spot; to: Spot; colour: string }[];
  /** More texts in the drawing. */
  notes?: (plot: Plot) => Label[];
  /** What stands under it, on its time axis. */
  under?: (plot: Plot) => ReactNode;
}

const HALO = { paintOrder: "stroke", stroke: ink("sheet"), strokeWidth: 3 };
const TICK = 84;
const WEEKS = [utcSunday, utcMonday, utcTuesday, utcWednesday, utcThursday, utcFriday, utcSaturday];
const WEEK = 7 * 86_400_000;
/** Beyond so many days the year stands in the axis. */
const LONG = 400 * 86_400_000;

/** The days of the axis; where they are weeks, the days on which the reader's weeks begin. */
function ticksOf({ x, left, right }: Plot): Date[] {
  const found = x.ticks(Math.max(2, Math.floor((right - left) / TICK)));
  const weeks = Number(found[1]) - Number(found[0]) === WEEK;
  return weeks ? x.ticks(WEEKS[firstDay()] ?? utcMonday) : found;
}

/** Amounts over time, cumulative: each line named at its end, the status date a rule across them. */
export function SCurve(props: CurveProps) {
  const { lines, height, label, under } = props;
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const plot = useMemo(() => {
    const spots = lines.flatMap((l) => l.spots);
    if (!spots.length || !width) return null;
    const longest = Math.max(...lines.map((l) => l.name.length));
    return plotOf({ width, height, times: spots.map(([t]) => t), amounts: spots.map(([, n]) => n), longest });
  }, [lines, width, height]);
  return (
    <Box ref={box} position="relative">
      <Box height={`${height}px`} role="img" aria-label={label}>
        {plot && <Drawing {...props} plot={plot} />}
      </Box>
      {plot && under?.(plot)}
    </Box>
  );
}

function Drawing({ lines, height, status, band, strokes = [], notes, plot }: CurveProps & { plot: Plot }) {
  const { x, y, left, right, width } = plot;
  const [from = 0, to = 0] = x.domain().map(Number);
  const dayOf = to - from > LONG ? date : day;
  const path = line<Spot>(
    ([t]) => x(t),
    ([, n]) => y(n),
  );
  const shade = area<readonly [number, number, number]>(
    ([t]) => x(t),
    ([, low]) => y(low),
    ([, , high]) => y(high),
  );
  const names = lines.flatMap((l): (Label & { last: boolean })[] => {
    const [t, n] = l.spots.at(-1) ?? [0, 0];
    const last = x(t) > right - 60;
    return l.spots.length && l.name
      ? [{ text: l.name, x: last ? right + 6 : x(t) + 14, y: y(n), colour: ink(l.ink), strong: true, last }]
      : [];
  });
  const labels = [...below(names.filter((n) => n.last)), ...names.filter((n) => !n.last), ...(notes?.(plot) ?? [])];
  return (
    <svg width={width} height={height} aria-hidden="true" fontSize={11}>
      {plot.amounts.map((n) => (
        <g key={n}>
          <path d={`M${left} ${y(n)}H${right}`} stroke={INKS.rule} />
          <text x={left - 6} y={y(n) + 4} textAnchor="end" fill={INKS.soft}>
            {money(String(n))}
          </text>
        </g>
      ))}
      {ticksOf(plot).map((t) => (
        <g key={isoOf(t)}>
          <path d={`M${x(t)} ${height - AXIS}v4`} stroke={INKS.rule} />
          <text x={x(t)} y={height - 10} textAnchor="middle" fill={INKS.soft}>
            {dayOf(isoOf(t))}
          </text>
        </g>
      ))}
      {band && <path d={shade(band) ?? undefined} fill={INKS.ac} fillOpacity={0.12} />}
      {status !== undefined && (
        <path d={`M${x(status)} ${y.range()[1]}V${height - AXIS}`} stroke={INKS.wet} strokeWidth={1.5} />
      )}
      {lines.map((l) => (
        <path
          key={l.key}
          data-line={l.key}
          d={path(l.spots) ?? undefined}
          fill="none"
          stroke={ink(l.ink)}
          strokeWidth={l.weight ?? 2}
          strokeDasharray={l.dash}
          strokeLinejoin="round"
        />
      ))}
      {strokes.map(({ from: a, to: b, colour }) => (
        <path key={`${a} ${b}`} d={path([a, b]) ?? undefined} stroke={colour} strokeWidth={1.5} />
      ))}
      {apart(labels, height - AXIS).map((l) => (
        <text key={l.text} x={l.x} y={l.y + 4} fill={l.colour} fontWeight={l.strong ? 600 : undefined} style={HALO}>
          {l.text}
        </text>
      ))}
    </svg>
  );
}
