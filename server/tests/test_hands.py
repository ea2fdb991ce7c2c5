"""The sheet under people's hands: typing, leaving, copying, pasting, filling down, and a server that goes away."""

from playwright.sync_api import Page, expect

from server.book.models import Statement
from server.tests.browser import REFUSALS, BrowserTest, box_of, cell, type_into
from server.tests.test_browser import POSTING


class Hands(BrowserTest):
    def sheet(self) -> Page:
        page = self.open(POSTING, permissions=["clipboard-read", "clipboard-write"])
        page.wait_for_selector("[data-row]")
        return page

    def test_leaving_writes_and_escape_does_not(self) -> None:
        page = self.sheet()
        cell(page, "A350", "percent").dblclick()
        page.keyboard.type("47")
        cell(page, "A360", "note").click()
        expect(cell(page, "A350", "percent")).to_have_text("47")
        cell(page, "A340", "percent").click()
        page.keyboard.type("48")
        page.keyboard.press("Escape")
        expect(cell(page, "A340", "percent")).to_have_text("")
        page.keyboard.press("F2")
        expect(page.locator("[role=gridcell] input")).to_have_value("")
        page.keyboard.press("Escape")
        cell(page, "A350", "percent").click()
        page.keyboard.press("F2")
        expect(page.locator("[role=gridcell] input")).to_have_value("47")
        page.keyboard.press("Escape")
        page.keyboard.press("Delete")
        expect(cell(page, "A350", "percent")).to_have_text("")

    def test_a_block_is_pasted_and_copied(self) -> None:
        page = self.sheet()
        page.evaluate("navigator.clipboard.writeText('50\\t4d\\n60\\t2d')")
        cell(page, "A340", "percent").click()
        page.keyboard.press("Control+v")
        expect(cell(page, "A340", "remaining")).to_have_text("4 d")
        expect(cell(page, "A350", "remaining")).to_have_text("2 d")
        cell(page, "A350", "percent").click()
        page.keyboard.press("Control+c")
        self.assertEqual(page.evaluate("navigator.clipboard.readText()"), "60")
        page.keyboard.press("ArrowUp")
        page.keyboard.press("Shift+ArrowDown")
        page.keyboard.press("Control+c")
        self.assertEqual(len(page.evaluate("navigator.clipboard.readText()").split("\n")), 2)

    def test_fill_down_and_a_selection_to_plan(self) -> None:
        page = self.sheet()
        type_into(page, "A340", "percent", "30")
        expect(cell(page, "A340", "percent")).to_have_text("30")
        cell(page, "A350", "percent").click()
        page.keyboard.press("Control+d")
        expect(cell(page, "A350", "percent")).to_have_text("30")
        cell(page, "A650", "percent").click()
        page.keyboard.press("Shift+ArrowUp")
        page.get_by_role("button", name="Post as planned").click()
        page.get_by_role("button", name="Post 2 as planned").click()
        expect(cell(page, "A650", "percent")).to_have_text("100")
        expect(cell(page, "A640", "percent")).not_to_have_text("")
        expect(cell(page, "A510", "percent")).to_have_text("")

    def test_the_server_goes_away_and_comes_back(self) -> None:
        page = self.sheet()
        page.context.set_offline(True)
        type_into(page, "A350", "percent", "52")
        type_into(page, "A340", "percent", "30")
        away = page.get_by_role("alert").filter(has_text="does not answer")
        expect(away).to_contain_text("kept here and sent when it does")
        expect(cell(page, "A350", "percent")).to_have_text("52")
        page.context.set_offline(False)
        expect(away).to_have_count(0)
        self.until(lambda: {"52", "30"} <= set(Statement.objects.filter(page__code="P10").values_list("percent", flat=True)))
        page.context.set_offline(True)
        type_into(page, "A350", "percent", "53")
        page.get_by_role("button", name="Do not send").click()
        expect(cell(page, "A350", "percent").get_by_role("alert")).to_contain_text("does not answer")
        page.context.set_offline(False)
        cell(page, "A350", "percent").click()
        page.keyboard.press("F2")
        expect(page.locator("[role=gridcell] input")).to_have_value("53")
        page.keyboard.press("Enter")
        expect(cell(page, "A350", "percent")).to_have_text("53")
        self.trouble = [t for t in self.trouble if "ERR_INTERNET_DISCONNECTED" not in t and not any(r in t for r in REFUSALS)]

    def test_a_note_and_a_cost(self) -> None:
        page = self.sheet()
        type_into(page, "A350", "note", "Fans came late.")
        expect(cell(page, "A350", "note")).to_have_text("Fans came late.")
        expect(page.get_by_role("complementary")).to_contain_text("Fans came late.")
        type_into(page, "A350", "cost", "1 234.50")
        expect(cell(page, "A350", "cost")).to_contain_text("1 234.50")
        page.locator('[data-cell="A350:activity"]').click()
        page.get_by_role("complementary").get_by_role("button", name="AC", exact=True).click()
        expect(page.get_by_role("complementary")).to_contain_text("from invoice")
        expect(page.get_by_role("complementary")).to_contain_text("1 234.50")

    def test_a_session_that_ran_out_is_taken_up_again_in_place(self) -> None:
        page = self.sheet()
        cell(page, "A350", "percent").click()
        page.context.clear_cookies(name="sessionid")
        page.keyboard.type("53")
        page.keyboard.press("Enter")
        asked = page.get_by_role("dialog", name="Sign in again")
        expect(asked).to_contain_text("what you typed is kept")
        asked.get_by_role("button", name="Ines").click()
        expect(asked).to_have_count(0)
        expect(cell(page, "A350", "percent")).to_have_text("53")
        expect(page.get_by_role("status").first).to_contain_text("posted")
        self.until(lambda: Statement.objects.filter(page__state="wet", activity__code="A350", percent=53).exists())

    def press(self, page: Page, key: str, code: str, **more: bool) -> None:
        """A key as another keyboard sends it: what it says, and where it lies on an English one."""
        page.evaluate(
            "given => document.activeElement.dispatchEvent(new KeyboardEvent('keydown', {bubbles: true, cancelable: true, ...given}))",
            {"key": key, "code": code, **more},
        )

    def journey(self, types: list[tuple[str, str]], keys: dict[str, tuple[str, dict[str, bool]]]) -> None:
        """The same way through on any keyboard: what is typed in a cell fires nothing, and the shortcuts are where their characters are."""
        page = self.sheet()

        def shortcut(key: str, **more: bool) -> None:
            code, held = keys[key]
            self.press(page, key, code, **held, **more)

        for key, code in types:
            cell(page, "A350", "percent").click()
            self.press(page, key, code)
            expect(page.locator("[role=gridcell] input")).to_have_value(key)
            page.keyboard.press("Escape")
        expect(page.get_by_role("heading", name="Page 10")).to_be_visible()
        type_into(page, "A350", "percent", "54")
        expect(cell(page, "A350", "percent")).to_have_text("54")
        shortcut("z", ctrlKey=True)
        expect(cell(page, "A350", "percent")).not_to_have_text("54")
        shortcut("y", ctrlKey=True)
        expect(cell(page, "A350", "percent")).to_have_text("54")
        shortcut("/")
        expect(page.get_by_role("combobox", name="Find an activity")).to_be_focused()
        page.keyboard.type("shore power")
        page.keyboard.press("Escape")
        shortcut("]")
        expect(page.get_by_role("heading", name="Page 10")).to_be_visible()
        shortcut("[")
        expect(page.get_by_role("heading", name="Page 9")).to_be_visible()
        shortcut("]")
        expect(page.get_by_role("heading", name="Page 10")).to_be_visible()
        shortcut("?")
        expect(page.get_by_role("dialog")).to_contain_text("find an activity")

    def test_the_journey_on_an_english_keyboard(self) -> None:
        alone: dict[str, bool] = {}
        self.journey(
            [("-", "Minus"), ("=", "Equal"), (";", "Semicolon")],
            {
                "z": ("KeyZ", alone),
                "y": ("KeyY", alone),
                "/": ("Slash", alone),
                "[": ("BracketLeft", alone),
                "]": ("BracketRight", alone),
                "?": ("Slash", {"shiftKey": True}),
            },
        )

    def test_the_journey_on_a_german_keyboard(self) -> None:
        third = {"ctrlKey": True, "altKey": True, "modifierAltGraph": True}
        self.journey(
            [("ü", "BracketLeft"), ("-", "Slash"), ("+", "BracketRight")],
            {
                "z": ("KeyY", {}),
                "y": ("KeyZ", {}),
                "/": ("Digit7", {"shiftKey": True}),
                "[": ("Digit8", third),
                "]": ("Digit9", third),
                "?": ("Minus", {"shiftKey": True}),
            },
        )

    def test_the_journey_on_a_french_keyboard(self) -> None:
        third = {"ctrlKey": True, "altKey": True, "modifierAltGraph": True}
        self.journey(
            [("^", "BracketLeft"), ("!", "Slash"), (")", "Minus"), ("é", "Digit2")],
            {
                "z": ("KeyW", {}),
                "y": ("KeyY", {}),
                "/": ("Period", {"shiftKey": True}),
                "[": ("Digit5", third),
                "]": ("Minus", third),
                "?": ("KeyM", {"shiftKey": True}),
            },
        )

    def test_tips_come_by_pointer_and_by_keyboard_and_go_by_escape(self) -> None:
        page = self.sheet()
        tip = page.get_by_role("tooltip")
        name = cell(page, "A350", "activity")
        name.hover()
        expect(tip).to_have_text(name.get_attribute("data-tip") or "")
        box = box_of(tip)
        page.mouse.move(box["x"] + 5, box["y"] + box["height"] / 2, steps=4)
        page.mouse.move(box["x"] + 9, box["y"] + box["height"] / 2, steps=4)
        expect(tip).to_be_visible()
        page.keyboard.press("Escape")
        expect(tip).to_have_count(0)
        page.get_by_role("combobox", name="Find an activity, a room or a page").focus()
        for _ in range(3):
            page.keyboard.press("Tab")
            if page.evaluate("document.activeElement.dataset.tip"):
                break
        expect(tip).to_have_text("Keyboard shortcuts")
        page.keyboard.press("Escape")
        expect(tip).to_have_count(0)
        self.assertEqual(page.locator("[title]").count(), 0)
