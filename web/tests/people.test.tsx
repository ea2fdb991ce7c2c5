import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { DeskPeople } from "../src/features/desk/DeskPeople";
import type { Project } from "../src/features/desk/useDeskLook";
import { system } from "../src/shared/ui/theme";

const PROJECTS = [{ code: "FERRY" }, { code: "BUOYS" }] as unknown as Project[];
const asked = (project: string, code: string, name: string, hours: number) => ({
  project,
  page: "P10",
  code,
  name,
  hours,
});
const span = (day: number, available = 1): Schemas["SharedOver"] => ({
  start: `2027-03-${day}T08:00`,
  end: `2027-03-${day}T16:00`,
  required: 2,
  available,
  hours: 8,
  who: [asked("FERRY", "A290", "Undock", 0), asked("BUOYS", "B410", "Lay buoys", 0)],
});
const load = (more: Partial<Schemas["PersonLoad"]>): Schemas["PersonLoad"] => ({
  code: "BRG",
  name: "Crane barge",
  units: 1,
  hours: 60,
  ends: ["2027-03-29T00:00", "2027-04-05T00:00"],
  asked: [60, 0],
  there: [56, 56],
  projects: { FERRY: [20, 0], BUOYS: [40, 0] },
  short: [4, 0],
  over: [0],
  causes: { "0": [asked("BUOYS", "B410", "Lay buoys", 40), asked("FERRY", "A290", "Undock", 20)] },
  over_hours: 8,
  spans: [span(22)],
  more_spans: 0,
  last_over: "2027-03-22T16:00",
  first: "2027-03-12T16:00",
  last: "2027-03-12T16:00",
  ...more,
});

let queries: QueryClient;
beforeEach(() => {
  queries = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY } } });
  window.history.replaceState(null, "", "/");
  Object.defineProperty(HTMLElement.prototype, "clientWidth", { configurable: true, value: 800 });
});
afterEach(cleanup);

const show = (resources: Schemas["PersonLoad"][], projects = PROJECTS) => {
  const known = { bucket: "week", resources };
  queries.setQueryData(["desk", "people", "week", projects.map((p) => p.code)], known);
  render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <MemoryRouter>
          <DeskPeople projects={projects} />
        </MemoryRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );
};
const rows = (name: string) => within(screen.getByRole("table", { name })).getAllByRole("row");
const words = (row: HTMLElement | undefined) => row?.textContent?.replace(/\s+/g, " ").trim() ?? "";

test("each resource says what is asked of it and where that is too much", () => {
  show([load({}), load({ code: "ELE", name: "Electricians", hours: 12.5, over_hours: 0, spans: [], over: [] })]);
  const [, barge, electricians] = rows("People").map(words);
  assert.equal(barge, "Crane barge BRG160 h8 h22 Mar 2027FERRY, BUOYS");
  assert.equal(electricians, "Electricians ELE112.5 h––FERRY, BUOYS");
});

test("the one with the most over-allocated hours is shown first, and another can be chosen", async () => {
  show([load({ over_hours: 1 }), load({ code: "ELE", name: "Electricians", over_hours: 9, spans: [], over: [] })]);
  assert.ok(screen.getByRole("heading", { name: /Load of Electricians/ }));
  assert.ok(screen.getByText("At no time do projects together book more than there is."));
  await userEvent.click(screen.getByRole("button", { name: "Crane barge" }));
  assert.ok(screen.getByRole("heading", { name: /Load of Crane barge/ }));
});

test("an over-allocated time leads to each activity that books it", () => {
  show([load({ spans: [span(22), span(23, 0)] })]);
  const [, first, second] = rows("Over-allocation");
  assert.equal(words(first), "22 Mar 2027 08:0022 Mar 2027 16:00218 hFERRY/A290 UndockBUOYS/B410 Lay buoys");
  assert.ok(words(second).includes("20, outside its calendar8 h"));
  const link = within(first as HTMLElement).getByRole("link", { name: "FERRY/A290" });
  assert.equal(link.getAttribute("href"), "/FERRY/P10/plan?find=A290");
});

test("hours stand by project, weeks in which nobody asks left out", () => {
  show([load({})]);
  assert.deepEqual(rows("Hours by project").map(words), [
    "Up toFERRYBUOYSRequiredAvailable",
    "29 Mar 202720 h40 h60 h56 h",
  ]);
});

test("few times are listed at first, all where they are asked for, and what was not sent is told", async () => {
  show([load({ spans: Array.from({ length: 15 }, (_, i) => span(10 + i)), more_spans: 3 })]);
  assert.equal(rows("Over-allocation").length, 13);
  await userEvent.click(screen.getByRole("button", { name: "Show all 15" }));
  assert.equal(rows("Over-allocation").length, 16);
  assert.ok(screen.getByText("3 more follow later."));
});

test("where nothing is shared, or nothing is shown, it says what to do", () => {
  show([]);
  assert.ok(screen.getByText(/shares no resource yet/));
  cleanup();
  show([load({})], []);
  assert.ok(screen.getByText(/Clear the filter/));
});
