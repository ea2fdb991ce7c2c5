"""Asking in a browser: the tray, one's own work on a telephone and off line, a status meeting, a whole status date by few keys."""

import json
import re
import threading
import time
from http.server import ThreadingHTTPServer
from typing import Any

from django.conf import settings
from django.test import override_settings
from playwright.sync_api import Page, expect

from server.accounts.models import Person
from server.asking.keeping import keep
from server.asking.models import Answer, Request, State
from server.book.membership import Member
from server.book.models import Activity, CostEntry, HoursEntry, Project, Statement
from server.book.models import Page as BookPage
from server.book.results import view_of
from server.feeds.models import Feed
from server.tests.browser import BrowserTest, cell
from server.tests.test_measured import AXE, axe
from stand_ins.serve import source


class AskingInABrowser(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.project = Project.objects.get(code="FERRY")
        ruan, _ = Person.objects.get_or_create(username="ruan", defaults={"full_name": "Ruan Teale", "role": "none", "demo": True})
        Member.objects.get_or_create(project=self.project, person=ruan, defaults={"role": "contributor"})
        self.wet = BookPage.objects.get(project=self.project, state="wet")
        self.pressed = 0

    def asked(self, name: str, *codes: str) -> Request:
        person = Person.objects.filter(full_name=name).first()
        by = Person.objects.get(username="ines")
        request: Request = Request.objects.create(page=self.wet, name=name, person=person, activities=codes, token=name, by=by)
        return request

    def says(self, request: Request, code: str, **cells: str) -> None:
        v = view_of(self.project, self.wet)
        self.assertTrue(keep(request, v, f"{code}.{json.dumps(cells)}", code, cells, {}, "sheet").kept)

    def press(self, page: Page, *keys: str) -> None:
        """Keys, counted."""
        for key in keys:
            page.keyboard.press(key)
            self.pressed += 1

    def click(self, page: Page, role: Any, name: Any) -> None:
        """A press of the mouse, counted as a key."""
        page.get_by_role(role, name=name).first.click()
        self.pressed += 1

    def test_answers_are_looked_at_changed_taken_and_left(self) -> None:
        ruan = self.asked("Ruan Teale", "A330", "A340", "A435")
        self.asked("Petra Lindqvale", "A640", "A620")
        for code, cells in {"A330": {"percent": "90", "remaining": "1"}, "A340": {"percent": "5"}, "A435": {"percent": "70"}}.items():
            self.says(ruan, code, **cells)
        page = self.open("/FERRY/now/posting/answers")
        expect(page.get_by_text("Asked 2 people, 1 has answered")).to_be_visible()
        expect(page.get_by_text("Petra Lindqvale (2 rows)")).to_be_visible()
        expect(page.get_by_text("posted on this page:").first).to_be_visible()
        page.get_by_role("button", name="Change the answer to A330").press("Enter")
        page.get_by_label("% complete").fill("lots")
        page.get_by_role("button", name="Take it so").press("Enter")
        expect(page.get_by_role("main").get_by_text("not a number")).to_be_visible()
        page.get_by_label("% complete").fill("92")
        page.get_by_role("button", name="Take it so").press("Enter")
        self.until(lambda: Statement.objects.filter(page=self.wet, activity__code="A330", percent=92).exists())
        page.get_by_role("button", name="Leave the answer to A340").press("Enter")
        self.until(lambda: Answer.objects.filter(activity="A340", state=State.LEFT).exists())
        page.get_by_role("button", name="Take all of Ruan Teale").press("Enter")
        expect(page.get_by_text("No answer waits.")).to_be_visible()
        page.keyboard.press("Control+z")
        self.until(lambda: Answer.objects.filter(activity="A435", state=State.WAITING).exists())

    def test_ten_answers_that_are_typed_without_a_line_arrive_once(self) -> None:
        due = list(Activity.objects.filter(project=self.project, code__gte="A340").order_by("code").values_list("code", flat=True)[:10])
        self.asked("Ruan Teale", *due)
        page = self.open("/my-work", "Ruan", viewport={"width": 390, "height": 780}, color_scheme="dark", bypass_csp=True)
        rows = page.locator("[data-row]")
        expect(rows).to_have_count(10)
        page.add_script_tag(content=AXE())
        rows.nth(2).get_by_role("button").click()
        self.assertEqual(axe(page), [])
        rows.nth(2).get_by_role("button").click()
        page.context.set_offline(True)
        for i in range(10):
            rows.nth(i).get_by_role("button").click()
            page.keyboard.type(str(10 + i))  # how far
            rows.nth(i).get_by_role("button").click()
        page.get_by_role("button", name="Send 10 answers").click()
        expect(page.get_by_text("No line. 10 answers are kept on this device")).to_be_visible()
        self.assertEqual(Answer.objects.count(), 0)
        self.trouble = [x for x in self.trouble if "ERR_INTERNET_DISCONNECTED" not in x]
        page.context.set_offline(False)
        page.evaluate("dispatchEvent(new Event('online'))")
        expect(page.get_by_text("Everything you typed has arrived.")).to_be_visible()
        page.evaluate("dispatchEvent(new Event('online'))")
        page.reload()
        expect(page.get_by_text("10 of 10 answered")).to_be_visible()
        self.assertEqual(sorted(Answer.objects.values_list("activity", flat=True)), sorted(due))
        self.assertEqual(Answer.objects.get(activity=due[0]).cells, {"percent": "10"})
        page.evaluate("document.documentElement.style.fontSize = '200%'")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)

    def test_twelve_activities_are_said_in_a_meeting_by_one_sequence_of_keys_each(self) -> None:
        """How far, how much left: work, cost and dates follow, and say that they are reckoned."""
        Project.objects.filter(pk=self.project.pk).update(actuals="progress", revision=self.project.revision + 1)
        Project.objects.filter(pk=self.project.pk).update(plan_revision=self.project.plan_revision + 1)
        page = self.open("/FERRY/now/posting?show=all&find=3")
        balance = page.get_by_role("region", name="Balance line")
        cell(page, "A330", "percent").click()
        before, begun, done = balance.inner_text(), time.monotonic(), list[str]()
        while len(done) < 13:  # one of them is finished, and says so
            here = page.get_by_role("grid").get_attribute("aria-activedescendant") or ""
            code = here.removeprefix("cell-").removesuffix("-percent")
            page.keyboard.type("40")
            page.keyboard.press("Tab")
            page.keyboard.type("3d")
            page.keyboard.press("Enter")
            done.append(code)
        given = Statement.objects.filter(page=self.wet, activity__code__in=done, remaining="1440min")
        self.until(lambda: given.count() >= 12)
        self.assertLess(time.monotonic() - begun, 180)
        for total in ("AC", "EAC", "EV"):
            was = re.search(rf"{total}\s+([\d\s ]+\.\d\d)", before)
            assert was is not None, before
            expect(balance).not_to_contain_text(f"{total} {was.group(1)}")
        expect(balance).to_contain_text("follows progress")
        fresh = next(x.activity.code for x in given.select_related("activity") if x.assumed)
        cell(page, fresh, "actual_start").click()
        expect(cell(page, fresh, "actual_start")).to_have_attribute("aria-label", re.compile("assumed"))
        page.keyboard.press("Enter")
        self.until(
            lambda: (
                Statement.objects.filter(page=self.wet, activity__code=fresh, assumed__isnull=True).exists()
                or not (Statement.objects.get(page=self.wet, activity__code=fresh).assumed)
            )
        )
        cell(page, "A340", "percent").click()
        page.get_by_role("complementary").get_by_role("button", name="AC", exact=True).click()
        expect(page.get_by_text(re.compile("follows progress: .* d elapsed")).first).to_be_visible()

    @override_settings(FEED_HOSTS=("127.0.0.1",))
    def test_a_whole_status_date_takes_under_sixty_presses_beyond_the_figures(self) -> None:
        server: ThreadingHTTPServer = source(settings.ROOT / "stand_ins" / "timesheets.csv", 0)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.shutdown)
        address = f"http://127.0.0.1:{server.server_port}/timesheets.csv"
        Feed.objects.create(project=self.project, name="Yard timesheets", kind="timesheet", address=address)
        page = self.open("/FERRY/now/posting")
        self.click(page, "link", "Answers")
        self.click(page, "button", "Ask…")
        self.click(page, "button", re.compile(r"^Ask \d+ people$"))
        expect(page.get_by_text("Not answered:")).to_be_visible()
        for request in Request.objects.filter(page=self.wet).exclude(name="Petra Lindqvale"):
            for code in request.activities:
                if not Statement.objects.filter(page=self.wet, activity__code=code).exists():
                    self.says(request, code, percent="90", remaining="2")
        self.click(page, "link", "Progress")
        self.click(page, "link", "Answers")
        self.click(page, "button", re.compile(r"^Take all \d+$"))
        expect(page.get_by_text("No answer waits.")).to_be_visible()
        self.click(page, "link", "Feeds")
        self.click(page, "button", "Fetch")
        self.click(page, "button", re.compile(r"^Post \d+ rows$"))
        self.until(lambda: HoursEntry.objects.filter(page=self.wet, activity__code="A340").exists())
        self.click(page, "link", "Costs")
        page.locator('[data-cell$=":on"]').last.click()
        self.pressed += 1
        page.keyboard.type("A330")
        self.press(page, "Tab")
        page.keyboard.type("420")
        self.press(page, "Enter")
        self.until(lambda: CostEntry.objects.filter(page=self.wet, activity__code="A330", amount="420.00").exists())
        self.click(page, "link", "Progress")
        self.click(page, "button", "Post as planned")
        self.click(page, "button", re.compile(r"^Post [1-9]\d* as planned$"))
        expect(page.get_by_role("group", name="Post as planned")).to_have_count(0)
        self.click(page, "button", "Carry forward")
        page.keyboard.type("15 mar")
        expect(page.locator("#at-once-says")).not_to_be_empty()
        self.press(page, "Enter" if page.get_by_role("button", name=re.compile(r"^Carry [1-9]")).count() else "Escape")
        self.click(page, "link", re.compile("^Checks"))
        expect(page.get_by_role("heading", level=1)).to_contain_text("Checks")
        expect(page.get_by_text("finished, with remaining hours")).to_have_count(0)
        self.click(page, "link", re.compile("^Posting"))
        self.click(page, "button", "Close the page")
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_be_visible()
        dialog.get_by_role("button", name="Close the page").click()
        self.pressed += 1
        self.until(lambda: BookPage.objects.filter(project=self.project, state="wet").exclude(pk=self.wet.pk).exists())
        self.assertLess(self.pressed, 60)
