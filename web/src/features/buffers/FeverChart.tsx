import { Box } from "@chakra-ui/react";
import { format } from "../../shared";
import { words } from "../../shared/words/buffers";
import type { Fever, Point } from "./useBuffers";

const w = words.buffers;
const ink = (name: string) => `var(--chakra-colors-${name})`;

interface Lines {
  watch: number[];
  act: number[];
}
interface Frame {
  width: number;
  height: number;
  left: number;
  top: number;
  bottom: number;
  right: number;
}
const WHOLE: Frame = { width: 520, height: 352, left: 52, top: 22, bottom: 44, right: 14 };
const SMALL: Frame = { width: 120, height: 84, left: 4, top: 4, bottom: 4, right: 4 };

const placed = (f: Frame, most: number) => ({
  x: (share: number) => f.left + share * (f.width - f.left - f.right),
  y: (share: number) => f.height - f.bottom - (Math.min(share, most) / most) * (f.height - f.top - f.bottom),
});

/** Use over progress, with its slanted zones and the trail of pages. A table beside it says the same. */
export function FeverChart({ fever, wet }: { fever: Fever; wet: boolean }) {
  const f = WHOLE;
  const most = topOf(fever.trail);
  const { x, y } = placed(f, most);
  const marks = [0, 0.5, 1];
  const points = fever.trail.filter((p) => p.use != null);
  return (
    <Box as="figure" m="0" flex="none">
      <svg width={f.width} height={f.height} role="img" aria-label={w.chart.label}>
        <Zones f={f} most={most} lines={fever} named />
        <path d={`M${x(0)} ${y(most)}V${y(0)}H${x(1)}`} fill="none" stroke={ink("rule-strong")} />
        {marks.map((m) => (
          <g key={m} fontSize={11} fill={ink("soft")}>
            <text x={f.left - 6} y={y(m) + 4} textAnchor="end">{`${m * 100} %`}</text>
            <text x={x(m)} y={f.height - f.bottom + 15} textAnchor={m === 1 ? "end" : "middle"}>{`${m * 100} %`}</text>
          </g>
        ))}
        <text x={f.left - 48} y={12} fontSize={11} fill={ink("soft")}>{`${w.chart.used} ↑`}</text>
        <text x={x(1)} y={f.height - 8} fontSize={11} fill={ink("soft")} textAnchor="end">{`${w.chart.done} →`}</text>
        <path d={trail(points, x, y)} fill="none" stroke={ink("ink")} strokeWidth={2} />
        {points.map((p, i) => {
          const last = i === points.length - 1;
          const now = last && wet;
          const [px, py] = [x(p.progress / 100), y((p.use ?? 0) / 100)];
          return (
            <g key={p.page}>
              <circle
                cx={px}
                cy={py}
                r={last ? 6.5 : 4.5}
                fill={now ? ink("wet") : last ? ink("ink") : ink("sheet")}
                stroke={now ? ink("wet") : ink("ink")}
                strokeWidth={2}
              />
              {spoken(points, i) && (
                <text
                  x={px + (last ? 11 : 7)}
                  y={py + (last ? -9 : 15)}
                  fontSize={11}
                  fontWeight={last ? 600 : 400}
                  fill={ink("ink")}
                  paintOrder="stroke"
                  stroke={ink("sheet")}
                  strokeWidth={3}
                >
                  {format.day(p.status)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </Box>
  );
}

/** A feeding chain's use over progress, small. */
export function SmallFever({ points, lines, label }: { points: Point[]; lines: Lines; label: string }) {
  const most = topOf(points);
  const { x, y } = placed(SMALL, most);
  const shown = points.filter((p) => p.use != null);
  const last = shown.at(-1);
  return (
    <svg width={SMALL.width} height={SMALL.height} role="img" aria-label={label}>
      <Zones f={SMALL} most={most} lines={lines} />
      <path d={`M${x(0)} ${y(most)}V${y(0)}H${x(1)}`} fill="none" stroke={ink("rule-strong")} />
      <path d={trail(shown, x, y)} fill="none" stroke={ink("ink")} strokeWidth={1.5} />
      {last && <circle cx={x(last.progress / 100)} cy={y((last.use ?? 0) / 100)} r={3.6} fill={ink("ink")} />}
    </svg>
  );
}

/** Only so many dates as can be read: of points that lie close together the last. */
function spoken(points: Point[], i: number) {
  const [here, next] = [points[i], points[i + 1]];
  if (!here || !next) return true;
  return next.progress - here.progress > 9 || Math.abs((next.use ?? 0) - (here.use ?? 0)) > 9;
}

const topOf = (points: Point[]) => Math.max(1.1, ...points.map((p) => (p.use ?? 0) / 100 + 0.08));

const trail = (points: Point[], x: (s: number) => number, y: (s: number) => number) =>
  points
    .map((p, i) => `${i ? "L" : "M"}${x(p.progress / 100).toFixed(1)} ${y((p.use ?? 0) / 100).toFixed(1)}`)
    .join("");

/** The zones: act hatched close, watch hatched wide, fine left white; told apart in grey too. */
function Zones({ f, most, lines, named }: { f: Frame; most: number; lines: Lines; named?: boolean }) {
  const { x, y } = placed(f, most);
  const [w0 = 0, w1 = 0] = lines.watch.map((percent) => percent / 100);
  const [a0 = 0, a1 = 0] = lines.act.map((percent) => percent / 100);
  const id = named ? "zone" : "small-zone";
  return (
    <>
      <defs>
        <pattern id={`${id}-act`} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V5" stroke={ink("act")} strokeWidth="1" opacity="0.55" />
        </pattern>
        <pattern id={`${id}-watch`} width="11" height="11" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V11" stroke={ink("watch")} strokeWidth="1" opacity="0.6" />
        </pattern>
      </defs>
      <path d={`M${x(0)} ${y(a0)}L${x(1)} ${y(a1)}V${y(most)}H${x(0)}Z`} fill={`url(#${id}-act)`} />
      <path d={`M${x(0)} ${y(w0)}L${x(1)} ${y(w1)}V${y(a1)}L${x(0)} ${y(a0)}Z`} fill={`url(#${id}-watch)`} />
      {[
        [w0, w1],
        [a0, a1],
      ].map(([from = 0, to = 0]) => (
        <path
          key={`${from}.${to}`}
          d={`M${x(0)} ${y(from)}L${x(1)} ${y(to)}`}
          stroke={ink("ink")}
          strokeWidth={named ? 1.4 : 0.8}
        />
      ))}
      <path d={`M${x(0)} ${y(1)}H${x(1)}`} stroke={ink("plum")} strokeWidth={named ? 1.6 : 1} strokeDasharray="5 3" />
      {named && (
        <g fontSize={12} paintOrder="stroke" stroke={ink("sheet")} strokeWidth={4}>
          <text x={x(1) - 6} y={y(1) - 5} textAnchor="end" fill={ink("plum")}>
            {w.chart.missed}
          </text>
          <text x={x(0.14)} y={y((a0 + 1) / 2)} fill={ink("act")}>
            {w.zone("act")}
          </text>
          <text x={x(0.8)} y={y((w0 + a0) / 2 + 0.8 * (w1 - w0)) + 4} fill={ink("watch")}>
            {w.zone("watch")}
          </text>
          <text x={x(0.86)} y={y(Math.max((w0 + 0.86 * (w1 - w0)) / 2, 0.08))} fill={ink("ink")}>
            {w.zone("fine")}
          </text>
        </g>
      )}
    </>
  );
}
