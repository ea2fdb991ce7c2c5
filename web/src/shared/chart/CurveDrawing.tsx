import { Box } from "@chakra-ui/react";
import { useMemo } from "react";
import type { Schemas } from "../../api";
import { drift, fullDay, money } from "../format";
import { DataTable } from "../ui";
import { words } from "../words";
import { AddedBars } from "./AddedBars";
import { before, type Label, LINE } from "./labels";
import { INKS, type Plot } from "./plot";
import { ReadOut } from "./ReadOut";
import { type CurveLine, SCurve, type Spot } from "./SCurve";
import { when } from "./when";

type CurveOut = Schemas["CurveOut"];

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
const dashOf = (i: number) => DASHES[i % DASHES.length];

/** Spots of the points that have an amount, up to the status date, from it, or all; at the status date itself `now`. */
function spotsOf(
  curve: CurveOut,
  of: (p: CurveOut["points"][number]) => string | null | undefined,
  part?: Spot,
  side?: 1,
) {
  const status = when(curve.status);
  const own = curve.points.flatMap((p): Spot[] => {
    const [t, amount] = [when(p.end), of(p)];
    const there = !part || (side ? t > status : t < status);
    return amount != null && there ? [[t, Number(amount)]] : [];
  });
  return part ? [...own, part].sort(([a], [b]) => a - b) : own;
}

/** The lines of a curve: planned value of all baselines, earned, actual, and the forecast or the estimates that are chosen. */
function linesOf(curve: CurveOut, estimates: string[]): CurveLine[] {
  const t = when(curve.status);
  const spent: Spot = [t, Number(curve.ac)];
  const others = Object.keys(curve.points[0]?.others ?? {});
  return [
    { key: "pv", name: words.measures.pv, spots: spotsOf(curve, (p) => p.pv), ink: "pv", dash: "6 4" },
    ...others.map((code, i) => ({
      key: `other ${code}`,
      name: `PV ${code}`,
      spots: spotsOf(curve, (p) => p.others[code]),
      ink: "soft",
      dash: dashOf(i),
      weight: 1.4,
    })),
    ...estimates.map((key, i) => ({
      key: `eac ${key}`,
      name: words.chart.eacs[key] ?? key,
      spots: spotsOf(curve, (p) => p.forecasts[key], spent, 1),
      ink: "ac",
      dash: dashOf(i),
      weight: 1.5,
    })),
    ...(estimates.length
      ? []
      : [
          {
            key: "forecast",
            name: words.chart.forecast,
            spots: spotsOf(curve, (p) => p.forecast, spent, 1),
            ink: "ac",
            dash: "2 4",
          },
        ]),
    { key: "ac", name: words.measures.ac, spots: spotsOf(curve, (p) => p.ac, spent), ink: "ac" },
    { key: "ev", name: words.measures.ev, spots: spotsOf(curve, (p) => p.ev, [t, Number(curve.ev)]), ink: "ev" },
  ];
}

/** Between the least and the largest of the estimates, from the status date on. */
function bandOf(curve: CurveOut, estimates: string[]) {
  if (estimates.length < 2) return undefined;
  const t = when(curve.status);
  const from = [t, Number(curve.ac), Number(curve.ac)] as const;
  const later = curve.points.flatMap((p) => {
    const found = estimates.flatMap((key) => (p.forecasts[key] === undefined ? [] : [Number(p.forecasts[key])]));
    return when(p.end) > t && found.length > 1 ? [[when(p.end), Math.min(...found), Math.max(...found)] as const] : [];
  });
  return [from, ...later];
}

/** The brackets of SV and CV beside the status date, and the stroke of the time gap. */
function strokesOf(curve: CurveOut) {
  const t = when(curve.status);
  const [first, last] = [when(curve.points[0]?.end ?? curve.status), when(curve.points.at(-1)?.end ?? curve.status)];
  const step = (last - first) / 90;
  const [pv, ev, ac] = [Number(curve.pv), Number(curve.ev), Number(curve.ac)];
  const bracket = (a: number, b: number, colour: string, out: number) => [
    { from: [t + out, a] as const, to: [t + out, b] as const, colour },
    { from: [t, a] as const, to: [t + out, a] as const, colour },
    { from: [t, b] as const, to: [t + out, b] as const, colour },
  ];
  const gap = curve.earned_on
    ? [{ from: [when(curve.earned_on), ev] as const, to: [t, ev] as const, colour: INKS.wet }]
    : [];
  return [
    ...(curve.sv ? bracket(ev, pv, INKS.ink, -step) : []),
    ...(curve.cv ? bracket(ev, ac, INKS.ac, step) : []),
    ...gap,
  ];
}

/** The figure of each gap, beside its bracket. */
function notesOf(curve: CurveOut, plot: Plot): Label[] {
  const at = plot.x(when(curve.status));
  const up = (amount: number | string) => plot.y(Number(amount));
  const middle = (a: string, b: string) => (up(a) + up(b)) / 2;
  const out: Label[] = [];
  if (curve.sv) {
    const text = `SV ${money(curve.sv)}`;
    out.push({ text, x: before(at - 14, text, plot), y: middle(curve.pv, curve.ev), colour: INKS.ink });
  }
  if (curve.cv) out.push({ text: `CV ${money(curve.cv)}`, x: at + 40, y: middle(curve.ac, curve.ev), colour: INKS.ac });
  if (curve.sv_t != null && curve.earned_on) {
    const text = drift(curve.sv_t);
    out.push({ text, x: before(at - 6, text, plot), y: up(curve.ev) + LINE, colour: INKS.wet });
  }
  return out;
}

/** The curve of a page: brackets for SV, CV and the time gap at the status date; a read-out and a table beside it. */
export function CurveDrawing({ curve, height, estimates: asked = NOBODY, bars = false }: Props) {
  const estimates = useMemo(() => asked.filter((key) => curve.eac[key] !== undefined), [asked, curve]);
  const lines = useMemo(() => linesOf(curve, estimates), [curve, estimates]);
  if (!curve.points.length) return null;
  return (
    <Box>
      <SCurve
        label={`${words.chart.curve}: ${curve.sentences.join(" ")}`}
        height={height}
        lines={lines}
        status={when(curve.status)}
        band={bandOf(curve, estimates)}
        strokes={strokesOf(curve)}
        notes={(plot) => notesOf(curve, plot)}
        under={(plot) => (
          <>
            {bars && <AddedBars curve={curve} plot={plot} />}
            <ReadOut curve={curve} plot={plot} estimates={estimates} />
          </>
        )}
      />
      {curve.sentences.map((s) => (
        <Box key={s} color="soft" fontSize="small" mt="2">
          {s}
        </Box>
      ))}
      <Box as="details" mt="6" fontSize="small">
        <Box as="summary" cursor="pointer" color="soft">
          {words.chart.table}
        </Box>
        <Box maxH="180px" overflow="auto" tabIndex={0} mt="4">
          <DataTable
            rows={curve.points}
            keyOf={(p) => p.end}
            columns={[
              { title: words.chart.to, cell: (p) => fullDay(p.end) },
              { title: words.measures.pv, kind: "num", cell: (p) => money(p.pv) },
              { title: words.measures.ev, kind: "num", cell: (p) => money(p.ev) },
              { title: words.measures.ac, kind: "num", cell: (p) => money(p.ac) },
              { title: words.chart.forecast, kind: "num", cell: (p) => money(p.forecast) },
            ]}
          />
        </Box>
      </Box>
    </Box>
  );
}
