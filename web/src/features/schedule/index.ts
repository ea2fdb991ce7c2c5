// The schedule drawn over time.
export { TimelineScreen } from "./TimelineScreen";
