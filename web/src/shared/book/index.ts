// The one way to write what belongs to a project: in line, with the revision that was seen, with one rule for what somebody
// else wrote meanwhile and one place for what was refused. Rooms come in here.
export { inLine, settled } from "./line";
export { Reads } from "./reads";
export { refresh } from "./refresh";
export { settleUnsent, useUnsent } from "./unsent";
export { type Asked, type Source, useSending, useUnfinished, useWrites } from "./useWrites";
