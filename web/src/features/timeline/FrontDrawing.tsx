import { Box } from "@chakra-ui/react";
import { format } from "../../shared";
import { type Axis, TIME_ROW } from "../../shared/time";
import { words } from "../../shared/words/timeline";
import { type Front, type Lines, strength } from "./lines";

const WET = "var(--chakra-colors-wet)";

/** The hatching of what is behind, once a page. */
export const FrontHatch = () => (
  <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
    <pattern id="behind" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
      <path d="M0 0V5" stroke={WET} strokeWidth="1" opacity="0.55" />
    </pattern>
  </svg>
);

/** The fronts in a row: older ones as their edge alone, of the newest also what lies between it and its date. */
export function FrontDrawing({ front: { edges, between } }: { front: Front }) {
  const behind = (between?.days ?? 0) < 0;
  return (
    <>
      {between && (
        <rect
          x={Math.min(between.from, between.to)}
          width={Math.abs(between.to - between.from)}
          height={TIME_ROW}
          fill={behind ? "url(#behind)" : WET}
          opacity={behind ? 1 : 0.12}
        />
      )}
      {between && behind && (
        <text x={between.from - 4} y={TIME_ROW / 2 + 4} textAnchor="end" fontSize="11" fill={WET}>
          {format.tenth(-between.days)} d
        </text>
      )}
      {edges.map((d, n) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: a front is known by its place
          key={n}
          d={d}
          data-line={n}
          fill="none"
          stroke={WET}
          strokeWidth={n === edges.length - 1 ? 2 : 1}
          opacity={strength(n, edges.length)}
        />
      ))}
    </>
  );
}

/** The date of each line over the timeline, the newest strongest. */
export function LineDates({ lines, axis }: { lines: Lines; axis: Axis }) {
  const { lines: all } = lines;
  return (
    <>
      {all.map(({ date, page }, n) => (
        <Box
          key={date}
          position="absolute"
          top="1px"
          left={`${axis.x(date)}px`}
          transform="translateX(-50%)"
          fontSize="fine"
          color={n === all.length - 1 ? "wet" : "soft"}
          whiteSpace="nowrap"
          data-tip={words.timeline.lineAt(format.fullDay(date), page ?? "")}
        >
          {n === all.length - 1 || axis.x(all[n + 1]?.date ?? date) - axis.x(date) > 44 ? format.day(date) : ""}
        </Box>
      ))}
    </>
  );
}
