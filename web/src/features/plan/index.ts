// The plan: a project's own page, the plan sheet with its timeline, calendars and resources.

export { Answered } from "./Answered";
export { listOf } from "./listOf";
export { room } from "./room";
export type { Verb } from "./row";
export { usePlan } from "./usePlan";
export { pauseDays, pauseOf } from "./verbs";
