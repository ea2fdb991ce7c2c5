import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useRef, useState } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, test } from "vitest";
import { FindBox } from "../src/app/FindBox";
import { useKeyboard } from "../src/app/useKeyboard";
import { outlineOf } from "../src/features/plan/paste";
import { ActionMenu, Entry, Guard, keys, Modal, PlaceProvider } from "../src/shared";
import { useHeld } from "../src/shared/book";
import { system } from "../src/shared/ui/theme";
import { ADA, FRAME, PAGE } from "./place";
import { columns } from "./rows";

afterEach(cleanup);
const Within = ({ children }: { children: ReactNode }) => <ChakraProvider value={system}>{children}</ChakraProvider>;

/** A room with a sheet, a part that can be opened over it, and something that can go. */
function Room({ name }: { name: string }) {
  const [open, setOpen] = useState(true);
  useKeyboard(name);
  return (
    <>
      <a href="#x">A room</a>
      <main id="sheet" tabIndex={-1}>
        <section data-sheet="" tabIndex={-1} aria-label={`Sheet of ${name}`} />
        {open && (
          <button type="button" onClick={() => setOpen(false)}>
            Done
          </button>
        )}
        <section data-part="content" tabIndex={-1} aria-label="Menu">
          {open && (
            <button type="button" onClick={() => setOpen(false)}>
              Choose
            </button>
          )}
        </section>
      </main>
    </>
  );
}

test("the keyboard goes to the sheet of the room that is gone to", () => {
  const { rerender } = render(<Room name="plan" />, { wrapper: Within });
  assert.equal(document.activeElement, document.body, "nothing is taken when the first room opens");
  screen.getByText("A room").focus();
  rerender(<Room name="budget" />);
  assert.equal(document.activeElement, screen.getByLabelText("Sheet of budget"));
});

test("where what had the keyboard is gone, it goes to the sheet, or stays in what is open", async () => {
  const user = userEvent.setup();
  render(<Room name="plan" />, { wrapper: Within });
  screen.getByText("Done").focus();
  await user.keyboard("{Enter}");
  await waitFor(() => assert.equal(document.activeElement, screen.getByLabelText("Sheet of plan")));
  cleanup();
  render(<Room name="plan" />, { wrapper: Within });
  screen.getByText("Choose").focus();
  await user.keyboard("{Enter}");
  await waitFor(() => assert.equal(document.activeElement, screen.getByLabelText("Menu")));
});

test("Escape from find gives the keyboard back; what is chosen takes it to the sheet", async () => {
  const user = userEvent.setup();
  const queries = new QueryClient();
  const rows = [{ code: "A120", name: "Dig" }];
  queries.setQueryData(keys.page("FERRY", PAGE.code).posting, { rows });
  queries.setDefaultOptions({ queries: { staleTime: Number.POSITIVE_INFINITY } });
  render(
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={["/FERRY/P03/plan"]}>
        <PlaceProvider project="FERRY" page={PAGE} frame={FRAME} person={ADA} everywhere="analyst">
          <FindBox mode="light" switchMode={() => undefined} />
          <Room name="plan" />
        </PlaceProvider>
      </MemoryRouter>
    </QueryClientProvider>,
    { wrapper: Within },
  );
  screen.getByText("Done").focus();
  await user.keyboard("/");
  await user.keyboard("dig{Escape}");
  assert.equal(document.activeElement, screen.getByText("Done"));
  await user.keyboard("/");
  await user.keyboard("dig{Enter}");
  assert.equal(document.activeElement, screen.getByLabelText("Sheet of plan"));
});

test("an entry that is gone to has the keyboard", () => {
  const there = { code: "FIT" };
  const { rerender } = render(<Entry label="Units" value="1" write={() => undefined} />, { wrapper: Within });
  assert.notEqual(document.activeElement, screen.getByLabelText("Units"));
  rerender(<Entry label="Units" value="1" write={() => undefined} goTo={there} />);
  assert.equal(document.activeElement, screen.getByLabelText("Units"));
});

function Breaks({ when }: { when: boolean }) {
  if (when) throw new Error("a fault of ours");
  return <p>Drawn</p>;
}

test("a part that can't be drawn leaves what is round it, and is tried again when it shows something else", () => {
  const warn = console.warn;
  const error = console.error;
  console.warn = console.error = () => undefined;
  const view = (of: string) => (
    <>
      <p>Beside</p>
      <Guard of={of}>
        <Breaks when={of === "A"} />
      </Guard>
    </>
  );
  const { rerender } = render(view("A"), { wrapper: Within });
  assert.ok(screen.getByText("Beside"));
  assert.ok(screen.getByRole("alert"));
  rerender(view("B"));
  assert.ok(screen.getByText("Drawn"));
  Object.assign(console, { warn, error });
});

function Asks({ shut }: { shut: () => void }) {
  const go = useRef<HTMLButtonElement>(null);
  return (
    <Modal
      title="Close page 3?"
      does={
        <button type="button" ref={go}>
          Close the page
        </button>
      }
      out="Keep it open"
      shut={shut}
      asks
      first={go}
    >
      It is sealed.
    </Modal>
  );
}

test("a dialog has a name, a way out, and is shut by Escape", async () => {
  let shut = 0;
  const user = userEvent.setup();
  render(<Asks shut={() => shut++} />, { wrapper: Within });
  const dialog = await screen.findByRole("alertdialog", { name: "Close page 3?" });
  await waitFor(() => assert.equal(document.activeElement?.textContent, "Close the page"));
  assert.ok(dialog.textContent?.includes("It is sealed."));
  await user.click(screen.getByText("Keep it open"));
  assert.equal(shut, 1);
  await user.keyboard("{Escape}");
  await waitFor(() => assert.ok(shut > 1));
});

test("what can be done with something stands behind one button, by keyboard too", async () => {
  const done: string[] = [];
  const user = userEvent.setup();
  const item = (word: string, disabled = false) => ({ word, act: () => done.push(word), disabled });
  render(<ActionMenu label="Move or delete “Act”" items={[item("Move up", true), item("Delete")]} />, {
    wrapper: Within,
  });
  screen.getByRole("button", { name: "Move or delete “Act”" }).focus();
  await user.keyboard("{Enter}");
  await user.click(await screen.findByRole("menuitem", { name: "Delete" }));
  await waitFor(() => assert.deepEqual(done, ["Delete"]));
});

function Begun() {
  const [text, set] = useHeld(keys.draft("FERRY.P03.marks"), "nothing");
  return (
    <button type="button" onClick={() => set("a rule")}>
      {text}
    </button>
  );
}

test("what was begun is there again for who comes back, until they sign out", async () => {
  const user = userEvent.setup();
  const queries = new QueryClient();
  const room = () =>
    render(
      <QueryClientProvider client={queries}>
        <Begun />
      </QueryClientProvider>,
    );
  room();
  await user.click(screen.getByText("nothing"));
  assert.ok(await screen.findByText("a rule"));
  cleanup();
  room();
  assert.ok(screen.getByText("a rule"));
  cleanup();
  queries.removeQueries();
  room();
  assert.ok(screen.getByText("nothing"));
});

test("a column that reads as lengths of time is the duration, wherever it stands", () => {
  const all = ["name", "begin", "end", "duration", "after"].flatMap((key) => columns.get(key) ?? []);
  const found = (text: string) => outlineOf(text, all).found.map((c) => c?.key);
  assert.deepEqual(found("Dig\t3d\nPour\t2w").slice(0, 2), ["name", "duration"]);
  assert.deepEqual(found("Dig\t12 feb\t3d\nPour\t1 mar\t4h").slice(0, 3), ["name", "begin", "duration"]);
  assert.deepEqual(found("Dig\t12 feb\t5 mar").slice(0, 3), ["name", "begin", "end"]);
});
