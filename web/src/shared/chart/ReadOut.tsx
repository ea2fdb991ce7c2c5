import { Box } from "@chakra-ui/react";
import { type KeyboardEvent, type PointerEvent, useState } from "react";
import type { Schemas } from "../../api";
import { fullDay, money } from "../format";
import { words } from "../words";
import { AXIS, type Plot } from "./plot";
import { when } from "./when";

type CurveOut = Schemas["CurveOut"];

/** The figures at the place that the mouse or the arrow keys are at. */
export function ReadOut({ curve, plot, estimates }: { curve: CurveOut; plot: Plot; estimates: string[] }) {
  const [at, setAt] = useState<number | null>(null);
  const { points } = curve;
  const nearest = (x: number) =>
    points.reduce((best, p, i) => {
      const away = (k: number) => Math.abs(plot.x(when(points[k]?.end ?? p.end)) - x);
      return away(i) < away(best) ? i : best;
    }, 0);
  const move = (event: PointerEvent<HTMLElement>) =>
    setAt(nearest(event.clientX - event.currentTarget.getBoundingClientRect().left));
  const keys = (event: KeyboardEvent) => {
    const now = at ?? nearest(plot.x(when(curve.status)));
    const steps: Record<string, number> = { ArrowLeft: now - 1, ArrowRight: now + 1, Home: 0, End: points.length - 1 };
    const next = steps[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    setAt(Math.min(Math.max(next, 0), points.length - 1));
  };
  const point = at === null ? undefined : points[at];
  const reading = point ? readOut(point, estimates) : words.chart.readOut;
  return (
    <>
      <Box
        position="absolute"
        top="0"
        left="0"
        right="0"
        height={`${plot.height}px`}
        role="slider"
        tabIndex={0}
        aria-label={words.chart.readOutOf}
        aria-valuemin={0}
        aria-valuemax={points.length - 1}
        aria-valuenow={at ?? 0}
        aria-valuetext={reading}
        onPointerMove={move}
        onPointerLeave={() => setAt(null)}
        onKeyDown={keys}
        onBlur={() => setAt(null)}
      >
        {point && (
          <Box
            position="absolute"
            top="8px"
            height={`${plot.height - AXIS - 8}px`}
            left={`${plot.x(when(point.end))}px`}
            borderLeftWidth="1px"
            borderColor="ink"
            pointerEvents="none"
          />
        )}
      </Box>
      <Box
        minH="20px"
        fontSize="small"
        fontVariantNumeric="tabular-nums"
        color={point ? "ink" : "soft"}
        data-readout=""
      >
        {reading}
      </Box>
    </>
  );
}

/** The amounts of a point in words. */
function readOut(p: CurveOut["points"][number], estimates: string[]): string {
  const parts = [`PV ${money(p.pv)}`];
  if (p.ev !== null) parts.push(`EV ${money(p.ev)}`);
  if (p.ac !== null) parts.push(`AC ${money(p.ac)}`);
  if (p.forecast !== null && !estimates.length) parts.push(`${words.chart.forecast} ${money(p.forecast)}`);
  for (const key of estimates)
    if (p.forecasts[key]) parts.push(`${words.chart.eacs[key] ?? key} ${money(p.forecasts[key])}`);
  for (const [code, x] of Object.entries(p.others)) parts.push(`PV ${code} ${money(x)}`);
  return `${words.chart.upTo(fullDay(p.end))}: ${parts.join(", ")}`;
}
