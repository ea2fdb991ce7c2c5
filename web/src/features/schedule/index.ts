// The schedule drawn over time.
export { BarDrawing, BracketDrawing, DriftPattern } from "./BarDrawing";
export { type Axis, axisOf, type Scale } from "./scale";
export { TimelineScreen } from "./TimelineScreen";
