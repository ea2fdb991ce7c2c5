"""Resources by hand: rates of many by one paste and one fill, people found by skill, leave in one line, and what puts it right."""

import re
import time
from decimal import Decimal

from playwright.sync_api import expect

from server.book.models import Assignment, Project, Resource
from server.tests.browser import BrowserTest, cell, paste


class Resources(BrowserTest):
    pages = 2

    def setUp(self) -> None:
        super().setUp()
        self.project = Project.objects.get(code="FERRY")

    def rates(self, name: str) -> list[tuple[Decimal, str]]:
        found = Resource.objects.filter(project=self.project, name=name).first()
        return [] if found is None else [(Decimal(r["amount"]), r["per"]) for r in found.rates or []]

    def test_forty_resources_by_one_paste_and_their_rates_by_one_more_and_a_fill(self) -> None:
        page = self.open("/FERRY/now/plan/resources")
        sheet = page.get_by_role("grid", name="Resources of the project")
        sheet.locator('[data-row^=begun] [data-cell$=":name"]').last.click()
        paste(page, "\n".join(f"Diver {i:02}\tpeople\t1\tperson" for i in range(40)))
        self.until(lambda: Resource.objects.filter(project=self.project, name__startswith="Diver", unit="person").count() == 40)
        page.get_by_label("Columns").select_option("rates")
        first = Resource.objects.get(project=self.project, name="Diver 00")
        cell(page, first.code, "rate.hour").click()
        paste(page, "\n".join(f"{50 + i}.5" for i in range(40)))
        self.until(lambda: self.rates("Diver 39") == [(Decimal("89.5"), "hour")])
        self.assertEqual(self.rates("Diver 00"), [(Decimal("50.5"), "hour")])
        day = cell(page, first.code, "rate.use")
        day.click()
        page.keyboard.type("120")
        page.keyboard.press("Enter")
        self.until(lambda: (Decimal(120), "use") in self.rates("Diver 00"))
        day.click()
        page.keyboard.press("Control+Shift+End")
        page.keyboard.press("Control+d")
        self.until(lambda: (Decimal(120), "use") in self.rates("Diver 39"))
        page.keyboard.press("Control+z")
        self.until(lambda: self.rates("Diver 39") == [(Decimal("89.5"), "hour")])

    def test_somebody_with_a_skill_on_four_activities_by_keyboard(self) -> None:
        page = self.open("/FERRY/now/plan")
        expect(page.locator('[data-row="A120"]')).to_be_visible()
        cell(page, "A120", "name").click()
        begun = time.monotonic()
        for key in ("Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowDown", "Control+b"):
            page.keyboard.press(key)
        expect(page.get_by_role("combobox", name="Name or skill")).to_be_focused()
        page.keyboard.type("volt")
        offered = page.get_by_role("option")
        expect(offered).to_have_count(3)
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        chosen = page.locator("[role=option][data-at]").inner_text()
        page.keyboard.press("Enter")
        name = next(n for n in Resource.objects.filter(project=self.project).values_list("name", flat=True) if chosen.startswith(n))
        rows = Assignment.objects.filter(project=self.project, resource__name=name)
        self.until(lambda: set(rows.values_list("activity__code", flat=True)) >= {"A120", "A130", "A140", "A150"})
        self.assertLess(time.monotonic() - begun, 20)

    def test_assigning_too_much_says_so_at_once(self) -> None:
        page = self.open("/FERRY/now/plan")
        cell(page, "A150", "people").click()
        page.keyboard.type("DES 9")
        page.keyboard.press("Enter")
        expect(page.get_by_role("status").first).to_contain_text("is over-allocated by")

    def test_a_vacation_is_one_line_and_what_it_does_is_put_right_by_one_press(self) -> None:
        page = self.open("/FERRY/now/plan/resources?who=DES&part=leave")
        sheet = page.get_by_role("grid", name=re.compile("Leave and other units of"))
        sheet.locator('[data-cell$=":from"]').last.click()
        for text, key in (("5 feb 2027", "Tab"), ("9 feb", "Tab"), ("holiday", "Enter")):
            page.keyboard.type(text)
            page.keyboard.press(key)
        kept = lambda: Resource.objects.get(project=self.project, code="DES").exceptions or []  # noqa: E731
        self.until(lambda: [e.get("name") for e in kept()] == ["holiday"])
        page.get_by_role("button", name="Load", exact=True).click()
        short = page.get_by_role("region", name=re.compile("is over-allocated"))
        expect(short).to_contain_text("short")
        while "5 February" not in short.inner_text():
            short.get_by_role("button", name="The next one").click()
        ways = short.get_by_role("button", name=re.compile("Level its work"))
        before = cell(page, "DES", "short").inner_text()
        ways.first.click()
        expect(cell(page, "DES", "short")).not_to_have_text(before)
        expect(page.get_by_role("status").first).to_contain_text(re.compile("levelled", re.I))
        page.get_by_role("button", name="Undo").click()
        expect(cell(page, "DES", "short")).to_have_text(before)

    def test_somebody_is_dragged_onto_a_row(self) -> None:
        page = self.open("/FERRY/now/plan")
        page.get_by_role("button", name="More to do with the plan").click()
        page.get_by_role("menuitem", name="Drag people…").click()
        strip = page.get_by_role("group", name="People: drag onto a row")
        from_, to = strip.locator("button", has_text="Tove Harrick"), page.locator('[data-row="A150"]')
        from_.hover()
        page.mouse.down()
        to.hover()
        expect(strip).to_contain_text("A150")
        page.keyboard.press("Escape")
        page.mouse.up()
        from_.hover()
        page.mouse.down()
        to.hover()
        page.mouse.up()
        there = Assignment.objects.filter(project=self.project, activity__code="A150", resource__name__startswith="Tove")
        self.until(there.exists)
        self.assertEqual(there.count(), 1)
