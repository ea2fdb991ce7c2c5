"""Planning by hand: backward from a finish, work without dates, copies of another project, going to one, and holidays of a region."""

import re

from playwright.sync_api import expect

from server.book.loading import load_document
from server.book.models import Activity, Assignment, Calendar, Link, Project
from server.tests.base import ferry
from server.tests.browser import BrowserTest, cell


class Planning(BrowserTest):
    pages = 2

    def setUp(self) -> None:
        super().setUp()
        other = ferry(1)
        other["project"] |= {"code": "PIER", "name": "Old pier"}
        for resource in other["resources"]:
            resource.pop("shared", None)
        load_document(other)
        self.project = Project.objects.get(code="FERRY")

    def test_backward_is_looked_at_first_and_taken_back_in_one(self) -> None:
        page = self.open("/FERRY/now/plan")
        page.get_by_role("button", name="More to do with the plan").click()
        page.get_by_role("menuitem", name="Plan backward…").click()
        asked = page.get_by_role("dialog", name="Plan backward")
        expect(asked.get_by_role("status")).to_contain_text("activities as late as their links allow")
        held = Activity.objects.filter(project=self.project, constraint__type__in=("start_on_or_after", "finish_on_or_after"))
        before = held.count()
        asked.get_by_role("button", name="Plan so").click()
        self.until(lambda: held.count() > before + 5)
        page.locator("main").focus()
        page.get_by_role("button", name="Undo").click()
        self.until(lambda: held.count() == before)

    def test_work_without_dates_is_dragged_onto_its_day_or_typed(self) -> None:
        Link.objects.filter(project=self.project, target__code="A300").delete()
        Project.objects.filter(pk=self.project.pk).update(revision=self.project.revision + 1)
        page = self.open("/FERRY/now/plan?time=month")
        page.get_by_role("button", name="More to do with the plan").click()
        page.get_by_role("menuitem", name="Work without dates…").click()
        strip = page.get_by_role("group", name=re.compile("without a date"))
        piece = strip.get_by_role("button", name=re.compile("^A300"))
        piece.hover()
        page.mouse.down()
        pane = page.locator("[data-slides=time]").last.bounding_box()
        assert pane is not None
        page.mouse.move(pane["x"] + 60, pane["y"] + 120, steps=4)
        expect(strip).to_contain_text(" from ")
        page.mouse.up()
        kept = lambda: Activity.objects.get(project=self.project, code="A300").constraint  # noqa: E731
        self.until(lambda: (kept() or {}).get("type") == "start_on_or_after")
        expect(piece).to_have_count(0)

    def test_activities_are_copied_from_another_project_which_one_finds_with_a_slash(self) -> None:
        page = self.open("/PIER/now/plan")
        page.get_by_role("button", name="More to do with the plan").click()
        page.get_by_role("menuitem", name="Copy from another project…").click()
        asked = page.get_by_role("dialog", name="Copy activities")
        asked.get_by_label("Project", exact=True).select_option("FERRY")
        asked.get_by_label("Find among them").fill("A12")
        asked.get_by_role("checkbox").first.check()
        asked.get_by_label("Find among them").fill("A13")
        asked.get_by_role("checkbox").first.check()
        asked.get_by_role("button", name="Copy 2").click()
        there = Activity.objects.filter(project__code="PIER", code__in=("A120-2", "A130-2"))
        self.until(lambda: there.count() == 2)
        self.assertTrue(Assignment.objects.filter(activity__in=there).exists())
        page.keyboard.press("/")
        page.keyboard.type("FERRY MV")
        expect(page.get_by_role("listbox").get_by_role("option").first).to_contain_text("Go to project FERRY")
        page.keyboard.press("Enter")
        page.wait_for_url("**/FERRY/**")

    def test_a_region_says_what_it_adds_and_hours_follow_the_shifts(self) -> None:
        page = self.open("/FERRY/now/plan/calendars")
        page.get_by_label("Holidays of…").select_option("DE")
        region = page.get_by_label("Region")
        expect(region.locator("option", has_text="BY adds 3")).to_have_count(1)
        region.select_option("BY")
        page.get_by_role("button", name="Import 2027").click()
        code = self.project.calendar
        self.until(lambda: "Fronleichnam" in str(Calendar.objects.get(project=self.project, code=code).exceptions) or "Corpus" in str(
            Calendar.objects.get(project=self.project, code=code).exceptions))  # fmt: skip
        for day in ("Mon", "Tue", "Wed", "Thu", "Fri"):
            page.get_by_label(day, exact=True).fill("7-12, 13-17")
            page.keyboard.press("Tab")
        self.until(lambda: float(Calendar.objects.get(project=self.project, code=code).hours_per_day or 8) == 9)
        expect(page.get_by_role("status").first).to_contain_text("follows its shifts")

    def test_a_baseline_is_asked_for_taken_and_one_from_another_project_looked_at(self) -> None:
        page = self.open("/FERRY/now/baselines")
        page.get_by_label("Name", exact=True).fill("After change 4")
        page.get_by_label("Reason", exact=True).fill("The change is approved")
        page.get_by_role("button", name="Ask for it").click()
        expect(page.get_by_role("note")).to_contain_text("asks for the baseline")
        page = self.open("/FERRY/now/baselines", "Lorcan")
        page.get_by_role("note").get_by_role("button", name="Approve and take it").click()
        expect(page.get_by_role("table").first).to_contain_text("B2 After change 4")
        page.get_by_role("button", name="From a file or another project…").click()
        asked = page.get_by_role("dialog", name="A plan from elsewhere")
        asked.get_by_label("Another project").select_option("PIER")
        expect(asked.get_by_role("status")).to_contain_text("activities match")
        asked.get_by_role("button", name="Take it as a baseline").click()
        expect(asked.get_by_role("alert")).to_contain_text("name")
        asked.get_by_label("Name", exact=True).fill("The pier")
        asked.get_by_label("Reason", exact=True).fill("To compare")
        asked.get_by_role("button", name="Take it as a baseline").click()
        expect(page.get_by_role("table").first).to_contain_text("B3 The pier")
        row = page.get_by_role("row", name=re.compile("B3 The pier"))
        row.get_by_role("button", name="take it away…").click()
        row.get_by_label("Why B3 is taken away").fill("Only to look")
        row.get_by_role("button", name="Take it away").click()
        expect(page.get_by_role("row", name=re.compile("B3 The pier"))).to_have_count(0)
        expect(cell(page, "A110", "name")).to_have_count(0)
