// @vitest-environment-options { "url": "http://ledger.test/" }
// What rooms answer to hands before anything is kept: other parts, other looks, previews, what is lacking.
import assert from "node:assert/strict";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { test } from "vitest";
import { asksServer, open, PATIENCE, shows, words } from "./open";

asksServer();

const button = (name: string | RegExp) => screen.findByRole("button", { name }, { timeout: PATIENCE });
const press = async (name: string | RegExp) => userEvent.click(await button(name));
const gone = (role: string, name: string | RegExp) =>
  waitFor(() => assert.equal(screen.queryByRole(role, { name }), null), { timeout: PATIENCE });
/** A test that may take as long as the server does. */
const told = (what: string, does: () => Promise<unknown>) => test(what, does as () => Promise<void>, PATIENCE + 10_000);
const table = async (name: string | RegExp) => screen.findByRole("table", { name }, { timeout: PATIENCE });
const rowsOf = (of: HTMLElement) =>
  [...of.querySelectorAll("tr")].map((tr) => [...tr.children].map((td) => words(td).trim()));
const codes = () => [...document.querySelectorAll<HTMLElement>("[data-row]")].map((row) => row.dataset.row ?? "");

told("posting as planned says first how many entries it makes, and Escape leaves it", async () => {
  await open("posting");
  await press("Post as planned");
  const strip = await screen.findByRole("group", { name: /as planned/i });
  await within(strip).findByRole("button", { name: /Post \d+ as planned/ }, { timeout: PATIENCE });
  await userEvent.keyboard("{Escape}");
  await gone("button", /Post \d+ as planned/);
});

told("carrying forward shows what would move before it is done", async () => {
  await open("posting");
  await press("Carry forward");
  const strip = await screen.findByRole("group", { name: "Carry forward unfinished work" });
  await waitFor(() => assert.match(words(strip), /due, unfinished, without an entry/));
  await userEvent.keyboard("{Escape}");
  await gone("group", "Carry forward unfinished work");
});

told("the three treatments of out-of-sequence work stand side by side, and one is in force", async () => {
  await open("posting");
  await press("Out of sequence: 1");
  const panel = await screen.findByRole("region", { name: /out-of-sequence/i }, { timeout: PATIENCE });
  const [heads, , finish] = rowsOf(within(panel).getByRole("table"));
  assert.equal(heads?.length, 4);
  assert.deepEqual(new Set(finish?.slice(1)), new Set(["30 July 2027"]));
  assert.equal(within(panel).getAllByText("In force").length, 1);
  assert.match(words(panel), /A460 Main cable runs, forward/);
  await userEvent.click(within(panel).getByRole("button", { name: "Close" }));
  await gone("region", /out-of-sequence/i);
});

told("the posting sheet is cut to a state, found in, and cleared", async () => {
  await open("posting");
  await shows(/Bulkhead penetrations/);
  const due = codes().length;
  await userEvent.selectOptions(screen.getByLabelText("Show"), "All activities");
  await waitFor(() => assert.ok(codes().length > due));
  await userEvent.type(screen.getByLabelText("Find an activity"), "cable");
  await waitFor(() => assert.ok(codes().length > 0 && codes().length < due));
  for (const row of document.querySelectorAll("[data-row]")) assert.match(words(row), /cable/i);
  await userEvent.type(screen.getByLabelText("Find an activity"), " nowhere");
  await shows(/No activity is shown by this filter/);
  await press("Clear");
  await waitFor(() => assert.equal(codes().length, due));
});

told("the status date is asked in words and says what it would do", async () => {
  await open("posting");
  await press("Fri 12 Mar");
  const box = await screen.findByRole<HTMLInputElement>("textbox", { name: /status date/i });
  await userEvent.clear(box);
  await userEvent.type(box, "the day after{Enter}");
  await waitFor(() => assert.equal(box.getAttribute("aria-invalid"), "true"), { timeout: PATIENCE });
  assert.equal(box.value, "the day after"); // what was typed stays
  await userEvent.keyboard("{Escape}");
  await gone("textbox", /status date/i);
});

told("hours change their groups from activities to persons", async () => {
  await open("posting/hours");
  await shows(/A330 Bulkhead penetrations: 48 h this page/);
  await press("By person");
  await shows(/Ruan Teale's fitters: 48 h this page/);
  await userEvent.type(screen.getByLabelText("Activity or person"), "electricians");
  await waitFor(() => assert.doesNotMatch(words(screen.getByRole("grid")), /fitters/));
  await userEvent.type(screen.getByLabelText("Activity or person"), " of nowhere");
  await shows(/No hours are shown by this filter/);
});

told("history says what every page said of an activity", async () => {
  await open("posting/history");
  await userEvent.type(await screen.findByLabelText("Activity"), "A330");
  await shows(/A330 Bulkhead penetrations/, /P09/);
  const entries = rowsOf((await screen.findAllByRole("table"))[0] as HTMLElement);
  assert.ok(entries.length > 2);
});

told("value is grouped, sorted, cut to columns, and opened to its activities", async () => {
  await open("value");
  await shows(/Design approval/);
  assert.equal(screen.queryByRole("row", { name: /Bulkhead penetrations/ }), null);
  await press("Open all");
  await shows(/Bulkhead penetrations/);
  await userEvent.selectOptions(screen.getByLabelText("Group by"), "Mark");
  await waitFor(() => assert.match(words(screen.getAllByRole("row")[1] as HTMLElement), /^(Act|Coming|Done)/), {
    timeout: PATIENCE,
  });
  await userEvent.selectOptions(screen.getByLabelText("Group by"), "WBS");
  await press(/^SV$/);
  const grid = document.querySelector("[data-sheet]");
  assert.ok(grid);
  const amounts = () =>
    [...grid.querySelectorAll("[data-figure$=':sv']")].map((x) =>
      Number(words(x).replace("−", "-").replace(/\s/g, "")),
    );
  await waitFor(() =>
    assert.deepEqual(
      amounts(),
      [...amounts()].sort((a, b) => a - b),
    ),
  );
  assert.ok(amounts().length > 10);
});

told("value over the pages compares this page with another", async () => {
  await open("value");
  await press("Over the pages");
  const every = await table(/Figures of every page/);
  assert.equal(rowsOf(every).length, 11); // a heading and ten pages
  assert.match(rowsOf(every).at(-1)?.join(" ") ?? "", /P10.*0\.727.*0\.905/);
  const other = await screen.findByLabelText<HTMLSelectElement>(/This page against/);
  await userEvent.selectOptions(other, "P03");
  await shows(/activities changed since P03/);
});

told("work by time is read by hours and by cost", async () => {
  await open("value");
  await press("Work by time");
  await shows(/Ruan Teale's fitters/);
});

told("a rule of marks is edited as a sentence, tried on all rows, and thrown away", async () => {
  await open("marks");
  const activities = await screen.findByRole("region", { name: "Activities" }, { timeout: PATIENCE });
  await userEvent.click(within(activities).getByRole("button", { name: /Edit the rule “Act, when it finishes 5/ }));
  const number = await within(activities).findByDisplayValue(/^5/);
  await userEvent.clear(number);
  await userEvent.type(number, "12d");
  await within(activities).findByText(/finishes 12 working days late or more/, {}, { timeout: PATIENCE });
  await shows(/What saving changes/, /\d+ marks? changes?/);
  assert.match(words(screen.getByRole("region", { name: "What saving changes" })), /A\d+/);
  await userEvent.clear(number);
  await userEvent.type(number, "soon");
  await within(activities).findByRole("alert", {}, { timeout: PATIENCE });
  assert.equal(screen.getByRole<HTMLButtonElement>("button", { name: "Save the rules" }).disabled, true);
  await press("Discard");
  await within(activities).findByText(/finishes 5 working days late or more/);
});

told("options are laid over each other: where they end, what differs, what they cost", async () => {
  await open("options");
  await shows(/O3 Second crew/);
  await press("Timeline");
  await screen.findAllByRole("img", {}, { timeout: PATIENCE });
  await press("Cost");
  await shows(/O1 Commission while cables are terminated/);
  const found = (await screen.findAllByRole("table")).map(rowsOf);
  assert.deepEqual(
    found[1]?.map(([name]) => name?.slice(0, 11)),
    ["Option", "The present", "O1 Commissi", "O2 Second e", "O3 Second c"],
  );
});

told("levelling within float and beyond it says what moves", async () => {
  await open("options/levelling");
  await shows(/The finish stands/, /Insulation and linings/);
  await press("Beyond float");
  await shows(/Levelling|moves|stands/);
  await waitFor(() => assert.ok(screen.getAllByRole("table").length >= 1), { timeout: PATIENCE });
});

told("differences of baselines show what moved, or all", async () => {
  await open("baselines");
  await shows(/B1 Berth works/);
  const moved = async () => (await screen.findAllByRole("table")).map(rowsOf).at(-1)?.length ?? 0;
  await shows(/Later − earlier/);
  const some = await moved();
  await userEvent.click(screen.getByRole("checkbox", { name: /moved|changed|differ/i }));
  await waitFor(async () => assert.ok((await moved()) > some), { timeout: PATIENCE });
});

told("a baseline isn't taken by who may not approve", async () => {
  await open("baselines");
  await shows(/Ask for a baseline/);
  assert.equal(screen.queryByRole("button", { name: /[Tt]ake it$/ }), null);
  for (const radio of screen.getAllByRole<HTMLInputElement>("radio")) assert.equal(radio.disabled, true);
});

told("checks tell the quality of the plan as shares of it", async () => {
  await open("checks");
  await press("Plan quality");
  const quality = await table(/quality/i);
  for (const [, caught, of, share] of rowsOf(quality).slice(1)) {
    const want = Number(of) ? (100 * Number(caught)) / Number(of) : null;
    if (want === null) assert.equal(share, "–");
    else assert.ok(Math.abs(Number.parseFloat(share ?? "") - want) <= 0.05, `${caught} of ${of} is ${share}`);
  }
});

told("a calendar says each of its days: working, off, otherwise", async () => {
  await open("plan/calendars");
  await press(/Six-day yard/);
  await button(/^9 January 2027: \d\d:\d\d/); // a Saturday is worked in the yard
  await button("10 January 2027: off");
  await press("The year after");
  await button(/^1 January 2028/);
});

told("a resource shows where it is over-allocated, who asks, and what puts it right", async () => {
  await open("plan/resources");
  const short = await screen.findByRole("region", { name: /Where Ruan Teale's fitters is/ }, { timeout: PATIENCE });
  assert.match(short.textContent ?? "", /h short.*units required at once, 6 available.*A\d+ .* h/);
  await shows(/units on these days/);
});

told("the registers of a project are gone along by arrow keys", async () => {
  await open("plan/project");
  await userEvent.click(await screen.findByRole("tab", { name: /Risks/ }, { timeout: PATIENCE }));
  await shows(/Battery modules late/);
  await userEvent.keyboard("{ArrowRight}");
  await shows(/Week 4: drawings booked twice/);
  await userEvent.keyboard("{End}");
  await shows(/Only members|member/i);
});

told("the budget by week adds up to the same total as by month", async () => {
  await open("budget");
  await shows(/Total 2 429 605/);
  await press("Week");
  await waitFor(() => assert.equal(screen.getByRole("button", { name: "Week" }).getAttribute("aria-pressed"), "true"));
  await shows(/Total 2 429 605/);
});

told("a report's sections, editions and list are parts of it, and its numbers open their workings", async () => {
  await open("report");
  await press("Layout…");
  const sections = await screen.findByRole("region", { name: "Sections of this project's report" });
  assert.ok(within(sections).getAllByRole("checkbox").length > 8);
  await userEvent.keyboard("{Escape}");
  await gone("region", "Sections of this project's report");
  await press(/^Editions/);
  await shows(/edition/i);
  await press("Distribution list");
  await screen.findByPlaceholderText(/mail/i, {}, { timeout: PATIENCE });
});

told("the tables of a report foot: what elements earned is what the project did", async () => {
  await open("report");
  await button(/^Budget at completion, This page/);
  const to = (text: string | undefined) => Math.round(Number(text?.replace(/\s/g, "").replace("−", "-")) * 100);
  const tables = screen.getAllByRole("table").map(rowsOf);
  const money = tables.filter(([heads]) => heads?.[0] === "WBS element" && heads[2] === "EV").at(-1) ?? [];
  const [heads = [], ...rows] = money;
  assert.deepEqual(heads, ["WBS element", "PV", "EV", "AC", "SV", "CV"]);
  const elements = rows.filter(([name]) => !/^(Project|Total|MV )/.test(name ?? ""));
  const total = rows.find((row) => !elements.includes(row)) ?? [];
  // Each figure is rounded where it stands: a sum of eight may be off by as many halves of a cent.
  for (const at of [1, 2, 3, 4, 5]) {
    const sum = elements.reduce((so, row) => so + to(row[at]), 0);
    assert.ok(Math.abs(sum - to(total[at])) <= elements.length / 2, `${heads[at]}: ${sum} and ${to(total[at])}`);
  }
  for (const [name, pv, ev, ac, sv, cv] of rows) {
    assert.ok(Math.abs(to(ev) - to(pv) - to(sv)) <= 1, name);
    assert.ok(Math.abs(to(ev) - to(ac) - to(cv)) <= 1, name);
  }
});

told("a file that can't be read is told so, and nothing is brought in", async () => {
  await open("exchange");
  const input = document.querySelector<HTMLInputElement>("input[type=file]");
  assert.ok(input);
  await userEvent.upload(input, new File(["not a book"], "book.json", { type: "application/json" }), {
    applyAccept: false,
  });
  await screen.findByRole("alert", {}, { timeout: PATIENCE });
});

told("orders are a sheet, their lines and what each cost still brings are read below it", async () => {
  await open("budget");
  await press("Orders");
  await shows(/PO-04/, /Hallet Civils/, /D33 51000/, /What PO-01 is for, Velden Cells/);
  const owed = rowsOf(await table("What costs still bring"));
  assert.match(owed.at(-1)?.join(" ") ?? "", /^Total/);
});

told("the budget under change adds up, and who is no approver can't decide", async () => {
  await open("budget");
  await press("Under change");
  const [, project] = rowsOf(await table("Under change"));
  assert.deepEqual(
    project?.slice(2).map((x) => x.replace(/\s/g, " ")),
    ["10 500.00", "2 440 105.00", "6 300.00", "2 429 605.00", "0.00"],
  );
  assert.match(words(await table("Changes")), /CH3 Longer duct route.*built in by B1/);
  assert.equal(screen.queryByRole("button", { name: "Approve CH2" }), null);
});
