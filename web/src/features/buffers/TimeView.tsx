import { Box } from "@chakra-ui/react";
import { useRef } from "react";
import { format, useWidth } from "../../shared";
import { axisOf, BufferDrawing, DrawnTime } from "../../shared/time";
import { DataTable, Note } from "../../shared/ui";
import { words } from "../../shared/words/buffers";
import type { Buffers } from "./useBuffers";

const w = words.buffers;
const ink = (name: string) => `var(--chakra-colors-${name})`;
const ROW = 24;
const HEAD = 22;
const NAMES = 240;
const HELD = new Set(["waits", "binds"]);

interface Line {
  key: string;
  name: string;
  start: string;
  finish: string;
  buffer: boolean;
  days: number;
  /** Of a buffer how much of it has room. */
  room: number;
  /** To which chain it belongs: the chain itself, or the feeding chain of this number. */
  of: "chain" | number;
}

/** The chain and its feeding chains over time; buffers are drawn as what they are: room, not work. */
export function TimeView({ data }: { data: Buffers }) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const lines = linesOf(data);
  const place = new Map(lines.map((l, i) => [l.key, i]));
  const starts = lines.map((l) => l.start).sort();
  const ends = lines.map((l) => l.finish).sort();
  const axis = axisOf(starts[0] ?? data.status, ends.at(-1) ?? data.status, "fit", Math.max(width - NAMES - 90, 200));
  const height = HEAD + lines.length * ROW + 8;
  return (
    <Box ref={box}>
      <Note as="p">{w.legend}</Note>
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={w.timeLabel}>
          <g transform={`translate(${NAMES} 0)`}>
            <DrawnTime axis={axis} head={HEAD} height={height} status={data.status} />
            {lines.map((l, i) => {
              const y = HEAD + i * ROW + 5;
              const [a, b] = [axis.x(l.start), Math.max(axis.x(l.finish), axis.x(l.start) + 2)];
              return (
                <g key={l.key}>
                  <path d={`M${-NAMES} ${y + ROW - 5}H${width - NAMES}`} stroke={ink("rule")} />
                  <text
                    x={-NAMES + 14}
                    y={y + 11}
                    fontSize={12}
                    fontStyle={l.buffer ? "italic" : undefined}
                    fill={ink("ink")}
                  >
                    <title>{l.name}</title>
                    {l.name.length > 34 ? `${l.name.slice(0, 33)}…` : l.name}
                  </text>
                  {l.buffer ? (
                    <>
                      <BufferDrawing from={a} to={b} y={y} height={13} />
                      <text x={b + 6} y={y + 11} fontSize={11} fill={ink("plum")}>
                        {l.room < l.days - 0.05
                          ? w.roomOf(format.tenth(l.room), format.tenth(l.days))
                          : w.days(format.tenth(l.days))}
                      </text>
                    </>
                  ) : (
                    <rect
                      x={a}
                      y={y + 1}
                      width={b - a}
                      height={11}
                      fill={ink(l.of === "chain" ? "band" : "band-soft")}
                      stroke={ink("band")}
                    />
                  )}
                </g>
              );
            })}
            {data.hand_overs.map((h) => {
              const [from, to] = [place.get(h.source), place.get(h.target)];
              if (from === undefined || to === undefined || !h.finish || !h.start || !HELD.has(h.state)) return null;
              const [x1, x2] = [axis.x(h.finish), axis.x(h.start)];
              const [y1, y2] = [HEAD + from * ROW + 12, HEAD + to * ROW + 12];
              return (
                <path
                  key={`${h.source} ${h.target} ${h.resource}`}
                  d={`M${x1} ${y1}h5V${y2 - (y2 > y1 ? 7 : -7)}H${x2 + 2}V${y2 - (y2 > y1 ? 2 : -2)}`}
                  fill="none"
                  stroke={ink(h.state === "waits" ? "act" : "plum")}
                  strokeDasharray="3 2"
                >
                  <title>{w.handOver.line(h.source_name, h.target_name, h.resource_name)}</title>
                </path>
              );
            })}
          </g>
        </svg>
      )}
      <DataTable
        maxW="720px"
        rows={lines}
        keyOf={(l) => l.key}
        columns={[
          { title: w.plan, cell: (l) => l.name },
          { title: w.ofChain, cell: (l) => (l.of === "chain" ? w.theChain : w.feedingNo(l.of + 1)) },
          { title: w.chain.start, cell: (l) => format.date(l.start) },
          { title: w.chain.finish, cell: (l) => format.date(l.finish) },
          { title: w.chain.even, kind: "num", cell: (l) => w.days(format.tenth(l.days)) },
        ]}
      />
    </Box>
  );
}

/** The feeding chains each with its buffer, then the chain with the project buffer: promised buffers where there is a promise. */
function linesOf({ chain, fever }: Buffers): Line[] {
  const work = (rows: Buffers["chain"]["rows"], of: Line["of"]): Line[] =>
    rows.map((x) => ({
      key: x.code,
      name: x.name,
      start: x.start,
      finish: x.finish,
      buffer: false,
      days: x.days,
      room: x.days,
      of,
    }));
  const room = (key: string, name: string, of: Line["of"], b: Buffers["chain"]["buffer"] | undefined): Line[] =>
    b && b.days > 0 && b.end > b.start
      ? [{ key, name, start: b.start, finish: b.end, buffer: true, days: b.days, room: b.room_days, of }]
      : [];
  const feeding = chain.feeding.flatMap((f, i) => [
    ...work(f.rows, i),
    ...room(`f${i}`, w.bufferBefore(f.join_name), i, fever ? promisedFor(fever, f, i) : f.buffer),
  ]);
  const own = fever ? fever.buffer : chain.buffer;
  return [
    ...feeding,
    ...work(chain.rows, "chain"),
    ...room("project", w.projectBuffer(format.tenth(own?.days ?? 0)), "chain", own),
  ];
}

const promisedFor = (fever: NonNullable<Buffers["fever"]>, of: Buffers["chain"]["feeding"][number], i: number) =>
  (fever.feeding.find((f) => f.join === of.join && f.name === of.rows.at(-1)?.name) ?? fever.feeding[i])?.buffer;
