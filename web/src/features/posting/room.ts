import { type Room, words } from "../../shared";

export const room: Room = {
  path: "posting",
  word: words.stations.posting,
  screens: { "": () => import("./PostingScreen").then((m) => ({ Component: m.PostingScreen })) },
};
