// @vitest-environment-options { "url": "http://ledger.test/FERRY/P03/plan" }
import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { afterEach, test, vi } from "vitest";
import { Bones, FormDialog, FormField, Modal, Popup, useAddressed, useStanding, useWhenever } from "../src/shared";
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

function Form({ send }: { send: (name: string) => string | undefined }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [wrong, say] = useState<string>();
  return (
    <FormDialog title="New person" go="Add" open={open} setOpen={setOpen} submit={() => say(send(name))} wrong={wrong}>
      <FormField label="Name" value={name} onChange={(e) => setName(e.target.value)} />
    </FormDialog>
  );
}

test("a form is sent by Enter and by its button; what is refused is said in it and what was typed stays", async () => {
  const send = vi.fn((name: string) => (name === "Maud" ? undefined : "Give the full name."));
  show(<Form send={send} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: "New person" }));
  await user.type(await screen.findByLabelText("Name"), "M{Enter}");
  assert.equal((await screen.findByRole("alert")).textContent, "Give the full name.");
  assert.equal((screen.getByLabelText("Name") as HTMLInputElement).value, "M");
  await user.type(screen.getByLabelText("Name"), "aud");
  await user.click(screen.getByRole("button", { name: "Add" }));
  await waitFor(() => assert.equal(screen.queryByRole("alert"), null));
  assert.deepEqual(
    send.mock.calls.map(([name]) => name),
    ["M", "Maud"],
  );
});

test("bones are told to who can't see them, and are one part", () => {
  const { container } = show(<Bones />);
  assert.equal(screen.getByRole("status").textContent, "Reading the page…");
  assert.equal(container.querySelectorAll("[aria-hidden=true]").length, 1);
});
