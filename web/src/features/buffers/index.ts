// Buffers: the critical chain of a page, the promise made of it, and how its buffers are used page by page.
export { room } from "./room";
