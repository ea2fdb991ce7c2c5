// The plan: the desk, a project's own page, the plan sheet with its timeline, calendars and resources.
export { PlanNote } from "./PlanNote";
export { room } from "./room";
export { usePlan } from "./usePlan";
