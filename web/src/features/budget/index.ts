// The budget: money by time, costs by kind, and top-down estimates.
export { room } from "./room";
