// The thin client and the generated types. Every feature may use it; nothing else talks to the server.
export { type Change, client, Problem, type Schemas, take } from "./client";
