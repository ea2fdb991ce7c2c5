"""How posting and hours are looked at: found, cut, filtered, grouped and sorted, as the plan is; and what stays typable meanwhile."""

from playwright.sync_api import Page, expect

from server.book.models import Statement
from server.tests.browser import BrowserTest, cell, type_into
from server.tests.test_browser import POSTING


class Look(BrowserTest):
    def rows(self, page: Page) -> list[str]:
        """The rows that are shown, from above."""
        return [row.get_attribute("data-row") or "" for row in page.locator("[data-row]").all()]

    def only(self, page: Page, column: str, text: str) -> None:
        """Shows only what a condition on a column holds of."""
        page.get_by_role("button", name="Filter").click()
        conditions = page.get_by_role("dialog", name="Filter")
        conditions.get_by_label("Column", exact=True).last.select_option(label=column)
        conditions.get_by_label("Condition", exact=True).last.fill(text)
        page.keyboard.press("Escape")

    def test_posting_is_found_filtered_and_grouped(self) -> None:
        page = self.open(POSTING)
        page.get_by_label("Show", exact=True).select_option("all")
        page.get_by_label("Find an activity", exact=True).fill("cable")
        expect(page.locator("[data-row]").first).to_contain_text("able")
        found = self.rows(page)
        self.assertTrue(found)
        page.get_by_role("button", name="Clear").click()
        expect(page.get_by_label("Show", exact=True)).to_have_value("wants")
        self.only(page, "Person", "fitters")
        expect(page.get_by_role("button", name="Filter (1)")).to_be_visible()
        fitted = self.rows(page)
        page.reload()
        expect(page.locator("[data-row]").first).to_be_visible()
        self.assertEqual(self.rows(page), fitted)
        page.get_by_role("button", name="Filter (1)").click()
        page.get_by_role("dialog", name="Filter").get_by_label("Group by").select_option(label="Mark")
        page.keyboard.press("Escape")
        expect(page.get_by_role("row", name="Act", exact=False).first).to_be_visible()
        self.assertEqual(sorted(self.rows(page)), sorted(fitted))

    def test_posting_is_sorted_by_keys_and_typed_into(self) -> None:
        page = self.open(POSTING)
        sheet = page.locator("[data-sheet]")
        page.locator('[data-cell$=":late"]').first.click()
        page.keyboard.press("ArrowUp")
        page.keyboard.press("ArrowUp")
        expect(sheet).to_have_attribute("aria-activedescendant", "head-late")
        head = page.get_by_role("columnheader", name="Variance")
        page.keyboard.press("Enter")
        expect(head).to_have_attribute("aria-sort", "ascending")
        page.keyboard.press("Enter")
        expect(head).to_have_attribute("aria-sort", "descending")
        late = [float(t.split()[0]) if "late" in t else 0.0 for t in page.locator('[data-cell$=":late"]').all_inner_texts()]
        self.assertEqual(late, sorted(late, reverse=True))
        type_into(page, "A350", "percent", "52")
        self.until(lambda: Statement.objects.filter(activity__code="A350", page__state="wet", percent="52").exists())
        expect(cell(page, "A350", "percent")).to_have_text("52")

    def test_hours_are_found_by_person_and_sorted_within_their_groups(self) -> None:
        page = self.open(POSTING + "/hours?by=person&show=all")
        page.get_by_label("Activity or person").fill("electricians")
        expect(page.locator("[data-row]").first).to_be_visible()
        heads = page.get_by_role("row").filter(has_text="h this page")
        expect(heads).to_have_count(1)
        expect(heads).to_contain_text("electricians")
        head = page.get_by_role("columnheader", name="Planned to date")
        head.get_by_role("button").click()
        head.get_by_role("button").click()
        expect(head).to_have_attribute("aria-sort", "descending")
        planned = [float(t.replace("\u00a0", "") or 0) for t in page.locator('[data-cell$=":planned"]').all_inner_texts()]
        self.assertEqual(planned, sorted(planned, reverse=True))
        page.get_by_label("Activity or person").fill("nobody at all")
        expect(page.get_by_text("No hours are shown by this filter.")).to_be_visible()


class Places(BrowserTest):
    def test_the_keyboard_is_again_where_a_dialog_was_opened(self) -> None:
        page = self.open(POSTING)
        guide = page.get_by_role("button", name="Guide", exact=True)
        guide.click()
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        expect(guide).to_be_focused()
        cell(page, "A350", "percent").click()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.locator("[data-sheet]")).to_be_focused()

    def test_hiding_the_details_touches_nothing_under_them(self) -> None:
        page = self.open(POSTING)
        cell(page, "A350", "percent").click()
        at = page.locator("[data-at]").get_attribute("data-cell")
        hide = page.get_by_role("button", name="Hide details")
        hide.click()
        expect(page.get_by_role("button", name="Show details")).to_be_visible()
        self.assertEqual(page.locator("[data-at]").get_attribute("data-cell"), at)
        expect(page.get_by_role("dialog")).to_have_count(0)

    def test_escape_leaves_the_layout_of_the_report(self) -> None:
        page = self.open("/FERRY/P10/report")
        opener = page.get_by_role("button", name="Layout…")
        opener.click()
        panel = page.get_by_role("region", name="Sections of this project's report")
        expect(panel).to_be_visible()
        panel.get_by_label("Show Indices over the pages").focus()
        page.keyboard.press("Escape")
        expect(panel).to_have_count(0)
        expect(opener).to_be_focused()
