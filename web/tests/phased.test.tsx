import { ChakraProvider } from "@chakra-ui/react";
import { render, screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { Phased } from "../src/features/budget/Phased";
import { system } from "../src/shared/ui/theme";

test("a column is headed by the year of its last day", () => {
  const phased = {
    ends: ["2028-12-25T00:00", "2029-01-01T00:00"],
    rows: [{ code: "A", name: "Dig", level: 0, cells: ["1.00", "2.00"], total: "3.00" }],
    columns: ["1.00", "2.00"],
    running: ["1.00", "3.00"],
    total: "3.00",
  };
  render(
    <ChakraProvider value={system}>
      <Phased phased={phased} label="Budget" empty="" />
    </ChakraProvider>,
  );
  expect(screen.getByText(/31 Dec/).textContent).not.toMatch(/29/);
  expect(screen.getByText(/31 Dec/).textContent).toMatch(/28/);
});
