import type { Column } from "./columns";

const SPAN = /^[\d.,]+\s*(min|minutes|h|hours?|d|days?|w|weeks?|mo|months?)?$/i;
const CODE = /^(?=\S*\d)[\w./-]{1,16}$/;
const INDENT = 2;

export interface OutlineLine {
  level: number;
  cells: Record<string, string>;
}

/** What a pasted block was taken for: its lines, and the columns in the order in which they stood. */
export interface Taken {
  lines: OutlineLine[];
  columns: Column[];
  /** What each column of the block was taken for, from left to right; null where it is left out. */
  found: (Column | null)[];
  /** Whether its first line is headings. */
  headed: boolean;
  /** How many columns the block has. */
  wide: number;
}

const leading = (line: string) => {
  const found = /^[\t ]*/.exec(line)?.[0] ?? "";
  const tabs = found.split("\t").length - 1;
  return tabs * INDENT + found.replaceAll("\t", "").length;
};
const bare = (cell: string) => cell.trim().replace(/^["“]|["”]$/g, "");
const lowered = (text: string) => text.trim().toLowerCase();

/** What people head these columns with in their own lists, beside the words of the sheet. */
const HEADS: Record<string, string[]> = {
  code: ["id", "no", "no.", "nr", "number", "activity code", "activity id"],
  name: ["activity", "activity name", "task", "task name", "description", "title"],
  duration: ["dur", "days", "length"],
  begin: ["start", "start date", "from"],
  end: ["finish", "finish date", "end", "to"],
  after: ["predecessors", "predecessor", "depends on", "after"],
  people: ["who", "resources", "resource", "people", "assigned to"],
  direct_cost: ["cost", "budget", "amount"],
};
const heads = (c: Column, text: string) =>
  [lowered(c.title), lowered(c.key), ...(HEADS[c.key] ?? [])].includes(lowered(text).replace(/\s+/g, " "));

/** The columns that a line of headings names; null where it is none: a name among them, and all but a few known. */
function headed(line: string, columns: Column[]): (Column | null)[] | null {
  const cells = line.split("\t");
  const found = cells.map((c) => columns.find((x) => heads(x, c)) ?? null);
  const known = found.filter((c) => c !== null);
  const named = known.some((c) => c.key === "name");
  return named && known.length > 1 && known.length * 2 > cells.filter((c) => c.trim()).length ? found : null;
}

/** The columns of a block without headings: names first, or codes before them; durations by their look; then the sheet's order. */
function guessed(lines: string[], columns: Column[]): (Column | null)[] {
  const at = columns.findIndex((c) => c.key === "name");
  const name = columns[at] ?? null;
  const after = columns.slice(at + 1).filter((c) => c.writes);
  const rows = lines.map((l) => l.trim().split("\t").map(bare));
  const coded = rows.filter(([code = "", next = ""]) => CODE.test(code) && next && !SPAN.test(next));
  const code = columns.find((c) => c.key === "code") ?? null;
  const first = coded.length * 2 > rows.length ? [code, name] : [name];
  // What reads as lengths of time throughout is the duration, wherever it stands.
  const spans = (i: number) => rows.some((r) => r[i]) && rows.every((r) => !r[i] || SPAN.test(r[i] ?? ""));
  const wide = Math.max(...rows.map((r) => r.length));
  const long = Array.from({ length: wide }, (_, i) => i).find((i) => i >= first.length && spans(i));
  const others = after.filter((c) => long === undefined || c.key !== "duration");
  const found = [...first, ...others];
  if (long !== undefined) found.splice(long, 0, after.find((c) => c.key === "duration") ?? null);
  return found;
}

/**
 * Lines of a block as rows to be made. Indents are tabs or spaces before the name; apart by tabs stand cells: by the headings,
 * where the first line has them, else in the order of the sheet's columns from the name (or a code) on, or just a duration.
 */
export function outlineOf(text: string, columns: Column[], told?: Pick<Taken, "found" | "headed">): Taken {
  const all = text.split("\n").filter((l) => l.trim());
  const named = told ? null : headed(all[0] ?? "", columns);
  const first = told?.headed ?? named !== null;
  const lines = first ? all.slice(1) : all;
  const found = told?.found ?? named ?? guessed(lines, columns);
  const at = found.findIndex((c) => c?.key === "name");
  // Where something stands before the name, the name's own cell is what is indented.
  const indent = (line: string) => leading(at > 0 || first ? (line.split("\t")[at] ?? "") : line);
  const steps = [...new Set(lines.map(indent))].sort((a, b) => a - b);
  const rows = lines.map((line) => {
    const cells = (at > 0 || first ? line : line.trim()).split("\t").map(bare);
    const out: Record<string, string> = {};
    const [name = "", ...rest] = cells;
    const tail = cells.length === 1 ? /^(.*\S)\s{2,}(\S+(?:\s\S+)?)$/.exec(name) : null;
    if (tail?.[1] && tail[2] && SPAN.test(tail[2])) Object.assign(out, { name: tail[1], duration: tail[2] });
    else if (at === 0 && !first && rest.length === 1 && SPAN.test(rest[0] ?? ""))
      Object.assign(out, { name, duration: rest[0] });
    else
      cells.forEach((cell, i) => {
        const writes = found[i]?.writes;
        if (writes && cell) out[writes] = cell;
      });
    return { level: steps.indexOf(indent(line)), cells: out };
  });
  const used = new Set(rows.flatMap((r) => Object.keys(r.cells)));
  return {
    lines: rows,
    columns: columns.filter((c) => c.writes && used.has(c.writes)),
    found,
    headed: first,
    wide: Math.max(0, ...all.map((l) => (at > 0 || first ? l : l.trim()).split("\t").length)),
  };
}
