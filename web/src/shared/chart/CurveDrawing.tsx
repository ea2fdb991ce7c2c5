import { Box } from "@chakra-ui/react";
import { useMemo, useRef } from "react";
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  useXAxisScale,
  useYAxisScale,
  XAxis,
  YAxis,
  ZIndexLayer,
} from "recharts";
import { day, drift, fullDay, money } from "../format";
import { Table } from "../ui";
import { useWidth } from "../useWidth";
import { words } from "../words";
import { AddedBars } from "./AddedBars";
import { AXIS, type CurveOut, INKS, ink, RIGHT, when } from "./plot";
import { ReadOut } from "./ReadOut";

const amount = (text: string | null) => (text === null ? null : Number(text));

interface Shown extends Record<string, number | [number, number] | null> {
  t: number;
  pv: number | null;
  ev: number | null;
  ac: number | null;
  forecast: number | null;
}

/** The rows of the drawing: a line for each estimate that is chosen, the band between the least and the largest of them, and
 * the planned value of other baselines. */
function shown(curve: CurveOut, estimates: string[]): Shown[] {
  const status = when(curve.status);
  const band = (found: number[]): [number, number] | null =>
    found.length > 1 ? [Math.min(...found), Math.max(...found)] : null;
  const out: Shown[] = curve.points.map((p) => {
    const t = when(p.end);
    const row: Shown = { t, pv: amount(p.pv), ev: null, ac: null, forecast: null };
    for (const [code, x] of Object.entries(p.others)) row[`other ${code}`] = Number(x);
    if (t < status) return Object.assign(row, { ev: amount(p.ev), ac: amount(p.ac) });
    const found = estimates.flatMap((key) =>
      p.forecasts[key] === undefined ? [] : [[key, Number(p.forecasts[key])] as const],
    );
    for (const [key, x] of found) row[`eac ${key}`] = x;
    row.forecast = estimates.length ? null : amount(p.forecast);
    row.band = band(found.map(([, x]) => x));
    return row;
  });
  const ac = Number(curve.ac);
  const now: Shown = {
    t: status,
    pv: Number(curve.pv),
    ev: Number(curve.ev),
    ac,
    forecast: estimates.length ? null : ac,
  };
  for (const key of estimates) if (curve.eac[key] !== undefined) now[`eac ${key}`] = ac;
  if (estimates.length > 1) now.band = [ac, ac];
  out.push(now);
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
/** Where labels may begin, right of the amounts. */
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

interface Props {
  curve: CurveOut;
  height: number;
  /** The estimates whose forecasts are drawn; none: the bottom-up one as the forecast. */
  estimates?: string[];
  /** Whether what each bucket adds is drawn under it. */
  bars?: boolean;
}

const NOBODY: string[] = [];
const DASHES = ["2 4", "8 3", "5 2 1 2", "1 3", "10 2 2 2"];

/** Labels from the top down, each under the one before it: so their order is that of the lines they name. */
function below(labels: Label[]): Label[] {
  let last = Number.NEGATIVE_INFINITY;
  return labels.map((label) => {
    last = Math.max(label.y, last + LINE);
    return { ...label, y: last };
  });
}

/** Lines labelled at their ends; brackets for SV, CV and the time gap at the status date; a read-out and a table beside it. */
export const CurveDrawing = (props: Props) => (props.curve.points.length ? <Drawn {...props} /> : null);

function Drawn({ curve, height, estimates: asked = NOBODY, bars = false }: Props) {
  const { pv, ev, ac, ink: dark, soft, rule, wet } = INKS;
  const box = useRef<HTMLDivElement>(null);
  const estimates = useMemo(() => asked.filter((key) => curve.eac[key] !== undefined), [asked, curve]);
  const rows = useMemo(() => shown(curve, estimates), [curve, estimates]);
  const ticks = useMemo(() => monthTicks(rows), [rows]);
  const others = Object.keys(curve.points[0]?.others ?? {});
  const width = useWidth(box);
  const t = when(curve.status);
  const last = rows[rows.length - 1]?.t ?? t;
  const step = (last - (rows[0]?.t ?? t)) / 90;
  const now = { pv: Number(curve.pv), ev: Number(curve.ev), ac: Number(curve.ac) };
  const end = curve.points.at(-1);
  const named = [
    { text: words.measures.pv, value: Number(end?.pv), colour: pv },
    ...others.map((code) => ({ text: `PV ${code}`, value: Number(end?.others[code]), colour: soft })),
    ...(estimates.length
      ? estimates.map((key) => ({ text: words.chart.eacs[key] ?? key, value: Number(end?.forecasts[key]), colour: ac }))
      : [{ text: words.chart.forecast, value: Number(end?.forecast), colour: ac }]),
  ].sort((a, b) => b.value - a.value);
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
    <Box ref={box} position="relative">
      <Box height={`${height}px`} role="img" aria-label={`${words.chart.curve}: ${curve.sentences.join(" ")}`}>
        <ResponsiveContainer width="100%" height="100%">
          <ComposedChart data={rows} margin={{ top: 10, right: RIGHT, bottom: 0, left: 6 }} accessibilityLayer={false}>
            <CartesianGrid stroke={rule} vertical={false} />
            <XAxis
              dataKey="t"
              type="number"
              domain={["dataMin", "dataMax"]}
              ticks={ticks}
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
            {estimates.length > 1 && (
              <Area dataKey="band" stroke="none" fill={ac} fillOpacity={0.12} isAnimationActive={false} connectNulls />
            )}
            {others.map((code, i) => (
              <Line
                key={code}
                dataKey={`other ${code}`}
                stroke={soft}
                strokeDasharray={DASHES[i % 5]}
                {...common}
                strokeWidth={1.4}
              />
            ))}
            {estimates.map((key, i) => (
              <Line
                key={key}
                dataKey={`eac ${key}`}
                stroke={ac}
                strokeDasharray={DASHES[i % 5]}
                {...common}
                strokeWidth={1.5}
              />
            ))}
            <Line dataKey="forecast" stroke={ac} strokeDasharray="2 4" {...common} />
            <Line dataKey="ac" stroke={ac} {...common} />
            <Line dataKey="ev" stroke={ev} {...common} />
            {brackets.map((b) => (
              <ReferenceLine key={JSON.stringify(b.segment)} segment={b.segment} stroke={b.colour} strokeWidth={1.5} />
            ))}
            <ZIndexLayer zIndex={OVER}>
              <Labels curve={curve} t={t} last={last} named={named} height={height - AXIS} />
            </ZIndexLayer>
          </ComposedChart>
        </ResponsiveContainer>
      </Box>
      {bars && <AddedBars curve={curve} width={width} first={rows[0]?.t ?? t} last={last} />}
      <ReadOut curve={curve} width={width} first={rows[0]?.t ?? t} last={last} estimates={estimates} height={height} />
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
                <th data-num="">{words.measures.pv}</th>
                <th data-num="">{words.measures.ev}</th>
                <th data-num="">{words.measures.ac}</th>
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
  curve: CurveOut;
  t: number;
  last: number;
  named: { text: string; value: number; colour: string }[];
  height: number;
}

/** The names at the ends of the lines, and the figure of each gap beside its bracket. */
function Labels({ curve, t, last, named, height }: LabelProps) {
  const x = useXAxisScale();
  const y = useYAxisScale();
  if (!x || !y) return null;
  const at = (value: number) => x(value) ?? 0;
  const up = (value: number | string) => y(Number(value)) ?? 0;
  const middle = (a: string, b: string) => (up(a) + up(b)) / 2;
  const { ev, ac, wet } = INKS;
  const end = at(last) + 6;
  const labels: Label[] = [
    ...below(named.map((n) => ({ text: n.text, x: end, y: up(n.value), colour: n.colour, strong: true }))),
    { text: words.measures.ev, x: at(t) + 14, y: up(curve.ev), colour: ev, strong: true },
    { text: words.measures.ac, x: at(t) + 14, y: up(curve.ac), colour: ac, strong: true },
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
