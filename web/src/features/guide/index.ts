// The guide, opened where one is. Its pages are those of docs/guide.
export { Guide } from "./Guide";
