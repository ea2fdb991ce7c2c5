import { Box } from "@chakra-ui/react";
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  useXAxisScale,
  useYAxisScale,
  XAxis,
  YAxis,
} from "recharts";
import type { Schemas } from "../api";
import { day, drift, fullDay, money } from "./format";
import { Table } from "./ui";
import { words } from "./words";

type Curve = Schemas["CurveOut"];
const when = (iso: string) => Date.parse(`${iso}:00Z`);
const amount = (text: string | null) => (text === null ? null : Number(text));

const ink = (name: string) => `var(--chakra-colors-${name})`;
const INKS = {
  pv: ink("pv"),
  ev: ink("ev"),
  ac: ink("ac"),
  ink: ink("ink"),
  soft: ink("soft"),
  rule: ink("rule"),
  wet: ink("wet"),
};

interface Shown {
  t: number;
  pv: number | null;
  ev: number | null;
  ac: number | null;
  forecast: number | null;
}

function shown(curve: Curve): Shown[] {
  const status = when(curve.status);
  const out: Shown[] = curve.points.map((p) => ({
    t: when(p.end),
    pv: amount(p.pv),
    ev: null,
    ac: null,
    forecast: null,
  }));
  curve.points.forEach((p, i) => {
    const row = out[i];
    if (!row) return;
    if (row.t < status) Object.assign(row, { ev: amount(p.ev), ac: amount(p.ac) });
    else row.forecast = amount(p.forecast);
  });
  out.push({ t: status, pv: Number(curve.pv), ev: Number(curve.ev), ac: Number(curve.ac), forecast: Number(curve.ac) });
  return out.sort((a, b) => a.t - b.t);
}

const monthTicks = (rows: Shown[]) => {
  const seen = new Set<string>();
  return rows
    .map((r) => r.t)
    .filter((t) => {
      const month = new Date(t).toISOString().slice(0, 7);
      if (seen.has(month)) return false;
      seen.add(month);
      return true;
    });
};

const spread = (labels: { y: number; key: string }[]) => {
  const sorted = [...labels].sort((a, b) => a.y - b.y);
  sorted.forEach((label, i) => {
    const above = sorted[i - 1];
    if (above && label.y - above.y < 13) label.y = above.y + 13;
  });
  return sorted;
};

/** Four lines labelled at their ends; brackets for SV, CV and the time gap at the status date; a table beside it. */
export function CurveDrawing({ curve, height }: { curve: Curve; height: number }) {
  const { pv, ev, ac, ink, soft, rule, wet } = INKS;
  if (!curve.points.length) return null;
  const rows = shown(curve);
  const t = when(curve.status);
  const last = rows[rows.length - 1]?.t ?? t;
  const step = (last - (rows[0]?.t ?? t)) / 90;
  const now = { pv: Number(curve.pv), ev: Number(curve.ev), ac: Number(curve.ac) };
  const ends = { pv: rows.at(-1)?.pv ?? 0, forecast: rows.at(-1)?.forecast ?? 0 };
  const common = { isAnimationActive: false, dot: false, connectNulls: true, strokeWidth: 2 } as const;
  const bracket = (x: number, a: number, b: number, colour: string, out: number) => [
    {
      segment: [
        { x: x + out, y: a },
        { x: x + out, y: b },
      ] as const,
      colour,
    },
    {
      segment: [
        { x, y: a },
        { x: x + out, y: a },
      ] as const,
      colour,
    },
    {
      segment: [
        { x, y: b },
        { x: x + out, y: b },
      ] as const,
      colour,
    },
  ];
  const brackets = [
    ...(curve.sv ? bracket(t, now.ev, now.pv, ink, -step) : []),
    ...(curve.cv ? bracket(t, now.ev, now.ac, ac, step) : []),
    ...(curve.earned_on
      ? [
          {
            segment: [
              { x: when(curve.earned_on), y: now.ev },
              { x: t, y: now.ev },
            ] as const,
            colour: wet,
          },
        ]
      : []),
  ];
  return (
    <Box>
      <Box height={`${height}px`} role="img" aria-label={`${words.value.curve}: ${curve.sentences.join(" ")}`}>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={rows} margin={{ top: 10, right: 78, bottom: 0, left: 6 }} accessibilityLayer={false}>
            <CartesianGrid stroke={rule} vertical={false} />
            <XAxis
              dataKey="t"
              type="number"
              domain={["dataMin", "dataMax"]}
              ticks={monthTicks(rows)}
              stroke={rule}
              tick={{ fill: soft, fontSize: 11 }}
              tickFormatter={(v: number) =>
                new Date(v)
                  .toISOString()
                  .slice(0, 10)
                  .replace(/.*/, (d) => day(d))
              }
            />
            <YAxis
              width={66}
              stroke={rule}
              tick={{ fill: soft, fontSize: 11 }}
              tickFormatter={(v: number) => money(String(Math.round(v)))}
            />
            <ReferenceLine x={t} stroke={wet} strokeWidth={1.5} />
            <Line dataKey="pv" stroke={pv} strokeDasharray="6 4" {...common} />
            <Line dataKey="forecast" stroke={ac} strokeDasharray="2 4" {...common} />
            <Line dataKey="ac" stroke={ac} {...common} />
            <Line dataKey="ev" stroke={ev} {...common} />
            {brackets.map((b) => (
              <ReferenceLine key={JSON.stringify(b.segment)} segment={b.segment} stroke={b.colour} strokeWidth={1.5} />
            ))}
            <Gaps curve={curve} t={t} />
            <EndLabels t={t} last={last} now={now} ends={ends} colours={{ pv, ev, ac }} />
          </LineChart>
        </ResponsiveContainer>
      </Box>
      {curve.sentences.map((s) => (
        <Box key={s} color="soft" fontSize="12.5px" mt="2px">
          {s}
        </Box>
      ))}
      <Box as="details" mt="6px" fontSize="12px">
        <Box as="summary" cursor="pointer" color="soft">
          {words.value.table}
        </Box>
        <Box maxH="180px" overflow="auto" tabIndex={0} mt="4px">
          <Table className="plain">
            <thead>
              <tr>
                <th>To the end of</th>
                <th className="n">PV</th>
                <th className="n">EV</th>
                <th className="n">AC</th>
                <th className="n">Forecast</th>
              </tr>
            </thead>
            <tbody>
              {curve.points.map((p) => (
                <tr key={p.end}>
                  <td>{fullDay(p.end)}</td>
                  <td className="n">{money(p.pv)}</td>
                  <td className="n">{money(p.ev)}</td>
                  <td className="n">{money(p.ac)}</td>
                  <td className="n">{money(p.forecast)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </Box>
      </Box>
    </Box>
  );
}

interface LabelProps {
  t: number;
  last: number;
  now: { pv: number; ev: number; ac: number };
  ends: { pv: number; forecast: number };
  colours: { pv: string; ev: string; ac: string };
}

/** Names at the ends of the lines, moved apart where they would touch. */
function EndLabels({ t, last, now, ends, colours }: LabelProps) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  if (!x || !y) return null;
  const at = (scaled: number | undefined) => scaled ?? 0;
  const right = spread([
    { key: "PV", y: at(y(ends.pv)) },
    { key: "Forecast", y: at(y(ends.forecast)) },
  ]);
  const middle = spread([
    { key: "EV", y: at(y(now.ev)) },
    { key: "AC", y: at(y(now.ac)) },
  ]);
  const colour: Record<string, string> = { PV: colours.pv, Forecast: colours.ac, EV: colours.ev, AC: colours.ac };
  return (
    <g fontSize={12} fontWeight={600}>
      {right.map((l) => (
        <text key={l.key} x={at(x(last)) + 6} y={l.y + 4} fill={colour[l.key]}>
          {l.key}
        </text>
      ))}
      {middle.map((l) => (
        <text key={l.key} x={at(x(t)) + 14} y={l.y + 5} fill={colour[l.key]}>
          {l.key}
        </text>
      ))}
    </g>
  );
}

/** The figure of each gap beside its bracket. */
function Gaps({ curve, t }: { curve: Curve; t: number }) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  if (!x || !y) return null;
  const at = (scaled: number | undefined) => scaled ?? 0;
  const middle = (a: string, b: string) => (at(y(Number(a))) + at(y(Number(b)))) / 2;
  return (
    <g fontSize={11}>
      {curve.sv && (
        <text x={at(x(t)) - 14} y={middle(curve.pv, curve.ev) - 8} textAnchor="end" fill={INKS.ink}>
          SV {money(curve.sv)}
        </text>
      )}
      {curve.cv && (
        <text x={at(x(t)) + 46} y={middle(curve.ac, curve.ev) + 10} fill={INKS.ac}>
          CV {money(curve.cv)}
        </text>
      )}
      {curve.sv_t != null && curve.earned_on && (
        <text x={at(x(when(curve.earned_on))) - 6} y={at(y(Number(curve.ev))) + 4} textAnchor="end" fill={INKS.wet}>
          {drift(curve.sv_t)}
        </text>
      )}
    </g>
  );
}
