import { type Room, words } from "../../shared";

export const room: Room = {
  path: "baselines",
  word: words.stations.baselines,
  screens: { "": () => import("./BaselinesScreen").then((m) => ({ Component: m.BaselinesScreen })) },
};
