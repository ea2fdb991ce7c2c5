// The list of projects.
export { DeskScreen } from "./DeskScreen";
