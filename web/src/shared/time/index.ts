// Time drawn beside a sheet: the axis, its head and rules, and the drawings of what lies on it. Both timelines use it.
export { type Axis, axisOf, SCALES, type Scale } from "./axis";
export { BarDrawing, BracketDrawing, DoubleRule, DriftPattern } from "./BarDrawing";
export { BufferDrawing, DrawnTime } from "./DrawnTime";
export { HANDLES, TIME_ROW, TimeHead, TimeLine, TimeRules } from "./TimeLayers";
