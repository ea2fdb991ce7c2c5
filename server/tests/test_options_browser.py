"""Options and buffers in a browser: made in the plan, proposed, levelled, chosen, adopted; a promise approved and kept."""

import re
from typing import Any

from django.conf import settings
from playwright.sync_api import Page, expect

from dryledger.exchange.book_json import parse_json
from server.book.kept_models import Option, Promise
from server.book.loading import load_document
from server.book.models import Activity, Project
from server.tests.browser import BrowserTest


class Options(BrowserTest):
    pages = 10

    def row(self, page: Page, code: str) -> Any:
        return page.locator(f'tr[data-option="{code}"]')

    def down(self, page: Page) -> None:
        """To the end of the plan sheet, which may still be coming: until its last rows are drawn."""
        page.wait_for_function(
            """() => {
                const sheet = document.querySelector("[data-sheet]");
                if (sheet) sheet.scrollTop = 5000;
                return document.querySelector('[data-cell^="A820:"]') !== null;
            }"""
        )

    def test_an_option_is_made_in_the_plan_and_leaves_it_alone(self) -> None:
        before = Activity.objects.get(code="A820").duration
        revision = Project.objects.get(code="FERRY").revision
        page = self.open("/FERRY/now/options")
        expect(self.row(page, "O3")).to_contain_text("1 d before")
        page.get_by_role("button", name="New option").click()
        frame = page.get_by_role("status").filter(has_text="Option O4")
        expect(frame).to_contain_text("The plan is left as it is.")
        self.down(page)
        cell = page.locator('[data-cell="A820:duration"]')
        cell.click()
        page.keyboard.type("5d")
        page.keyboard.press("Enter")
        expect(frame).to_contain_text("−4 d")
        expect(cell).to_have_text("5 d")
        page.keyboard.press("Control+z")
        expect(cell).to_have_text("10 d")
        page.keyboard.press("Control+Shift+Z")
        expect(cell).to_have_text("5 d")
        # What an option can't hold is said where it was typed.
        page.locator('[data-cell="A820:code"]').click()
        page.keyboard.type("Z1")
        page.keyboard.press("Enter")
        expect(page.get_by_text("An option keeps the codes of the plan.").first).to_be_visible()
        page.keyboard.press("Escape")
        page.get_by_role("link", name="Back to the board").click()
        expect(self.row(page, "O4")).to_contain_text("4 d earlier")
        self.row(page, "O4").get_by_role("button").click()
        expect(page.get_by_role("complementary")).to_contain_text("duration 10 d → 5 d")
        self.assertEqual((Activity.objects.get(code="A820").duration, Project.objects.get(code="FERRY").revision), (before, revision))
        page.goto(page.url.replace("options", "plan"))
        self.down(page)
        expect(page.locator('[data-cell="A820:duration"]')).to_have_text("10 d")

    def test_the_margin_in_an_option_writes_the_option(self) -> None:
        pk = Option.objects.get(code="O1").pk
        page = self.open(f"/FERRY/now/plan/option/{pk}")
        self.down(page)
        page.locator('[data-cell="A820:name"]').click()
        note = page.get_by_role("complementary")
        note.get_by_label("Deadline", exact=True).fill("15 jul")
        note.get_by_label("Deadline", exact=True).press("Enter")
        expect(note.get_by_label("Deadline", exact=True)).to_have_value("15 July 2027")
        self.assertIsNone(Activity.objects.get(code="A820").deadline)
        self.assertEqual(Option.objects.get(pk=pk).changes[-1]["cells"], {"deadline": "2027-07-15T16:00"})

    def test_proposals_become_an_option_that_is_chosen_and_adopted(self) -> None:
        page = self.open("/FERRY/now/options/proposals")
        expect(page.get_by_text(re.compile(r"All \d+ tried"))).to_be_visible()
        first = page.locator("main tbody tr").first
        expect(first).to_contain_text("9 d")
        page.get_by_role("checkbox", name="Choose Overlap: Terminate and insulation test → Battery commissioning").first.check()
        page.get_by_role("checkbox", name="Choose Longer week: As-built drawings").first.check()
        page.get_by_label("Name of the option").fill("Two steps")
        page.get_by_role("button", name="Make an option of 2 steps").click()
        note = page.get_by_role("complementary")
        expect(note).to_contain_text("Two steps")
        page.get_by_role("button", name="Ask for a choice").click()
        page.get_by_label("What readers are asked").fill("Which before Friday?")
        page.get_by_role("button", name="Ask", exact=True).click()
        reader = self.open("/FERRY/now/options", "Maud")
        expect(reader.get_by_role("note")).to_contain_text("Which before Friday?")
        expect(reader.get_by_role("button", name="New option")).to_have_count(0)
        self.row(reader, "O4").get_by_role("button").click()
        reader.get_by_label("Say something of it").fill("If the designers agree")
        reader.get_by_role("button", name="I would take this one").click()
        expect(reader.get_by_role("complementary")).to_contain_text("“If the designers agree”")
        page = self.open("/FERRY/now/options", "Lorcan")
        note = page.get_by_role("complementary")
        shown = self.row(page, "O4").locator("td").nth(1).inner_text()
        self.row(page, "O4").get_by_role("button").click()
        expect(note).to_contain_text("Maud Test")
        note.get_by_role("button", name="Adopt this option").click()
        expect(note.get_by_role("alert")).to_contain_text("Say why this option is taken")
        note.get_by_label("Reason").fill("Batteries late")
        note.get_by_role("button", name="Adopt this option").click()
        expect(note).to_contain_text(re.compile(r"Adopted\. Finish \d+ July 2027"))
        expect(page.locator("main tbody tr").first.locator("td").nth(1)).to_have_text(shown)
        note.get_by_role("button", name="Look at its change").click()
        raised = page.get_by_role("table", name="Changes").get_by_role("row").filter(has_text="Batteries late")
        expect(raised).to_contain_text("raised")

    def test_levelling_is_seen_then_taken(self) -> None:
        page = self.open("/FERRY/now/options/levelling")
        expect(page.get_by_role("status").first).to_contain_text("The finish stands")
        page.get_by_role("button", name="Beyond float").click()
        expect(page.get_by_role("status").first).to_contain_text("The finish moves")
        expect(page.get_by_role("row", name=re.compile("Erect charging tower"))).to_contain_text("Ruan Teale's fitters")
        page.get_by_role("button", name="Make an option of it").click()
        expect(self.row(page, "O4")).to_contain_text("Levelled beyond float")

    def test_conflicts_are_named_and_rebased(self) -> None:
        Activity.objects.filter(code="A375").update(duration="9d")
        page = self.open("/FERRY/now/options")
        expect(self.row(page, "O2")).to_contain_text("1 change does not fit")
        self.row(page, "O2").get_by_role("button").click()
        note = page.get_by_role("complementary")
        expect(note).to_contain_text("“Rack and connect modules” has another duration by now.")
        note.get_by_role("checkbox").first.check()
        note.get_by_role("button", name="Rebase on the plan as it is now").click()
        expect(note).to_contain_text("duration 9 d → 6 d")
        expect(self.row(page, "O2")).not_to_contain_text("does not fit")


class Buffers(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        load_document(parse_json((settings.ROOT / "demo" / "buoys.json").read_bytes()))

    def test_the_fever_chart_and_its_tables(self) -> None:
        page = self.open("/BUOYS/P06/buffers")
        expect(page.get_by_role("img", name=re.compile("^Share of the project buffer used over"))).to_be_visible()
        trail = page.get_by_role("table").filter(has_text="Chain done")
        expect(trail.get_by_role("row").last).to_contain_text("40.5 %")
        expect(trail.get_by_role("row").last).to_contain_text("watch")
        expect(page.get_by_text("1.5 working days before the promise")).to_be_visible()
        page.get_by_role("button", name="On the timeline").press("Enter")
        expect(page.get_by_role("row", name=re.compile("The project buffer"))).to_contain_text("14 Apr 2027")
        page.goto(page.url.split("?")[0].replace("buffers", "timeline"))
        page.locator("[data-sheet]").evaluate("e => { e.scrollTop = 2000 }")
        expect(page.locator('[data-bar="B450"] [data-buffer]')).to_be_attached()

    def test_a_promise_is_approved_by_an_approver(self) -> None:
        page = self.open("/BUOYS/now/buffers?view=chain")
        expect(page.get_by_text("Approving a promise takes an approver.")).to_be_visible()
        page.get_by_label("watch, at the beginning").fill("15")
        page.get_by_label("watch, at the beginning").press("Enter")
        expect(page.get_by_label("watch, at the beginning")).to_have_value("15 %")
        page.get_by_label("watch, at the beginning").fill("lots")
        page.get_by_label("watch, at the beginning").press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("can't be read as a per cent")
        approver = self.open("/BUOYS/now/buffers?view=chain", "Lorcan")
        approver.get_by_role("button", name="Approve as the promise").click()
        expect(approver.get_by_text("Chain, lengths and buffers are frozen")).to_be_visible()
        approver.get_by_role("button", name=re.compile("^Promise ")).click()
        expect(approver.get_by_text("approved by Lorcan Test on page P07")).to_be_visible()
        self.assertEqual(Promise.objects.count(), 2)

    def test_a_plan_without_safe_durations_is_told_what_to_do(self) -> None:
        page = self.open("/FERRY/now/buffers")
        expect(page.get_by_text("No activity has a safe duration")).to_be_visible()
