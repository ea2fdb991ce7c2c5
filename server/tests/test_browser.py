"""The whole slice as a person goes through it, in a real browser."""

import json
import re

from playwright.sync_api import Page, expect

from server.tests.browser import WAITING, BrowserTest, cell, type_into
from server.tests.test_measured import AXE, axe

BALANCE = "section[aria-label='Balance line']"
POSTING = "/FERRY/P10/posting"
OPEN = (
    *(("/", name) for name in ("New project", "Guide")),
    *(("/FERRY/P03/plan", name) for name in ("Filter", "Columns", "Views", "Guide", "Keyboard shortcuts")),
    ("/FERRY/P03/posting", "Close the page"),
    *(("/FERRY/P03/value", name) for name in ("Filter", "Columns", "Forecasts")),
    *(("/FERRY/P03/timeline", name) for name in ("Labels", "Print")),
)
"""What a button opens over a room."""


def balance(page: Page) -> list[str]:
    """The totals without what the last entry changed."""
    return page.locator(f"{BALANCE} button b").all_inner_texts()


def wait_for_balance(page: Page, wanted: list[str]) -> None:
    """Wait until the totals are what they should be."""
    expect(page.locator(f"{BALANCE} button b")).to_have_text(wanted, use_inner_text=True)


class Journey(BrowserTest):
    def test_from_sign_in_to_the_next_page(self) -> None:
        page = self.open("/")
        page.get_by_role("link", name="MV Corran Light").click()
        expect(page.get_by_role("heading", name="Page 10")).to_be_visible()
        self.post_by_keyboard(page)
        self.find_by_keys(page)
        self.read_value(page)
        self.read_timeline(page)
        self.issue_report()
        self.close_and_look_back(page)

    def post_by_keyboard(self, page: Page) -> None:
        page.wait_for_selector(f"{BALANCE} button")
        before, finish = balance(page), page.locator('[data-now="A340"]').inner_text()
        cell(page, "A340", "percent").click()
        page.keyboard.type("40")
        page.keyboard.press("Tab")
        page.keyboard.type("6d")
        page.keyboard.press("Enter")
        expect(cell(page, "A340", "remaining")).to_have_text("6 d")
        expect(cell(page, "A340", "percent")).to_have_text("40")
        expect(page.locator('[data-now="A340"]')).not_to_have_text(finish)
        expect(page.get_by_role("complementary")).to_contain_text("Water mist and fire detection")
        self.assertNotEqual(balance(page), before)
        self.assertIn("0.7", " ".join(balance(page)))
        after = balance(page)
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(cell(page, "A340", "percent")).to_have_text("")
        expect(page.locator('[data-now="A340"]')).to_have_text(finish)
        wait_for_balance(page, before)
        page.keyboard.press("Control+Shift+z")
        page.keyboard.press("Control+Shift+z")
        wait_for_balance(page, after)
        page.get_by_role("button", name="Post as planned").click()
        page.get_by_role("button", name=re.compile(r"Post [1-9]\d* as planned")).click()
        expect(page.get_by_text(re.compile(r"^[1-5] needs? an entry, 1\d posted"))).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.get_by_text(re.compile(r"^11 need an entry"))).to_be_visible()

    def find_by_keys(self, page: Page) -> None:
        page.locator("main [role=status]").first.click()
        page.keyboard.press("/")
        page.keyboard.type("inclining")
        expect(page.get_by_role("option", name="Inclining test")).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.get_by_role("complementary").get_by_role("heading", name="Inclining test")).to_be_visible()
        expect(page.locator('[data-row="A740"]')).to_be_visible()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("find an activity")
        page.keyboard.press("Escape")

    def read_value(self, page: Page) -> None:
        page.get_by_role("link", name="Value").click()
        page.locator('[data-figure="project:FERRY:cpi"]').click()
        margin = page.get_by_role("complementary")
        expect(margin).to_contain_text("CPI = EV ÷ AC")
        margin.get_by_role("button", name="Earned value").click()
        expect(margin).to_contain_text("Rows behind it")
        page.get_by_role("button", name="Open all").click()
        page.locator('[data-figure="activity:A130:ev"]').click()
        expect(margin).to_contain_text("Single-line diagram")
        expect(page.locator("path[data-line]")).to_have_count(5)  # PV of the compared baseline is one
        expect(page.get_by_text("CV: the work done cost")).to_be_visible()

    def read_timeline(self, page: Page) -> None:
        page.get_by_role("link", name="Timeline").click()
        sheet = page.get_by_role("treegrid", name="Timeline")
        sheet.evaluate("e => { e.scrollTop = 0 }")
        expect(page.locator('[data-bar="A110"]')).to_be_visible()
        for scale in ("Day", "Month", "Week"):
            page.get_by_role("button", name=scale).click()
        sheet.evaluate("e => { e.scrollTop = 700 }")
        expect(page.locator('[data-cell$=":finish"][data-tip="Drives the finish"]').first).to_be_attached()
        page.locator('[data-cell="A220:name"]').click()
        expect(page.get_by_role("complementary")).to_contain_text("Driving")

    def issue_report(self) -> None:
        page = self.open("/FERRY/P10/report", "Lorcan")
        issue = page.get_by_role("button", name="Issue", exact=True)
        issue.click()
        expect(page.get_by_role("alert")).to_contain_text("Choose the overall status")
        page.get_by_role("button", name="Act", exact=True).click()
        issue.click()
        expect(page.get_by_role("alert")).to_contain_text("needs a reason")
        page.get_by_role("button", name="Take the proposed reason").click()
        expect(page.get_by_label("Why", exact=True)).to_have_value(re.compile("8 days after the baseline's"))
        issue.click()
        expect(page.get_by_text("Edition 1 is issued.")).to_be_visible()  # the first PDF of a process is slow
        page.get_by_role("button", name="Editions 1").click()
        expect(page.get_by_text("Edition 1, Act, issued by Lorcan Test")).to_be_visible()
        pdf = page.request.get(f"{self.live_server_url}/api/projects/FERRY/pages/P10/report/editions/1.pdf")
        self.assertTrue(pdf.body().startswith(b"%PDF"))
        page.goto(f"{self.live_server_url}/api/projects/FERRY/pages/P10/report/editions/1.html")
        expect(page.get_by_role("heading", name="MV Corran Light")).to_be_visible()
        page.screenshot()

    def close_and_look_back(self, page: Page) -> None:
        page.get_by_role("link", name="Posting").click()
        page.reload()
        page.get_by_role("link", name="Checks").click()
        page.locator('[data-cell="finished_with_work:A430:text"]').click()
        page.keyboard.type("the last bolts, next week")
        page.keyboard.press("Enter")
        expect(page.locator('[data-cell="finished_with_work:A430:by"]')).to_have_text("Ines Test")
        page.get_by_role("link", name="Posting").click()
        page.get_by_role("button", name="Close the page").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Close the page").click()
        expect(page.get_by_role("heading", name="Page 11, to Fri 19 Mar")).to_be_visible()
        page.get_by_role("link", name=re.compile("^22 Jan")).click()
        expect(page.get_by_text("This page is dry. It is shown as it was closed")).to_be_visible()
        page.keyboard.press("Control+Home")
        cell(page, "A130", "percent").click()
        page.keyboard.type("7")
        expect(page.get_by_role("form", name=re.compile("^Correct A130"))).to_be_visible()
        expect(page.locator("[role=gridcell] input")).to_have_count(0)
        page.keyboard.press("Escape")
        page.keyboard.press("[")
        expect(page.get_by_role("heading", name="Page 2, to Fri 15 Jan")).to_be_visible()


class Refusals(BrowserTest):
    def test_errors_stand_at_the_cell_and_keep_what_was_typed(self) -> None:
        page = self.open(POSTING)
        page.wait_for_selector(f"{BALANCE} button")
        before = balance(page)
        for field, text, words in (
            ("percent", "140", "Give 0 to 100"),
            ("remaining", "a few", "not a duration"),
            ("actual_start", "20 mar", "after this page's status date"),
            ("actual_finish", "1 feb", "before the start"),
            ("cost", "12,3,4", "not an amount"),
        ):
            type_into(page, "A350", field, text)
            expect(cell(page, "A350", field)).to_contain_text(text)
            expect(cell(page, "A350", field).get_by_role("alert")).to_contain_text(words)
            cell(page, "A350", field).get_by_role("button", name="Discard").click()
            expect(cell(page, "A350", field)).not_to_contain_text(words)
        self.assertEqual(balance(page), before)
        type_into(page, "A350", "percent", "140")
        page.get_by_role("button", name="Take 100").click()
        expect(cell(page, "A350", "percent")).to_have_text("100")
        expect(cell(page, "A350", "actual_finish")).to_have_attribute("aria-label", re.compile("Mar, assumed"))

    def test_two_browsers_on_one_page(self) -> None:
        one, other = self.open(POSTING, "Ines"), self.open(POSTING, "Tobin")
        for page in (one, other):
            page.wait_for_selector('[data-row="A350"]')
        cell(other, "A350", "percent").click()
        other.keyboard.type("70")
        type_into(one, "A350", "percent", "55")
        expect(cell(one, "A350", "percent")).to_have_text("55")
        with other.expect_response("**/api/projects/FERRY"):
            pass  # the news came, and nothing changed under hands that type
        other.keyboard.press("Enter")
        note = cell(other, "A350", "percent").get_by_role("alert")
        expect(note).to_contain_text("Ines Test wrote while you were typing")
        expect(cell(other, "A350", "percent")).to_contain_text("70")
        note.get_by_role("button", name="Overwrite with mine").click()
        expect(cell(other, "A350", "percent")).to_have_text("70")
        type_into(one, "A340", "percent", "20")
        expect(cell(one, "A340", "percent")).to_have_text("20")

    def test_a_reader_sees_what_is_posted_without_reloading(self) -> None:
        reader, one = self.open(POSTING.replace("posting", "value"), "Maud"), self.open(POSTING, "Ines")
        figure = reader.locator('[data-figure="project:FERRY:ev"]')
        before = figure.inner_text()
        one.wait_for_selector('[data-row="A350"]')
        type_into(one, "A350", "percent", "61")
        expect(figure).not_to_have_text(before)
        expect(reader.locator(BALANCE)).to_contain_text(figure.inner_text())

    def test_a_reader_reads(self) -> None:
        page = self.open(POSTING, "Maud")
        cell(page, "A350", "percent").click()
        page.keyboard.type("7")
        expect(page.locator("[role=gridcell] input")).to_have_count(0)
        expect(page.get_by_role("button", name="Post as planned")).to_have_count(0)


class Looks(BrowserTest):
    """What opens over a room: nothing scrolls sideways, axe finds nothing. And the style itself."""

    pages = 3
    dark = True
    size = (853, 533)

    def test_what_is_open_over_a_room(self) -> None:
        page = self.open("/", bypass_csp=True)
        page.add_init_script(WAITING + AXE())
        page.goto(f"{self.live_server_url}/")
        for path, button in OPEN:
            self.go(page, path)
            page.get_by_role("button", name=button, exact=True).first.click()
            page.locator("[role=dialog], [role=alertdialog]").last.wait_for()
            self.assertEqual(axe(page, "[role=dialog], [role=alertdialog]"), [], f"{button} of {path}")
            self.assertLessEqual(page.evaluate("() => document.documentElement.scrollWidth - innerWidth"), 0, f"{button} of {path}")
            page.keyboard.press("Escape")
            expect(page.locator("[role=dialog], [role=alertdialog]")).to_have_count(0)
            page.wait_for_function("document.activeElement !== document.body")

    def test_the_style_is_let_in_by_the_content_policy(self) -> None:
        page = self.open("/FERRY/P03/posting")
        page.wait_for_selector("[data-row]")
        family = page.evaluate("() => getComputedStyle(document.body).fontFamily")
        self.assertIn("Plex", json.dumps(family))
