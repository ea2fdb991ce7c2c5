// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { AnswersScreen } from "../src/features/posting/AnswersScreen";
import { setFormats } from "../src/shared";
import { Reads } from "../src/shared/book";
import { BOOK } from "../src/shared/formats";
import { inRoom } from "./inRoom";

const answer = (id: number, code: string, more: Partial<Schemas["TrayAnswer"]> = {}): Schemas["TrayAnswer"] => ({
  id,
  request: 1,
  name: "Ruan Teale",
  via: "page",
  at: "2027-01-21T15:40",
  code,
  activity: `Work ${code}`,
  cells: { percent: "90" },
  hours: {},
  says: "90 %",
  note: "",
  stands: "86 %, 1 d left",
  since: false,
  moves: 0,
  finish: 0,
  eac: null,
  refused: "",
  field: "",
  ...more,
});
const person = (name: string, more: Partial<Schemas["OfferedOut"]> = {}): Schemas["OfferedOut"] => ({
  name,
  signs_in: false,
  email: "",
  count: 2,
  asked: false,
  ...more,
});
const request = (id: number, name: string, answered: number): Schemas["RequestOut"] => ({
  id,
  name,
  signs_in: id === 1,
  email: id === 1 ? "" : "j@tarnquay.example",
  asked: 3,
  answered,
  until: "2027-01-21T18:00",
  reminded: null,
  sent: id === 1 ? "" : "accepted by the mail server",
});
const ASKING: Schemas["AskingOut"] = {
  page: "P03",
  status: "2027-01-22T17:00",
  revision: 7,
  weeks: 0,
  open: true,
  offered: [person("Ruan Teale", { signs_in: true }), person("Joss Amberley"), person("Wim Carrow", { count: 0 })],
  requests: [request(1, "Ruan Teale", 3), request(2, "Joss Amberley", 0)],
  tray: [
    answer(1, "A1"),
    answer(2, "A2", { moves: 2, finish: 1, eac: "1240.00", since: true, stands: "started 4 January 2027, 35 %" }),
    answer(3, "A3", { refused: "“soon” is not a date.", field: "actual_finish", moves: null, note: "on Monday" }),
  ],
  together: { count: 2, was: "2027-07-30T17:00", finish: "2027-07-31T17:00", eac: "1240.00", to_go: 3 },
  inbox: 1,
};
const SHEET = {
  page: "P03",
  status: "2027-01-22T17:00",
  state: "wet",
  revision: 7,
  wbs: [],
  rows: [],
  to_go: 3,
  posted: 2,
};
const EFFECT = {
  revision: 8,
  label: "",
  subject: "",
  rows: [],
  moved: [],
  change: {},
  to_go: 3,
  posted: 2,
  balance: {},
};

let reads: Reads;
let now: Schemas["AskingOut"];
let sent: [method: string, part: string, body: unknown][];
beforeEach(() => {
  setFormats(BOOK);
  reads = new Reads();
  now = ASKING;
  sent = [];
  globalThis.fetch = async (asked) => {
    const { method, url } = asked as Request;
    const part = new URL(url).pathname.split("/pages/P03/")[1] ?? "";
    if (method === "GET") return Response.json(part.startsWith("asking") ? now : part === "posting" ? SHEET : {});
    const body = await (asked as Request).json().catch(() => null);
    sent.push([method, part, body]);
    if (part === "asking/inbox") return Response.json({ lines: ["a.xlsx: 2 answers"] });
    if (part === "asking/answers") {
      const { take = [], leave = [] } = body as { take?: number[]; leave?: number[] };
      now = { ...now, tray: now.tray.filter((x) => ![...take, ...leave].includes(x.id)) };
      return Response.json({ effect: EFFECT, asking: now });
    }
    return Response.json(now);
  };
});
afterEach(cleanup);

const show = async () => {
  inRoom(AnswersScreen, reads, { path: "posting/answers" });
  await screen.findByRole("button", { name: "Ask…" });
};
const press = (name: string | RegExp) => userEvent.click(screen.getByRole("button", { name }));
/** What was decided by the write of that number. */
const decided = (n: number) => (sent[n] ?? ["", "", {}])[2] as { take: number[]; leave: number[]; changed: object };
const rowOf = (code: string) => {
  const row = screen.getByText(new RegExp(`^${code} Work`)).closest("tr");
  assert.ok(row);
  return row;
};

test("each answer stands against what stands, with what it would move", async () => {
  await show();
  assert.ok(screen.getByText(/Asked 2 people, 1 has answered, until Thu 21 Jan 18:00/));
  assert.match(rowOf("A1").textContent ?? "", /90 %.*86 %, 1 d left.*nothing/);
  assert.match(
    rowOf("A2").textContent ?? "",
    /posted on this page: started 4 January 2027, 35 %.*\+2 d.*\+1 d.*\+1\s240\.00/,
  );
  assert.match(rowOf("A3").textContent ?? "", /on Monday.*is not a date/);
  assert.ok(within(rowOf("A3")).getByRole("button", { name: "Take the answer to A3" }).hasAttribute("disabled"));
  assert.ok(screen.getByText(/Joss Amberley \(3 rows\)/));
  assert.ok(screen.getByText(/Taking all 2: finish 30 Jul → 31 Jul, EAC \+1\s240\.00, 3 rows still need an entry\./));
});

test("one is taken, one changed, one left, and all of a person only where they can be", async () => {
  await show();
  await press("Take all of Ruan Teale");
  await waitFor(() => assert.equal(sent.length, 1));
  assert.deepEqual(sent[0]?.slice(0, 2), ["PATCH", "asking/answers"]);
  assert.deepEqual(decided(0).take, [1, 2]);
  await waitFor(() => assert.equal(screen.queryByText(/^A1 Work/), null));
  await press("Change the answer to A3");
  const strip = screen.getByRole("group", { name: "Change the answer to A3" });
  await userEvent.type(within(strip).getByLabelText(/Finished/), "18 jan");
  await userEvent.click(within(strip).getByRole("button", { name: "Take it so" }));
  await waitFor(() => assert.equal(sent.length, 2));
  assert.deepEqual([decided(1).take, decided(1).changed], [[3], { 3: { actual_finish: "18 jan" } }]);
  assert.ok(await screen.findByText(/No answer waits/));
});

test("an answer that is left goes, and nothing is taken of it", async () => {
  await show();
  await press("Leave the answer to A2");
  await waitFor(() => assert.equal(sent.length, 1));
  assert.deepEqual([decided(0).take, decided(0).leave], [[], [2]]);
});

test("people are asked for what is due of theirs, until a day, by their page or by a sheet", async () => {
  await show();
  await press("Ask…");
  const dialog = await screen.findByRole("dialog");
  assert.ok(within(dialog).getByRole("checkbox", { name: "Wim Carrow" }).hasAttribute("disabled"));
  await userEvent.click(within(dialog).getByRole("checkbox", { name: "Ruan Teale" }));
  await userEvent.type(within(dialog).getByLabelText("Mail address of Joss Amberley"), "j@x.example");
  await userEvent.type(within(dialog).getByLabelText(/Until/), "21 jan");
  await userEvent.click(within(dialog).getByRole("button", { name: "Ask 1 person" }));
  await waitFor(() => assert.equal(sent.length, 1));
  const whom = [{ name: "Joss Amberley", email: "j@x.example" }];
  assert.deepEqual(sent[0], ["POST", "asking", { whom, weeks: 0, until: "21 jan" }]);
});

test("who is behind is reminded, and what lies in the inbox is read", async () => {
  await show();
  await press("Remind 1");
  await waitFor(() => assert.deepEqual(sent[0]?.slice(1), ["asking/remind", { requests: [2] }]));
  await press("Read the inbox (1)");
  assert.ok(await screen.findByText(/a\.xlsx: 2 answers/));
  await press("Seen");
  assert.equal(screen.queryByText(/a\.xlsx/), null);
});

test("where nobody was asked it says what asking does", async () => {
  now = { ...ASKING, requests: [], tray: [], together: null, inbox: 0 };
  await show();
  assert.ok(await screen.findByText(/Nobody has been asked on this page/));
  assert.equal(screen.queryByRole("button", { name: /Remind/ }), null);
  const look = screen.getByRole("group", { name: "Look-ahead" });
  await userEvent.selectOptions(within(look).getByLabelText("Look-ahead by"), "by element");
  const links = within(look)
    .getAllByRole("link")
    .map((a) => a.getAttribute("href"));
  assert.deepEqual(
    links.map((h) => h?.split("/pages/")[1]),
    ["P03/look-ahead.pdf?weeks=3&by=element", "P03/look-ahead.xlsx?weeks=3&by=element"],
  );
});
