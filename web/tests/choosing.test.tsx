// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { Backward } from "../src/features/plan/Backward";
import { CopyFrom } from "../src/features/plan/CopyFrom";
import { ChoosePeople } from "../src/features/plan/resources/ChoosePeople";
import { columnsOf, rowOf } from "../src/features/plan/resources/columns";
import { PeopleStrip } from "../src/features/plan/resources/PeopleStrip";
import { sayOutcome, sayOver, sayRemedy } from "../src/features/plan/resources/saying";
import { Undated, undatedOf } from "../src/features/plan/Undated";
import type { PlanHandle } from "../src/features/plan/usePlan";
import { setFormats } from "../src/shared";
import { Reads } from "../src/shared/book";
import { BOOK } from "../src/shared/formats";
import { axisOf } from "../src/shared/time";
import { inRoom } from "./inRoom";
import { mapOf, row } from "./rows";

const choice = (code: string, more: Partial<Schemas["ChoiceOfResource"]>): Schemas["ChoiceOfResource"] => ({
  id: `r${code}`,
  code,
  name: code,
  kind: "labour",
  role: false,
  skills: [],
  supplier: "",
  units: 1,
  free_hours: 40,
  booked_hours: 40,
  over_hours: 0,
  on: 0,
  ...more,
});
const OFFERED = [
  choice("Ada", { skills: ["high voltage"], over_hours: 16 }),
  choice("Ben", { skills: ["high voltage", "rigging"], supplier: "Quay Crew" }),
  choice("Cy", { skills: ["coating"], on: 1 }),
];

let asked: unknown[];
let answers: Record<string, unknown>;
let done: unknown[];
const plan = {
  change: async (verbs: unknown[]) => done.push(...verbs),
  preview: async () => {
    if (answers.refused) throw new Error(String(answers.refused));
    return answers.preview;
  },
} as unknown as PlanHandle;

beforeEach(() => {
  setFormats(BOOK);
  asked = [];
  done = [];
  answers = { offered: { revision: 1, resources: OFFERED } };
  globalThis.fetch = async (request) => {
    const { url, method } = request as Request;
    const part = new URL(url).pathname;
    asked.push([part, method === "POST" ? await (request as Request).json() : null]);
    const key = Object.keys(answers).find((k) => part.endsWith(`/${k}`)) ?? "";
    return Response.json(answers[key]);
  };
});
afterEach(cleanup);

const chooser = () =>
  inRoom(
    () => <ChoosePeople rows={["a1", "a2"]} name="2 activities" plan={plan} shut={() => undefined} />,
    new Reads(),
    {
      path: "plan",
    },
  );

test("people are found by skill, those who are free first, and assigned by Enter", async () => {
  chooser();
  await screen.findByRole("option", { name: /Ben/ });
  const find = screen.getByRole("combobox", { name: "Name or skill" });
  await userEvent.type(find, "high volt");
  const options = screen.getAllByRole("option").map((o) => o.getAttribute("aria-label"));
  assert.deepEqual(options, ["Ben, high voltage, rigging, fits", "Ada, high voltage, Too much by 16 h"]);
  await userEvent.keyboard("{Enter}");
  assert.deepEqual(done, [{ do: "assign", resource: "rBen", rows: ["a1", "a2"] }]);
});

test("several are chosen by Space once arrows were used; before, a space is part of what is looked for", async () => {
  chooser();
  await screen.findByRole("option", { name: /Ben/ });
  await userEvent.type(screen.getByRole("combobox", { name: "Name or skill" }), "high ");
  assert.equal((screen.getByRole("combobox", { name: "Name or skill" }) as HTMLInputElement).value, "high ");
  await userEvent.keyboard("{ArrowDown} {ArrowUp} {Enter}");
  assert.deepEqual(
    done.map((v) => (v as { resource: string }).resource),
    ["rAda", "rBen"],
  );
});

test("other units are asked for, and go along", async () => {
  chooser();
  await screen.findByRole("option", { name: /Ben/ });
  const units = screen.getByLabelText("Units of each");
  await userEvent.clear(units);
  await userEvent.type(units, "0,5");
  await waitFor(() =>
    assert.deepEqual(asked.at(-1), ["/api/projects/FERRY/plan/offered", { rows: ["a1", "a2"], units: "0.5" }]),
  );
  await userEvent.click(screen.getByRole("option", { name: /Cy/ }));
  await userEvent.click(screen.getByRole("button", { name: "Assign" }));
  assert.deepEqual(done, [{ do: "assign", resource: "rCy", rows: ["a1", "a2"], cells: { units: "0.5" } }]);
});

test("where nobody has the skill it says so, and assigns nobody", async () => {
  chooser();
  await screen.findByRole("option", { name: /Ben/ });
  await userEvent.type(screen.getByRole("combobox", { name: "Name or skill" }), "diving{Enter}");
  assert.ok(screen.getByText(/Nobody here is called so/));
  assert.deepEqual(done, []);
});

const remedy = (kind: string, more: Partial<Schemas["RemedyOut"]> = {}): Schemas["RemedyOut"] => ({
  kind,
  mode: "",
  activity: "A350",
  activity_name: "Ventilation",
  other: "P",
  other_name: "Petra",
  skills: [],
  units: 2,
  free_hours: 60,
  to: "2027-03-29T08:00",
  later_days: 0,
  own_later_days: 0,
  cost: "0.00",
  left_hours: 0,
  left_in_all_hours: 0,
  verbs: [],
  ...more,
});

test("what puts it right is a sentence, and so is what comes of it", () => {
  assert.equal(sayRemedy(remedy("other")), "Give A350 Ventilation to Petra");
  assert.equal(sayRemedy(remedy("later")), "A350 Ventilation from 29 March 2027");
  assert.equal(sayRemedy(remedy("units")), "2 units on these days");
  assert.equal(sayRemedy(remedy("level", { mode: "beyond_float" })), "Level its work beyond float");
  assert.equal(sayOutcome(remedy("other")), "no day lost");
  assert.equal(sayOutcome(remedy("later", { own_later_days: 5 })), "5 days later, within its float, no day lost");
  const costly = remedy("level", { later_days: 1, cost: "2928.00", left_hours: 8 });
  assert.equal(sayOutcome(costly), "finish 1 day later, +2\u00a0928.00, 8 h stay over");
  const over = [{ name: "Ada", more_hours: 8, hours: 24 }];
  assert.equal(sayOver(over), "Ada is over-allocated by 8 h more, 24 h in all.");
});

test("a resource shows its rates in force with the parts of money, finer ones as they are", () => {
  const lists = {
    calendars: [],
    project_calendar: "five",
    own: [{ code: "until", name: "Inducted", kind: "date", options: [] }],
  };
  const columns = columnsOf(lists as unknown as Schemas["ListsOut"]);
  const of = (key: string) => columns.find((c) => c.key === key);
  const resource = {
    id: "r1",
    code: "FIT",
    name: "Fitters",
    in_force: { "rate.hour": "52", "rate.unit": "0.125", "rate.day": "400.5" },
    short_hours: 12,
    own: { until: "2027-12-31" },
    activities: 0,
    kept: "own",
  } as unknown as Schemas["ResourceOut"];
  const shown = (key: string) => of(key)?.text?.(rowOf(resource)) ?? rowOf(resource).cells[key];
  assert.deepEqual(["rate.hour", "rate.unit", "rate.day", "rate.week", "short", "fields.until"].map(shown), [
    "52.00",
    "0.125",
    "400.50",
    "",
    "12 h",
    "31 December 2027",
  ]);
});

test("work without dates is what no link, no constraint and no progress gives one", () => {
  const rows = [
    row("a1"),
    row("a2", { after: "A1" }),
    row("a3", { constraint: "start on or after 1 mar 2027" }),
    row("a4", { state: "in_progress" }),
    row("a5", { levelled: "2027-03-01T08:00" }),
    row("w6"),
  ];
  assert.deepEqual(
    undatedOf(rows).map((r) => r.id),
    ["a1"],
  );
});

test("a piece of it that is pressed takes one to its start; without any it says so", async () => {
  const gone: string[] = [];
  const axis = axisOf("2027-01-04T08:00", "2027-03-01T17:00", "week");
  const strip = (rows: ReturnType<typeof row>[]) =>
    inRoom(
      () => (
        <Undated rows={rows} axis={axis} begin={() => undefined} goTo={(r) => gone.push(r.id)} shut={() => undefined} />
      ),
      new Reads(),
      { path: "plan" },
    );
  strip([row("a1")]);
  await userEvent.click(screen.getByRole("button", { name: /A1/ }));
  assert.deepEqual(gone, ["a1"]);
  cleanup();
  strip([]);
  assert.ok(screen.getByRole("group", { name: "All work has a predecessor or a date" }));
});

test("somebody is dragged onto a row, and Escape lets go", () => {
  const put: string[][] = [];
  const rows = mapOf([row("a1"), row("w2")]);
  inRoom(
    () => (
      <>
        <div data-id="a1">there</div>
        <div data-id="w2">an element</div>
        <PeopleStrip
          resources={[{ id: "r1", name: "Ada" }]}
          rows={rows}
          assign={(...of) => put.push(of)}
          shut={() => undefined}
        />
      </>
    ),
    new Reads(),
    { path: "plan" },
  );
  const ada = screen.getByRole("button", { name: "Drag Ada onto a row" });
  ada.setPointerCapture = () => undefined;
  let at = screen.getByText("an element");
  document.elementFromPoint = () => at;
  const drag = (...ways: ("down" | "move" | "up")[]) => {
    for (const way of ways)
      fireEvent[`pointer${way[0]?.toUpperCase()}${way.slice(1)}` as "pointerMove"](ada, { button: 0 });
  };
  drag("down", "move", "up");
  assert.deepEqual(put, []); // nobody works on an element
  at = screen.getByText("there");
  drag("down", "move");
  assert.ok(screen.getByText("Ada → A1 Row a1"));
  fireEvent.keyDown(window, { key: "Escape" });
  drag("up");
  assert.deepEqual(put, []);
  drag("down", "move", "up");
  assert.deepEqual(put, [["r1", "a1"]]);
});

test("planning backward shows what would move, or why it can't", async () => {
  const open = () =>
    inRoom(() => <Backward plan={plan} finish="2027-07-20T17:00" imposed shut={() => undefined} />, new Reads(), {
      path: "plan",
    });
  answers.preview = {
    label: "2 activities as late as their links allow",
    finish: "2027-07-20T17:00",
    moved: [{ row: "a1", code: "A1", name: "Dig", before: "2027-03-01T17:00", after: "2027-03-08T17:00", days: 5 }],
    moved_count: 3,
  };
  open();
  assert.ok(await screen.findByText(/2 activities as late as their links allow/));
  assert.match(screen.getByRole("table").textContent ?? "", /A1 Dig.*Mon 1 Mar.*Mon 8 Mar.*\+5 d/);
  assert.ok(screen.getByText("and 2 more"));
  await userEvent.click(screen.getByRole("button", { name: "Plan so" }));
  assert.deepEqual(done, [{ do: "backward" }]);
  cleanup();
  answers.refused = "The finish on 20 July 2027 can't be met.";
  open();
  assert.ok(await screen.findByText(/can't be met/));
  assert.equal((screen.getByRole("button", { name: "Plan so" }) as HTMLButtonElement).disabled, true);
});

test("activities of another project are found, chosen and copied under an element; a refusal stays beside them", async () => {
  answers.projects = {
    projects: [
      { code: "FERRY", name: "Ferry" },
      { code: "PIER", name: "Pier" },
    ],
  };
  answers.plan = { rows: [row("w1"), row("a2", { name: "Dig" }), row("a3", { name: "Pour" })] };
  inRoom(
    () => (
      <CopyFrom project="FERRY" plan={plan} elements={[{ id: "w9", code: "9", name: "Yard" }]} shut={() => undefined} />
    ),
    new Reads(),
    { path: "plan" },
  );
  const from = await screen.findByLabelText("Project");
  await waitFor(() =>
    assert.deepEqual(
      within(from)
        .getAllByRole("option")
        .map((o) => o.textContent),
      ["choose", "PIER Pier"],
    ),
  );
  await userEvent.selectOptions(from, "PIER");
  await userEvent.selectOptions(screen.getByLabelText("Under"), "w9");
  await userEvent.type(await screen.findByLabelText("Find among them"), "po");
  await userEvent.click(screen.getByRole("checkbox"));
  answers.refused = "That project reckons in JPY.";
  await userEvent.click(screen.getByRole("button", { name: "Copy 1" }));
  assert.equal((await screen.findByRole("alert")).textContent, "That project reckons in JPY.");
  answers.refused = "";
  await userEvent.click(screen.getByRole("button", { name: "Copy 1" }));
  await waitFor(() => assert.deepEqual(done, [{ do: "copy", from: "PIER", rows: ["A3"], parent: "w9" }]));
});
