import type { Column } from "./columns";

const SPAN = /^[\d.,]+\s*(min|minutes|h|hours?|d|days?|w|weeks?|mo|months?)?$/i;
const INDENT = 2;

export interface OutlineLine {
  level: number;
  cells: Record<string, string>;
}

const leading = (line: string) => {
  const found = /^[\t ]*/.exec(line)?.[0] ?? "";
  const tabs = found.split("\t").length - 1;
  return tabs * INDENT + found.replaceAll("\t", "").length;
};

/**
 * Lines of an indented block as rows to be made. Indents are tabs or spaces before the name; after it, apart by tabs,
 * stand cells in the order of the sheet's columns from the name on, or just a duration.
 */
export function outlineOf(text: string, columns: Column[]): OutlineLine[] {
  const lines = text.split("\n").filter((l) => l.trim());
  const steps = [...new Set(lines.map(leading))].sort((a, b) => a - b);
  const after = columns.slice(columns.findIndex((c) => c.key === "name") + 1).filter((c) => c.writes);
  return lines.map((line) => {
    const [name = "", ...rest] = line
      .trim()
      .split("\t")
      .map((c) => c.trim());
    const cells: Record<string, string> = { name: name.replace(/^["“]|["”]$/g, "") };
    if (rest.length === 0) {
      const tail = /^(.*\S)\s{2,}(\S+(?:\s\S+)?)$/.exec(name);
      if (tail?.[1] && tail[2] && SPAN.test(tail[2])) {
        cells.name = tail[1];
        cells.duration = tail[2];
      }
    } else if (rest.length === 1 && SPAN.test(rest[0] ?? "")) cells.duration = rest[0] ?? "";
    else
      rest.forEach((cell, i) => {
        const column = after[i];
        if (column?.writes && cell) cells[column.writes] = cell;
      });
    return { level: steps.indexOf(leading(line)), cells };
  });
}
