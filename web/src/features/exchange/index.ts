// Files in and out.
export { BringFile } from "./BringFile";
export { room } from "./room";
