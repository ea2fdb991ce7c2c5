// Time drawn beside a sheet: the axis, its head and rules, and the drawings of what lies on it. Both timelines use it.
export { type Axis, axisOf, SCALES, type Scale } from "./axis";
export { BarDrawing, BracketDrawing, DoubleRule, DriftPattern } from "./BarDrawing";
export { Consequence } from "./Consequence";
export { BufferDrawing, DrawnTime } from "./DrawnTime";
export { ExternalDrawing } from "./ExternalDrawing";
export { Ghost, HeldPause } from "./Held";
export { HANDLES, TIME_ROW, TimeHead, TimeLine, TimeRules } from "./TimeLayers";
export { type Held, useGrip } from "./useGrip";
