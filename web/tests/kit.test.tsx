// @vitest-environment-options { "url": "http://ledger.test/FERRY/P03/plan" }
import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { afterEach, test, vi } from "vitest";
import { Problem } from "../src/api";
import {
  Bones,
  FormChoice,
  FormDialog,
  FormField,
  Modal,
  Popup,
  useAddressed,
  useForm,
  useStanding,
  useWhenever,
} from "../src/shared";
import { byKey, grouped, isFound, LOOK, LookBar, lookOf } from "../src/shared/look";
import { Tabs } from "../src/shared/ui";
import { system } from "../src/shared/ui/theme";

afterEach(() => {
  cleanup();
  vi.useRealTimers();
  window.history.replaceState(null, "", "/FERRY/P03/plan");
});
const Within = ({ children }: { children: ReactNode }) => <ChakraProvider value={system}>{children}</ChakraProvider>;
const show = (what: ReactNode) => render(what, { wrapper: Within });

function Counting({ count, step }: { count: number; step: number }) {
  const [told, tell] = useState<string[]>([]);
  useWhenever([count], () => {
    tell((now) => [...now, `${count} by ${step}`]);
    return () => tell((now) => [...now, `left ${count}`]);
  });
  return <output>{told.join(", ")}</output>;
}

test("what waits for a value is done when it is another, with all else as it is by then", () => {
  const { rerender, container } = show(<Counting count={1} step={1} />);
  rerender(<Counting count={1} step={2} />);
  assert.equal(container.textContent, "1 by 1");
  rerender(<Counting count={2} step={3} />);
  assert.equal(container.textContent, "1 by 1, left 1, 2 by 3");
});

function Looked() {
  const [look, set] = useAddressed("test/look", { show: "all", part: "" });
  const [{ at }, stand] = useStanding("test");
  return (
    <>
      <output>{`${look.show} ${look.part} ${at}`}</output>
      <button type="button" onClick={() => set({ show: "late" })}>
        late
      </button>
      <button type="button" onClick={() => stand({ at: "A350" })}>
        stand
      </button>
      <button type="button" onClick={() => stand({ at: "A360" })}>
        on
      </button>
    </>
  );
}

test("how one looks is in the address at once; where one stands, once the cursor rests", () => {
  vi.useFakeTimers();
  show(<Looked />);
  fireEvent.click(screen.getByText("late"));
  assert.equal(window.location.search, "?show=late");
  fireEvent.click(screen.getByText("stand"));
  fireEvent.click(screen.getByText("on"));
  assert.equal(window.location.search, "?show=late");
  act(() => vi.advanceTimersByTime(200));
  assert.equal(window.location.search, "?show=late&at=A360");
  cleanup();
  window.history.replaceState(null, "", "/FERRY/P03/plan");
  show(<Looked />);
  assert.equal(screen.getByRole("status").textContent, "late  A360");
});

test("a popup is drawn only while it is open, and gives the keyboard back", async () => {
  const opened = vi.fn();
  const inside = vi.fn(() => <span>Find a column</span>);
  const Inside = inside;
  show(
    <Popup word="Columns" name="Columns" opens={opened}>
      <Inside />
    </Popup>,
  );
  assert.equal(inside.mock.calls.length, 0);
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: "Columns" }));
  assert.ok(await screen.findByText("Find a column"));
  assert.equal(opened.mock.calls.length, 1);
  await user.keyboard("{Escape}");
  await waitFor(() => assert.equal(screen.queryByText("Find a column"), null));
  await waitFor(() => assert.equal(document.activeElement?.textContent, "Columns"));
});

test("a dialog that can't be left has no way out, and one that can is left by its button", async () => {
  const shut = vi.fn();
  const { unmount } = show(
    <Modal title="Sign in again" untitled>
      Who is it?
    </Modal>,
  );
  const held = await screen.findByRole("dialog", { name: "Sign in again" });
  fireEvent.keyDown(held, { key: "Escape" });
  assert.equal(screen.queryByRole("button"), null);
  assert.ok(screen.getByText("Who is it?"));
  unmount();
  show(
    <Modal title="Guide" shut={shut} tall>
      Pages
    </Modal>,
  );
  fireEvent.click(await screen.findByRole("button", { name: "Close" }));
  await waitFor(() => assert.equal(shut.mock.calls.length, 1));
});

const EMPTY = { name: "", role: "reader" };
/** A server that takes full names alone, no approver, and is away at night. */
const answer = async ({ name, role }: typeof EMPTY) => {
  if (name === "night") throw new Problem(0, "away", "The server does not answer.");
  if (role === "approver") throw new Problem(422, "refused", "Another has to.", "authority");
  if (name.length < 3) throw new Problem(422, "refused", "Give the full name.", "name");
};

function Form({ took }: { took: (form: typeof EMPTY) => void }) {
  const [open, setOpen] = useState(false);
  const form = useForm<typeof EMPTY>(EMPTY, async (filled) => {
    await answer(filled);
    took(filled);
  });
  return (
    <FormDialog title="New person" go="Add" open={open} setOpen={setOpen} submit={form.submit} wrong={form.wrong}>
      <FormField label="Name" {...form.entry("name")} />
      <FormChoice label="Role" {...form.entry("role")}>
        <option>reader</option>
        <option>approver</option>
      </FormChoice>
      {form.sent && <output>taken</output>}
    </FormDialog>
  );
}

test("a form is sent by Enter and by its button; what is refused is said at its entry and what was typed stays", async () => {
  const took = vi.fn();
  show(<Form took={took} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: "New person" }));
  const name = await screen.findByLabelText<HTMLInputElement>(/^Name/);
  await user.type(name, "M{Enter}");
  const why = await screen.findByRole("alert");
  assert.equal(why.textContent, "Give the full name.");
  assert.equal(why.closest("label")?.textContent?.startsWith("Name"), true);
  assert.deepEqual([name.value, name.getAttribute("aria-invalid")], ["M", "true"]);
  await user.type(name, "aud");
  await user.selectOptions(screen.getByLabelText(/^Role/), "approver");
  await user.click(screen.getByRole("button", { name: "Add" }));
  await waitFor(() => assert.equal(screen.getByRole("alert").textContent, "Another has to."));
  assert.equal(screen.getByRole("alert").closest("label"), null); // it is of the whole
  await user.selectOptions(screen.getByLabelText(/^Role/), "reader");
  await user.click(screen.getByRole("button", { name: "Add" }));
  await screen.findByText("taken");
  assert.equal(screen.queryByRole("alert"), null);
  assert.deepEqual(took.mock.calls, [[{ name: "Maud", role: "reader" }]]);
  assert.equal(name.value, ""); // ready for the next
});

test("a form whose server is away says so and keeps what was typed", async () => {
  show(<Form took={vi.fn()} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: "New person" }));
  const name = await screen.findByLabelText<HTMLInputElement>(/^Name/);
  await user.type(name, "night{Enter}");
  assert.equal((await screen.findByRole("alert")).textContent, "The server does not answer.");
  assert.equal(name.value, "night");
});

function Tabbed() {
  const [at, go] = useState("risks");
  return (
    <Tabs
      label="Registers"
      parts={[
        ["risks", "Risks"],
        ["issues", "Issues"],
        ["access", "Access"],
      ]}
      at={at}
      go={go}
    >
      {`all ${at}`}
    </Tabs>
  );
}

test("tabs are gone along by arrow keys, and their panel is named by the one that is chosen", async () => {
  show(<Tabbed />);
  const user = userEvent.setup();
  const tab = (name: string) => screen.getByRole("tab", { name });
  await user.click(tab("Risks"));
  await user.keyboard("{ArrowRight}");
  await waitFor(() => assert.equal(screen.getByRole("tabpanel", { name: "Issues" }).textContent, "all issues"));
  await user.keyboard("{End}");
  await waitFor(() => assert.equal(tab("Access").getAttribute("aria-selected"), "true"));
  assert.equal(tab("Risks").getAttribute("aria-selected"), "false");
  assert.equal(screen.getByRole("tabpanel").textContent, "all access");
});

interface Boat {
  name: string;
  yard: string;
  length: number;
}
const BOATS: Boat[] = [
  { name: "Tern", yard: "North", length: 12 },
  { name: "Gannet", yard: "South", length: 30 },
  { name: "Petrel", yard: "North", length: 21 },
];
const COLUMNS = byKey<Boat>([
  { key: "name", title: "Name", text: (b) => b.name },
  { key: "yard", title: "Yard", text: (b) => b.yard, groups: true },
  { key: "length", title: "Length", kind: "number", text: (b) => `${b.length} m`, value: (b) => b.length },
]);
const ON = { near: "2027-01-22", day: 480 };

function Looking({ short }: { short?: boolean }) {
  const [view, set] = useState({ ...LOOK, show: "all" });
  const look = lookOf(view);
  const found = BOATS.filter((b) => isFound(look, b.name) && (view.show === "all" || b.length > 20));
  return (
    <>
      <LookBar
        view={view}
        look={(next) => set((now) => ({ ...now, ...next }))}
        columns={COLUMNS}
        on={ON}
        rows={() => BOATS}
        first="yard"
        whole="as they are"
        short={short}
        shows={{ all: "All boats", long: "Long ones" }}
      />
      <output>
        {grouped(found, look, COLUMNS, ON)
          .map(([name, own]) => `${name}: ${own.map((b) => b.name).join(" ")}`)
          .join("; ")}
      </output>
    </>
  );
}
const told = () => document.querySelector("output")?.textContent;

test("rows are found, cut, filtered and grouped by the same bar, and all of it is cleared at once", async () => {
  show(<Looking />);
  const user = userEvent.setup();
  assert.equal(screen.queryByRole("button", { name: "Clear" }), null);
  await user.selectOptions(screen.getByLabelText("Group by"), "Yard");
  assert.equal(told(), "North: Tern Petrel; South: Gannet");
  await user.selectOptions(screen.getByLabelText("Show"), "Long ones");
  assert.equal(told(), "North: Petrel; South: Gannet");
  await user.type(screen.getByRole("searchbox"), "gan");
  assert.equal(told(), "South: Gannet");
  await user.click(screen.getByRole("button", { name: "Clear" }));
  assert.equal(told(), ": Tern Gannet Petrel");
  await user.click(screen.getByRole("button", { name: "Filter" }));
  const condition = await screen.findByLabelText<HTMLInputElement>("Condition");
  const offered = [...(condition.list?.options ?? [])].map((o) => o.value);
  assert.deepEqual(offered, ["North", "South"]); // what its rows hold
  await user.type(condition, "north");
  assert.equal(told(), ": Tern Petrel");
  await user.selectOptions(screen.getByLabelText("Column"), "Length");
  await user.clear(condition);
  await user.type(condition, "> far");
  assert.match(screen.getByRole("alert").textContent ?? "", /That is no number/);
  await user.clear(condition);
  await user.type(condition, "> 20");
  assert.equal(told(), ": Gannet Petrel");
});

test("where room is short, groups are chosen where conditions are", async () => {
  show(<Looking short />);
  const user = userEvent.setup();
  assert.equal(screen.queryByLabelText("Group by"), null);
  await user.click(screen.getByRole("button", { name: "Filter" }));
  await user.selectOptions(await screen.findByLabelText("Group by"), "Yard");
  assert.equal(told(), "North: Tern Petrel; South: Gannet");
});

test("bones are told to who can't see them, and are one part", () => {
  const { container } = show(<Bones />);
  assert.equal(screen.getByRole("status").textContent, "Reading the page…");
  assert.equal(container.querySelectorAll("[aria-hidden=true]").length, 1);
});
