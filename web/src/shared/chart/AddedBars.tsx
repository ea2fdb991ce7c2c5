import type { Schemas } from "../../api";
import { money } from "../format";
import { words } from "../words";
import { INKS, type Plot } from "./plot";
import { when } from "./when";

const BARS = 84;
const ADDED = [
  { key: "added_pv", colour: INKS.pv },
  { key: "added_ev", colour: INKS.ev },
  { key: "added_ac", colour: INKS.ac },
] as const;

/** What each bucket adds to PV, EV and AC, as bars under the curve and on its time axis; what it takes away hangs below. */
export function AddedBars({ curve, plot }: { curve: Schemas["CurveOut"]; plot: Plot }) {
  const { x, left, right, width } = plot;
  const values = curve.points.flatMap((p) => ADDED.map(({ key }) => Number(p[key] ?? 0)));
  const high = Math.max(...values, 0);
  const low = Math.min(...values, 0);
  const y = (value: number) => 4 + ((high - value) / Math.max(high - low, 1)) * (BARS - 8);
  return (
    <svg width={width} height={BARS} role="img" aria-label={words.chart.added} style={{ display: "block" }}>
      <path d={`M${left} ${y(0)}H${right}`} stroke={INKS.rule} />
      <text x={left - 6} y={y(high) + 8} textAnchor="end" fontSize={11} fill={INKS.soft}>
        {money(String(Math.round(high)))}
      </text>
      <text x={right + 6} y={y(0)} fontSize={11} fill={INKS.soft}>
        {words.chart.inEach}
      </text>
      {curve.points.map((p, i) => {
        const end = x(when(p.end));
        const begin = i ? x(when(curve.points[i - 1]?.end ?? p.end)) : left;
        const wide = Math.max(Math.min((end - begin) * 0.26, 14), 0.8);
        const from = (begin + end) / 2 - wide * 1.5;
        return ADDED.map(({ key, colour }, n) => {
          const value = Number(p[key] ?? 0);
          if (!value) return null;
          return (
            <rect
              key={key}
              x={from + n * wide}
              y={Math.min(y(value), y(0))}
              width={wide * 0.86}
              height={Math.max(Math.abs(y(value) - y(0)), 0.6)}
              fill={colour}
            />
          );
        });
      })}
    </svg>
  );
}
