// The posting sheet: what is said of each activity on the open page.
export { room } from "./room";
