import { type Room, words } from "../../shared";

export const room: Room = {
  path: "report",
  word: words.stations.report,
  screens: { "": () => import("./ReportScreen").then((m) => ({ Component: m.ReportScreen })) },
};
