import { type Room, words } from "../../shared";

export const room: Room = {
  path: "exchange",
  word: words.stations.exchange,
  screens: { "": () => import("./ExchangeScreen").then((m) => ({ Component: m.ExchangeScreen })) },
};
