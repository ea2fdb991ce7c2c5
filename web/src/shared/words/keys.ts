import { words as common } from "../words";
import { say } from "./named";

export const words = say({
  ...common,
  keyList: [
    ["/  or  Ctrl+K", "find an activity, go to a room or a page"],
    ["[  and  ]", "turn to the page before, to the next"],
    ["Arrows, Tab, Enter", "move on the sheet; Enter after Tabs returns to where the row began"],
    ["typing, F2", "replace a cell, change it"],
    ["Escape", "leave a cell as it was; then Tab leaves the sheet"],
    ["↑ from the first row", "the headings: Enter sorts, Shift+← and → size"],
    ["Delete", "clear the selected cells"],
    ["Shift+arrows, Ctrl+A", "select a block, all"],
    ["Ctrl+D", "fill down from the row above, or over the selection"],
    ["Enter, Insert, Ctrl+Enter", "plan: the next row, a row below"],
    ["Alt+Shift+→, Alt+Shift+←", "plan: indent, outdent"],
    ["Alt+Shift+↑, Alt+Shift+↓", "plan: move up, down"],
    ["Ctrl+L, Ctrl+M", "plan: chain the rows, make a milestone"],
    ["Ctrl+B", "plan: choose people for the rows"],
    ["Ctrl+Shift+Enter", "plan: into a new element"],
    ["Ctrl+Delete", "plan: delete rows"],
    ["Alt+drag", "timeline: draw a pause"],
    ["Ctrl+C, Ctrl+V", "copy, paste a block"],
    ["Ctrl+Z, Ctrl+Shift+Z", "undo, redo"],
    ["?", "this list"],
  ],
} as const);
