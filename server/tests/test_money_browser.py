"""Money in a browser: a change is approved by a press, undone by its key, and built in by the baseline that names it."""

from playwright.sync_api import expect

from server.tests.browser import BrowserTest


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

    def test_orders_and_what_follows_the_invoice(self) -> None:
        page = self.open("/FERRY/now/budget?part=orders")
        ordered = page.get_by_role("table", name="Orders").get_by_role("row").filter(has_text="PO-04")
        expect(ordered).to_contain_text("above the 46 800.00 that is planned")
        owed = page.get_by_role("table", name="What costs still bring").get_by_role("row").filter(has_text="Civil works, ducts")
        expect(owed).to_contain_text("51 000.00")
        expect(owed).to_contain_text("29 500.00")

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
