import { type Room, words } from "../../shared";

export const room: Room = {
  path: "budget",
  word: words.stations.budget,
  screens: { "": () => import("./BudgetScreen").then((m) => ({ Component: m.BudgetScreen })) },
};
