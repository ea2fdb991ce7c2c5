"""From nothing to an approved plan in a real browser, by keyboard; and the plan sheet under people's hands."""

import json
import re
import time
from datetime import date
from typing import Any

from playwright.sync_api import Locator, Page, expect

from dryledger.compute import compute
from dryledger.exchange.book_json import read_book
from dryledger.results import results_document
from server.book.loading import load_document
from server.book.models import Activity, Project
from server.journal.models import Step
from server.plan.details import plan_out
from server.plan.tests.test_many_rows import SIZE, document
from server.tests.browser import BrowserTest, box_of

TREE = {
    "Design": {"Concept": "5d", "Calculations": "8", "Drawings": "2w", "Design agreed": "0"},
    "Purchase": {"Order steel": "1d", "Steel delivered": "30d", "Order motor": "1d", "Motor delivered": "40d", "Inspect parts": "2d"},
    "Works": {
        "Set up site": "3d",
        "Old crane out": "4d",
        "Foundation": "10d",
        "Erect tower": "6d",
        "Fit motor": "4d",
        "Lay cables": "5d",
        "Paint": "4h",
        "Load test": "1.5d",
        "Clear site": "2d",
    },
    "Handover": {"Papers": "3d", "Training": "2d", "Certificate": "1d", "Spares": "2d", "Snags": "3d", "Final walk": "1d"},
    "Close": {"Accounts": "5d", "Lessons": "1d", "Archive": "2d", "Thank crew": "2h", "In service": "0", "Party": "1d"},
}
LINKS = {
    "Order steel": "Design agreed",
    "Order motor": "Design agreed",
    "Inspect parts": "Steel delivered|;Motor delivered| SS lag 5d",
    "Set up site": "Design agreed",
    "Erect tower": "Foundation| lag 2d;Inspect parts",
    "Papers": "Load test",
    "Training": "Papers| SS",
    "Certificate": "Papers;Training| FF lead 4h",
    "Accounts": "Certificate",
    "In service": "Accounts",
}


def cell(page: Page, code: str, column: str) -> Locator:
    return page.locator(f'[data-cell="{code}:{column}"]')


SHOWN = ["mark", "code", "name", "begin", "end", "duration", "after", "people", "late"]
"""The columns of the plan sheet, as they stand to begin with."""


class FromNothing(BrowserTest):
    pages = 1

    def test_a_project_by_keyboard_alone(self) -> None:
        page = self.open("/", "Lorcan")
        begun = time.monotonic()
        self.begin(page)
        codes = self.list_work(page)
        self.link(page, codes)
        self.staff(page)
        self.price(page, codes)
        self.approve(page)
        self.figures_are_those_of_the_core(page)
        self.assertLess(time.monotonic() - begun, 600)

    def begin(self, page: Page) -> None:
        keys = page.keyboard
        page.get_by_role("button", name="New project").focus()
        keys.press("Enter")
        page.get_by_role("dialog").get_by_label("Name", exact=True).focus()
        for text in ("Slip crane renewal", "CRANE", "", "4 jan 2027", ""):
            keys.type(text)
            keys.press("Tab")
        keys.press("Enter")
        page.wait_for_selector("[data-sheet]")

    def list_work(self, page: Page) -> dict[str, str]:
        """Elements and activities by typing names, Enter and Alt+Shift+arrows; then the durations down the column."""
        keys = page.keyboard
        page.locator("[data-sheet]").focus()
        keys.press("Insert")
        for element, activities in TREE.items():
            keys.type(element)
            keys.press("Enter")
            for i, name in enumerate(activities):
                if i == 0:
                    keys.press("Alt+Shift+ArrowRight")
                keys.type(name)
                keys.press("Enter")
            keys.press("Alt+Shift+ArrowLeft")
        keys.press("Escape")
        count = len(TREE) + sum(map(len, TREE.values()))
        expect(page.locator("main [role=status]").first).not_to_be_empty()
        self.settled(page, count)
        codes: dict[str, str] = {}
        for r in self.rows():
            codes[r["name"]] = r["code"]
        self.go(page, codes["Concept"], "duration")
        for activities in TREE.values():
            for duration in activities.values():
                keys.type(duration)
                keys.press("Enter")
            keys.press("ArrowDown")
        self.until(lambda: self.row("Thank crew").get("duration") == "2h" and self.row("In service")["kind"] == "milestone")
        return codes

    def link(self, page: Page, codes: dict[str, str]) -> None:
        """The chosen rows chained, undone and done again; other links typed; a loop refused at its cell."""
        keys = page.keyboard
        for first, count in (("Concept", 4), ("Set up site", 9)):
            self.go(page, codes[first], "name")
            for _ in range(count - 1):
                keys.press("Shift+ArrowDown")
            keys.press("Control+l")
            self.until(lambda first=first: self.row(list(TREE["Works"])[1] if first == "Set up site" else "Calculations").get("after"))
        keys.press("Control+z")
        self.until(lambda: not self.row("Load test").get("after"))
        keys.press("Control+Shift+z")
        self.until(lambda: self.row("Load test").get("after"))
        for name, text in LINKS.items():
            parts = [f"{codes[p.partition('|')[0]]}{p.partition('|')[2]}" for p in text.split(";")]
            kept = self.row(name).get("after")
            self.go(page, codes[name], "after")
            keys.type("; ".join([*([kept] if kept and not any(p.startswith(kept) for p in parts) else []), *parts]))
            keys.press("Enter")
        self.until(lambda: self.row("In service").get("after"))
        self.go(page, codes["Concept"], "after")
        keys.type(codes["In service"])
        keys.press("Enter")
        expect(cell(page, codes["Concept"], "after").get_by_role("alert")).to_contain_text("In service → ")
        self.go(page, codes["Concept"], "after")
        keys.press("Escape")
        expect(page.locator("[role=gridcell] [role=alert]")).to_have_count(0)

    def staff(self, page: Page) -> None:
        keys = page.keyboard
        page.get_by_role("navigation", name="Parts of the plan").get_by_role("link", name="Resources").focus()
        keys.press("Enter")
        sheet = page.get_by_role("grid", name="Resources of the project")
        sheet.focus()
        for name, units, amount in (("Fitters", "3", "52"), ("Designers", "2", "71.50"), ("Crane hire", "1", "900")):
            for text in (name, "", units, "", "", "", "", amount):
                keys.type(text)
                keys.press("Tab" if text != amount else "Enter")
            code = {"Fitters": "FIT", "Designers": "DES", "Crane hire": "CRA"}[name]
            expect(cell(page, code, "rate.hour")).to_have_text(f"{float(amount):.2f}")
            expect(cell(page, code, "units")).to_have_text(units)
        keys.press("ArrowUp")
        expect(page.get_by_role("heading", name="Crane hire")).to_be_visible()
        page.get_by_role("button", name="Assigned 0").focus()
        keys.press("Enter")
        page.get_by_label("Assign to all activities named…").focus()
        keys.type("tower")
        page.get_by_role("button", name="Assign to 1").focus()
        keys.press("Enter")
        expect(page.get_by_text("Assigned to 1 activity")).to_be_visible()
        page.get_by_role("navigation", name="Parts of the plan").get_by_role("link", name="Sheet").focus()
        keys.press("Enter")
        expect(page.locator('[data-cell$=":duration"]').first).to_be_visible()  # the resources have sheets too

    def price(self, page: Page, codes: dict[str, str]) -> None:
        keys = page.keyboard
        for name, people in (("Drawings", "DES 2"), ("Foundation", "FIT 2"), ("Erect tower", "CRA; FIT 3")):
            self.go(page, codes[name], "people")
            keys.type(people)
            keys.press("Enter")
        self.until(lambda: self.row("Erect tower").get("people") == "CRA; FIT 3")
        self.go(page, codes["Steel delivered"], "name")
        page.get_by_role("button", name="Add a cost").focus()
        keys.press("Enter")
        page.get_by_label("Amount of Direct cost").focus()
        keys.press("Control+a")
        keys.type("18 400")
        keys.press("Enter")
        self.until(lambda: self.row("Steel delivered").get("cost") == "18400.00")

    def approve(self, page: Page) -> None:
        keys = page.keyboard
        page.get_by_role("link", name="Baselines").focus()
        keys.press("Enter")
        page.get_by_label("Reason").focus()
        keys.type("The first plan")
        for name in ("Approve and take it", "Yes, freeze it"):
            page.get_by_role("button", name=name).focus()
            keys.press("Enter")
        expect(page.get_by_text("B0 Approved plan").first).to_be_visible()

    def figures_are_those_of_the_core(self, page: Page) -> None:
        """Dates, costs and totals on screen are what computing the exported book gives."""
        exported = page.request.get(f"{self.live_server_url}/api/projects/CRANE/export/book.json").body()
        found = json.loads(json.dumps(results_document(compute(read_book(exported))), default=float))
        rows = {r["code"]: r for r in found["schedule"]["activities"]}
        shown = {r["code"]: r for r in self.rows() if r["kind"] != "wbs"}
        self.assertEqual(len(shown), 30)
        self.assertEqual({c: (r["start"], r["finish"]) for c, r in shown.items()}, {c: (r["start"], r["finish"]) for c, r in rows.items()})
        bac = {a["code"]: float(a["bac"]) for a in found["value"]["activities"]}
        self.assertEqual({c: float(r.get("cost", 0)) for c, r in shown.items()}, bac)
        page.get_by_role("link", name="Value").click()
        expect(page.locator('[data-figure="project:CRANE:bac"]')).to_have_text(
            re.compile(f"{float(found['value']['project']['bac']):.2f}"[-6:])
        )

    # Help

    def rows(self) -> list[Any]:
        from server.plan.details import plan_out
        from server.shared.json_values import written

        rows: list[Any] = json.loads(written(plan_out(Project.objects.get(code="CRANE")).rows))
        return rows

    def row(self, name: str) -> Any:
        return next(r for r in self.rows() if r["name"] == name)

    def settled(self, page: Page, count: int) -> None:
        self.until(lambda: len(self.rows()) == count)
        last = self.rows()[-1]
        expect(page.locator("[data-row]").filter(has_text=last["name"])).to_have_attribute("data-row", last["code"])

    def go(self, page: Page, code: str, column: str) -> None:
        """To a cell by keys: find the activity, then along its row."""
        keys = page.keyboard
        page.locator("h1").click()
        keys.press("/")
        keys.type(code)
        expect(page.get_by_role("listbox").get_by_role("option").first).to_be_visible()
        keys.press("Enter")
        page.locator("[data-sheet]").focus()
        keys.press("Home")
        for _ in range(SHOWN.index(column)):
            keys.press("ArrowRight")
        expect(page.locator("[data-at]")).to_have_attribute("data-cell", f"{code}:{column}")


class PlanHands(BrowserTest):
    pages = 3

    def sheet(self, look: str = "") -> Page:
        page = self.open(f"/FERRY/P03/plan{look}", permissions=["clipboard-read", "clipboard-write"])
        page.wait_for_selector("[data-cell]")
        return page

    def test_a_block_of_two_hundred_lines(self) -> None:
        page = self.sheet()
        block = "\n".join(f"Part {i // 10}" if i % 10 == 0 else f"\tStep {i}\t{i % 7 + 1}d" for i in range(200))
        page.evaluate("t => navigator.clipboard.writeText(t)", block)
        page.locator("[data-sheet]").focus()
        page.keyboard.press("Control+End")
        page.keyboard.press("Insert")
        page.keyboard.press("Control+v")
        asked = page.get_by_role("dialog")
        expect(asked.get_by_label("Column 2 is")).to_have_value("duration")
        asked.get_by_role("button", name="Paste 200 rows").click()
        expect(page.locator("main [role=status]").first).to_contain_text("Added 200 rows")
        page.keyboard.press("Control+z")
        expect(page.locator("main [role=status]").first).to_contain_text("Undid: added 200 rows")

    def test_rows_of_the_plan_are_copied_as_new_rows(self) -> None:
        page = self.sheet()
        cell(page, "A180", "mark").click()
        for _ in range(5):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Shift+ArrowDown")
        page.keyboard.press("Control+c")
        page.keyboard.press("Control+End")
        page.keyboard.press("Insert")
        page.keyboard.press("Control+v")
        asked = page.get_by_role("dialog")
        expect(asked.get_by_label("Column 3 is")).to_have_value("name")
        expect(asked.get_by_label("Column 4 is")).to_have_value("")  # dates that are reckoned bind no copy
        asked.get_by_label("Column 6 is").select_option("begin")  # a duration is no date: refused, and asked again
        asked.get_by_role("button", name="Paste 2 rows").click()
        expect(asked.get_by_role("alert")).to_be_visible()
        asked.get_by_label("Column 6 is").select_option("duration")
        asked.get_by_role("button", name="Paste 2 rows").click()
        expect(asked).to_have_count(0)
        for code in ("A180", "A190"):
            was = Activity.objects.get(project__code="FERRY", code=code)
            self.assertEqual(Activity.objects.filter(project__code="FERRY", name=was.name, duration=was.duration).count(), 2)

    def test_fill_down_many_at_once_and_views(self) -> None:
        page = self.sheet()
        cell(page, "A180", "duration").click()
        page.keyboard.press("Shift+ArrowDown")
        page.keyboard.press("Control+d")
        expect(cell(page, "A190", "duration")).to_have_text("5 d")
        page.get_by_label("Value for all").fill("9d")
        page.get_by_role("button", name="Set", exact=True).click()
        for code in ("A180", "A190"):
            expect(cell(page, code, "duration")).to_have_text("9 d")
        page.get_by_label("Show", exact=True).select_option("milestones")
        expect(page.locator('[data-row="A140"]')).to_have_count(0)
        page.get_by_role("button", name="Columns").click()
        page.get_by_role("checkbox", name="Deck").check()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Views").click()
        page.get_by_label("Name of this view").fill("Pins")
        page.get_by_role("button", name="Save", exact=True).click()
        page.keyboard.press("Escape")
        page.reload()
        page.wait_for_selector("[data-cell]")
        page.get_by_role("button", name="Views").click()
        page.get_by_role("button", name="Pins", exact=True).click()
        expect(page.get_by_role("columnheader", name="Deck")).to_be_visible()
        expect(page.locator('[data-row="A140"]')).to_have_count(0)

    def test_dragging_shows_the_consequence_before_it_is_done(self) -> None:
        page = self.sheet("?time=week")
        cell(page, "A290", "name").click()
        page.locator('[data-bar="A280"]').scroll_into_view_if_needed()
        before = cell(page, "A280", "end").inner_text()
        handle = page.locator('[data-bar="A280"] [data-handle="finish"]')
        handle.scroll_into_view_if_needed()
        page.evaluate("x => { const b = document.querySelector('[data-timescroll]'); b.scrollLeft += x - 900 }", box_of(handle)["x"])
        box = box_of(handle)
        page.mouse.move(box["x"] + 4, box["y"] + 6)
        page.mouse.down()
        page.mouse.move(box["x"] + 60, box["y"] + 6, steps=5)
        expect(page.locator("[data-say]")).to_contain_text("moved")
        expect(cell(page, "A280", "end")).to_have_text(before)
        page.keyboard.press("Escape")
        page.mouse.up()
        expect(page.locator("[data-say]")).to_have_count(0)
        expect(cell(page, "A280", "end")).to_have_text(before)
        page.mouse.move(box["x"] + 4, box["y"] + 6)
        page.mouse.down()
        page.mouse.move(box["x"] + 60, box["y"] + 6, steps=5)
        expect(page.locator("[data-say]")).to_contain_text("moved")
        page.mouse.up()
        expect(cell(page, "A280", "end")).not_to_have_text(before)
        expect(page.locator("[data-say]")).to_have_count(0)
        self.assertEqual(Step.objects.filter(kind="plan").count(), 1, "what was let go with Escape wrote nothing")

    def test_a_milestone_with_a_duration_shows_the_way_out(self) -> None:
        page = self.sheet()
        page.keyboard.press("/")
        page.keyboard.type("A660")
        expect(page.get_by_role("listbox").get_by_role("option").first).to_be_visible()
        page.keyboard.press("Enter")
        margin = page.get_by_role("complementary")
        expect(margin).to_contain_text("A milestone is a moment")
        margin.get_by_role("button", name="Make it a task").click()
        expect(margin).not_to_contain_text("A milestone is a moment")


class ManyRows(BrowserTest):
    """A plan in which one change moves more rows than are told at once."""

    pages = 1

    def test_rows_in_sight_move_at_once_and_the_others_before_they_are_looked_at(self) -> None:
        load_document(document())
        page = self.open("/MANY/now/plan")
        first = cell(page, "A0000", "duration")
        finish = cell(page, "A0000", "end").inner_text()

        def typed(days: str) -> Any:
            first.click()
            page.keyboard.type(days)
            with page.expect_response("**/plan/changes") as answer:
                page.keyboard.press("Enter")
            return answer.value.json()

        for days in ("30d", "60d"):  # the second before what the first left out is read
            told = typed(days)
            self.assertTrue(told["rest"])
            self.assertLess(len(told["changes"]), 100)
            expect(cell(page, "A0000", "end")).not_to_have_text(finish)
            finish = cell(page, "A0000", "end").inner_text()
        expect(page.locator("main [role=status]").first).to_contain_text(f"{SIZE} finishes moved")
        page.locator("[data-sheet]").focus()
        page.keyboard.press("Control+End")
        lowest = page.locator("[data-row]").last
        expect(lowest).to_have_attribute("data-row", re.compile("^A1"))
        code = lowest.get_attribute("data-row") or ""
        start = date.fromisoformat(next(r.start or "" for r in plan_out(Project.objects.get(code="MANY")).rows if r.code == code)[:10])
        expect(cell(page, code, "begin")).to_have_text(f"{start.day} {start:%b}")
        page.keyboard.press("Control+z")
        expect(page.locator("main [role=status]").first).to_contain_text("Undid")
