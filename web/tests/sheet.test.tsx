import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useRef, useState } from "react";
import { afterEach, beforeEach, expect, test } from "vitest";
import { Sheet, type SheetColumn, type SheetLine, type Trouble, useSheet, type Write } from "../src/shared/sheet";
import { system } from "../src/shared/ui/theme";

interface Item {
  id: string;
  name: string;
  size: string;
  colour: string;
  sum: string;
  shut?: boolean;
}
type Column = SheetColumn<Item>;

const column = (key: keyof Item & string, more: Partial<Column> = {}): Column => ({
  key,
  title: key,
  width: 80,
  writes: key,
  text: (r) => String(r[key] ?? ""),
  ...more,
});
const COLUMNS = [
  column("name", { needed: true }),
  column("size"),
  column("colour", { assumed: (r) => (r.colour.startsWith("?") ? r.colour.slice(1) : undefined) }),
  column("sum", { writes: undefined }),
];
const item = (id: string, more: Partial<Item> = {}): Item => ({
  id,
  name: `Item ${id}`,
  size: "",
  colour: "",
  sum: "0",
  ...more,
});

let steps: [string, string, string][][] = [];
let sorts: string[] = [];
let widths: [string, number][] = [];

/** A sheet that keeps what is written on it, as a room would. */
function Room({
  first,
  troubles = {},
  waiting = {},
}: {
  first: Item[];
  troubles?: Record<string, Trouble>;
  waiting?: Record<string, string>;
}) {
  const [rows, setRows] = useState(first);
  const box = useRef<HTMLDivElement>(null);
  const lines: SheetLine<Item>[] = rows.map((row) => ({ kind: "row", id: row.id, row, depth: 0, parts: 0 }));
  lines.splice(2, 0, { kind: "group", id: "head", name: "A heading" });
  const can = (r: Item, c: Column) => !r.shut && c.writes !== undefined;
  const write = (cells: Write<Item, Column>[]) => {
    steps.push(cells.map((c) => [c.row.id, c.column.key, c.text]));
    setRows((now) =>
      now.map((r) =>
        Object.assign({ ...r }, ...cells.filter((c) => c.row.id === r.id).map((c) => ({ [c.column.key]: c.text }))),
      ),
    );
  };
  const hands = useSheet<Item, Column>({
    lines,
    columns: COLUMNS,
    can,
    write,
    troubles,
    waiting,
    drop: (line, field) => steps.push([[line, field, "dropped"]]),
    onSort: (key) => sorts.push(key),
    resize: (key, width) => widths.push([key, width]),
  });
  return (
    <ChakraProvider value={system}>
      <Sheet
        label="Items"
        box={box}
        lines={lines}
        columns={COLUMNS}
        hands={hands}
        troubles={troubles}
        waiting={waiting}
        drop={() => undefined}
        take={(row, line, c, text) => write([{ row, line, column: c, text }])}
        can={can}
        codeOf={(r) => r.id}
        nameOf={(r) => r.name}
        onSort={(key) => sorts.push(key)}
        resize={(key, width) => widths.push([key, width])}
      />
      <button type="button">after the sheet</button>
    </ChakraProvider>
  );
}

const rows = () => [
  item("a", { size: "1", colour: "red" }),
  item("b", { size: "2", colour: "blue" }),
  item("c", { size: "3" }),
  item("d", { shut: true }),
];
const at = () => screen.getByRole("grid").getAttribute("aria-activedescendant");
const cell = (row: string, key: string) => document.getElementById(`cell-${row}-${key}`);
const user = userEvent.setup();

beforeEach(() => {
  steps = [];
  sorts = [];
  widths = [];
  // Nothing is laid out here: the box of rows is as high as all of them.
  Object.defineProperty(HTMLElement.prototype, "clientHeight", { configurable: true, value: 800 });
  Object.defineProperty(HTMLElement.prototype, "clientWidth", { configurable: true, value: 800 });
});
afterEach(cleanup);

test("hands can begin as soon as the sheet is there", async () => {
  render(<Room first={rows()} />);
  assert.equal(document.activeElement, screen.getByRole("grid"));
  await user.keyboard("{ArrowRight}7{Enter}");
  assert.deepEqual(steps, [[["a", "size", "7"]]]);
  assert.equal(at(), "cell-b-size");
});

test("Enter after Tabs goes back to where the row was begun", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("x{Tab}4{Tab}green{Enter}");
  assert.deepEqual(steps.flat(), [
    ["a", "name", "x"],
    ["a", "size", "4"],
    ["a", "colour", "green"],
  ]);
  assert.equal(at(), "cell-b-name");
});

test("Tab goes on in the next row; Escape, then Tab leaves the sheet", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{End}{Tab}");
  assert.equal(at(), "cell-b-name");
  await user.keyboard("{Shift>}{Tab}{/Shift}");
  assert.equal(at(), "cell-a-sum");
  await user.keyboard("{Escape}{Tab}");
  assert.equal(document.activeElement?.textContent, "after the sheet");
});

test("Escape keeps what was there, and what is the same is not written", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{ArrowRight}9{Escape}{F2}{Enter}");
  assert.deepEqual(steps, []);
});

test("Enter on what is assumed states it as it is, in a whole selection too, and says so until then", async () => {
  render(
    <Room first={[item("a", { colour: "?red" }), item("b", { colour: "?blue" }), item("c", { colour: "green" })]} />,
  );
  assert.match(cell("a", "colour")?.getAttribute("aria-label") ?? "", /assumed$/);
  assert.doesNotMatch(cell("c", "colour")?.getAttribute("aria-label") ?? "", /assumed/);
  await user.keyboard("{ArrowRight}{ArrowRight}{Enter}");
  assert.deepEqual([steps, at()], [[[["a", "colour", "red"]]], "cell-b-colour"]);
  await user.keyboard("{F2}{Enter}"); // looked at, and left as it is
  assert.deepEqual(steps[1], [["b", "colour", "blue"]]);
  cleanup();
  steps = [];
  render(
    <Room first={[item("a", { colour: "?red" }), item("b", { colour: "?blue" }), item("c", { colour: "green" })]} />,
  );
  await user.keyboard("{ArrowRight}{ArrowRight}{Shift>}{ArrowDown}{ArrowDown}{ArrowDown}{/Shift}{Enter}");
  assert.deepEqual(steps, [
    [
      ["a", "colour", "red"],
      ["b", "colour", "blue"],
    ],
  ]);
});

test("Delete clears a selected block as one step, and leaves what is empty, needed or shut", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{Control>}a{/Control}{Delete}");
  assert.deepEqual(steps, [
    [
      ["a", "size", ""],
      ["a", "colour", ""],
      ["b", "size", ""],
      ["b", "colour", ""],
      ["c", "size", ""],
    ],
  ]);
  await user.keyboard("{Delete}");
  assert.equal(steps.length, 1);
});

test("Ctrl+D fills a block from its first row, one cell from above, over a heading too", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{ArrowRight}{Shift>}{ArrowRight}{ArrowDown}{/Shift}{Control>}d{/Control}");
  assert.deepEqual(steps, [
    [
      ["b", "size", "1"],
      ["b", "colour", "red"],
    ],
  ]);
  await user.click(cell("c", "size") as Element);
  await user.keyboard("{Control>}d{/Control}");
  assert.deepEqual(steps[1], [["c", "size", "1"]]);
});

test("a block is copied and pasted as one step, a single cell onto all that are selected", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{ArrowRight}{Shift>}{ArrowRight}{ArrowDown}{/Shift}");
  let taken = "";
  fireEvent.copy(screen.getByRole("grid"), { clipboardData: { setData: (_: string, text: string) => (taken = text) } });
  assert.equal(taken, "1\tred\n2\tblue");
  await user.click(cell("b", "size") as Element);
  await user.paste("5\tgreen\r\n6\tgrey\r\n7\tpink\r\n");
  assert.deepEqual(steps, [
    [
      ["b", "size", "5"],
      ["b", "colour", "green"],
      ["c", "size", "6"],
      ["c", "colour", "grey"],
    ],
  ]);
  await user.click(cell("a", "colour") as Element);
  await user.keyboard("{Shift>}{ArrowDown}{/Shift}");
  await user.paste("white");
  assert.deepEqual(steps[1], [
    ["a", "colour", "white"],
    ["b", "colour", "white"],
  ]);
});

test("what is not answered yet shows, and counts when it is filled or taken up", async () => {
  render(<Room first={rows()} waiting={{ "a:size": "12" }} />);
  expect(cell("a", "size")?.textContent).toBe("12");
  await user.keyboard("{ArrowRight}{ArrowDown}{Control>}d{/Control}");
  assert.deepEqual(steps, [[["b", "size", "12"]]]);
});

test("no shortcut of the frame begins an entry, whatever key it lies on", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{ArrowRight}/[[]]?");
  expect(screen.queryByRole("textbox")).toBeNull();
  await user.keyboard("ü");
  expect(screen.getByRole("textbox")).toHaveProperty("value", "ü");
});

test("from the headings one sorts and sizes with the keys", async () => {
  render(<Room first={rows()} />);
  await user.keyboard("{ArrowRight}{ArrowUp}");
  assert.equal(at(), "head-size");
  await user.keyboard("{Enter}{Shift>}{ArrowRight}{/Shift}{ArrowRight}{Enter}{ArrowDown}");
  assert.deepEqual([sorts, widths, at()], [["size", "colour"], [["size", 92]], "cell-a-colour"]);
});

test("what was refused stays in its cell with the reason, and can be taken up again", async () => {
  const troubles = { "b:size": { text: "lots", message: "That is not a number.", nearest: "10" } };
  render(<Room first={rows()} troubles={troubles} />);
  const there = cell("b", "size") as HTMLElement;
  expect(there.textContent).toContain("lots");
  expect(screen.getByRole("alert").textContent).toContain("That is not a number.");
  await user.click(screen.getByRole("button", { name: "Take 10" }));
  assert.deepEqual(steps, [[["b", "size", "10"]]]);
  await user.dblClick(cell("c", "name") as Element);
  await user.keyboard("{Escape}");
  await user.click(there);
  await user.keyboard("{F2}");
  expect(screen.getByRole("textbox")).toHaveProperty("value", "lots");
});

test("what somebody else wrote meanwhile is shown beside one's own", () => {
  const stale = { by: "Tobin", label: "size 4" };
  render(<Room first={rows()} troubles={{ "a:size": { text: "7", message: "", stale } }} />);
  expect(screen.getByRole("alert").textContent).toContain("Tobin wrote while you were typing: size 4.");
  expect(screen.getByRole("button", { name: "Overwrite with mine" })).toBeTruthy();
});

test("a sheet comes back as far down as it was slid, on another page of the project too", () => {
  const many = Array.from({ length: 90 }, (_, i) => item(`r${i}`));
  const at = (path: string) => window.history.replaceState(null, "", path);
  const grid = () => document.querySelector<HTMLElement>("[data-sheet]") ?? assert.fail();
  const come = (path: string) => {
    cleanup();
    at(path);
    render(<Room first={many} />, {
      wrapper: ({ children }) => <ChakraProvider value={system}>{children}</ChakraProvider>,
    });
  };
  come("/FERRY/P03/posting");
  grid().scrollTop = 640;
  fireEvent.scroll(grid());
  come("/FERRY/P04/posting");
  assert.equal(grid().scrollTop, 640);
  come("/PIER/P04/posting");
  assert.equal(grid().scrollTop, 0);
});
