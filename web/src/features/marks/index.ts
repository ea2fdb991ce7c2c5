// The marks: the rules that give them, as sentences that can be read aloud, tried before they are saved.
export { room } from "./room";
