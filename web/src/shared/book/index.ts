// The one way to write what belongs to a project: in line, with the revision that was seen, with one rule for what somebody
// else wrote meanwhile and one place for what was refused. Rooms come in here.
export { held, useHeld } from "./held";
export { inLine, settled } from "./line";
export { Reads } from "./reads";
export { refresh } from "./refresh";
export { revisionOf, see } from "./revision";
export { settleUnsent, useUnsent } from "./unsent";
export { usePreview } from "./usePreview";
export { type Asked, type Source, useSending, useUnfinished, useWrites } from "./useWrites";
