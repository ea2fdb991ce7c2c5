import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter, Outlet, Route, Routes } from "react-router";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { MyWorkScreen } from "../src/features/asking/MyWorkScreen";
import { system } from "../src/shared/ui/theme";

const row = (code: string, more: Partial<Schemas["WorkRow"]> = {}): Schemas["WorkRow"] => ({
  code,
  name: `Work ${code}`,
  wbs: "Hull",
  planned_start: "2027-03-01T08:00",
  planned_finish: "2027-03-10T17:00",
  state: "in_progress",
  method: "percent",
  percent: 40,
  days_left: 3,
  actual_start: "2027-03-01T08:00",
  units: null,
  hours: [],
  ...more,
});
const WORK: Schemas["MyWorkOut"] = {
  name: "Ruan Teale",
  work: [
    {
      request: 7,
      project: "FERRY",
      project_name: "MV Corran Light",
      page: "P10",
      first: "2027-03-05T17:00",
      status: "2027-03-12T17:00",
      until: "2027-03-12T12:00",
      by: "Ines Halloran",
      rows: [
        row("A1", { hours: [{ resource: "FIT", name: "Fitters", before: 8, left: 24 }] }),
        row("A2", { state: "not_started", percent: 0, actual_start: null }),
        row("A3", { cells: { percent: "60", note: "soon" }, answered: "2027-03-11T09:30" }),
      ],
    },
  ],
};
const RUAN = { username: "ruan", full_name: "Ruan Teale", role: "none" } as Schemas["PersonOut"];

type Given = Schemas["GivenForm"];
let sent: Given[][];
/** What the server does with answers: none where there is no line. */
let server: (answers: Given[]) => object[] | null;

beforeEach(() => {
  localStorage.clear();
  sent = [];
  server = (answers) => answers.map((a) => ({ uid: a.uid, kept: true, why: "", field: "" }));
  globalThis.fetch = async (asked) => {
    const request = asked as Request;
    if (request.method === "GET") return Response.json(WORK);
    const { answers } = (await request.json()) as { answers: Given[] };
    const told = server(answers);
    if (told === null) throw new TypeError("no line");
    sent.push(answers);
    return Response.json(told);
  };
});
afterEach(cleanup);

const show = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <ChakraProvider value={system}>
        <MemoryRouter>
          <Routes>
            <Route element={<Outlet context={{ person: RUAN, mode: "light", switchMode: () => undefined }} />}>
              <Route path="/" element={<MyWorkScreen />} />
            </Route>
          </Routes>
        </MemoryRouter>
      </ChakraProvider>
    </QueryClientProvider>,
  );
const open = async (name: RegExp) => userEvent.click(await screen.findByRole("button", { name }));
const type = (label: RegExp, text: string) => userEvent.type(screen.getByLabelText(label), text);
const cellsOf = (answers: Given[] | undefined) => answers?.map((a) => [a.activity, a.cells, a.hours]);

test("what is asked stands there with what is known, and what was answered can be said anew", async () => {
  show();
  assert.ok(await screen.findByText("To 12 March 2027"));
  assert.ok(screen.getByText(/1 of 3 answered, until/));
  assert.ok(screen.getByText("so far 40 %, 3 days left"));
  assert.ok(screen.getByText("not begun, due 1 Mar"));
  await open(/Work A3/);
  assert.equal(screen.getByLabelText<HTMLInputElement>(/How far/).value, "60");
  await type(/Days left/, "1");
  await userEvent.click(screen.getByRole("button", { name: "Send 1 answer" }));
  await waitFor(() => assert.equal(sent.length, 1));
  assert.deepEqual(cellsOf(sent[0]), [["A3", { percent: "60", note: "soon", remaining: "1" }, {}]]);
  assert.ok(await screen.findByText("Everything you typed has arrived."));
});

test("work that has begun has hours where they are asked for; what has not begun can start later", async () => {
  show();
  await open(/Work A1/);
  assert.equal(screen.queryByLabelText(/Will start on/), null);
  await type(/Hours since last page/, "12,5");
  await open(/Work A2/);
  assert.equal(screen.queryByLabelText(/Hours since/), null);
  await type(/Will start on/, "2027-03-15");
  await userEvent.click(screen.getByRole("button", { name: "Send 2 answers" }));
  await waitFor(() => assert.equal(sent.length, 1));
  assert.deepEqual(cellsOf(sent[0]), [
    ["A1", {}, { FIT: { worked: "12,5" } }],
    ["A2", { carry_to: "2027-03-15" }, {}],
  ]);
});

test("without a line answers stay on the device, also when the page is left, and arrive once", async () => {
  server = () => null;
  show();
  await open(/Work A1/);
  await type(/How far/, "75");
  await userEvent.click(screen.getByRole("button", { name: "Send 1 answer" }));
  assert.ok(await screen.findByText(/No line\. 1 answer is kept on this device/));
  assert.ok(screen.getByText("on its way"));
  cleanup();
  server = (answers) => answers.map((a) => ({ uid: a.uid, kept: true, why: "", field: "" }));
  show();
  await waitFor(() => assert.equal(sent.length, 1));
  const uid = sent[0]?.[0]?.uid;
  window.dispatchEvent(new Event("online"));
  assert.ok(await screen.findByText("Everything you typed has arrived."));
  assert.deepEqual([sent.length, sent.flat().filter((a) => a.uid === uid).length], [1, 1]);
});

test("what can't be kept says why beside its row, and what was typed stays", async () => {
  server = (answers) => answers.map((a) => ({ uid: a.uid, kept: false, why: "Give 0 to 100.", field: "percent" }));
  show();
  await open(/Work A1/);
  await type(/How far/, "140");
  await userEvent.click(screen.getByRole("button", { name: "Send 1 answer" }));
  assert.equal((await screen.findByRole("alert")).textContent, "Give 0 to 100.");
  const box = screen.getByLabelText<HTMLInputElement>(/How far/);
  assert.deepEqual([box.value, box.getAttribute("aria-invalid")], ["140", "true"]);
  await userEvent.clear(box);
  await userEvent.type(box, "90");
  assert.equal(screen.queryByRole("alert"), null);
});
