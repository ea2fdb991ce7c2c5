// Earned value: the screen, the balance line, and what the margin says of figures and activities.
export { ActivityNote } from "./ActivityNote";
export { BalanceLine } from "./BalanceLine";
export { FigureNote } from "./FigureNote";
export { room } from "./room";
