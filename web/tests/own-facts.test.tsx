import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, test } from "vitest";
import type { Schemas } from "../src/api";
import { OwnFacts } from "../src/features/plan/OwnFacts";
import { FormChoice, FormField, format } from "../src/shared";
import { system } from "../src/shared/ui/theme";

const field = (code: string, name: string, kind = "text", options: string[] = []): Schemas["OwnField"] => ({
  code,
  name,
  kind,
  options,
});
const FIELDS = [
  field("berth", "Berth", "choice", ["Slip", "Quay"]),
  field("dry", "In dry dock", "yes_no"),
  field("survey", "Survey due", "date"),
  field("notice", "Notice"),
  field("depth", "Depth", "number"),
];
const VALUES = { berth: "Slip", dry: false, survey: "2027-06-30", depth: 2.5 };
let written: string[];
beforeEach(() => {
  written = [];
});
afterEach(cleanup);

const show = (open = true, trouble: Record<string, string> = {}) =>
  render(
    <ChakraProvider value={system}>
      <OwnFacts
        fields={FIELDS}
        values={VALUES}
        open={open}
        write={(key) => (text) => written.push(`${key}=${text}`)}
        trouble={(key) => trouble[key]}
      />
    </ChakraProvider>,
  );
const value = (name: string) => (screen.getByLabelText(name) as HTMLInputElement).value;

test("each field is entered as what it holds, and shows what it has", () => {
  show();
  assert.deepEqual(
    FIELDS.map((f) => value(f.name)),
    ["Slip", "no", "30 June 2027", "", "2.5"],
  );
});

test("what is chosen or typed is written under the code of the field, and can be emptied", async () => {
  show();
  await userEvent.selectOptions(screen.getByLabelText("Berth"), "Quay");
  await userEvent.selectOptions(screen.getByLabelText("In dry dock"), "");
  await userEvent.type(screen.getByLabelText("Notice"), "2027/14{Enter}");
  assert.deepEqual(written, ["fields.berth=Quay", "fields.dry=", "fields.notice=2027/14"]);
});

test("a refusal stands beside its entry", () => {
  show(true, { "fields.depth": "Depth holds a number." });
  const entry = screen.getByLabelText("Depth");
  assert.equal(entry.getAttribute("aria-invalid"), "true");
  assert.equal(screen.getByRole("alert").textContent, "Depth holds a number.");
});

test("who may not write finds them shut", () => {
  show(false);
  for (const f of FIELDS) assert.ok((screen.getByLabelText(f.name) as HTMLInputElement).disabled, f.name);
});

test("a line of a form names what is chosen or typed in it, and says why it is refused", async () => {
  let chosen = "";
  render(
    <ChakraProvider value={system}>
      <FormChoice
        label="Kind"
        value="a"
        onChange={(e) => {
          chosen = e.target.value;
        }}
      >
        <option value="a">first</option>
        <option value="b">second</option>
      </FormChoice>
      <FormField label="Code" why="Taken." defaultValue="X" />
    </ChakraProvider>,
  );
  await userEvent.selectOptions(screen.getByLabelText("Kind"), "b");
  assert.equal(chosen, "b");
  assert.equal(screen.getByRole("textbox").getAttribute("aria-invalid"), "true");
  assert.equal(screen.getByRole("alert").textContent, "Taken.");
});

test("hours and moments are said in full", () => {
  assert.equal(format.hours(12.25), "12.3 h");
  assert.equal(format.hours(0), "0 h");
  assert.equal(format.hours(null), "–");
  assert.equal(format.moment("2027-03-22T16:05"), "22 Mar 2027 16:05");
});
