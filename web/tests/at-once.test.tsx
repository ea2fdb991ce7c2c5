// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { AtOnce } from "../src/features/posting/AtOnce";
import { PasteWeek } from "../src/features/posting/PasteWeek";
import type { Line } from "../src/features/posting/useHours";
import type { usePosting } from "../src/features/posting/usePosting";
import { type Placed, placed, weekOf } from "../src/features/posting/week";
import { setFormats } from "../src/shared";
import { Reads } from "../src/shared/book";
import { BOOK } from "../src/shared/formats";
import { inRoom } from "./inRoom";

const stated = (code: string, more: Partial<Schemas["Stated"]>): Schemas["Stated"] => ({
  code,
  name: `Work ${code}`,
  mark: "on_plan",
  says: "",
  finished: false,
  hours: "",
  cost: "",
  reckoned: "",
  ...more,
});
const TRIED: Schemas["TriedOut"] = {
  stated: [
    stated("A1", { says: "finished 20 January 2027", finished: true, hours: "16", cost: "420.00" }),
    stated("A2", { says: "started 11 January 2027, 60 %", reckoned: "1296.00" }),
    stated("A3", { hours: "8" }),
  ],
  left: [{ code: "A4", name: "Work A4", part: "hours", of: "Fitters", posted: "10 h", planned: "24 h" }],
  skipped: { complete: 0, posted: 0 },
  moved: [],
  critical: [],
  no_longer_critical: [],
  finish: "2027-07-30T17:00",
  change: { ev: "1200.00", ac: "2136.00" },
};

let asked: { part: string; body: Record<string, unknown> }[];
let answer: Schemas["TriedOut"];
let done: unknown[][];
const posting = {
  planned: async (...of: unknown[]) => done.push(of),
  carry: async (...of: unknown[]) => done.push(of),
} as unknown as ReturnType<typeof usePosting>;

beforeEach(() => {
  setFormats(BOOK);
  asked = [];
  done = [];
  answer = TRIED;
  globalThis.fetch = async (request) => {
    const { url } = request as Request;
    asked.push({ part: url.split("/posting/")[1] ?? "", body: await (request as Request).json() });
    return Response.json(answer);
  };
});
afterEach(cleanup);

const panel = (kind: "planned" | "carry") =>
  inRoom(
    () => <AtOnce kind={kind} posting={posting} wants={3} shown={null} picked={[]} shut={() => undefined} />,
    new Reads(),
    { path: "posting" },
  );
const cells = (row: HTMLElement) => [...row.querySelectorAll("td")].map((td) => td.textContent?.trim());

test("posting as planned says of each what goes onto it: progress, hours, cost, and what is reckoned", async () => {
  panel("planned");
  assert.ok(
    await screen.findByText(
      /1 finished, 1 in progress, forecast finish 30 July 2027, EV \+1\s200\.00, AC \+2\s136\.00/,
    ),
  );
  const [rows, stays] = screen.getAllByRole("table");
  assert.ok(rows && stays);
  const lines = within(rows).getAllByRole("row").slice(1).map(cells);
  assert.deepEqual(
    lines.map((l) => l.slice(1)),
    [
      ["finished 20 January 2027", "16", "420.00", ""],
      ["started 11 January 2027, 60 %", "", "", "1\u00a0296.00"],
      ["", "8", "", ""],
    ],
  );
  assert.match(stays.textContent ?? "", /1 posted already stays as it is.*A4 Work A4.*Hours, Fitters.*10 h.*24 h/);
});

test("each of the three can be left out, and what is ticked is what is posted", async () => {
  panel("planned");
  await screen.findByRole("button", { name: "Post 3 as planned" });
  await userEvent.click(screen.getByRole("checkbox", { name: "Hours" }));
  await waitFor(() => assert.deepEqual(asked.at(-1)?.body.parts, ["progress", "cost"]));
  await userEvent.click(await screen.findByRole("button", { name: "Post 3 as planned" }));
  assert.deepEqual(done, [["to_date", null, ["progress", "cost"]]]);
  answer = { ...TRIED, stated: [], left: [] };
  await userEvent.click(screen.getByRole("checkbox", { name: "Progress" }));
  await userEvent.click(screen.getByRole("checkbox", { name: "Cost" }));
  assert.ok(await screen.findByText("Tick what is to be posted: progress, hours or cost."));
});

test("carrying forward says what it takes, what it leaves, and why it takes nothing", async () => {
  answer = {
    ...TRIED,
    stated: [stated("A1", { says: "carried to 5 February 2027" })],
    left: [],
    skipped: { posted: 2 },
  };
  panel("carry");
  await userEvent.type(screen.getByLabelText("To"), "5 feb");
  assert.ok(await screen.findByText(/1 activity is carried, 2 with an entry on this page stay/));
  cleanup();
  answer = { ...answer, stated: [] };
  panel("carry");
  await userEvent.type(screen.getByLabelText("To"), "6 feb");
  assert.ok(await screen.findByText(/2 due activities have their entry on this page, so nothing is carried/));
  cleanup();
  answer = { ...answer, skipped: { posted: 0 } };
  panel("carry");
  await userEvent.type(screen.getByLabelText("To"), "8 feb");
  assert.ok(await screen.findByText("No unfinished work was due by the status date."));
});

const ACTIVITIES = [
  ["A1", "Cable runs, forward"],
  ["A2", "Cable runs, aft"],
];
const PEOPLE = [
  ["FIT", "Ruan Teale's fitters"],
  ["ELE", "Mirela Oakden's electricians"],
];
const rowOf = (activity: string, resource: string) =>
  ({ id: `${activity}¦${resource}`, activity, resource, name: activity, person: resource }) as Line;
const week = (text: string) => placed(weekOf(text) ?? [], "FIT", ACTIVITIES, PEOPLE, rowOf);

test("a pasted week goes to the people that it names, else to the one that the cursor is on", () => {
  const lines = week("Task\tPerson\tHours\nA1\tmirela\t8\naft\t\t4\ncable runs\t\t2\nA2\tnobody\t1\n");
  assert.deepEqual(
    lines.map((l) => l.row?.id),
    ["A1¦ELE", "A2¦FIT", undefined, undefined],
  );
});

test("it is looked at before it is posted: what is not known is told, and left out", async () => {
  const posted: Placed[][] = [];
  const lines = week("A1\t8\t1\t12\nnothing such\t4\n");
  inRoom(() => <PasteWeek lines={lines} post={(of) => posted.push(of)} shut={() => undefined} />, new Reads(), {
    path: "posting/hours",
  });
  const dialog = await screen.findByRole("dialog");
  const rows = within(dialog).getAllByRole("row").slice(1).map(cells);
  assert.deepEqual(rows[0], ["A1", "A1 A1, FIT", "8", "1", "12"]);
  assert.match(rows[1]?.[1] ?? "", /Names no activity or person here, or several: left out/);
  await userEvent.click(within(dialog).getByRole("button", { name: "Post 1 line" }));
  assert.deepEqual(
    posted.map((of) => of.map((l) => l.activity)),
    [["A1"]],
  );
});
