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
  ZIndexLayer,
} from "recharts";
import type { Schemas } from "../../api";
import { day, drift, fullDay, money } from "../format";
import { Table } from "../ui";
import { words } from "../words";

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

/** Labels are read over lines. */
const OVER = 3000;
const HALO = { paintOrder: "stroke", stroke: ink("sheet"), strokeWidth: 3 };
/** The room of the axis under the drawing. */
const AXIS = 30;

interface Label {
  text: string;
  x: number;
  /** Where its middle would best be. */
  y: number;
  colour: string;
  strong?: boolean;
}

const LINE = 15;
/** The width of a figure in a label. */
const WIDE = 7;
/** Where the drawing begins, right of the amounts. */
const LEFT = 76;
const OFFSETS = [0, -1, 1, -2, 2, -3, 3, -4, 4, -5, 5, -6, 6].map((n) => n * LINE);

/** Labels moved up or down, as little as it takes for none to lie on another or beyond the drawing. */
function apart(labels: Label[], height: number): Label[] {
  const placed: Label[] = [];
  const touch = (a: Label, b: Label) =>
    Math.abs(a.y - b.y) < LINE && a.x < b.x + b.text.length * WIDE && b.x < a.x + a.text.length * WIDE;
  for (const label of labels) {
    const tried = OFFSETS.map((by) => ({ ...label, y: label.y + by }));
    const free = tried.find((t) => t.y > LINE / 2 && t.y < height - LINE && !placed.some((p) => touch(t, p)));
    placed.push(free ?? label);
  }
  return placed;
}

/** Four lines labelled at their ends; brackets for SV, CV and the time gap at the status date; a table beside it. */
export function CurveDrawing({ curve, height }: { curve: Curve; height: number }) {
  const { pv, ev, ac, ink: dark, soft, rule, wet } = INKS;
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
    ...(curve.sv ? bracket(t, now.ev, now.pv, dark, -step) : []),
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
      <Box height={`${height}px`} role="img" aria-label={`${words.chart.curve}: ${curve.sentences.join(" ")}`}>
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
              tickMargin={7}
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
            <ZIndexLayer zIndex={OVER}>
              <Labels curve={curve} t={t} last={last} ends={ends} height={height - AXIS} />
            </ZIndexLayer>
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
          {words.chart.table}
        </Box>
        <Box maxH="180px" overflow="auto" tabIndex={0} mt="4px">
          <Table>
            <thead>
              <tr>
                <th>{words.chart.to}</th>
                <th data-num="">PV</th>
                <th data-num="">EV</th>
                <th data-num="">AC</th>
                <th data-num="">{words.chart.forecast}</th>
              </tr>
            </thead>
            <tbody>
              {curve.points.map((p) => (
                <tr key={p.end}>
                  <td>{fullDay(p.end)}</td>
                  <td data-num="">{money(p.pv)}</td>
                  <td data-num="">{money(p.ev)}</td>
                  <td data-num="">{money(p.ac)}</td>
                  <td data-num="">{money(p.forecast)}</td>
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
  curve: Curve;
  t: number;
  last: number;
  ends: { pv: number; forecast: number };
  height: number;
}

/** The names at the ends of the lines, and the figure of each gap beside its bracket. */
function Labels({ curve, t, last, ends, height }: LabelProps) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  if (!x || !y) return null;
  const at = (value: number) => x(value) ?? 0;
  const up = (value: number | string) => y(Number(value)) ?? 0;
  const middle = (a: string, b: string) => (up(a) + up(b)) / 2;
  const { pv, ev, ac, wet } = INKS;
  const end = at(last) + 6;
  const labels: Label[] = [
    { text: "PV", x: end, y: up(ends.pv), colour: pv, strong: true },
    { text: words.chart.forecast, x: end, y: up(ends.forecast), colour: ac, strong: true },
    { text: "EV", x: at(t) + 14, y: up(curve.ev), colour: ev, strong: true },
    { text: "AC", x: at(t) + 14, y: up(curve.ac), colour: ac, strong: true },
  ];
  /** A text that ends at a place, no further left than the drawing. */
  const before = (place: number, text: string) => Math.max(place - text.length * (WIDE - 0.6), LEFT);
  if (curve.sv) {
    const text = `SV ${money(curve.sv)}`;
    labels.push({ text, x: before(at(t) - 14, text), y: middle(curve.pv, curve.ev), colour: INKS.ink });
  }
  if (curve.cv)
    labels.push({ text: `CV ${money(curve.cv)}`, x: at(t) + 40, y: middle(curve.ac, curve.ev), colour: ac });
  if (curve.sv_t != null && curve.earned_on) {
    const text = drift(curve.sv_t);
    labels.push({ text, x: before(at(t) - 6, text), y: up(curve.ev) + LINE, colour: wet });
  }
  return (
    <g fontSize={11}>
      {apart(labels, height).map((l) => (
        <text key={l.text} x={l.x} y={l.y + 4} fill={l.colour} fontWeight={l.strong ? 600 : undefined} style={HALO}>
          {l.text}
        </text>
      ))}
    </g>
  );
}
