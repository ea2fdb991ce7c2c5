import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, beforeEach, test } from "vitest";
import { system } from "../src/app/theme";
import { Entry, Pick } from "../src/shared";
import { type ListColumn, type ListRow, ListSheet } from "../src/shared/sheet";

let written: string[];
beforeEach(() => {
  written = [];
  // Nothing is laid out here: the box of rows is as high as all of them.
  for (const side of ["clientHeight", "clientWidth", "offsetHeight", "offsetWidth"])
    Object.defineProperty(HTMLElement.prototype, side, { configurable: true, value: 800 });
});
afterEach(cleanup);

function Kept({ refuses }: { refuses?: string }) {
  const [value, setValue] = useState("Hull");
  const [wrong, setWrong] = useState(false);
  const write = (text: string) => {
    written.push(text);
    setWrong(text === refuses);
    if (text !== refuses) setValue(text);
  };
  return (
    <ChakraProvider value={system}>
      <Entry label="Name" value={value} write={write} trouble={wrong ? "No." : undefined} />
      <Pick
        label="Kind"
        value="a"
        options={[
          ["a", "first"],
          ["b", "second"],
        ]}
        write={write}
      />
    </ChakraProvider>
  );
}

test("an entry writes once, when it is left or at Enter", async () => {
  const user = userEvent.setup();
  render(<Kept />);
  const entry = screen.getByLabelText("Name");
  await user.clear(entry);
  await user.type(entry, "Deck{Enter}");
  await user.tab();
  assert.deepEqual(written, ["Deck"]);
  await user.type(entry, "s");
  await user.tab();
  assert.deepEqual(written, ["Deck", "Decks"]);
});

test("Escape puts back what was there and writes nothing", async () => {
  const user = userEvent.setup();
  render(<Kept />);
  const entry = screen.getByLabelText("Name");
  await user.type(entry, " and more{Escape}");
  assert.equal((entry as HTMLInputElement).value, "Hull");
  await user.tab();
  assert.deepEqual(written, []);
});

test("what was refused stays in the entry, with the reason", async () => {
  const user = userEvent.setup();
  render(<Kept refuses="x" />);
  const entry = screen.getByLabelText("Name");
  await user.clear(entry);
  await user.type(entry, "x{Enter}");
  assert.equal((entry as HTMLInputElement).value, "x");
  assert.equal(screen.getByRole("alert").textContent, "No.");
  assert.equal(entry.getAttribute("aria-invalid"), "true");
});

test("a choice is written as it is kept, not as it reads", async () => {
  const user = userEvent.setup();
  render(<Kept />);
  await user.selectOptions(screen.getByLabelText("Kind"), "second");
  assert.deepEqual(written, ["b"]);
});

const COLUMNS: ListColumn[] = [
  { key: "name", title: "Name", width: 100, left: true, hint: "a name" },
  {
    key: "state",
    title: "State",
    width: 80,
    left: true,
    options: [
      ["open", "open"],
      ["shut_down", "shut down"],
    ],
  },
];

/** A list that answers as a server would: in a moment, and no to one name. */
function Listed({ open = true }: { open?: boolean }) {
  const [rows, setRows] = useState<ListRow[]>([{ id: "g1", cells: { name: "First", state: "open" } }]);
  return (
    <ChakraProvider value={system}>
      <ListSheet
        label="Risks"
        of={String(open)}
        rows={rows}
        columns={COLUMNS}
        open={open}
        name="name"
        write={(cells) => {
          written.push(...cells.map((c) => `${c.row} ${c.field} ${c.text}`));
        }}
        begin={{
          start: {},
          needs: ["name"],
          add: async (cells) => {
            written.push(`add ${cells.name}`);
            await new Promise((done) => setTimeout(done, 5));
            if (cells.name === "no") return null;
            setRows((now) => [...now, { id: `g${now.length + 1}`, cells }]);
            return {};
          },
        }}
        remove={(gone) => {
          written.push(`remove ${gone.map((r) => r.id)}`);
          setRows((now) => now.filter((r) => !gone.includes(r)));
        }}
        troubles={{}}
        waiting={{}}
        drop={() => undefined}
      />
    </ChakraProvider>
  );
}
const texts = () => screen.getAllByRole("gridcell").map((c) => c.textContent);

test("rows are begun one after the other in the empty row at the foot", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed />);
  const last = container.querySelectorAll("[data-cell^=begun][data-cell$=':name']");
  await user.click(last[0] as Element);
  await user.keyboard("Second{Enter}Third{Enter}");
  await screen.findByText("Third");
  await new Promise((done) => setTimeout(done, 20));
  assert.deepEqual(written, ["add Second", "add Third"]);
  assert.deepEqual(
    texts().filter((t) => t && t !== "×" && t !== "open"),
    ["First", "Second", "Third"],
  );
});

test("a row that was refused stays as it was typed", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed open />);
  await user.click(container.querySelector("[data-cell^=begun][data-cell$=':name']") as Element);
  await user.keyboard("no{Enter}");
  await new Promise((done) => setTimeout(done, 20));
  assert.ok(texts().includes("no"));
});

test("a word of a choice is kept as its value, typed in any case", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed />);
  await user.click(container.querySelector("[data-cell='g1:state']") as Element);
  await user.keyboard("Shut Down{Enter}");
  assert.deepEqual(written, ["g1 state shut_down"]);
});

test("Ctrl+Delete deletes the rows that are selected", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed />);
  await user.click(container.querySelector("[data-cell='g1:name']") as Element);
  await user.keyboard("{Control>}{Delete}{/Control}");
  assert.deepEqual(written, ["remove g1"]);
});

test("who only reads has no row to begin and nothing to delete", () => {
  render(<Listed open={false} />);
  assert.deepEqual(texts(), ["First", "open"]);
});
