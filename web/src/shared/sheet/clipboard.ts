/** A block of cells as spreadsheets put it on the clipboard: lines of cells apart by tabs. */
export const blockOf = (text: string) => text.split("\n").map((line) => line.split("\t"));

/** What was copied, with the line ends of one system. */
export const plainText = (data: DataTransfer) => data.getData("text/plain").replace(/\r/g, "").replace(/\n+$/, "");

let last = { text: "", keys: [] as string[] };

/** Remembers which columns a block is of that was copied here. */
export function copied(text: string, keys: string[]) {
  last = { text, keys };
}

/** The columns that a block was copied from, where it was copied here. */
export const copiedFrom = (text: string) => (text.includes("\t") && text === last.text ? last.keys : null);

export const textOf = (block: string[][]) => block.map((cells) => cells.join("\t")).join("\n");
