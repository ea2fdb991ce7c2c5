import { type Room, words } from "../../shared";

export const room: Room = {
  path: "marks",
  word: words.stations.marks,
  screens: { "": () => import("./MarksScreen").then((m) => ({ Component: m.MarksScreen })) },
};
