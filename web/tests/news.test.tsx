import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, renderHook, screen, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, test } from "vitest";
import { client, Problem, take } from "../src/api";
import { useNews } from "../src/app/useNews";
import { AtOnce } from "../src/features/posting/AtOnce";
import { CloseDialog } from "../src/features/posting/CloseDialog";
import type { usePosting } from "../src/features/posting/usePosting";
import { keys, PlaceProvider, tellAnswered, tellUnread } from "../src/shared";
import { revisionOf, see } from "../src/shared/book";
import { toasts } from "../src/shared/Toasts";
import { system } from "../src/shared/ui/theme";
import { words } from "../src/shared/words/planned";
import { ADA, FRAME, PAGE } from "./place";

let queries: QueryClient;
const real = globalThis.fetch;
beforeEach(() => {
  queries = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY, retry: false } } });
});
afterEach(() => {
  cleanup();
  globalThis.fetch = real;
});
const Within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={queries}>
    <ChakraProvider value={system}>
      <MemoryRouter initialEntries={["/FERRY/P03/posting"]}>
        <PlaceProvider project="FERRY" page={PAGE} frame={FRAME} person={ADA} everywhere="analyst">
          {children}
        </PlaceProvider>
      </MemoryRouter>
    </ChakraProvider>
  </QueryClientProvider>
);

const about = keys.project("N").about;
const old = () => queries.getQueryState(about)?.isInvalidated === true;
/** The news of a project whose frame is read again and again. */
function news(first: number, outside = "") {
  see("N", 0);
  queries.setQueryData(about, { name: "as it was read" });
  let asked = 0;
  const { rerender } = renderHook(({ revision, from }) => useNews("N", revision, from, ++asked), {
    wrapper: Within,
    initialProps: { revision: first, from: outside },
  });
  return async (revision: number, from = outside) => {
    rerender({ revision, from });
    await act(async () => new Promise((done) => setImmediate(done)));
  };
}

test("what somebody else wrote has everything of the project read again; one's own write has not", async () => {
  const read = news(5);
  await read(5);
  assert.equal(revisionOf("N"), 5);
  see("N", 6);
  await read(6);
  assert.ok(!old(), "one's own write brought its figures with it");
  await read(7);
  assert.ok(old());
  assert.equal(revisionOf("N"), 7);
});

test("while one types, news wait", async () => {
  const read = news(5);
  render(<input aria-label="A cell" />);
  screen.getByLabelText("A cell").focus();
  await read(7);
  assert.ok(!old());
  screen.getByLabelText("A cell").blur();
  await read(7);
  assert.ok(old());
});

test("an earlier revision is believed when it is told twice: a backup was restored", async () => {
  const read = news(5);
  see("N", 9);
  await read(8);
  assert.ok(!old(), "it was asked before one's own write was answered");
  assert.equal(revisionOf("N"), 9);
  await read(8);
  assert.ok(old());
  assert.equal(revisionOf("N"), 8);
});

test("where another project gives other dates, everything is read again", async () => {
  const read = news(5, "a");
  await read(5, "b");
  assert.ok(old());
});

test("a server that is not reached is told from a fault of ours, and what was given up from both", async () => {
  const problem = async (answer: () => Promise<Response>) => {
    globalThis.fetch = answer as typeof fetch;
    const got = take(client.GET("/api/projects/{project}", { params: { path: { project: "FERRY" } } }));
    return got.then(
      () => null,
      (error: unknown) => error,
    );
  };
  const away = await problem(() => Promise.reject(new TypeError("Failed to fetch")));
  assert.ok(away instanceof Problem && away.code === "unreachable");
  const garbled = await problem(async () => new Response("{", { headers: { "Content-Type": "application/json" } }));
  assert.ok(!(garbled instanceof Problem), "an answer that can't be read is no server that does not answer");
  const left = await problem(() => Promise.reject(new DOMException("left", "AbortError")));
  assert.ok(left instanceof DOMException);
  const fault = await problem(async () =>
    Response.json({ code: "unexpected", detail: "It is in the log." }, { status: 500 }),
  );
  assert.ok(fault instanceof Problem && fault.message === "It is in the log.");
  const before = await problem(async () => new Response("", { status: 502 }));
  assert.ok(before instanceof Problem && before.code === "unreachable");
});

test("the close dialog says what becomes of a report without an overall status", async () => {
  const draft = { status: "", reason: "", words: "", texts: {}, heads: {} };
  queries.setQueryData(keys.page("FERRY", PAGE.code).report, { draft });
  queries.setQueryData(keys.page("FERRY", PAGE.code).signs, { open: 0, impossible: 0, rows: {} });
  queries.setQueryData(keys.project("FERRY").nextStatus, { status: "2027-01-29T17:00" });
  const dialog = (
    <CloseDialog toGo={2} close={() => Promise.reject(new Error("That date lies before."))} shut={() => undefined} />
  );
  render(dialog, { wrapper: Within });
  assert.ok(await screen.findByText(/no overall status/));
  assert.ok(screen.getByText("2 activities still need an entry."));
  act(() => screen.getByRole("button", { name: "Close the page" }).click());
  assert.ok(await screen.findByText("That date lies before."));
  cleanup();
  queries.setQueryData(keys.page("FERRY", PAGE.code).report, { draft: { ...draft, status: "watch" } });
  render(dialog, { wrapper: Within });
  await screen.findByRole("alertdialog");
  assert.equal(screen.queryByText(/no overall status/), null);
});

test("posting at once says why there is nothing to post, and asks for a date before it carries", async () => {
  globalThis.fetch = async () =>
    Response.json({
      stated: [],
      left: [],
      skipped: { complete: 0, posted: 0 },
      moved: [],
      critical: [],
      no_longer_critical: [],
      finish: "2027-07-30T17:00",
      change: {},
    });
  const posting = { planned: async () => null, carry: async () => null } as unknown as ReturnType<typeof usePosting>;
  const panel = (kind: "planned" | "carry", shown: string[] | null) => (
    <AtOnce kind={kind} posting={posting} wants={0} shown={shown} picked={[]} shut={() => undefined} />
  );
  render(panel("planned", null), { wrapper: Within });
  assert.ok(await screen.findByText(words.planned.nothing.page));
  assert.ok(screen.getByRole("button", { name: "Post as planned" }).hasAttribute("disabled"));
  cleanup();
  render(panel("planned", ["A1"]), { wrapper: Within });
  assert.ok(await screen.findByText(words.planned.nothing.chosen));
  cleanup();
  render(panel("carry", null), { wrapper: Within });
  assert.ok(screen.getByText(words.planned.when));
  await waitFor(() => assert.ok(screen.getByRole("button", { name: "Carry forward" }).hasAttribute("disabled")));
});

test("that the server does not answer is said once, until it does; another trouble by itself", async () => {
  const away = () => tellUnread(new Problem(0, "unreachable", "The server does not answer."));
  await away();
  await away();
  assert.equal(toasts.getVisibleToasts().length, 1);
  await tellUnread(new Problem(500, "unexpected", "It is in the log."));
  assert.equal(toasts.getVisibleToasts().length, 2);
  const gone: unknown[] = [];
  const stop = toasts.subscribe(
    (told: { id?: string; message?: string }) => told.message === "DISMISS" && gone.push(told.id),
  );
  await tellAnswered();
  stop();
  assert.deepEqual(gone, ["away"]);
});
