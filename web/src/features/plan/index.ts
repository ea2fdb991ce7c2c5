// The plan: the desk, a project's own page, the plan sheet with its timeline, calendars and resources.
export { CalendarsScreen } from "./CalendarsScreen";
export { DeskScreen } from "./DeskScreen";
export { PlanNote } from "./PlanNote";
export { PlanScreen } from "./PlanScreen";
export { ProjectScreen } from "./ProjectScreen";
export { ResourcesScreen } from "./ResourcesScreen";
export { usePlan } from "./usePlan";
