// Options: ways to win back time or money on top of the present plan, beside each other, proposed, levelled and adopted.
export { room } from "./room";
