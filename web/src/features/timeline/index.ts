// The schedule drawn over time.
export { room } from "./room";
