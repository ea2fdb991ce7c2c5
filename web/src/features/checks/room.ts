import { type Room, words } from "../../shared";

export const room: Room = {
  path: "checks",
  word: words.stations.checks,
  screens: { "": () => import("./ChecksScreen").then((m) => ({ Component: m.ChecksScreen })) },
  margin: { finding: () => import("./FindingNote").then((m) => ({ default: m.FindingNote })) },
};
