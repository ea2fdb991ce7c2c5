import assert from "node:assert/strict";
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, beforeEach, test } from "vitest";
import { Entry, Pick } from "../src/shared";
import { system } from "../src/shared/ui/theme";

let written: string[];
beforeEach(() => {
  written = [];
});
afterEach(cleanup);

function Kept({ refuses }: { refuses?: string }) {
  const [value, setValue] = useState("Hull");
  const [wrong, setWrong] = useState(false);
  const write = (text: string) => {
    written.push(text);
    setWrong(text === refuses);
    if (text !== refuses) setValue(text);
  };
  return (
    <ChakraProvider value={system}>
      <Entry label="Name" value={value} write={write} trouble={wrong ? "No." : undefined} />
      <Pick
        label="Kind"
        value="a"
        options={[
          ["a", "first"],
          ["b", "second"],
        ]}
        write={write}
      />
    </ChakraProvider>
  );
}

test("an entry writes once, when it is left or at Enter", async () => {
  const user = userEvent.setup();
  render(<Kept />);
  const entry = screen.getByLabelText("Name");
  await user.clear(entry);
  await user.type(entry, "Deck{Enter}");
  await user.tab();
  assert.deepEqual(written, ["Deck"]);
  await user.type(entry, "s");
  await user.tab();
  assert.deepEqual(written, ["Deck", "Decks"]);
});

test("Escape puts back what was there and writes nothing", async () => {
  const user = userEvent.setup();
  render(<Kept />);
  const entry = screen.getByLabelText("Name");
  await user.type(entry, " and more{Escape}");
  assert.equal((entry as HTMLInputElement).value, "Hull");
  await user.tab();
  assert.deepEqual(written, []);
});

test("what was refused stays in the entry, with the reason", async () => {
  const user = userEvent.setup();
  render(<Kept refuses="x" />);
  const entry = screen.getByLabelText("Name");
  await user.clear(entry);
  await user.type(entry, "x{Enter}");
  assert.equal((entry as HTMLInputElement).value, "x");
  assert.equal(screen.getByRole("alert").textContent, "No.");
  assert.equal(entry.getAttribute("aria-invalid"), "true");
});

test("a choice is written as it is kept, not as it reads", async () => {
  const user = userEvent.setup();
  render(<Kept />);
  await user.selectOptions(screen.getByLabelText("Kind"), "second");
  assert.deepEqual(written, ["b"]);
});
