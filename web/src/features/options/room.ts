import { type Room, words } from "../../shared";

export const room: Room = {
  path: "options",
  word: words.stations.options,
  screens: {
    "": () => import("./BoardScreen").then((m) => ({ Component: m.BoardScreen })),
    proposals: () => import("./ProposalsScreen").then((m) => ({ Component: m.ProposalsScreen })),
    levelling: () => import("./LevellingScreen").then((m) => ({ Component: m.LevellingScreen })),
  },
  margin: { option: () => import("./OptionNote").then((m) => ({ default: m.OptionNote })) },
};
