// The desk: all projects, and beginning a new one.
export { DeskScreen } from "./DeskScreen";
