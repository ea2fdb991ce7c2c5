"""Pages and hours in a browser, by keyboard: the status date moved in place, hours of people, closing with the next date."""

import re

from playwright.sync_api import expect

from server.book.models import CostEntry, HoursEntry, Page
from server.tests.browser import BrowserTest


class PagesAndHours(BrowserTest):
    pages = 3

    def test_the_status_date_is_moved_in_place_and_back(self) -> None:
        page = self.open("/FERRY/P03/posting")
        was = Page.objects.get(code="P03").status
        page.get_by_role("button", name="Fri 22 Jan").press("Enter")
        expect(page.locator("#status-date")).to_be_focused()
        page.keyboard.press("Control+a")
        page.keyboard.type("14 jan")
        expect(page.get_by_text("doesn't lie after that of page P02")).to_be_visible()
        page.keyboard.press("Control+a")
        page.keyboard.type("25 jan")
        expect(page.get_by_text("To Mon 25 January 2027: the forecast finish is")).to_be_visible()
        self.assertEqual(Page.objects.get(code="P03").status, was)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Page 3, to Mon 25 Jan")).to_be_visible()
        expect(page.get_by_role("navigation", name="Pages").get_by_text("25 Jan")).to_be_visible()
        expect(page.get_by_role("region", name="Balance line")).to_contain_text("to 25 January 2027")
        page.keyboard.press("Control+z")
        expect(page.get_by_role("heading", name="Page 3, to Fri 22 Jan")).to_be_visible()
        self.assertEqual(Page.objects.get(code="P03").status, was)

    def test_hours_are_typed_by_person_and_by_keyboard(self) -> None:
        page = self.open("/FERRY/P03/posting/hours?by=person")
        sheet = page.get_by_role("grid")
        first = sheet.locator('[data-cell$=":worked"]').nth(0)
        row = (first.get_attribute("data-cell") or "").removesuffix(":worked")
        first.click()
        for text in ("32", "2.5", "40"):
            page.keyboard.type(text)
            page.keyboard.press("Tab")
        activity, resource = row.split("¦")
        own = HoursEntry.objects.filter(page__code="P03", activity__code=activity, resource__code=resource)
        self.until(lambda: own.filter(worked="1920min", overtime="150min", to_go="2400min").count() == 1)
        expect(sheet.locator("[data-row]").nth(0)).to_contain_text("40")
        page.keyboard.press("Control+z")
        self.until(lambda: own.filter(to_go="2400min").count() == 0)
        first.click()
        page.keyboard.type("-4")
        page.keyboard.press("Enter")
        expect(page.locator("[role=gridcell] [role=alert]")).to_be_visible()
        page.keyboard.press("Escape")
        page.get_by_label("Activity code").fill("A130")
        people = page.get_by_label("Person", exact=True)
        people.select_option(label=people.locator("option").last.inner_text())
        page.get_by_role("button", name="Add hours for somebody else").click()
        self.assertGreater(sheet.locator("[data-row]").count(), 1)

    def test_costs_are_posted_in_the_last_row_and_an_accrual_is_released(self) -> None:
        page = self.open("/FERRY/P03/posting/costs")
        sheet = page.get_by_role("grid")
        sheet.locator('[data-cell$=":on"]').last.click()
        for text in ("A150", "300"):
            page.keyboard.type(text)
            page.keyboard.press("Tab")
        own = CostEntry.objects.filter(page__code="P03", activity__code="A150", amount="300.00")
        self.until(lambda: own.count() == 1)
        made = f"e{own.get().pk}"
        kind = page.locator(f'[data-cell="{made}:kind"]')
        kind.click()
        page.keyboard.type("accrual")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Amount of the accrual").last).to_have_value("300.00")
        page.locator(f'[data-cell="{made}:date"]').click()
        page.keyboard.type("30 jan")
        page.keyboard.press("Enter")
        expect(page.locator("[role=gridcell] [role=alert]")).to_contain_text("after this page's status date")
        page.keyboard.press("Escape")
        carried = page.get_by_label("Amount of the accrual").last
        carried.fill("much")
        carried.press("Enter")
        expect(page.get_by_role("table", name="Open accruals").get_by_role("alert")).to_be_visible()
        carried.fill("240.5")
        carried.press("Enter")
        self.until(lambda: CostEntry.objects.filter(page__code="P03", amount="-59.50", source="accrual").count() == 1)
        scope = page.get_by_label("Totals of")
        scope.fill("WBS 99")
        scope.press("Enter")
        expect(page.get_by_text("There is no activity or WBS element")).to_be_visible()
        scope.fill("a150")
        scope.press("Enter")
        expect(page.get_by_role("table", name=re.compile("Actual cost by source, A150"))).to_contain_text("240.50")
        page.get_by_role("button", name="Undo").click()
        self.until(lambda: not CostEntry.objects.filter(page__code="P03", amount="-59.50").exists())
        expect(carried).to_have_value("300.00")
        page.get_by_role("button", name="Release the accrual").last.click()
        self.until(lambda: CostEntry.objects.filter(page__code="P03", amount="-300.00", source="accrual").count() == 1)

    def test_closing_takes_the_date_that_is_typed(self) -> None:
        page = self.open("/FERRY/P03/posting")
        page.get_by_role("button", name="Close the page").click()
        dialog = page.get_by_role("alertdialog")
        date = dialog.get_by_label(re.compile("Next status date"))
        expect(date).to_have_value("29 January 2027")
        date.fill("20 jan")
        dialog.get_by_role("button", name="Close the page").click()
        expect(dialog.get_by_role("alert")).to_contain_text("doesn't lie after that of page P03")
        date.fill("2 feb")
        dialog.get_by_role("button", name="Close the page").click()
        expect(page.get_by_role("heading", name="Page 4, to Tue 2 Feb")).to_be_visible()
        page.get_by_role("button", name="Take this page back").click()
        expect(page.get_by_text("This page is dry. It is shown as it was closed")).to_be_visible()
        page.get_by_role("button", name="Open the next page").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Open the next page").click()
        expect(page.get_by_role("heading", name="Page 4, to Fri 29 Jan")).to_be_visible()
