import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { afterEach, expect, test } from "vitest";
import { nextSort } from "../src/shared/look";
import { DataTable } from "../src/shared/ui";
import { system } from "../src/shared/ui/theme";

afterEach(cleanup);
const Kit = ({ children }: { children: ReactNode }) => <ChakraProvider value={system}>{children}</ChakraProvider>;
interface Row {
  code: string;
  name: string;
  cost: number;
  note?: string;
}
const rows: Row[] = [
  { code: "A", name: "Dig", cost: 5 },
  { code: "B", name: "Draw", cost: 7, note: "late" },
];
const cellsOf = (table: HTMLElement) =>
  [...table.querySelectorAll("tr")].map((tr) => [...tr.children].map((c) => c.textContent));

test("a table has a heading for each column, and a line for each row; what is left out stands nowhere", () => {
  const hidden: boolean = rows.length > 5;
  render(
    <Kit>
      <DataTable
        aria-label="Work"
        rows={rows}
        keyOf={(r) => r.code}
        line={(r) => ({ "data-refused": r.note })}
        columns={[
          { title: "Name", head: true, cell: (r) => r.name },
          hidden && { title: "Never", cell: () => "never" },
          { title: "Cost", kind: "num", tip: (r) => `of ${r.code}`, cell: (r) => r.cost },
        ]}
      />
    </Kit>,
  );
  const table = screen.getByRole("table", { name: "Work" });
  expect(cellsOf(table)).toEqual([
    ["Name", "Cost"],
    ["Dig", "5"],
    ["Draw", "7"],
  ]);
  expect(screen.getByRole("rowheader", { name: "Draw" }).closest("tr")?.dataset.refused).toBe("late");
  const cost = screen.getByRole("cell", { name: "7" });
  expect([cost.dataset.tip, "num" in cost.dataset]).toEqual(["of B", true]);
});

test("groups stand under their headings; a cell reaches down its group; a row may say one thing across", () => {
  render(
    <Kit>
      <DataTable
        groups={[
          ["Ground", rows],
          [null, [{ code: "C", name: "Open", cost: 0 }]],
        ]}
        keyOf={(r) => r.code}
        instead={(r) => (r.code === "C" ? "not begun" : undefined)}
        below={(r) => r.note}
        columns={[
          { title: "Name", cell: (r) => r.name },
          { title: "Cost", cell: (r) => r.cost },
          { title: "All", reach: (at, own) => (at ? 0 : own.length), cell: () => "both" },
        ]}
      />
    </Kit>,
  );
  expect(cellsOf(screen.getByRole("table"))).toEqual([
    ["Name", "Cost", "All"],
    ["Ground"],
    ["Dig", "5", "both"],
    ["Draw", "7"],
    ["late"],
    ["Open", "not begun"],
  ]);
  expect(screen.getByRole("cell", { name: "both" }).getAttribute("rowspan")).toBe("2");
  expect(screen.getByRole("rowheader", { name: "Ground" }).getAttribute("colspan")).toBe("3");
});

function Sorted() {
  const [sort, setSort] = useState("");
  const key = sort.replace("-", "");
  const own = [...rows].sort((a, b) => (key === "cost" ? (a.cost - b.cost) * (sort[0] === "-" ? -1 : 1) : 0));
  return (
    <DataTable
      rows={own}
      keyOf={(r) => r.code}
      sort={sort}
      onSort={(k) => setSort(nextSort(sort, k))}
      columns={[
        { title: "Name", cell: (r) => r.name },
        {
          sorts: [
            ["cost", "Cost"],
            ["code", "Code"],
          ],
          cell: (r) => r.cost,
        },
      ]}
    />
  );
}

test("a heading sorts up, down, and not at all, and says so", async () => {
  render(
    <Kit>
      <Sorted />
    </Kit>,
  );
  const heading = screen.getByRole("columnheader", { name: /Cost/ });
  const first = () => cellsOf(screen.getByRole("table"))[1]?.[0];
  const press = () => userEvent.click(within(heading).getByRole("button", { name: /Cost/ }));
  await press();
  expect([heading.getAttribute("aria-sort"), first()]).toEqual(["ascending", "Dig"]);
  await press();
  expect([heading.getAttribute("aria-sort"), first()]).toEqual(["descending", "Draw"]);
  await press();
  expect([heading.getAttribute("aria-sort"), first()]).toEqual(["none", "Dig"]);
});
