import { type Room, words } from "../../shared";

export const room: Room = {
  path: "value",
  word: words.stations.value,
  screens: { "": () => import("./ValueScreen").then((m) => ({ Component: m.ValueScreen })) },
};
