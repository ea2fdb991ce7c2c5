"""The marks room in a browser: a rule built by keyboard, tried before it is saved, in force on every sheet, and undone."""

import re

from playwright.sync_api import expect

from server.book.models import MarkRule
from server.tests.browser import BrowserTest


class MarkRules(BrowserTest):
    pages = 4

    def test_a_rule_is_built_tried_saved_and_undone(self) -> None:
        page = self.open("/FERRY/P04/marks")
        page.get_by_role("button", name="Add a rule for Activities").press("Enter")
        page.get_by_label("Mark", exact=True).select_option("act")
        page.get_by_role("button", name="Add condition").press("Enter")
        page.get_by_label("Figure").select_option("percent")
        page.get_by_label("Comparison").select_option("<")
        page.get_by_label("Value", exact=True).fill("soon")
        expect(page.get_by_role("alert")).to_contain_text("a number such as 12.5")
        expect(page.get_by_role("button", name="Save the rules")).to_be_disabled()
        page.get_by_label("Value", exact=True).fill("30")
        page.get_by_label("Reason").fill("only {percent} done")
        sentence = "Act, when percent complete is less than 30"
        for _ in range(7):
            page.get_by_role("button", name=f"Move or delete “{sentence}”").press("Alt+ArrowUp")
        changes = page.get_by_role("region", name="What saving changes")
        expect(changes.get_by_role("status")).to_contain_text(re.compile(r"^\d+ marks change$"))
        self.assertEqual(MarkRule.objects.count(), 0)
        page.get_by_role("button", name="Save the rules").press("Enter")
        self.until(lambda: MarkRule.objects.count() == 25)
        expect(page.get_by_text("25 rules of the project")).to_be_visible()
        expect(page.get_by_role("button", name="Save the rules")).to_have_count(0)
        page.get_by_role("link", name="Posting").click()
        expect(page.get_by_role("img", name="Act: only 14.0 % done").first).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.get_by_role("img", name="Act: only 14.0 % done")).to_have_count(0)
        self.until(lambda: MarkRule.objects.count() == 0)

    def test_an_approver_keeps_a_set_and_anybody_takes_it_over(self) -> None:
        page = self.open("/FERRY/P04/marks", "Lorcan")
        page.get_by_role("button", name="Move or delete “Done, when it is complete”").first.press("Enter")
        page.get_by_role("menuitem", name="Delete").click()
        page.get_by_label("Name of the set").fill("Strict")
        page.get_by_role("button", name="Keep as a set").click()
        expect(page.get_by_role("button", name="Delete the set Strict")).to_be_visible()
        page.get_by_role("button", name="Discard").click()
        page.get_by_label("Take over a set").select_option("Strict")
        expect(page.get_by_text("23 rules of the project")).to_be_visible()
        dry = self.open("/FERRY/P02/marks")
        expect(dry.get_by_text("it keeps the marks of its own rules")).to_be_visible()
        expect(dry.get_by_role("button", name="Save the rules")).to_have_count(0)
