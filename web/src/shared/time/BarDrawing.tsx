import type { Schemas } from "../../api";
import * as format from "../format";
import { words } from "../words";
import type { Axis } from "./axis";
import { BufferDrawing } from "./DrawnTime";

type Bar = Schemas["Bar"];
const ink = (name: string) => `var(--chakra-colors-${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)})`;
const TOP = 5;
const DEPTH = 11;
const BASE = 21;
const LATE = 0.05;

/** One activity over time: baseline bracket below, worked and to-go parts, drift, pauses, float, driving outline. */
export function BarDrawing(props: BarProps) {
  const { bar, axis } = props;
  return (
    <>
      {Object.entries(bar.others).map(([code, [from = "", to = ""]], n) => (
        <Faint key={code} from={axis.x(from)} to={axis.x(to)} n={n} />
      ))}
      {bar.buffer && (
        <BufferDrawing from={axis.x(bar.buffer[0] ?? "")} to={axis.x(bar.buffer[1] ?? "")} y={BASE - 4} height={8} />
      )}
      {bar.kind === "milestone" && bar.start === bar.finish ? <Pin {...props} /> : <Band {...props} />}
    </>
  );
}

interface BarProps {
  bar: Bar;
  axis: Axis;
  /** What is written beside it. */
  label?: string;
  /** Whether drift is a strip from the baseline finish to the finish, in the place of the hatched tail. */
  strip?: boolean;
}

/** The bracket of another baseline: as the measured one's, fainter and higher for each. */
function Faint({ from, to, n }: { from: number; to: number; n: number }) {
  const low = BASE + 2 - 2 * n;
  return (
    <path
      d={`M${from} ${low - 3}v3H${Math.max(to, from + 2)}v-3`}
      fill="none"
      stroke={ink("soft")}
      strokeWidth={1}
      strokeDasharray="3 2"
      opacity={0.7}
    />
  );
}

function Pin({ bar, axis, label, strip }: BarProps) {
  const x = axis.x(bar.finish);
  const base = bar.base_finish ? axis.x(bar.base_finish) : null;
  const moved = base !== null && Math.abs(base - x) > 1;
  const colour = bar.driving ? ink("plum") : ink("ink");
  return (
    <>
      {base !== null && (
        <g stroke={ink("soft")} fill={ink("sheet")} strokeWidth={1.3}>
          <path d={`M${base} ${BASE + 3}V${TOP + 8}`} />
          <circle cx={base} cy={TOP + 5} r={3.4} />
        </g>
      )}
      {moved && base !== null && !strip && (
        <path d={`M${base + 5} ${TOP + 12}H${x - 5}`} stroke={ink("act")} strokeDasharray="4 3" />
      )}
      <path d={`M${x} ${BASE + 3}V${TOP + 2}`} stroke={colour} strokeWidth={2} />
      <circle cx={x} cy={TOP + 2} r={4.6} fill={bar.state === "complete" ? ink("good") : colour} />
      {strip && <Strip bar={bar} axis={axis} />}
      <BarLabels bar={bar} x={x + 9} label={label} />
    </>
  );
}

function Band({ bar, axis, label, strip }: BarProps) {
  const start = axis.x(bar.start);
  const finish = Math.max(axis.x(bar.finish), start + 2);
  const worked = bar.worked_to ? Math.max(axis.x(bar.worked_to), start) : start;
  const resume = bar.resume ? Math.max(axis.x(bar.resume), worked) : worked;
  const base = bar.base_finish ? axis.x(bar.base_finish) : null;
  const base0 = bar.base_start ? axis.x(bar.base_start) : null;
  const open = bar.state !== "complete";
  const late = open && base !== null && !strip && (bar.late_days ?? 0) >= LATE;
  const tail = late ? Math.max(base, resume) : finish;
  return (
    <>
      {base0 !== null && base !== null && (
        <path
          d={`M${base0} ${BASE}v4H${Math.max(base, base0 + 2)}v-4`}
          fill="none"
          stroke={ink("ruleStrong")}
          strokeWidth={1.4}
        />
      )}
      {worked > start && <rect x={start} y={TOP} width={worked - start} height={DEPTH} fill={ink("band")} />}
      {resume > worked + 1 && (
        <path d={`M${worked} ${TOP + DEPTH / 2}H${resume}`} stroke={ink("band")} strokeDasharray="1.5 3" />
      )}
      {open && finish > resume && (
        <>
          <rect
            x={resume}
            y={TOP}
            width={finish - resume}
            height={DEPTH}
            fill={ink("bandSoft")}
            stroke={ink("band")}
            strokeWidth={1}
          />
          {tail < finish && (
            <rect
              x={tail}
              y={TOP}
              width={finish - tail}
              height={DEPTH}
              fill="url(#drift)"
              stroke={ink("act")}
              strokeWidth={1}
            />
          )}
        </>
      )}
      {bar.pauses.map(([from = "", to = "", reason = ""]) => (
        <Gap
          key={from}
          from={axis.x(from)}
          to={axis.x(to)}
          start={start}
          finish={finish}
          says={words.time.paused(format.fullDay(from), format.fullDay(to), reason)}
        />
      ))}
      {bar.done_to && <path d={`m${axis.x(bar.done_to)} ${TOP + 3} -4 -6h8Z`} fill={ink("ink")} />}
      {bar.driving && (
        <>
          <rect
            x={start - 2.5}
            y={TOP - 2.5}
            width={finish - start + 5}
            height={DEPTH + 5}
            fill="none"
            stroke={ink("plum")}
            strokeWidth={1.8}
          />
          <path d={`m${start - 10} ${TOP + 1} 4 4.5-4 4.5`} fill="none" stroke={ink("plum")} strokeWidth={1.8} />
        </>
      )}
      {bar.float_to && !bar.driving && (bar.late_days ?? 0) < LATE && (
        <path
          d={`M${finish + 6} ${TOP + DEPTH / 2}H${Math.min(axis.x(bar.float_to), finish + 90)}`}
          stroke={ink("soft")}
          strokeWidth={2}
          strokeLinecap="round"
          strokeDasharray="0.1 7"
        />
      )}
      {strip && <Strip bar={bar} axis={axis} />}
      <BarLabels bar={bar} x={finish + 8} label={label} />
    </>
  );
}

interface GapProps {
  from: number;
  to: number;
  start: number;
  finish: number;
  says: string;
}

function Gap({ from, to, start, finish, says }: GapProps) {
  const a = Math.max(from, start);
  const b = Math.min(to, finish);
  if (b <= a) return null;
  return (
    <g data-tip={says}>
      <rect x={a} y={TOP - 1} width={b - a} height={DEPTH + 2} fill={ink("sheet")} />
      <path d={`M${a} ${TOP + DEPTH / 2}H${b}`} stroke={ink("band")} strokeDasharray="1.5 3" />
    </g>
  );
}

/** One short bar from the baseline finish to the finish: to the right late, to the left early. */
function Strip({ bar, axis }: { bar: Bar; axis: Axis }) {
  const days = bar.late_days;
  if (days == null || Math.abs(days) < LATE || !bar.base_finish) return null;
  const [a = 0, b = 0] = [axis.x(bar.base_finish), axis.x(bar.finish)].sort((x, y) => x - y);
  return (
    <rect
      data-strip=""
      x={a}
      y={TOP + DEPTH / 2 - 2}
      width={Math.max(b - a, 2)}
      height={4}
      fill={days > 0 ? ink("act") : ink("good")}
      stroke={ink("sheet")}
      strokeWidth={0.8}
    />
  );
}

/** The drift in days, and the label that is asked for. */
function BarLabels({ bar, x, label }: { bar: Bar; x: number; label?: string }) {
  const days = bar.late_days;
  const drifts = days != null && Math.abs(days) >= LATE && bar.state !== "complete";
  if (!drifts && !label) return null;
  return (
    <text x={x} y={TOP + 10} fill={ink("ink")}>
      {drifts && <tspan fill={days > 0 ? ink("act") : ink("good")}>{format.drift(days)}</tspan>}
      {label && <tspan dx={drifts ? 6 : 0}>{label}</tspan>}
    </text>
  );
}

/** Two hairlines, as under a ledger's total. */
export const DoubleRule = ({ from, to }: { from: number; to: number }) => (
  <path d={`M${from} 10.5H${to}M${from} 16.5H${to}`} stroke={ink("ink")} strokeWidth={1} shapeRendering="crispEdges" />
);

/** A WBS element: a double rule from its first start to its last finish, the share done set solid between them. */
export function BracketDrawing({ bracket, axis, label }: { bracket: Schemas["Bracket"]; axis: Axis; label: string }) {
  if (!bracket.start || !bracket.finish) return null;
  const a = axis.x(bracket.start);
  const b = axis.x(bracket.finish);
  return (
    <>
      <DoubleRule from={a} to={b} />
      <rect x={a} y={10} width={Math.max((b - a) * bracket.done, 0)} height={7} fill={ink("ink")} />
      <text x={b + 6} y={17} fontSize="11" fill={ink("ink")}>
        {label}
      </text>
    </>
  );
}

/** The hatching of drift, once a page. */
export function DriftPattern() {
  return (
    <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
      <pattern id="drift" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V5" stroke="var(--chakra-colors-act)" strokeWidth="1.6" />
      </pattern>
    </svg>
  );
}
