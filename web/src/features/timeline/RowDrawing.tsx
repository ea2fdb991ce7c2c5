import type { Schemas } from "../../api";
import { format } from "../../shared";
import { type Axis, BarDrawing, BracketDrawing, ExternalDrawing, Ghost, HeldPause, TIME_ROW } from "../../shared/time";
import { words } from "../../shared/words/timeline";
import { pauseDays } from "../plan";
import { FrontDrawing } from "./FrontDrawing";
import { Handles } from "./Handles";
import type { Front } from "./lines";
import { type Item, spanOf } from "./rows";
import type { BarHands, Drag } from "./useBars";

const w = words.timeline;

interface DrawingProps {
  item: Item;
  axis: Axis;
  front?: Front;
  label: string;
  strip: boolean;
  /** Whether it tells its dates. */
  dates: boolean;
  reach: (on: boolean) => void;
  /** What is being done to it, and where it would end. */
  held?: Drag;
  ends?: string;
  down?: BarHands["down"];
}

/** The pauses of a bar in words. */
const pausesOf = (bar: Schemas["Bar"] | undefined) =>
  (bar?.pauses ?? []).map(([from = "", to = "", reason = ""]) =>
    words.time.paused(format.day(from), format.day(to), reason),
  );

const dayNames = ([first, last]: readonly [string, string]) => [format.day(first), format.day(last)] as const;

/** A row over time: an activity, an element, or what another project does; with what is being done to it by hand. */
export function RowDrawing({ item, axis, front, label, strip, dates, reach, held, ends, down }: DrawingProps) {
  const { bar, bracket, outside } = item;
  const { start, finish } = spanOf(item);
  const told =
    dates && start && finish ? [w.span(format.day(start), format.day(finish)), ...pausesOf(bar)].join(", ") : "";
  return (
    <svg
      width={axis.width}
      height={TIME_ROW}
      data-bar={bar?.code}
      aria-hidden="true"
      onPointerEnter={() => reach(true)}
      onPointerLeave={() => reach(false)}
    >
      {bar ? (
        <BarDrawing bar={bar} axis={axis} label={[told, label].filter(Boolean).join(", ")} strip={strip} />
      ) : (
        bracket && <BracketDrawing bracket={bracket} axis={axis} label={told} />
      )}
      {outside && (
        <ExternalDrawing
          external={outside.external}
          wait={outside.wait}
          begins={outside.of.start}
          axis={axis}
          label={[told, outside.external.status && w.asOf(format.day(outside.external.status))]
            .filter(Boolean)
            .join(", ")}
        />
      )}
      {front && <FrontDrawing front={front} />}
      {bar && ends && <Ghost from={axis.x(bar.start)} to={axis.x(ends)} />}
      {bar && held?.part === "pause" && (
        <HeldPause
          from={held.from}
          to={held.to}
          says={words.time.pause(...dayNames(pauseDays(axis, held.from, held.to)))}
        />
      )}
      {bar && down && <Handles bar={bar} axis={axis} down={down} />}
    </svg>
  );
}
