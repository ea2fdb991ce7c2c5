// The checks: findings as a working list, answers to them, the quality of the plan, and its limits.
export { room } from "./room";
