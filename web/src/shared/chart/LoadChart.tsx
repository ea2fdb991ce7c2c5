import { Box } from "@chakra-ui/react";
import { type ReactNode, useRef } from "react";
import * as format from "../format";
import { DataTable, Soft, Tick } from "../ui";
import { useWidth } from "../useWidth";
import { words } from "../words/resources";

const w = words.resources;
const LEFT = 56;
const TALL = 120;
const DEEP = 44;
const LEAST = 10;
const TICK = 56;
/** The width of a figure. */
const FIGURE = 6.4;

/** Which shortfalls have their hours written: the deepest first, as far as none lies on another. */
function labelled(short: number[], x: (i: number) => number): Set<number> {
  const half = (i: number) => (w.short(Math.round(short[i] ?? 0)).length * FIGURE) / 2 + 2;
  const named: number[] = [];
  const deepest = short.map((_, i) => i).filter((i) => (short[i] ?? 0) > 0);
  deepest.sort((a, b) => (short[b] ?? 0) - (short[a] ?? 0));
  for (const i of deepest) if (named.every((j) => Math.abs(x(i) - x(j)) > half(i) + half(j))) named.push(i);
  return new Set(named);
}

interface Props {
  name: string;
  /** The ends of the buckets, and by bucket the hours required and available. */
  ends: string[];
  asked: number[];
  there: number[];
  /** By bucket what of it is required beyond what there is, in some minute. */
  short: number[];
  /** The buckets in which more is required than there is. */
  over: number[];
}

/** The load of a resource: what is available a line, what is required an area under it, what is short hanging below zero. */
export function LoadChart({ name, ends, asked, there, short, over }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const room = useWidth(box);
  if (!asked.some((h) => h > 0)) return <Soft as="p">{w.idle}</Soft>;
  const within = asked.map((hours, i) => hours - (short[i] ?? 0));
  const most = Math.max(...there, ...within, 1);
  const deepest = Math.max(...short);
  const step = Math.max(LEAST, (room - LEFT - 12) / asked.length);
  const x = (i: number) => LEFT + i * step;
  const y = (hours: number) => 6 + TALL - (hours / most) * TALL;
  const zero = y(0);
  const steps = (line: number[]) => line.map((h, i) => `L${x(i)} ${y(h)}H${x(i + 1)}`).join("");
  const every = Math.ceil(TICK / step);
  const named = labelled(short, (i) => x(i) + step / 2);
  const foot = zero + (deepest ? DEEP : 0);
  return (
    <Box overflowX="auto" ref={box}>
      <svg width={x(asked.length) + 12} height={foot + 22} role="img" aria-label={w.chart(name, over.length)}>
        <pattern id="over" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V5" stroke="var(--chakra-colors-act)" strokeWidth="1.6" />
        </pattern>
        <path
          d={`M${LEFT} ${zero}${steps(within)}V${zero}Z`}
          fill="var(--chakra-colors-band-soft)"
          stroke="var(--chakra-colors-band)"
        />
        <path d={`M${steps(there).slice(1)}`} fill="none" stroke="var(--chakra-colors-ink)" strokeWidth={1.6} />
        <path d={`M${LEFT} ${zero}H${x(asked.length)}`} stroke="var(--chakra-colors-ink)" />
        {asked.map((hours, i) => {
          const end = ends[i] ?? "";
          const lacking = short[i] ?? 0;
          const deep = deepest ? (lacking / deepest) * (DEEP - 16) + 4 : 0;
          return (
            <g key={end}>
              <title>{w.point(format.fullDay(end), hours, there[i] ?? 0)}</title>
              <rect x={x(i)} y={0} width={step} height={foot} fill="transparent" />
              {lacking > 0 && (
                <>
                  <rect
                    x={x(i)}
                    y={zero}
                    width={step}
                    height={deep}
                    fill="url(#over)"
                    stroke="var(--chakra-colors-act)"
                  />
                  {named.has(i) && (
                    <Tick x={x(i) + step / 2} y={zero + deep + 11} textAnchor="middle" color="act" fill="act">
                      {w.short(Math.round(lacking))}
                    </Tick>
                  )}
                </>
              )}
              {i % every === 0 && (
                <Tick x={x(i)} y={foot + 15}>
                  {format.day(end)}
                </Tick>
              )}
            </g>
          );
        })}
        {[0, most / 2, most].map((h) => (
          <Tick key={h} x={LEFT - 6} y={y(h) + 4} textAnchor="end">
            {Math.round(h)} h
          </Tick>
        ))}
        <Tick x={x(asked.length)} y={y(there.at(-1) ?? 0) + 13} textAnchor="end">
          {w.there}
        </Tick>
      </svg>
    </Box>
  );
}

interface TableProps extends Props {
  /** Who requires it in such a bucket. */
  causes: (bucket: number) => ReactNode;
  /** What is said where no bucket requires more than there is. */
  fits?: string;
}

/** The buckets in which more is required than there is, and by whom. */
export function LoadTable({ ends, asked, there, over, causes, fits = w.fits }: TableProps) {
  if (over.length === 0) return <Soft as="p">{fits}</Soft>;
  return (
    <DataTable
      caption={<Soft>{w.overTitle}</Soft>}
      rows={over}
      keyOf={(i) => i}
      columns={[
        { title: w.upTo, cell: (i) => format.fullDay(ends[i]) },
        { title: w.asked, kind: "num", cell: (i) => `${asked[i]} h` },
        { title: w.there, kind: "num", cell: (i) => `${there[i]} h` },
        { title: w.causes, cell: causes },
      ]}
    />
  );
}
