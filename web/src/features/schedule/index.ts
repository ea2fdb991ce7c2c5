// The schedule drawn over time.
export { BarDrawing, BracketDrawing, DriftPattern } from "./BarDrawing";
export { room } from "./room";
export { type Axis, axisOf, type Scale } from "./scale";
