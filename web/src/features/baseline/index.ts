// The shelf of baselines and their differences.
export { room } from "./room";
