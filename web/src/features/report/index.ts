// The periodic report: facts from the figures, words from the analyst, editions that no longer change.
export { room } from "./room";
