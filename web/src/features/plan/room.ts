import { type Room, words } from "../../shared";

export const room: Room = {
  path: "plan",
  word: words.stations.plan,
  screens: {
    "": () => import("./PlanScreen").then((m) => ({ Component: m.PlanScreen })),
    "option/:option": () => import("./PlanScreen").then((m) => ({ Component: m.PlanScreen })),
    resources: () => import("./resources/ResourcesScreen").then((m) => ({ Component: m.ResourcesScreen })),
    calendars: () => import("./CalendarsScreen").then((m) => ({ Component: m.CalendarsScreen })),
    project: () => import("./ProjectScreen").then((m) => ({ Component: m.ProjectScreen })),
  },
  margin: {
    row: () => import("./PlanNote").then((m) => ({ default: m.PlanNote })),
    element: () => import("./ElementNote").then((m) => ({ default: m.ElementNote })),
    entry: () => import("./EntryNote").then((m) => ({ default: m.EntryNote })),
  },
};
