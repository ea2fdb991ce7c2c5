import { type Room, words } from "../../shared";

export const room: Room = {
  path: "timeline",
  word: words.stations.timeline,
  screens: { "": () => import("./TimelineScreen").then((m) => ({ Component: m.TimelineScreen })) },
};
