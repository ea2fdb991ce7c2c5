import { type Room, words } from "../../shared";

export const room: Room = {
  path: "posting",
  word: words.stations.posting,
  screens: {
    "": () => import("./PostingScreen").then((m) => ({ Component: m.PostingScreen })),
    costs: () => import("./CostsScreen").then((m) => ({ Component: m.CostsScreen })),
    feeds: () => import("./FeedsScreen").then((m) => ({ Component: m.FeedsScreen })),
    hours: () => import("./HoursScreen").then((m) => ({ Component: m.HoursScreen })),
  },
};
