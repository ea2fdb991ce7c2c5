"""Money in a browser: a change is approved by a press, undone by its key, and built in by the baseline that names it."""

import re

from playwright.sync_api import expect

from server.book.models import Reserve
from server.book.organisation import DECIDED_APART, Setting
from server.tests.browser import BrowserTest
from server.tests.test_friday_browser import paste


class Money(BrowserTest):
    pages = 9

    def test_a_change_is_approved_undone_and_built_in(self) -> None:
        page = self.open("/FERRY/now/budget?part=change", "Lorcan")
        changes, elements = page.get_by_role("table", name="Changes"), page.get_by_role("table", name="Under change")
        expect(elements.get_by_role("row").nth(1)).to_contain_text("2 440 105.00")
        page.get_by_role("button", name="Approve CH2").click()
        expect(changes).to_contain_text("Lorcan Test")
        expect(elements.get_by_role("row").nth(1)).to_contain_text("2 458 105.00")
        page.keyboard.press("Control+z")
        expect(elements.get_by_role("row").nth(1)).to_contain_text("2 440 105.00")
        page.get_by_role("button", name="Refuse CH2").click()
        expect(page.get_by_role("button", name="Approve CH2")).to_have_count(0)
        page.goto(f"{self.live_server_url}/FERRY/now/baselines")
        page.get_by_label("Name", exact=True).fill("With the plates")
        page.get_by_label("Reason", exact=True).fill("CH1 approved")
        page.get_by_label("Builds in the approved change CH1").check()
        page.get_by_role("button", name="Approve and take it").click()
        page.get_by_role("button", name="Yes, freeze it").click()
        expect(page.get_by_role("table").filter(has_text="With the plates").first).to_be_visible()
        page.goto(f"{self.live_server_url}/FERRY/now/budget?part=change")
        expect(page.get_by_role("table", name="Changes")).to_contain_text("built in by B2")

    def test_an_order_is_typed_and_an_invoice_takes_what_is_proposed(self) -> None:
        page = self.open("/FERRY/now/budget?part=orders")
        sheet = page.get_by_role("grid", name="Orders")
        page.locator('[data-cell="PO-04:supplier"]').click()
        expect(page.get_by_role("table", name="What PO-04 is for, Hallet Civils")).to_contain_text("above what is planned")
        owed = page.get_by_role("table", name="What costs still bring").get_by_role("row").filter(has_text="Civil works, ducts")
        expect(owed).to_contain_text("29 500.00")
        page.locator('[data-cell^="begun"][data-cell$=":supplier"]').click()
        page.keyboard.type("Reef Cables")
        page.keyboard.press("Tab")
        page.keyboard.type("Civil works, ducts 1 250; D99 3")
        page.keyboard.press("Enter")
        expect(sheet.get_by_role("alert")).to_contain_text("“D99 3” is no line of an order")
        page.keyboard.press("ArrowUp")
        for _ in range(2):
            page.keyboard.press("ArrowRight")
        page.keyboard.type("Civil works, ducts 1 250")
        page.keyboard.press("Enter")
        made = sheet.get_by_role("row").filter(has_text="Reef Cables")
        expect(made).to_contain_text("D33 1250")
        expect(made).to_contain_text("1 250.00")
        page.goto(f"{self.live_server_url}/FERRY/now/posting/costs")
        page.locator('[data-cell^="begun"][data-cell$=":on"]').click()
        for text, key in (("A510", "Tab"), ("1250", "Enter")):
            page.keyboard.type(text)
            page.keyboard.press(key)
        page.get_by_role("button", name=re.compile("Say that it pays .* D33")).click()
        expect(page.locator('[data-cell$=":pays"]').filter(has_text="D33")).to_be_visible()

    def test_orders_are_pasted_from_a_spreadsheet(self) -> None:
        page = self.open("/FERRY/now/budget?part=orders")
        page.locator('[data-cell^="begun"][data-cell$=":supplier"]').click()
        paste(page, "Reef Cables\tCivil works, ducts 1 250\nTarn Networks\tD36 500; D35 20\n")
        sheet = page.get_by_role("grid", name="Orders")
        for supplier, lines, amount in (("Reef Cables", "D33 1250", "1 250.00"), ("Tarn Networks", "D36 500; D35 20", "520.00")):
            made = sheet.get_by_role("row").filter(has_text=lines)
            expect(made).to_contain_text(supplier)
            expect(made).to_contain_text(amount)
        page.keyboard.press("Control+z")
        expect(sheet.get_by_role("row").filter(has_text="D36 500; D35 20")).to_have_count(0)

    def test_a_finding_leads_to_the_cell_of_its_order_and_of_its_reserve(self) -> None:
        Reserve.objects.filter(code="R1").update(amount=1)
        page = self.open("/FERRY/now/checks")
        for text, name, row, column in (("PO-04", "Orders", "PO-04", "lines"), ("R1", "Reserves", "R1", "amount")):
            page.get_by_role("row").filter(has_text=text).last.get_by_role("button").click()
            sheet = page.get_by_role("grid", name=name)
            expect(sheet.locator('[aria-selected="true"]')).to_have_attribute("data-row", row)
            expect(sheet).to_have_attribute("aria-activedescendant", re.compile(f"-{column}$"))
            page.go_back()

    def test_reserves_are_typed_and_nobody_decides_what_they_raised(self) -> None:
        Setting.objects.create(name=DECIDED_APART, on=True)
        page = self.open("/FERRY/now/budget?part=change", "Lorcan")
        page.locator('[data-cell^="begun"][data-cell$=":name"]').click()
        page.keyboard.type("Ice in the slip")
        for _ in range(2):
            page.keyboard.press("Tab")
        page.keyboard.type("4000")
        page.keyboard.press("Enter")
        expect(page.get_by_role("grid", name="Reserves").get_by_role("row").filter(has_text="Ice in the slip")).to_contain_text("R3")
        page.goto(f"{self.live_server_url}/FERRY/now/plan/project")
        page.get_by_role("tab", name=re.compile("^Changes")).click()
        page.locator('[data-cell="CH2:days"]').click()
        page.keyboard.type("3")
        page.keyboard.press("Enter")
        expect(page.locator('[data-cell="CH2:days"]')).to_have_text("3")
        page.goto(f"{self.live_server_url}/FERRY/now/budget?part=change")
        page.get_by_role("button", name="Approve CH2").click()
        expect(page.get_by_role("alert")).to_contain_text("Here another approver decides it")

    def test_spending_against_the_budget_by_month(self) -> None:
        page = self.open("/FERRY/now/budget")
        page.get_by_role("button", name="Against the budget").press("Enter")
        sheet = page.get_by_role("treegrid", name="Against the budget")
        expect(sheet).to_contain_text("Design approval")
        page.get_by_role("combobox", name="Rows").select_option("Kinds of cost")
        for series in ("Budget", "Difference", "Running difference"):
            page.get_by_role("checkbox", name=series, exact=True).uncheck()
        expect(sheet.get_by_role("row").filter(has_text="Labour")).to_contain_text("Actual")
        expect(sheet.get_by_role("row").filter(has_text="Direct costs")).to_be_visible()
        expect(sheet.get_by_role("row").last).to_contain_text("2 469 078")
        page.get_by_role("button", name="Week").press("Enter")
        expect(sheet).to_contain_text("to 17 Jan")

    def test_the_estimate_is_chosen_where_all_five_stand(self) -> None:
        page = self.open("/FERRY/now/value?part=summary")
        estimates = page.get_by_role("table").filter(has_text="It assumes that")
        expect(estimates.get_by_role("row").filter(has_text="by the project")).to_contain_text("bottom up")
        page.get_by_role("button", name="Use it: the estimate at CPI, in the project").press("Enter")
        expect(estimates.get_by_role("row").filter(has_text="by the project")).to_contain_text("at CPI")
        expect(page.locator("section[aria-label='Balance line']")).to_contain_text("at CPI")
