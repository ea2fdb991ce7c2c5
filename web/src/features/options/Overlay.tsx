import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef } from "react";
import { client, type Schemas, take } from "../../api";
import { Bones, format, keys, Notice, usePlace, useWidth } from "../../shared";
import { type Axis, axisOf, DrawnTime } from "../../shared/time";
import { Note, Soft } from "../../shared/ui";
import { words } from "../../shared/words/options";
import { CurveOver } from "./CurveOver";
import type { Board } from "./useOptionWrites";

export type Laid = Schemas["OverlayOut"];
const w = words.options;
const ink = (name: string) => `var(--chakra-colors-${name})`;
const NAMES = 190;
const END = 110;
const HEAD = 22;

/** The present and the options laid over each other: where each ends, the activities that differ, or the cost. */
export function Overlay({ laid, board }: { laid: string; board: Board }) {
  const { project } = usePlace();
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const over = useQuery({
    queryKey: keys
      .project(project)
      .options.overlay(board.revision, board.options.map((o) => `${o.id}.${o.seen}`).join()),
    queryFn: () => take(client.GET("/api/projects/{project}/options/overlay", { params: { path: { project } } })),
  });
  const named = useMemo(() => {
    const codes = new Map(board.options.map((o) => [o.id, o.code]));
    return (id: number | null | undefined) => (id == null ? w.present : (codes.get(id) ?? ""));
  }, [board.options]);
  return (
    <Box ref={box}>
      {over.isPending && <Bones />}
      {over.isError && <Notice bad>{over.error.message}</Notice>}
      {over.data && width > 0 && laid === "ends" && <Ends over={over.data} board={board} width={width} named={named} />}
      {over.data && width > 0 && laid === "timeline" && <Times over={over.data} width={width} named={named} />}
      {over.data && width > 0 && laid === "curve" && <CurveOver over={over.data} named={named} />}
    </Box>
  );
}

interface Part {
  over: Laid;
  width: number;
  named: (id: number | null | undefined) => string;
}

/** From the earliest thing shown to the latest. */
function axisFor(over: Laid, width: number, from: string): Axis {
  const ends = [...over.laid.map((l) => l.finish), over.deadline ?? ""].sort();
  return axisOf(from, ends.at(-1) ?? from, "fit", width - NAMES - END);
}

function Ends({ over, board, width, named }: Part & { board: Board }) {
  const from = over.status ?? over.laid[0]?.finish ?? "";
  const axis = axisFor(over, width, from);
  const row = 26;
  const height = HEAD + over.laid.length * row + 16;
  const gap = new Map<number | null, number | null | undefined>([[null, board.present.deadline_days]]);
  for (const o of board.options) gap.set(o.id, o.standing?.deadline_days);
  const finish = (days: number | null | undefined) =>
    days == null ? "" : days > 0 ? w.after(format.tenth(days)) : days < 0 ? w.before(format.tenth(-days)) : w.onTime;
  return (
    <svg width={width} height={height} role="img" aria-label={w.endsLabel}>
      <g transform={`translate(${NAMES} 0)`}>
        <DrawnTime axis={axis} head={HEAD} status={over.status} deadline={over.deadline} height={height - 14} />
        {over.deadline && (
          <text x={axis.x(over.deadline) - 4} y={height - 3} fontSize={11} fill={ink("plum")} textAnchor="end">
            {w.deadline}
          </text>
        )}
        {over.laid.map((l, i) => {
          const y = HEAD + i * row + 8;
          const [a, b] = [axis.x(from), axis.x(l.finish)];
          const due = over.deadline ? Math.min(Math.max(axis.x(over.deadline), a), b) : b;
          return (
            <g key={l.option ?? "present"}>
              <text x={-NAMES + 14} y={y + 8} fontSize={12} fill={ink("ink")}>
                <title>{l.name || w.present}</title>
                {shortened(l.option == null ? w.present : `${named(l.option)} ${l.name}`)}
              </text>
              <rect
                x={a}
                y={y}
                width={Math.max(due - a, 0)}
                height={7}
                fill={l.option == null ? ink("band") : ink("band-soft")}
                stroke={ink("band")}
              />
              {b > due && <rect x={due} y={y} width={b - due} height={7} fill="url(#over)" stroke={ink("act")} />}
              <path d={`M${b} ${y + 9}V${y - 3}`} stroke={ink("ink")} strokeWidth={1.6} />
              <circle cx={b} cy={y - 3} r={3.6} fill={ink("ink")} />
              <text
                x={b + 8}
                y={y + 8}
                fontSize={11}
                fill={(gap.get(l.option ?? null) ?? 0) > 0 ? ink("act") : ink("ink")}
              >
                {`${format.day(l.finish)} ${finish(gap.get(l.option ?? null)) && `· ${finish(gap.get(l.option ?? null))}`}`}
              </text>
            </g>
          );
        })}
      </g>
      <Hatch />
    </svg>
  );
}

const shortened = (text: string) => (text.length > 27 ? `${text.slice(0, 26)}…` : text);

const Hatch = () => (
  <defs>
    <pattern id="over" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <path d="M0 0V5" stroke={ink("act")} strokeWidth="1.6" />
    </pattern>
  </defs>
);

const LINE = 9;

function Times({ over, width, named }: Part) {
  if (over.rows.length === 0) return <Soft>{w.noDifference}</Soft>;
  const starts = over.laid.flatMap((l) => Object.values(l.spans as Record<string, string[]>).map(([a = ""]) => a));
  const axis = axisFor(over, width, [over.status ?? "", ...starts].filter(Boolean).sort()[0] ?? "");
  const row = LINE * over.laid.length + 9;
  const height = HEAD + over.rows.length * row + 6;
  return (
    <>
      <Note as="p">{w.legend}</Note>
      <svg width={width} height={height} role="img" aria-label={w.timelineLabel}>
        <g transform={`translate(${NAMES} 0)`}>
          <DrawnTime axis={axis} head={HEAD} status={over.status} deadline={over.deadline} height={height} />
          {over.rows.map(([code = "", name = ""], i) => {
            const y = HEAD + i * row + 5;
            return (
              <g key={code}>
                <path d={`M${-NAMES} ${y + row - 5}H${width - NAMES}`} stroke={ink("rule")} />
                <text x={-NAMES + 14} y={y + 11} fontSize={12} fill={ink("ink")}>
                  <title>{name}</title>
                  {shortened(name)}
                </text>
                {over.laid.map((l, n) => {
                  const [a, b] = (l.spans as Record<string, string[]>)[code] ?? [];
                  if (!a || !b) return null;
                  const [x, end] = [axis.x(a), Math.max(axis.x(b), axis.x(a) + 2)];
                  const top = y + n * LINE;
                  return (
                    <g key={l.option ?? "present"}>
                      {l.option == null ? (
                        <rect
                          x={x}
                          y={top}
                          width={end - x}
                          height={LINE - 2}
                          fill={ink("band-soft")}
                          stroke={ink("band")}
                        />
                      ) : (
                        <>
                          <path
                            d={`M${x} ${top + 4}H${end}`}
                            stroke={ink("ink")}
                            strokeWidth={2}
                            strokeDasharray={DASHES[(n - 1) % DASHES.length]}
                          />
                          <text x={end + 4} y={top + 8} fontSize={11} fill={ink("ink")}>
                            {named(l.option)}
                          </text>
                        </>
                      )}
                    </g>
                  );
                })}
              </g>
            );
          })}
        </g>
      </svg>
      {over.more > 0 && <Soft as="p">{w.more(over.more)}</Soft>}
    </>
  );
}

/** How lines are told apart without colour. */
export const DASHES = ["none", "6 3", "2 2", "8 3 2 3", "1 4", "10 4"];
