import { type Room, words } from "../../shared";

export const room: Room = {
  path: "value",
  word: words.stations.value,
  screens: { "": () => import("./ValueScreen").then((m) => ({ Component: m.ValueScreen })) },
  margin: {
    activity: () => import("./ActivityNote").then((m) => ({ default: m.ActivityNote })),
    figure: () => import("./FigureNote").then((m) => ({ default: m.FigureNote })),
  },
};
