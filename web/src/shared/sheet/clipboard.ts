/** A block of cells as spreadsheets put it on the clipboard: lines of cells apart by tabs. */
export const blockOf = (text: string) => text.split("\n").map((line) => line.split("\t"));

/** What was copied, with the line ends of one system. */
export const plainText = (data: DataTransfer) => data.getData("text/plain").replace(/\r/g, "").replace(/\n+$/, "");

export const textOf = (block: string[][]) => block.map((cells) => cells.join("\t")).join("\n");
