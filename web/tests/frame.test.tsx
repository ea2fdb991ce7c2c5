// @vitest-environment-options { "url": "http://ledger.test/FERRY/P03/budget" }
import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, renderHook, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, beforeEach, test } from "vitest";
import { Problem, type Schemas } from "../src/api";
import { isExpired, settleExpired, signedInAgain } from "../src/api/expiry";
import { Gate } from "../src/app/Gate";
import { Unsent } from "../src/app/Unsent";
import { useUndoes } from "../src/app/useUndoes";
import { PasteDialog } from "../src/features/plan/PasteDialog";
import { outlineOf } from "../src/features/plan/paste";
import { Sided } from "../src/features/plan/Sided";
import type { PlanHandle } from "../src/features/plan/usePlan";
import { PlaceProvider, useAddressed, useUndo } from "../src/shared";
import { Reads, useWrites } from "../src/shared/book";
import { Toasts } from "../src/shared/Toasts";
import { system } from "../src/shared/ui/theme";
import { ADA, FRAME, PAGE } from "./place";

/** What the network answers, by the path that is asked. */
let network: (request: Request) => Promise<Response> | Response;
let asked: string[];
let reads: Reads;
const real = globalThis.fetch;
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
beforeEach(() => {
  asked = [];
  network = () => json({});
  reads = new Reads({ defaultOptions: { queries: { retry: false, staleTime: Number.POSITIVE_INFINITY } } });
  reads.setQueryData(["frame", "FERRY"], FRAME);
  globalThis.fetch = async (given) => {
    const request = given as Request;
    asked.push(`${request.method} ${new URL(request.url).pathname}`);
    return network(request);
  };
});
afterEach(() => {
  cleanup();
  reads.clear();
  globalThis.fetch = real;
  if (isExpired()) settleExpired(false);
});

const Within = ({ children, who = "analyst" }: { children: ReactNode; who?: string }) => (
  <QueryClientProvider client={reads}>
    <ChakraProvider value={system}>
      <MemoryRouter initialEntries={["/FERRY/P03/budget"]}>
        <PlaceProvider
          project="FERRY"
          page={PAGE}
          frame={FRAME}
          person={{ ...ADA, role: who } as typeof ADA}
          everywhere={who}
        >
          {children}
        </PlaceProvider>
      </MemoryRouter>
    </ChakraProvider>
  </QueryClientProvider>
);

/** A part that has its own way to undo. */
function Part({ undo }: { undo: () => void }) {
  useUndo({ undo, redo: () => undefined });
  return null;
}
/** The frame's own undo, with what shows what is said in passing. */
function Undoing() {
  useUndoes();
  return <Toasts />;
}
const undoKeys = () => fireEvent.keyDown(document.body, { key: "z", code: "KeyZ", ctrlKey: true });

test("undo goes to the part that is shown, and to the project's last step where there is none", async () => {
  let undone = 0;
  network = () => json({ label: "Undid: 52 % on A350", revision: 8 });
  const part = render(<Part undo={() => undone++} />, {
    wrapper: ({ children }) => (
      <Within>
        {children}
        <Undoing />
      </Within>
    ),
  });
  undoKeys();
  assert.equal(undone, 1);
  assert.deepEqual(asked, []);
  part.rerender(<span />);
  undoKeys();
  await screen.findByText("Undid: 52 % on A350");
  assert.deepEqual(asked, ["POST /api/projects/FERRY/undo"]);
  assert.equal(undone, 1);
});

test("what can't be undone is said, and who only reads undoes nothing", async () => {
  network = () => json({ code: "nothing", detail: "There is nothing of yours to undo." }, 422);
  render(<Undoing />, { wrapper: ({ children }) => <Within>{children}</Within> });
  undoKeys();
  await screen.findByText("There is nothing of yours to undo.");
  cleanup();
  asked = [];
  render(<Undoing />, { wrapper: ({ children }) => <Within who="reader">{children}</Within> });
  undoKeys();
  assert.deepEqual(asked, []);
});

const leave = () => {
  const event = new Event("beforeunload", { cancelable: true });
  window.dispatchEvent(event);
  return event.defaultPrevented;
};

test("what could not be sent is counted, sent by one press, and leaving asks until it is", async () => {
  const shown = render(<Unsent />, { wrapper: ({ children }) => <Within>{children}</Within> });
  assert.equal(shown.container.textContent, "");
  assert.ok(!leave());
  const writes = renderHook(() => useWrites({ project: "FERRY", part: "sheet", read: async () => undefined }), {
    wrapper: ({ children }) => <Within>{children}</Within>,
  }).result;
  let away = true;
  let done: Promise<unknown> = Promise.resolve();
  act(() => {
    done = writes.current.write(async () => {
      if (away) throw new Problem(0, "unreachable", "The server does not answer.");
      return true;
    });
  });
  await screen.findByText(/What you typed is kept here/);
  assert.ok(leave());
  away = false;
  await userEvent.click(screen.getByRole("button", { name: "Send now" }));
  assert.equal(await done, true);
  await waitFor(() => assert.equal(screen.queryByRole("alert"), null));
  await waitFor(() => assert.ok(!leave()));
});

test("a session that has run out is begun again over what was there; another person's goes on with nothing of it", async () => {
  const bo = { ...ADA, username: "bo", full_name: "Bo Lind", role: "reader" };
  reads.setQueryData(["session"], { person: ADA, demo_people: [ADA, bo] });
  network = (request) =>
    request.method === "POST" ? json({ person: bo, demo_people: [] }) : json({ person: null, demo_people: [ADA, bo] });
  render(
    <QueryClientProvider client={reads}>
      <ChakraProvider value={system}>
        <MemoryRouter>
          <Routes>
            <Route element={<Gate />}>
              <Route path="*" element={<input aria-label="Typed" defaultValue="kept" />} />
            </Route>
          </Routes>
        </MemoryRouter>
      </ChakraProvider>
    </QueryClientProvider>,
  );
  let same: Promise<boolean> = Promise.resolve(true);
  act(() => {
    same = signedInAgain();
  });
  const dialog = await screen.findByRole("dialog", { name: "Sign in again" });
  assert.equal((screen.getByLabelText("Typed") as HTMLInputElement).value, "kept");
  fireEvent.keyDown(dialog, { key: "Escape" });
  assert.ok(screen.getByRole("dialog", { name: "Sign in again" }));
  await userEvent.click(screen.getByRole("button", { name: /Bo Lind/ }));
  assert.equal(await same, false);
});

test("the part before comes back with Back, other looks leave no trace in the history", () => {
  const start = window.history.length;
  const look = renderHook(() => useAddressed("room", { part: "time", by: "month" })).result;
  act(() => look.current[1]({ by: "week" }));
  assert.equal(window.history.length, start);
  act(() => look.current[1]({ part: "estimates" }));
  assert.equal(window.history.length, start + 1);
  assert.match(window.location.search, /part=estimates/);
  act(() => {
    window.history.replaceState(null, "", "/FERRY/P03/budget?by=week");
    window.dispatchEvent(new PopStateEvent("popstate"));
  });
  assert.deepEqual(look.current[0], { part: "time", by: "week" });
  act(() => {
    window.history.replaceState(null, "", "/FERRY/P03/value?part=work");
    window.dispatchEvent(new PopStateEvent("popstate"));
  });
  assert.deepEqual(look.current[0], { part: "time", by: "week" });
  window.history.replaceState(null, "", "/FERRY/P03/budget");
});

/** A list at the side whose additions are answered when they are let. */
function list(answer: Promise<{ made?: Record<string, string> } | null>) {
  const plan = { change: () => answer, refused: null, effect: null } as unknown as PlanHandle;
  return (items: { id: string; name: string; beside: null }[]) => (
    <Within>
      <Sided
        title="Resources"
        plan={plan}
        open
        items={items}
        at="r1"
        choose={() => undefined}
        addLabel="New resource"
        add={(name) => ({ do: "add", list: "resources", cells: { name } })}
      >
        <input aria-label="Name" />
      </Sided>
    </Within>
  );
}
const ITEM = { id: "r1", name: "Fitters", beside: null };

test("what is typed after a new one is begun is for nobody else", async () => {
  let answer: (made: { made: Record<string, string> }) => void = () => undefined;
  const drawn = list(new Promise((done) => (answer = done)));
  const { rerender } = render(drawn([ITEM]));
  await userEvent.type(screen.getByLabelText("New resource"), "Divers{Enter}");
  assert.equal(screen.queryByLabelText("Name"), null);
  await act(async () => answer({ made: { new: "r2" } }));
  assert.equal(screen.queryByLabelText("Name"), null);
  rerender(drawn([ITEM, { id: "r2", name: "Divers", beside: null }]));
  assert.ok(screen.getByLabelText("Name"));
});

test("a new one that was refused leaves its name where it was typed", async () => {
  render(list(Promise.resolve(null))([ITEM]));
  await userEvent.type(screen.getByLabelText("New resource"), "Fitters{Enter}");
  await waitFor(() => assert.equal((screen.getByLabelText("New resource") as HTMLInputElement).value, "Fitters"));
  assert.ok(screen.getByLabelText("Name"));
});

const columns = ["code", "name", "duration"].map((key) => ({
  key,
  title: key,
  width: 60,
  writes: key,
  text: () => "",
})) as Parameters<typeof outlineOf>[1];

test("a block is pasted as what one says it is; why it was refused is said there", async () => {
  const text = "Lot\tDig\nNext\tPour";
  const made: Schemas["PlanEffect"]["label"][] = [];
  const pasting = {
    text,
    taken: outlineOf(text, columns),
    make: async ({ lines }: ReturnType<typeof outlineOf>) => {
      made.push(...lines.map((l) => l.cells.name ?? "?"));
    },
  };
  const { rerender } = render(
    <Within>
      <PasteDialog pasting={pasting} columns={columns} refused={null} shut={() => undefined} />
    </Within>,
  );
  await userEvent.selectOptions(screen.getByLabelText("Column 1 is"), "");
  assert.ok(screen.getByRole("alert"));
  assert.ok((screen.getByRole("button", { name: "Paste 2 rows" }) as HTMLButtonElement).disabled);
  await userEvent.selectOptions(screen.getByLabelText("Column 2 is"), "name");
  await userEvent.click(screen.getByRole("button", { name: "Paste 2 rows" }));
  assert.deepEqual(made, ["Dig", "Pour"]);
  rerender(
    <Within>
      <PasteDialog pasting={pasting} columns={columns} refused="“Dig” stands twice." shut={() => undefined} />
    </Within>,
  );
  assert.equal(screen.getByRole("alert").textContent, "“Dig” stands twice.");
});
