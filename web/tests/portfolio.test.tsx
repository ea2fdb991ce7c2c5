// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { Asked } from "../src/features/baseline/Asked";
import { Elsewhere } from "../src/features/baseline/Elsewhere";
import { HandOvers } from "../src/features/buffers/HandOvers";
import type { Buffers, useBuffers } from "../src/features/buffers/useBuffers";
import { Standing } from "../src/features/desk/Standing";
import { levels, type Project } from "../src/features/desk/useDeskLook";
import { setFormats } from "../src/shared";
import { Reads, type useWrites } from "../src/shared/book";
import { BOOK } from "../src/shared/formats";
import { inRoom } from "./inRoom";

const project = (code: string, more: Partial<Project> = {}) =>
  ({ code, name: `Project ${code}`, place: "", client: "", standing: "real", may_stand: true, ...more }) as Project;

let asked: [string, unknown][];
let answer: (part: string, body: unknown) => Response;

beforeEach(() => {
  setFormats(BOOK);
  asked = [];
  answer = () => Response.json({});
  globalThis.fetch = async (request) => {
    const { url, method } = request as Request;
    const part = new URL(url).pathname;
    const body = method === "GET" ? null : await (request as Request).json().catch(() => null);
    asked.push([part, body]);
    return answer(part, body);
  };
});
afterEach(cleanup);

const refusal = (detail: string, field = "") =>
  Response.json({ code: "refused", title: "Refused", detail, field, status: 422 }, { status: 422 });

test("a portfolio has as many levels as it has names, each with all that stands in it and below", () => {
  const [a, b, c, d] = [
    project("A", { place: "Port / Slipway" }),
    project("B", { place: "Fleet" }),
    project("C", { place: "Port" }),
    project("D", { place: "Port / Slipway" }),
  ];
  const found = levels(
    [
      ["Fleet", [b]],
      ["Port", [c]],
      ["Port / Slipway", [a, d]],
    ],
    "place",
  );
  assert.deepEqual(
    found.map((l) => [l.name, l.depth, l.codes.join(), l.own.map((p) => p.code).join()]),
    [
      ["Fleet", 0, "B", "B"],
      ["Port", 0, "C,A,D", "C"],
      ["Slipway", 1, "A,D", "A,D"],
    ],
  );
});

test("what is grouped by then is one level below, and without groups all stand together", () => {
  const [a, b] = [project("A", { client: "City" }), project("B")];
  const client = { key: "client", title: "Client", text: (p: Project) => p.client };
  assert.deepEqual(
    levels([["On plan", [a, b]]], "mark_word", client).map((l) => [l.name, l.depth, l.codes.join()]),
    [
      ["On plan", 0, "A,B"],
      ["City", 1, "A"],
      ["–", 1, "B"],
    ],
  );
  const [all] = levels([["", [a, b]]], "");
  assert.deepEqual([all?.key, all?.own.length], ["", 2]);
});

const standing = (p: Project) => inRoom(() => <Standing project={p} />, new Reads(), { path: "plan" });
const menu = async () => {
  await userEvent.click(screen.getByRole("button", { name: /What to do with/ }));
  return (await screen.findAllByRole("menuitem")).map((i) => i.textContent);
};

test("a project offers what its standing and one's role allow", async () => {
  for (const [p, items] of [
    [project("A"), ["Portfolio…", "Retire", "Delete…"]],
    [project("A", { standing: "what_if" }), ["Portfolio…", "Make it a real project", "Retire", "Delete…"]],
    [project("A", { standing: "retired" }), ["Portfolio…", "Bring it back", "Delete…"]],
    [project("A", { may_stand: false }), ["Portfolio…"]],
  ] as const) {
    standing(p);
    assert.deepEqual(await menu(), items);
    await userEvent.keyboard("{Escape}");
    await waitFor(() => assert.equal(screen.queryByRole("menu"), null));
    cleanup();
  }
});

test("deleting asks for the code, and what is refused stays beside what was typed", async () => {
  standing(project("A"));
  screen.getByRole("button", { name: /What to do with/ }).focus();
  await userEvent.keyboard("{Enter}");
  await userEvent.keyboard("{End}{Enter}");
  answer = () => refusal("A has 3 dry pages, which stay for good. It can be retired.");
  const code = await screen.findByLabelText("Type A");
  await userEvent.type(code, "A{Enter}");
  assert.match((await screen.findByRole("alert")).textContent ?? "", /3 dry pages/);
  assert.deepEqual(asked.at(-1), ["/api/projects/A/delete", { code: "A" }]);
  assert.equal((code as HTMLInputElement).value, "A");
  answer = () => new Response(null, { status: 204 });
  await userEvent.click(screen.getByRole("button", { name: "Delete it" }));
  await waitFor(() => assert.equal(screen.queryByRole("dialog"), null));
});

const hand = (code: string, state: string): Buffers["hand_overs"][number] => ({
  source: "A",
  source_name: "Weld",
  target: code,
  target_name: `Coat ${code}`,
  resource: "FIT",
  resource_name: "Fitters",
  state,
  finish: "2027-03-01T17:00",
  start: "2027-03-02T08:00",
  idle_days: 0,
});

test("who waits is told first, and only what binds can be untied", async () => {
  const untied: string[][] = [];
  const data = { wet: true, hand_overs: [hand("X", "over"), hand("Y", "binds"), hand("Z", "waits")] } as Buffers;
  const does = { refused: null, untie: (...of: string[]) => untied.push(of) } as unknown as ReturnType<
    typeof useBuffers
  >;
  inRoom(() => <HandOvers data={data} does={does} />, new Reads(), { path: "buffers" });
  const rows = within(screen.getByRole("table")).getAllByRole("row").slice(1);
  assert.deepEqual(
    rows.map((r) => /Coat (.)/.exec(r.textContent ?? "")?.[1]),
    ["Z", "Y", "X"],
  );
  assert.equal(screen.getAllByRole("button", { name: "Untie" }).length, 2);
  await userEvent.click(screen.getAllByRole("button", { name: "Untie" })[0] as HTMLElement);
  assert.deepEqual(untied, [["A", "Z", "FIT"]]);
});

const ask = (more: Partial<Schemas["AskedBaseline"]>): Schemas["AskedBaseline"] => ({
  id: 7,
  by: "Ines",
  at: "2027-03-12T09:00",
  name: "After change 4",
  reason: "It is approved",
  rows: null,
  changes: [],
  state: "open",
  answer: "",
  mine: false,
  moved_on: true,
  ...more,
});
const shelf = (more: Partial<Schemas["ShelfOut"]>) =>
  ({
    revision: 3,
    currency: "EUR",
    may_approve: true,
    may_ask: true,
    projects: [],
    asked: [],
    baselines: [],
    ...more,
  }) as Schemas["ShelfOut"];

test("an approver takes what is asked for, or sends it back with a word", async () => {
  const writes = { write: (send: (n: number) => unknown) => send(3) } as unknown as ReturnType<typeof useWrites>;
  inRoom(() => <Asked shelf={shelf({ asked: [ask({})] })} writes={writes} open />, new Reads(), { path: "baselines" });
  assert.ok(screen.getByText("Ines asks for the baseline “After change 4”."));
  assert.ok(screen.getByText(/The plan has changed since/));
  await userEvent.click(screen.getByRole("button", { name: "Send it back" }));
  assert.match((await screen.findByRole("alert")).textContent ?? "", /Say why/);
  assert.equal(asked.length, 0);
  await userEvent.type(screen.getByLabelText("Why not"), "Wait");
  await userEvent.click(screen.getByRole("button", { name: "Send it back" }));
  await userEvent.click(screen.getByRole("button", { name: "Approve and take it" }));
  await waitFor(() =>
    assert.deepEqual(
      asked.map(([, body]) => body),
      [
        { revision: 3, take: false, text: "Wait" },
        { revision: 3, take: true, text: "Wait" },
      ],
    ),
  );
});

test("one's own is withdrawn, and one that was sent back says why", () => {
  const writes = { write: () => undefined } as unknown as ReturnType<typeof useWrites>;
  const mine = [ask({ mine: true }), ask({ id: 8, mine: true, state: "declined", answer: "Wait for Friday" })];
  inRoom(() => <Asked shelf={shelf({ may_approve: false, asked: mine })} writes={writes} open />, new Reads(), {
    path: "baselines",
  });
  assert.ok(screen.getByRole("button", { name: "Withdraw it" }));
  assert.ok(screen.getByText("Wait for Friday"));
  assert.equal(screen.queryByRole("button", { name: "Approve and take it" }), null);
});

test("a plan from another project is looked at before it is taken: what does not match stands there", async () => {
  const found: Schemas["MatchOut"] = {
    matched: 2,
    only_there: [{ code: "Q1", name: "Dredge", row: "Activities, row 4" }],
    only_here: [{ code: "A3", name: "Pour", row: "" }],
    resources: ["DIV"],
    budget: "1200.00",
    revision: 3,
    code: "",
  };
  answer = (_, body) =>
    (body as { apply: boolean }).apply ? refusal("Give the baseline a name.", "name") : Response.json(found);
  const data = shelf({ projects: [{ id: "PIER", code: "PIER", name: "Pier" }] });
  inRoom(() => <Elsewhere project="FERRY" shelf={data} taken={async () => undefined} />, new Reads(), {
    path: "baselines",
  });
  await userEvent.click(screen.getByRole("button", { name: /From a file/ }));
  await userEvent.selectOptions(await screen.findByLabelText("Another project"), "PIER");
  assert.match((await screen.findByRole("status")).textContent ?? "", /2 activities match\..*EUR 1\s200/);
  const [there, here] = screen.getAllByRole("table");
  assert.match(there?.textContent ?? "", /Only there, left out \(1\).*Q1 Dredge.*Activities, row 4/);
  assert.match(here?.textContent ?? "", /Only here.*A3 Pour/);
  assert.ok(screen.getByText(/kept in the sum alone: DIV/));
  await userEvent.click(screen.getByRole("button", { name: "Take it as a baseline" }));
  assert.equal((await screen.findByRole("alert")).textContent, "Give the baseline a name.");
  assert.equal((await screen.findByLabelText("Name")).getAttribute("aria-invalid"), "true");
});
