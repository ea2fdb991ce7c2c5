import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, beforeEach, test } from "vitest";
import { inPlace } from "../src/features/plan/useWholeList";
import { type Begun, type ListColumn, type ListRow, ListSheet } from "../src/shared/sheet";
import { system } from "../src/shared/ui/theme";

let written: string[];
/** Answers the oldest of what was sent. */
let answers: (() => void)[];
let queries: QueryClient;
beforeEach(() => {
  written = [];
  answers = [];
  queries = new QueryClient();
  // Nothing is laid out here: the box of rows is as high as all of them.
  for (const side of ["clientHeight", "clientWidth", "offsetHeight", "offsetWidth"])
    Object.defineProperty(HTMLElement.prototype, side, { configurable: true, value: 800 });
});
afterEach(cleanup);
const answer = () => act(async () => answers.shift()?.());

const COLUMNS: ListColumn[] = [
  { key: "name", title: "Name", width: 100, left: true, needed: true, hint: "a name" },
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

/** A list that answers as a server would: when it is let, in the order of names, and no to one name. */
function Listed({ open = true }: { open?: boolean }) {
  const [rows, setRows] = useState<ListRow[]>([{ id: "g1", cells: { name: "First", state: "open" } }]);
  const inOrder = (all: ListRow[]) => all.toSorted((a, b) => (a.cells.name ?? "").localeCompare(b.cells.name ?? ""));
  const add = async (begun: Begun[]) => {
    written.push(`add ${begun.map((r) => Object.values(r.cells).join(" ")).join(", ")}`);
    await new Promise<void>((done) => answers.push(done));
    if (begun.some((r) => r.cells.name === "no")) return null;
    const made = begun.map((r) => ({ id: `made-${r.cells.name}`, cells: { ...r.cells } }));
    setRows((now) => inOrder([...now, ...made]));
    return made.map((r) => r.id);
  };
  return (
    <QueryClientProvider client={queries}>
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
          begin={{ start: {}, needs: ["name"], add }}
          remove={(gone) => {
            written.push(`remove ${gone.map((r) => r.id)}`);
            setRows((now) => now.filter((r) => !gone.includes(r)));
          }}
          troubles={{}}
          waiting={{}}
          drop={() => undefined}
        />
      </ChakraProvider>
    </QueryClientProvider>
  );
}
const texts = () => screen.getAllByRole("gridcell").map((c) => c.textContent);

const begins = (container: HTMLElement) => container.querySelector("[data-cell^=begun][data-cell$=':name']") as Element;

test("rows are begun one after the other in the empty row at the foot, also before the first is answered", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed />);
  await user.click(begins(container));
  await user.keyboard("Second{Enter}Third{Enter}");
  assert.deepEqual(written, ["add Second", "add Third"]);
  await answer();
  await answer();
  await screen.findByText("Third");
  assert.deepEqual(
    texts().filter((t) => t && t !== "×" && t !== "open" && t !== "a name"),
    ["First", "Second", "Third"],
  );
});

test("what is typed into a row while it is saved is written to it, wherever it is sorted to", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed />);
  await user.click(begins(container));
  await user.keyboard("Earlier{Tab}shut d");
  assert.deepEqual(written, ["add Earlier"]);
  await answer();
  assert.deepEqual(
    texts().filter((t) => t === "First" || t === "Earlier"),
    ["Earlier", "First"],
  );
  await user.keyboard("own{Enter}");
  assert.deepEqual(written, ["add Earlier", "made-Earlier state shut_down"]);
  await user.click(begins(container));
  await user.keyboard("Next{Tab}open{Enter}");
  assert.deepEqual(written.slice(2), ["add Next"]);
  await answer();
  assert.deepEqual(written.slice(2), ["add Next", "made-Next state open"]);
});

test("a row that was refused stays as it was typed, with what was typed since", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed open />);
  await user.click(begins(container));
  await user.keyboard("no{Tab}open{Enter}");
  await answer();
  assert.ok(texts().includes("no"));
  await user.click(screen.getByText("no"));
  await user.keyboard("yes{Enter}");
  assert.deepEqual(written, ["add no", "add yes open"]);
});

test("a block pasted into the row that is begun arrives whole, as one step; what lacks something says so", async () => {
  const user = userEvent.setup();
  const { container } = render(<Listed />);
  await user.click(begins(container));
  const names = Array.from({ length: 40 }, (_, i) => `Risk ${i + 10}`);
  await user.paste([...names.map((n) => `${n}\tshut down`), "\topen"].join("\n"));
  assert.equal(written.length, 1);
  assert.equal(written[0], `add ${names.map((n) => `${n} shut_down`).join(", ")}`);
  await answer();
  for (const name of names) assert.equal(texts().filter((t) => t === name).length, 1);
  assert.ok(container.querySelector("[data-hint='still needed']"));
});

test("what was begun is there again for who comes back, and for nobody after signing out", async () => {
  const user = userEvent.setup();
  const first = render(<Listed />);
  await user.click(begins(first.container).nextElementSibling as Element);
  await user.keyboard("shut down{Enter}");
  first.unmount();
  const again = render(<Listed />);
  assert.ok(texts().includes("shut down"));
  again.unmount();
  queries.removeQueries();
  render(<Listed />);
  assert.ok(!texts().includes("shut down"));
});

test("rows that come back sorted, or in other words, stay where they were typed", () => {
  const show = (name: string) => ({ name });
  assert.deepEqual(inPlace(["b", "24 dec"], ["2026-12-24", "b"], show), ["b", "2026-12-24"]);
  assert.deepEqual(inPlace(["b", "a"], ["a"], show), ["a"]);
  assert.deepEqual(inPlace(["b", "b"], ["a", "b", "b", "c"], show), ["b", "b", "a", "c"]);
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
