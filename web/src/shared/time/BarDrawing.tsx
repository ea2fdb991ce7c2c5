import type { Schemas } from "../../api";
import * as format from "../format";
import type { Axis } from "./axis";

type Bar = Schemas["Bar"];
const ink = (name: string) => `var(--chakra-colors-${name.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)})`;
const TOP = 5;
const DEPTH = 11;
const BASE = 21;
const LATE = 0.05;

/** One activity over time: baseline bracket below, worked and to-go parts, drift, pauses, float, driving outline. */
export function BarDrawing({ bar, axis }: { bar: Bar; axis: Axis }) {
  return bar.kind === "milestone" && bar.start === bar.finish ? (
    <Pin bar={bar} axis={axis} />
  ) : (
    <Band bar={bar} axis={axis} />
  );
}

function Pin({ bar, axis }: { bar: Bar; axis: Axis }) {
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
      {moved && base !== null && (
        <path d={`M${base + 5} ${TOP + 12}H${x - 5}`} stroke={ink("act")} strokeDasharray="4 3" />
      )}
      <path d={`M${x} ${BASE + 3}V${TOP + 2}`} stroke={colour} strokeWidth={2} />
      <circle cx={x} cy={TOP + 2} r={4.6} fill={bar.state === "complete" ? ink("good") : colour} />
      <Drift bar={bar} x={x + 9} />
    </>
  );
}

function Band({ bar, axis }: { bar: Bar; axis: Axis }) {
  const start = axis.x(bar.start);
  const finish = Math.max(axis.x(bar.finish), start + 2);
  const worked = bar.worked_to ? Math.max(axis.x(bar.worked_to), start) : start;
  const resume = bar.resume ? Math.max(axis.x(bar.resume), worked) : worked;
  const base = bar.base_finish ? axis.x(bar.base_finish) : null;
  const base0 = bar.base_start ? axis.x(bar.base_start) : null;
  const open = bar.state !== "complete";
  const tail = open && base !== null && (bar.late_days ?? 0) >= LATE ? Math.max(base, resume) : finish;
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
      {bar.pauses.map(([from = "", to = ""]) => (
        <Gap key={from} from={axis.x(from)} to={axis.x(to)} start={start} finish={finish} />
      ))}
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
      <Drift bar={bar} x={finish + 8} />
    </>
  );
}

function Gap({ from, to, start, finish }: { from: number; to: number; start: number; finish: number }) {
  const a = Math.max(from, start);
  const b = Math.min(to, finish);
  if (b <= a) return null;
  return (
    <>
      <rect x={a} y={TOP - 1} width={b - a} height={DEPTH + 2} fill={ink("sheet")} />
      <path d={`M${a} ${TOP + DEPTH / 2}H${b}`} stroke={ink("band")} strokeDasharray="1.5 3" />
    </>
  );
}

function Drift({ bar, x }: { bar: Bar; x: number }) {
  const days = bar.late_days;
  if (days == null || Math.abs(days) < LATE || bar.state === "complete") return null;
  return (
    <text x={x} y={TOP + 10} fill={days > 0 ? ink("act") : ink("good")}>
      {format.drift(days)}
    </text>
  );
}

/** A WBS element: a bracket over its children with the earned share filled. */
export function BracketDrawing({ bracket, axis }: { bracket: Schemas["Bracket"]; axis: Axis }) {
  if (!bracket.start || !bracket.finish) return null;
  const a = axis.x(bracket.start);
  const b = axis.x(bracket.finish);
  return (
    <>
      <path d={`M${a} 21V9H${b}V21`} fill="none" stroke={ink("ink")} strokeWidth={1.3} />
      <rect x={a} y={9} width={Math.max((b - a) * bracket.done, 0)} height={5} fill={ink("ink")} />
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
