import type { Schemas } from "../../api";
import { type Axis, HANDLES, TIME_ROW } from "../../shared/time";
import { words } from "../../shared/words/timeline";
import type { BarHands, Part } from "./useBars";

type Bar = Schemas["Bar"];
const w = words.timeline.hands;
const HALF = 6;

interface Props {
  bar: Bar;
  axis: Axis;
  down: NonNullable<BarHands["down"]>;
}

/** What of a bar can be taken hold of: its ends, how far it is worked, and the whole of it. */
export function Handles({ bar, axis, down }: Props) {
  const a = axis.x(bar.start);
  const b = Math.max(axis.x(bar.finish), a + 2);
  const begun = bar.state !== "not_started";
  const pin = bar.kind === "milestone" && bar.start === bar.finish;
  const grip = (part: Part, from: number, to: number, look: string | undefined, says: string) => (
    <rect
      x={from}
      y={0}
      width={to - from}
      height={TIME_ROW}
      fill="transparent"
      className={look}
      data-handle={part}
      data-tip={says}
      onPointerDown={(e) => down(e, bar, part)}
    />
  );
  if (pin) return grip("start", a - HALF, a + HALF, HANDLES.grab, w.pin);
  const done = bar.done_to ? axis.x(bar.done_to) : null;
  const whole = !begun
    ? grip("start", a, b, HANDLES.grab, w.begin)
    : bar.state === "complete"
      ? null
      : grip("worked", a, b, HANDLES.stretch, w.worked);
  return (
    <>
      {whole}
      {begun && grip("start", a - HALF, a + HALF / 2, HANDLES.stretch, w.start)}
      {done !== null && grip("worked", done - HALF, done + HALF, HANDLES.stretch, w.worked)}
      {begun && grip("finish", b - HALF / 2, b + HALF, HANDLES.stretch, bar.state === "complete" ? w.ended : w.finish)}
    </>
  );
}
