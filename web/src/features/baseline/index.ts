// The shelf of baselines and their differences.
export { BaselinesScreen } from "./BaselinesScreen";
