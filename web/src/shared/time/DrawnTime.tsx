import type { Axis } from "./axis";

const ink = (name: string) => `var(--chakra-colors-${name})`;
/** How far apart two labels stand at least, and how far from the right end. */
const APART = 54;
const END = 20;

interface TimeProps {
  axis: Axis;
  /** How high the head is, and how far down the rules go. */
  head: number;
  height: number;
  status?: string | null | undefined;
  deadline?: string | null | undefined;
}

/** Dates over a drawing and the rules under it: ticks, status date, deadline. */
export function DrawnTime({ axis, head, height, status, deadline }: TimeProps) {
  let last = Number.NEGATIVE_INFINITY;
  return (
    <>
      {axis.ticks.map((t) => {
        const labelled = t.label && t.x - last > APART && t.x < axis.width - END;
        if (labelled) last = t.x;
        return (
          <g key={t.x}>
            {t.ruled && <path d={`M${t.x} ${head}V${height}`} stroke={ink("rule")} />}
            {labelled && (
              <text x={t.x + 3} y={head - 8} fontSize={11} fill={ink("soft")}>
                {t.label}
              </text>
            )}
          </g>
        );
      })}
      {status && <path d={`M${axis.x(status)} ${head}V${height}`} stroke={ink("wet")} strokeWidth={2} />}
      {deadline && (
        <path
          d={`M${axis.x(deadline)} ${head}V${height}`}
          stroke={ink("plum")}
          strokeWidth={1.6}
          strokeDasharray="5 3"
        />
      )}
    </>
  );
}

interface BufferProps {
  from: number;
  to: number;
  y: number;
  height: number;
}

/** A buffer: room, not work. */
export const BufferDrawing = ({ from, to, y, height }: BufferProps) => (
  <rect
    data-buffer=""
    x={from}
    y={y}
    width={Math.max(to - from, 3)}
    height={height}
    rx={height / 2}
    fill="none"
    stroke={ink("plum")}
    strokeWidth={1.4}
    strokeDasharray="2 2.5"
  />
);
