// The plan: a project's own page, the plan sheet with its timeline, calendars and resources.
export { room } from "./room";
export type { Verb } from "./row";
export { usePlan } from "./usePlan";
