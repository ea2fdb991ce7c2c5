"""Every list that is typed into: rows typed faster than the server answers, on a slow machine, and blocks pasted whole."""

import re
import threading
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.test import override_settings
from playwright.sync_api import Page, expect

from server.book.kept_models import Answer
from server.book.models import Activity, Calendar, CostEntry, HoursEntry, Project, RegisterEntry, Resource, Statement, WbsElement
from server.journal.models import Step
from server.tests.browser import BrowserTest

FAST = 33
"""Milliseconds between two keys of somebody who types thirty a second."""
SLOWER = 3


GO = threading.Event()
"""Cleared while whatever is written waits for its answer."""
GO.set()


def held(answer: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A server that answers what is written when it is let."""

    def wait(request: HttpRequest) -> HttpResponse:
        if request.method != "GET":
            GO.wait(60)
        return answer(request)

    return wait


@override_settings(MIDDLEWARE=["server.tests.test_typing_browser.held", *settings.MIDDLEWARE])
class Typing(BrowserTest):
    pages = 3

    def setUp(self) -> None:
        super().setUp()
        self.project = Project.objects.get(code="FERRY")
        self.addCleanup(GO.set)

    def at(self, path: str, grid: str) -> Page:
        page = self.open(f"/FERRY/P03/{path}", permissions=["clipboard-read", "clipboard-write"])
        page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        page.get_by_role("grid", name=grid).locator("[data-row^=begun]").last.wait_for()
        return page

    def typed(self, path: str, grid: str, rows: list[list[str]], there: Callable[[], bool], first: str) -> None:
        """Types rows by Tab and Enter while no answer comes; `there` says whether all is kept in the end."""
        page = self.at(path, grid)
        GO.clear()
        page.get_by_role("grid", name=grid).locator("[data-row^=begun]").last.locator(f'[data-cell$=":{first}"]').click()
        for row in rows:
            for i, text in enumerate(row):
                page.keyboard.type(text, delay=FAST)
                page.keyboard.press("Tab" if i < len(row) - 1 else "Enter")
        GO.set()
        self.until(there)

    def down(self, path: str, field: str, texts: list[str], there: Callable[[list[str]], bool]) -> None:
        """Types down a column of rows that are there, by Enter; `there` is asked of the rows whose cells were typed into."""
        page = self.open(f"/FERRY/P03/{path}")
        page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        cells = page.locator(f'[data-cell$=":{field}"]:not([aria-readonly])')
        cells.first.wait_for()
        rows = [str(cells.nth(i).get_attribute("data-cell")).rpartition(":")[0] for i in range(len(texts))]
        GO.clear()
        cells.first.click()
        for text in texts:
            page.keyboard.type(text, delay=FAST)
            page.keyboard.press("Enter")
        GO.set()
        self.until(lambda: there(rows))
        expect(page.get_by_role("alert")).to_have_count(0)

    def pasted(self, path: str, grid: str, rows: list[list[str]], there: Callable[[], bool], first: str) -> None:
        """Pastes a block into the row that is begun; it is one step."""
        page = self.at(path, grid)
        steps = Step.objects.count()
        page.evaluate("text => navigator.clipboard.writeText(text)", "\n".join("\t".join(row) for row in rows))
        begun = page.get_by_role("grid", name=grid).locator("[data-row^=begun]").last
        begun.locator(f'[data-cell$=":{first}"]').click()
        page.keyboard.press("Control+v")
        self.until(there)
        self.assertEqual(Step.objects.count(), steps + 1)
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_down_the_plan(self) -> None:
        names = ["Pump room cleared", "Hatch 4 opened", "Fans in", "Ducts in", "Grilles in", "Seals in"]

        def kept(rows: list[str]) -> bool:
            found: dict[str, str] = {}
            for model in (Activity, WbsElement):
                found |= dict(model.objects.filter(project=self.project, code__in=rows).values_list("code", "name"))
            return [found.get(row) for row in rows] == names

        self.down("plan?show=not+started", "name", names, kept)

    def test_rows_begun_in_the_plan(self) -> None:
        page = self.open("/FERRY/P03/plan")
        page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        page.locator("[data-row]").last.wait_for()
        names = ["Buoy lifted", "Chain cut", "Sinker raised", "Buoy painted"]
        GO.clear()
        page.get_by_role("button", name="Add a row").click()
        for name in names:
            page.keyboard.type(name, delay=FAST)
            page.keyboard.press("Enter")
        page.keyboard.press("Escape")
        GO.set()
        found = Activity.objects.filter(project=self.project, name__in=names).order_by("order")
        self.until(lambda: list(found.values_list("name", flat=True)) == names)

    def test_down_the_posting_sheet(self) -> None:
        texts = ["91", "92", "93"]
        begun = Statement.objects.filter(page__project=self.project, page__code="P03")

        def kept(rows: list[str]) -> bool:
            found = dict(begun.filter(activity__code__in=rows).values_list("activity__code", "percent"))
            return [f"{found.get(row)}".split(".")[0] for row in rows] == texts

        self.down("posting?show=progress", "percent", texts, kept)

    def test_down_the_hours(self) -> None:
        texts = ["3", "4", "5", "6", "7"]
        minutes = [f"{int(text) * 60}min" for text in texts]

        def kept(rows: list[str]) -> bool:
            hours = HoursEntry.objects.filter(page__project=self.project, page__code="P03")
            found = {f"{x.activity.code}¦{x.resource.code}": x.worked for x in hours}
            return [found.get(row) for row in rows] == minutes

        self.down("posting/hours", "worked", texts, kept)

    def test_down_the_answers_to_checks(self) -> None:
        texts = ["Agreed with the yard.", "Known since May.", "As ordered."]
        answers = Answer.objects.filter(project=self.project)
        kept = lambda _: set(answers.values_list("text", flat=True)) >= set(texts)  # noqa: E731
        self.down("checks", "text", texts, kept)

    def days(self) -> list[dict[str, Any]]:
        return Calendar.objects.get(project=self.project, code=self.project.calendar).exceptions or []

    def risks(self) -> dict[str, Any]:
        return {x.name: x.values for x in RegisterEntry.objects.filter(project=self.project, register="risks")}

    def costs(self) -> set[tuple[str, str, str]]:
        found = CostEntry.objects.filter(page__project=self.project, page__code="P03")
        return {(f"{x.amount}", x.date, x.ref or "") for x in found}

    def test_costs(self) -> None:
        rows = [["A350", "120.50", "20 jan", "invoice", "T1"], ["A340", "99", "21 jan", "invoice", "T2"]]
        kept = {("120.50", "2027-01-20", "T1"), ("99.00", "2027-01-21", "T2")}
        self.typed("posting/costs", "Costs", rows, lambda: kept <= self.costs(), "on")

    def test_many_costs(self) -> None:
        rows = [["A350", str(100 + i), "20 jan", "invoice", f"T{i}"] for i in range(40)]
        kept = {(f"{100 + i}.00", "2027-01-20", f"T{i}") for i in range(40)}
        self.pasted("posting/costs", "Costs", rows, lambda: kept <= self.costs(), "on")

    def test_special_days(self) -> None:
        kept = {("2027-01-12", "2027-01-12", "Ice"), ("2026-12-30", "2026-12-31", "Stocktaking")}
        rows = [["12 jan 2027", "", "", "Ice"], ["30 dec 2026", "31 dec 2026", "", "Stocktaking"]]
        there = lambda: kept <= {(x["from"], x["to"], x.get("name")) for x in self.days()}  # noqa: E731
        self.typed("plan/calendars", "Special days", rows, there, "from")

    def test_many_special_days(self) -> None:
        count = len(self.days())
        rows = [[f"{i % 27 + 1}/{i // 27 + 5}/2028", "", "", f"Day {i}"] for i in range(40)]
        self.pasted("plan/calendars", "Special days", rows, lambda: len(self.days()) == count + 40, "from")
        self.assertEqual({x.get("name") for x in self.days()} & {f"Day {i}" for i in range(40)}, {f"Day {i}" for i in range(40)})

    def test_risks(self) -> None:
        rows = [["Sea too rough", "30", "1200"], ["Crane breaks", "5", "90"]]
        kept = [("Sea too rough", 30, "1200"), ("Crane breaks", 5, "90")]
        there = lambda: all(  # noqa: E731
            (x := self.risks().get(name)) and (x.get("probability"), str(x.get("impact", "")).split(".")[0]) == (p, i)
            for name, p, i in kept
        )
        self.typed("plan/project", "Risks", rows, there, "name")

    def test_many_risks(self) -> None:
        rows = [[f"Risk {i}", str(i), str(i * 10)] for i in range(40)]
        self.pasted("plan/project", "Risks", rows, lambda: {f"Risk {i}" for i in range(40)} <= self.risks().keys(), "name")

    def test_rates(self) -> None:
        resource = next(r for r in Resource.objects.filter(project=self.project) if r.rates)
        rates = lambda: {(x["from"], x["amount"].split(".")[0]) for x in Resource.objects.get(pk=resource.pk).rates}  # noqa: E731
        page = self.open(f"/FERRY/P03/plan/resources?part=rates&who={resource.code}")
        GO.clear()
        last = page.get_by_role("grid", name=f"Rates of {resource.name}").locator("[data-row^=begun]").last
        last.locator('[data-cell$=":from"]').click()
        for text, key in (("1 jul 2027", "Tab"), ("99", "Tab"), ("day", "Enter"), ("1 mar 2027", "Tab"), ("98", "Enter")):
            page.keyboard.type(text, delay=FAST)
            page.keyboard.press(key)
        GO.set()
        self.until(lambda: {("2027-07-01", "99"), ("2027-03-01", "98")} <= rates())

    def test_undo_and_redo_by_keys_in_a_room_of_any_kind(self) -> None:
        page = self.at("plan/project", "Risks")
        name = page.get_by_label("Client", exact=True)
        was = name.input_value()
        name.fill("Harbour trust")
        name.press("Enter")
        self.until(lambda: Project.objects.get(code="FERRY").client == "Harbour trust")
        for room in ("Budget", "Timeline", "Value"):
            page.get_by_role("navigation", name="Rooms").get_by_role("link", name=room).click()
            page.wait_for_url(f"**/{room.lower()}**")
            page.locator("main").focus()
            page.keyboard.press("Control+z")
            self.until(lambda: Project.objects.get(code="FERRY").client != "Harbour trust")
            self.assertEqual(Project.objects.get(code="FERRY").client or "", was)
            expect(page.get_by_text("Undid").last).to_be_visible()
            page.keyboard.press("Control+Shift+z")
            self.until(lambda: Project.objects.get(code="FERRY").client == "Harbour trust")

    def test_back_goes_to_the_part_before(self) -> None:
        page = self.open("/FERRY/P03/budget")
        page.get_by_role("button", name="Estimates").click()
        expect(page).to_have_url(re.compile("part=estimates"))
        page.go_back()
        expect(page).not_to_have_url(re.compile("part="))
        expect(page.get_by_role("heading", name="Work packages by time")).to_be_visible()
        page.go_forward()
        expect(page).to_have_url(re.compile("part=estimates"))

    def test_a_new_resource_is_the_one_that_is_written_to(self) -> None:
        page = self.open("/FERRY/P03/plan/resources")
        last = page.get_by_role("grid", name="Resources of the project").locator("[data-row^=begun]").last
        last.locator('[data-cell$=":name"]').click()
        GO.clear()
        for text, key in (("Divers", "Tab"), ("equipment", "Tab"), ("2", "Enter")):
            page.keyboard.type(text)
            page.keyboard.press(key)
        GO.set()
        made = Resource.objects.filter(project=self.project, name="Divers", kind="equipment", units=2)
        self.until(made.exists)

    def test_a_session_that_ends_while_a_dialog_is_open_loses_nothing(self) -> None:
        page = self.open("/")
        page.get_by_role("button", name="New project").click()
        page.get_by_label("Name", exact=True).fill("Quay works")
        page.context.clear_cookies(name="sessionid")
        page.evaluate("document.querySelector('dialog, [role=dialog] form')?.requestSubmit()")
        sign_in = page.get_by_role("dialog", name="Sign in again")
        expect(sign_in).to_be_visible()
        page.keyboard.press("Escape")
        sign_in.get_by_role("button", name="Ines").click()
        expect(sign_in).to_have_count(0)
        expect(page.get_by_label("Name", exact=True)).to_have_value("Quay works")
        expect(page.get_by_role("alert").first).to_be_visible()
