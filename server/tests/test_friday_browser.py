"""A Friday afternoon in a browser, by keyboard: checks answered, hours and feeds, corrections, as planned, carrying, treatments."""

import re
import threading
import time
from pathlib import Path

from django.conf import settings
from django.test import override_settings
from playwright.sync_api import Page, expect

from server.book.models import Activity, Answer, HoursEntry, Project, Statement
from server.tests.browser import BrowserTest, paste
from stand_ins.serve import source


class Friday(BrowserTest):
    pages = 4

    def told(self, page: Page, text: str) -> None:
        expect(page.locator("main [role=status]").first).to_contain_text(text)

    def test_a_finding_is_gone_to_answered_and_let_go(self) -> None:
        page = self.open("/FERRY/P04/checks")
        sheet = page.get_by_role("grid")
        row = sheet.locator('[data-cell^="no_successor:"][data-cell$=":text"]').first
        name = (row.get_attribute("data-cell") or "").removesuffix(":text")
        check, code = name.split(":")
        row.click()
        page.keyboard.type("the yard is shut")
        page.keyboard.press("Tab")
        page.keyboard.type("P01")
        page.keyboard.press("Enter")
        expect(sheet.get_by_role("alert")).to_contain_text("P01 is closed")
        page.keyboard.press("ArrowUp")
        page.keyboard.press("Escape")
        self.until(lambda: Answer.objects.filter(check_code=check, row=code, until=None).count() == 1)
        page.reload()
        expect(sheet.locator('[data-cell$=":text"]').first).to_be_visible()
        expect(sheet.locator(f'[data-cell="{name}:text"]')).to_have_count(0)
        page.get_by_role("button", name="Accepted too").press("Enter")
        expect(sheet.locator(f'[data-cell="{name}:text"]')).to_have_text("the yard is shut")
        sheet.locator(f'[data-cell="{name}:where"]').click()
        page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile(r"/plan\?.*at=" + code))

    def test_closing_is_refused_until_what_cannot_be_true_is_answered(self) -> None:
        page = self.open("/FERRY/P04/posting")
        cell = page.locator('[data-cell="A160:actual_start"]')
        page.get_by_label("Show", exact=True).select_option("all")
        page.locator('[data-cell="A170:percent"]').click()
        page.keyboard.type("100")
        page.keyboard.press("Enter")
        expect(cell).to_be_visible()
        self.until(lambda: Statement.objects.filter(page__code="P04", activity__code="A170", percent=100).count() == 1)
        page.get_by_role("button", name="Close the page").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("cannot be true")
        dialog.get_by_role("button", name="Close the page").click()
        expect(dialog.get_by_role("alert")).to_contain_text("(A170) at 100 % without a finish")
        dialog.get_by_role("link", name="Checks").click()
        page.locator('[data-cell="full_not_finished:A170:text"]').click()
        page.keyboard.type("papers follow")
        page.keyboard.press("Enter")
        expect(page.locator('[data-cell="full_not_finished:A170:by"]')).to_have_text("Ines Test")
        page.get_by_role("link", name="Posting").click()
        page.get_by_role("button", name="Close the page").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Close the page").click()
        expect(page.get_by_role("heading", name=re.compile("Page 5"))).to_be_visible()

    def test_hours_of_a_dry_page_are_corrected_on_the_open_one(self) -> None:
        page = self.open("/FERRY/P03/posting/hours")
        page.locator('[data-cell="A150¦DES:worked"]').click()
        page.keyboard.press("F2")
        expect(page.get_by_label("Hours should be")).to_be_focused()
        page.keyboard.type("6")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("Say why")
        page.get_by_label("Because").fill("booked twice")
        page.keyboard.press("Enter")
        self.until(lambda: HoursEntry.objects.filter(corrects="P03", page__code="P04", worked=f"{-38 * 60}min").count() == 1)
        expect(page.get_by_role("table").filter(has_text="Corrected later")).to_contain_text("booked twice")
        page.get_by_role("link", name="P04", exact=True).last.click()
        made = page.get_by_role("table").filter(has_text="Corrections on this page")
        expect(made).to_contain_text("P03")
        made.get_by_role("button", name=re.compile("Delete the correction")).click()
        self.until(lambda: not HoursEntry.objects.filter(corrects="P03").exists())

    def test_a_statement_of_a_dry_page_is_corrected_and_both_ends_show_it(self) -> None:
        page = self.open("/FERRY/P03/posting?show=progress")
        page.locator('[data-cell="A600:percent"]').click()
        page.keyboard.press("F2")
        form = page.get_by_role("form", name=re.compile("^Correct A600"))
        expect(form).to_contain_text("It says actual start 21 Jan, % complete 13")
        form.get_by_label("% complete").fill("9")
        form.get_by_label("Because").fill("misread")
        page.keyboard.press("Enter")
        self.until(lambda: Statement.objects.filter(page__code="P04", activity__code="A600", percent=9, corrects="P03").count() == 1)
        expect(page.get_by_role("table").filter(has_text="Corrected later")).to_contain_text("misread")
        page.get_by_role("link", name="P04", exact=True).last.click()
        expect(page.get_by_role("table").filter(has_text="Corrections on this page")).to_contain_text("9 %")

    def test_as_planned_carrying_and_treatments_are_said_before_they_are_done(self) -> None:
        page = self.open("/FERRY/P04/posting")
        was = Statement.objects.filter(page__code="P04").count()
        page.get_by_role("button", name="Post as planned").press("Enter")
        page.get_by_label("What is posted").select_option("finished")
        act = page.get_by_role("button", name=re.compile(r"^Post \d+ as planned$"))
        expect(page.locator("#at-once-says")).not_to_be_empty()
        page.keyboard.press("Escape")
        self.assertEqual(Statement.objects.filter(page__code="P04").count(), was)
        page.locator('[data-cell$=":percent"]').first.click()
        page.keyboard.press("Control+a")
        page.get_by_role("button", name="Carry forward").press("Enter")
        page.keyboard.type("1 jan")
        expect(page.locator("#at-once-says")).to_contain_text("not after the status date")
        page.keyboard.press("Control+a")
        page.keyboard.type("8 feb")
        expect(page.get_by_role("button", name=re.compile(r"^Carry [1-9]\d* forward$"))).to_be_enabled()
        page.keyboard.press("Enter")
        self.until(lambda: Statement.objects.filter(page__code="P04", carry_to__startswith="2027-02-08").exists())
        expect(page.get_by_role("group", name="Carry forward")).to_have_count(0)
        page.keyboard.press("Control+z")
        self.until(lambda: not Statement.objects.filter(page__code="P04", carry_to__isnull=False).exists())
        expect(act).to_have_count(0)

    def test_five_people_on_eight_activities_by_keyboard_alone(self) -> None:
        page = self.open("/FERRY/P04/posting/hours?by=person&show=all")
        cells = page.locator('[data-cell$=":worked"]')
        expect(cells.nth(7)).to_be_visible()
        cells.nth(0).click()
        started, typed = time.monotonic(), set[str]()
        for _ in range(24):  # the rows of a sheet, headings between them
            here = page.get_by_role("grid").get_attribute("aria-activedescendant") or ""
            if here.endswith("-worked") and "group." not in here:
                page.keyboard.type("6")
                page.keyboard.press("Tab")
                page.keyboard.type("1")
                page.keyboard.press("Tab")
                page.keyboard.type("12")
                page.keyboard.press("Enter")
                typed.add(here)
            else:
                page.keyboard.press("ArrowDown")
        self.assertGreaterEqual(len(typed), 8)
        own = HoursEntry.objects.filter(page__code="P04", worked="360min", overtime="60min", to_go="720min")
        self.until(lambda: own.count() == len(typed))  # what was typed is written in turn
        self.assertEqual(own.count(), len(typed))
        self.assertLess(time.monotonic() - started, 120)

    def test_a_week_is_pasted_by_its_codes_and_work_hours_may_give_the_duration(self) -> None:
        page = self.open("/FERRY/P04/posting/hours?by=person&show=all")
        page.locator('[data-cell="A150¦DES:worked"]').click()
        paste(page, "Task\tHours\tRemaining\nA160\t7\t9\nA120\t2\t0\nno such\t1\t\n")
        look = page.get_by_role("dialog")
        expect(look).to_contain_text("Names no activity or person here")
        look.get_by_role("button", name="Post 2 lines").press("Enter")
        own = HoursEntry.objects.filter(page__code="P04", resource__code="DES")
        self.until(lambda: own.filter(activity__code="A160", worked="420min", to_go="540min").exists())
        self.until(lambda: own.filter(activity__code="A120", worked="120min").exists())
        page.keyboard.press("Control+z")
        self.until(lambda: not own.filter(activity__code="A120", worked="120min").exists())
        expect(page.get_by_text("comes from the estimate")).to_be_visible()
        page.get_by_role("button", name="Let the work hours give it").press("Enter")
        self.until(lambda: Activity.objects.get(code="A150").driver == "work")
        expect(page.get_by_text("comes from the estimate")).to_have_count(0)
        page.get_by_role("button", name="Each day").click()
        for day in ("2027-01-27", "2027-01-28"):
            page.locator(f'[data-cell="A160¦DES:{day}"]').click()
            page.keyboard.type("6.5")
            page.keyboard.press("Enter")
        self.until(lambda: own.filter(activity__code="A160", worked="780min").exists())
        expect(page.locator('[data-cell="A160¦DES:worked"]')).to_have_text("13")

    def test_a_row_has_the_cells_of_its_method(self) -> None:
        Activity.objects.filter(code__in=["A160", "A200"]).update(value_method={"type": "units", "planned": 40})
        weights = [{"name": n, "weight": 1, "at": at} for n, at in (("Draft", 0.5), ("Issue", 1))]
        Activity.objects.filter(code="A170").update(value_method={"type": "milestones", "weights": weights})
        Project.objects.filter(code="FERRY").update(measured_against=None, compared_with=None)
        page = self.open("/FERRY/P04/posting?show=all")
        for code, column, typed, shown in (("A160", "units_done", "10", "10 of 40"), ("A170", "milestones_reached", "1", "1 of 2")):
            cell = page.locator(f'[data-cell="{code}:{column}"]')
            cell.click()
            page.keyboard.type(typed)
            page.keyboard.press("Enter")
            expect(cell).to_have_text(shown)
        self.until(lambda: Statement.objects.filter(page__code="P04", activity__code="A170", milestones_reached=["Draft"]).exists())
        page.locator('[data-cell="A200:percent"]').click()
        page.keyboard.type("50")
        page.keyboard.press("Enter")
        expect(page.locator('[data-cell="A200:percent"]')).to_have_text("")

    @override_settings(FEED_HOSTS=("127.0.0.1",))
    def test_a_feed_is_fetched_put_right_and_posted(self) -> None:
        folder = settings.ROOT / "var"
        folder.mkdir(exist_ok=True)
        file = Path(settings.DATA) / "hours.csv"
        file.write_text(
            "Entry,Employee,Week ending,Task,Hours\n1,R. Vane,2027-01-29,A150,4\n2,Corrie and Vane design office,2027-01-29,A150,soon\n"
        )
        there = source(file, 0)
        threading.Thread(target=there.serve_forever, daemon=True).start()
        self.addCleanup(there.server_close)
        self.addCleanup(there.shutdown)
        address = f"http://127.0.0.1:{there.server_address[1]}/hours.csv"
        page = self.open("/FERRY/P04/posting/feeds")
        page.get_by_role("button", name="New feed").press("Enter")
        page.keyboard.type("Studio")
        page.get_by_label("Address", exact=True).fill("http://elsewhere.example/x")
        page.keyboard.press("Enter")
        expect(page.get_by_role("main").get_by_text("may not be fetched from elsewhere.example")).to_be_visible()
        page.get_by_label("Address", exact=True).fill(address)
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Fetch").press("Enter")
        self.told(page, "need")
        expect(page.locator("[data-row]")).to_have_count(2)
        page.locator('[data-cell$=":person"]').first.click()
        page.keyboard.type("DES")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Post 1 row")).to_be_enabled()
        page.get_by_role("button", name="Post 1 row").press("Enter")
        self.until(
            lambda: HoursEntry.objects.filter(
                page__code="P04", activity__code="A150", resource__code="DES", worked=f"{14 * 60}min"
            ).exists()
        )
        page.get_by_role("button", name="Fetch").press("Enter")
        expect(page.get_by_text("2 rows came, 1 of them posted before.")).to_be_visible()
        page.get_by_role("button", name="Discard row 2").click()
        expect(page.get_by_text("Nothing waits in the tray")).to_be_visible()
        page.get_by_role("link", name="History").click()
        expect(page.get_by_role("table").last).to_contain_text("Posted 1 rows of Studio")
        self.assertGreater(Project.objects.get(code="FERRY").revision, 1)
