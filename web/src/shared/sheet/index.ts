// The one sheet of the application: cursor, blocks, editing, pasting, filling, sorting, drawing. Rooms bring rows and columns.
export { blockOf, copiedFrom } from "./clipboard";
export { type ListColumn, ListSheet, type ListWrite } from "./ListSheet";
export { Ahead, Ask, CellText, FoldButton, Landing, LeadBox, SheetSays } from "./parts";
export { ReadSheet } from "./ReadSheet";
export { Sheet, type SidePane } from "./Sheet";
export * from "./sheet";
export type { Begin, Begun, ListRow } from "./useBegun";
export { type Hands, useSheet, type Write } from "./useSheet";
