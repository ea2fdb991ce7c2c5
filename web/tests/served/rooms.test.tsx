// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { screen } from "@testing-library/react";
import { test } from "vitest";
import { asksServer, open, PATIENCE, SCREENS, shows } from "./open";

asksServer();

/** What each part of each room shows of the demo project, and what it says where nothing is planned yet. */
const SHOWN: Record<string, [full: RegExp[], empty: RegExp]> = {
  plan: [[/93 rows, finish 30 July 2027/, /Bulkhead penetrations/], /Nothing is planned yet/],
  "plan/resources": [[/Ruan Teale's fitters/, /units required at once/], /No resource yet/],
  "plan/calendars": [[/Six-day yard used by 36/, /Tide windows at the slip/], /Five-day week used by 1/],
  "plan/project": [[/Risks 4/, /Battery modules late/], /Risks Issues/],
  budget: [[/Total 2\s429\s605/, /Battery room/], /Nothing costs anything yet/],
  baselines: [[/Lorcan Astley/, /B1 Berth works re-approved/], /No baseline yet/],
  posting: [[/12 need an entry, 7 posted/, /Bulkhead penetrations/], /No activity needs an entry on this page/],
  "posting/hours": [[/A330 Bulkhead penetrations: 48 h this page, 16 h remaining/], /No hours are due on this page/],
  "posting/costs": [[/Slip hire/, /SLIP-02/], /No accrual is open/],
  "posting/feeds": [[/Yard timesheets/], /No feed yet/],
  "posting/history": [[/Journal/], /No step yet/],
  checks: [[/1 finished, with remaining hours/, /Go to the cell/], /The checks find nothing here/],
  value: [[/Project2\s429\s605\.00/, /797\s052\.20/], /No activity yet: value begins with the plan/],
  marks: [[/Act, when it finishes 5 working days late or more/], /No rule: not due, 0 rows/],
  timeline: [[/Bulkhead penetrations/, /double rule/], /No activity yet: bars begin with the plan/],
  options: [[/O1 Commission while cables are terminated/, /5 d earlier/], /No option yet/],
  "options/proposals": [[/Battery modules built and delivered/], /There is no open work on the driving path/],
  "options/levelling": [[/Levelling moves|Over-allocated, hours/, /120/], /Nobody is over-allocated/],
  buffers: [[/Approving a promise takes an approver/], /No work is open: there is nothing to promise/],
  report: [[/The figures propose Act/, /Berth: Slip/], /The figures propose On plan/],
  "posting/answers": [[/Nobody has been asked on this page/, /Look-ahead/], /Nobody has been asked on this page/],
  exchange: [[/Workbook, XLSX/], /Workbook, XLSX/],
};

test("every part of every room is known here", () => {
  assert.deepEqual(Object.keys(SCREENS).sort(), Object.keys(SHOWN).sort());
});

/** Opens a part of a room and waits for all that it is to show. */
async function seen(path: string, project: string, expected: RegExp[]) {
  const { container } = await open(path, project);
  await shows(...expected);
  const alerts = screen.queryAllByRole("alert").map((alert) => alert.textContent);
  assert.deepEqual([alerts, container.querySelectorAll("h1").length], [[], 1]);
}

for (const [path, [full, empty]] of Object.entries(SHOWN)) {
  test(`${path} shows what there is`, () => seen(path, "FERRY", full), PATIENCE + 5_000);
  test(`${path} says what is to be done where nothing is`, () => seen(path, "BARE", [empty]), PATIENCE + 5_000);
}
