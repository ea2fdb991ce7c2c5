// The API: generated types and one thin client.
export { type Change, client, Problem, type Schemas, sendFile, take } from "./client";
export { isExpired, onExpiry, settleExpired } from "./expiry";
