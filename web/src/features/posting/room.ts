import { type Room, words } from "../../shared";

export const room: Room = {
  path: "posting",
  word: words.stations.posting,
  screens: {
    "": () => import("./PostingScreen").then((m) => ({ Component: m.PostingScreen })),
    answers: () => import("./AnswersScreen").then((m) => ({ Component: m.AnswersScreen })),
    costs: () => import("./CostsScreen").then((m) => ({ Component: m.CostsScreen })),
    feeds: () => import("./FeedsScreen").then((m) => ({ Component: m.FeedsScreen })),
    history: () => import("./HistoryScreen").then((m) => ({ Component: m.HistoryScreen })),
    hours: () => import("./HoursScreen").then((m) => ({ Component: m.HoursScreen })),
  },
};
