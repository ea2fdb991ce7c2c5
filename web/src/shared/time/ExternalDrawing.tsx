import type { Schemas } from "../../api";
import type { Axis } from "./axis";
import { TIME_ROW } from "./TimeLayers";

const ink = (name: string) => `var(--chakra-colors-${name})`;
const TOP = 5;
const DEPTH = 11;

interface Props {
  external: Schemas["External"];
  wait: Schemas["Wait"];
  /** Where the activity below begins, which waits. */
  begins: string;
  axis: Axis;
  label: string;
}

/** What another project does, in a row of its own: an empty span, a square at the date that counts, and the way down to who waits. */
export function ExternalDrawing({ external: { start, finish }, wait, begins, axis, label }: Props) {
  const y = TOP + DEPTH / 2;
  const [a, b, at, to] = [axis.x(start), axis.x(finish), axis.x(wait.at), axis.x(begins)];
  const way = ink(wait.drives ? "ink" : "soft");
  return (
    <g stroke={ink("soft")} fill={ink("sheet")} data-outside={wait.code}>
      {b > a && <rect x={a} y={TOP} width={b - a} height={DEPTH} strokeDasharray="2 2" />}
      <path
        d={`M${at} ${y}H${to}V${TIME_ROW}`}
        fill="none"
        stroke={way}
        strokeWidth={wait.drives ? 1.6 : 1}
        strokeDasharray={wait.drives ? undefined : "3 2"}
      />
      <rect x={at - 3.5} y={y - 3.5} width={7} height={7} stroke={way} strokeWidth={1.4} />
      <text x={Math.max(b, to) + 8} y={TOP + 10} stroke="none" fill={ink("soft")}>
        {label}
      </text>
    </g>
  );
}
