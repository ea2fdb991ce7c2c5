"""Numbers and dates as somebody else writes them: chosen once, then shown and typed so on every sheet."""

import re

from playwright.sync_api import expect

from server.book.models import Activity, CostEntry, Project, Resource, Statement
from server.tests.browser import BrowserTest


class Formats(BrowserTest):
    pages = 3

    def test_a_comma_before_decimals_and_the_month_before_the_day(self) -> None:
        page = self.open("/account")
        page.get_by_label("Decimals").select_option(label="1 250,50")
        page.get_by_label("Dates").select_option(label="Mar 12, 2027, 3/12")
        page.get_by_label("Week from").select_option("Sunday")
        expect(page.get_by_role("table", name="Where you are signed in")).to_contain_text(", 20")
        project = Project.objects.get(code="FERRY")

        page.goto(f"{self.live_server_url}/FERRY/P03/posting?show=all")
        for cell, text, shown in (("percent", "67,5", "67,5"), ("cost", "1.250,50", "1\u00a0250,50")):
            page.locator(f'[data-cell="A160:{cell}"]').click()
            page.keyboard.type(text)
            page.keyboard.press("Enter")
            expect(page.locator(f'[data-cell="A160:{cell}"]')).to_contain_text(shown)
        self.until(lambda: CostEntry.objects.filter(page__code="P03", amount="1250.50").count() == 1)
        self.assertEqual(float(Statement.objects.get(page__code="P03", activity__code="A160").percent or 0), 67.5)
        cell = page.locator('[data-cell="A160:cost"]')
        cell.click()
        page.keyboard.press("F2")
        expect(page.locator("input[data-typing], [data-cell='A160:cost'] input")).to_have_value("1250,50")
        page.keyboard.press("Escape")
        page.keyboard.type("0,555")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("0,01")
        page.get_by_role("button", name="Take 0,56").click()
        expect(cell).to_contain_text("0,56")

        resource = next(r for r in Resource.objects.filter(project=project) if r.rates)
        page.goto(f"{self.live_server_url}/FERRY/P03/plan/resources?part=rates&who={resource.code}")
        rates = page.get_by_role("grid", name=f"Rates of {resource.name}")
        rates.locator("[data-row^=begun]").last.locator('[data-cell$=":from"]').click()
        for text, key in (("3/12/2027", "Tab"), ("54,125", "Enter")):
            page.keyboard.type(text)
            page.keyboard.press(key)
        kept = lambda: {(x["from"], float(x["amount"])) for x in Resource.objects.get(pk=resource.pk).rates or []}  # noqa: E731
        self.until(lambda: ("2027-03-12", 54.125) in kept())
        expect(rates).to_contain_text("March 12, 2027")
        expect(rates).to_contain_text("54,125")

        page.goto(f"{self.live_server_url}/FERRY/P03/plan")
        page.locator('[data-cell="A200:begin"]').click()
        page.keyboard.type("3/25")
        page.keyboard.press("Enter")
        self.until(lambda: (Activity.objects.get(project=project, code="A200").constraint or {}).get("at", "").startswith("2027-03-25"))
        expect(page.get_by_text("Mar 25").first).to_be_visible()

        page.goto(f"{self.live_server_url}/FERRY/P03/value")
        page.get_by_role("button", name="Filter").click()
        page.get_by_label("Column").first.select_option("cpi")
        page.get_by_label("Condition").first.fill("< 0,9")
        shown = page.locator("[data-row]").filter(has_text=re.compile(r"\d,\d{3}"))
        expect(shown.filter(has_text=re.compile(r"0,8\d\d")).first).to_be_visible()
        expect(page.locator('[data-cell$=":cpi"]').filter(has_text=re.compile(r"^(0,9|[1-9])"))).to_have_count(0)
