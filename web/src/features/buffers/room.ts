import { type Room, words } from "../../shared";

export const room: Room = {
  path: "buffers",
  word: words.stations.buffers,
  screens: { "": () => import("./BuffersScreen").then((m) => ({ Component: m.BuffersScreen })) },
};
