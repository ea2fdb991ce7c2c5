// Earned value: the screen, the balance line, and what the margin says of figures and activities.
export { BalanceLine } from "./BalanceLine";
export { room } from "./room";
