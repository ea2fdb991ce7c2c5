// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { Summary } from "../src/features/value/Summary";
import { PlaceProvider, setFormats } from "../src/shared";
import { Reads } from "../src/shared/book";
import { BOOK } from "../src/shared/formats";
import { system } from "../src/shared/ui/theme";
import { ADA, FRAME, PAGE } from "./place";

const row = (key: string, kind: string, apart: string, ...cells: (string | null)[]): Schemas["StatisticOut"] => {
  const [baseline = null, actual = null, remaining = null, now = null, variance = null] = cells;
  return { row: key, kind, variance_kind: apart, baseline, actual, remaining, now, variance };
};
const SCOPE: Schemas["ScopeStatistics"] = {
  kind: "project",
  code: "FERRY",
  name: "Ferry refit",
  level: 0,
  rows: [
    row(
      "start",
      "instant",
      "days",
      "2027-01-04T08:00",
      "2027-01-04T08:00",
      "2027-01-25T08:00",
      "2027-01-04T08:00",
      "0",
    ),
    row("finish", "instant", "days", "2027-07-20T17:00", null, "2027-07-30T17:00", "2027-07-30T17:00", "8.5"),
    row("duration", "days", "days", "139", "50", "97", "147", "8"),
    row("work", "hours", "hours", "10740", "4417", "6696", "11113", "373"),
    row("cost", "money", "money", "2429605.00", "880473.00", "1543817.39", "2424290.39", "-5314.61"),
  ],
  figures: {
    ev: "797052.20",
    spi: "0.7268",
    cpi: null,
    spi_t: "0.8081",
    total_float: "0.5",
    "eac.bottom_up": "2424290.39",
    "eac.cpi": null,
  },
  reasons: { "finish.actual": "not all of it is complete", "eac.cpi": "CPI is not above 0" },
};
const TOLD: Schemas["StatisticsOut"] = {
  status: "2027-01-22T17:00",
  baseline: "B0",
  currency: "EUR",
  scopes: [SCOPE],
  eac_method: "bottom_up",
};

let reads: Reads;
const real = globalThis.fetch;
beforeEach(() => {
  reads = new Reads({ defaultOptions: { queries: { retry: false } } });
  globalThis.fetch = async () =>
    new Response(JSON.stringify(TOLD), { headers: { "Content-Type": "application/json" } });
});
afterEach(() => {
  cleanup();
  reads.clear();
  globalThis.fetch = real;
  setFormats(BOOK);
});

const open = () =>
  render(
    <QueryClientProvider client={reads}>
      <ChakraProvider value={system}>
        <MemoryRouter>
          <PlaceProvider project="FERRY" page={PAGE} frame={FRAME} person={ADA} everywhere="analyst">
            <Summary wbs="" look={() => undefined}>
              {null}
            </Summary>
          </PlaceProvider>
        </MemoryRouter>
      </ChakraProvider>
    </QueryClientProvider>,
  );
const line = (name: string) => {
  const found = screen.getAllByRole("row").findLast((r) => within(r).queryByRole("rowheader", { name }));
  return within(found ?? document.body)
    .getAllByRole("cell")
    .map((c) => c.textContent?.replaceAll("\u00a0", " "));
};

test("a summary reads as a statement of account: money, work, time, each from the baseline to the difference", async () => {
  open();
  await screen.findByRole("table", { name: "Summary of Ferry refit" });
  const heads = screen.getAllByRole("columnheader").map((h) => h.textContent);
  assert.deepEqual(heads.slice(0, 6), ["Baseline", "To date", "To go", "Forecast", "Difference", "Beside it"]);
  assert.deepEqual(line("Cost").slice(0, 5), [
    "2 429 605.00",
    "880 473.00",
    "1 543 817.39",
    "2 424 290.39",
    "−5 314.61",
  ]);
  assert.equal(line("Cost")[5], "EV 797 052.20SPI 0.727CPI –");
  assert.deepEqual(line("Work").slice(0, 5), ["10 740 h", "4 417 h", "6 696 h", "11 113 h", "+373 h"]);
  assert.deepEqual(line("Finish").slice(1, 5), ["–", "30 Jul 2027", "30 Jul 2027", "8.5 d late"]);
  assert.equal(line("Start")[5], "SPI(t) 0.808Total float 0.5 d");
});

test("the estimates at completion stand side by side with what each assumes, and the one that is used", async () => {
  open();
  await screen.findByRole("table", { name: "Estimates at completion" });
  assert.deepEqual(line("bottom up"), ["what is left costs what the plan now says", "2 424 290.39", "by the project"]);
  assert.deepEqual(line("at CPI").slice(1), ["–", "Use it"]);
  screen.getByText(/No cost index of the rest leads to the budget/);
  screen.getByRole("button", { name: "Use it: the estimate at CPI, in the project" });
});

test("it is written as the reader writes, with the day of its status and its baseline", async () => {
  setFormats({ decimal: ",", month_first: true, first_day: "sun" });
  open();
  await screen.findByText("As of January 22, 2027, against B0");
  assert.equal(line("Cost")[0], "2 429 605,00");
  assert.deepEqual(line("Finish").slice(3, 5), ["Jul 30, 2027", "8,5 d late"]);
});
