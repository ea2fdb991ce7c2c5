"""Reading a page in a browser: the summary, work by time, figures over the pages, progress lines; each as of a page and a baseline."""

import re

from playwright.sync_api import expect

from server.book.models import Activity, Statement
from server.tests.browser import BrowserTest, box_of


class Reading(BrowserTest):
    pages = 4

    def test_the_parts_of_value(self) -> None:
        page = self.open("/FERRY/P04/value")
        parts = page.get_by_role("navigation", name="Parts of value")
        parts.get_by_role("button", name="Summary").press("Enter")
        table = page.get_by_role("table", name=re.compile("^Summary of MV Corran Light"))
        expect(table.get_by_role("row", name=re.compile("^Finish"))).to_contain_text("20 Jul 2027")
        page.get_by_label("Of", exact=True).select_option("1")
        expect(page.get_by_role("table", name=re.compile("^Summary of Design approval"))).to_be_visible()
        with page.expect_download() as kept:
            page.get_by_role("link", name="CSV").click()
        self.assertEqual(kept.value.suggested_filename, "FERRY-P04-summary.csv")
        parts.get_by_role("button", name="Work by time").press("Enter")
        sheet = page.get_by_role("grid", name="Work by time")
        expect(sheet).to_contain_text("A110 Hybrid system concept")
        page.get_by_label("Group by").select_option("person")
        expect(sheet.get_by_role("row").nth(1)).to_contain_text("Corrie and Vane design office")
        page.get_by_label("In", exact=True).select_option("cost")
        expect(sheet).to_contain_text(re.compile(r"\d{1,3}[\s\u2009\u202f]\d{3}\.00"))
        parts.get_by_role("button", name="Over the pages").press("Enter")
        expect(page.get_by_role("table", name="Figures of every page").get_by_role("row")).to_have_count(5)
        page.get_by_label("This page against").select_option("P01")
        expect(page.get_by_text("activities changed since P01")).to_be_visible()

    def test_selected_rows_have_totals_and_a_curve_of_their_own(self) -> None:
        page = self.open("/FERRY/P04/value")
        sheet = page.get_by_role("treegrid", name="Measures")
        page.get_by_role("button", name="Open all").click()
        sheet.locator('[data-cell$=":name"]').nth(1).click()
        for _ in range(3):
            page.keyboard.press("Shift+ArrowDown")
        totals = page.get_by_role("status").filter(has_text="Selection, 4 activities")
        expect(totals).to_contain_text("BAC")
        expect(page.get_by_role("region", name="Curve of Selection, 4 activities")).to_be_visible()
        page.get_by_label("Split by kind of cost").check()
        kinds = page.get_by_role("table", name="The selection by kind of cost")
        bac = str(totals.inner_text()).replace("\u2009", " ").split("BAC")[1].split("PV")[0].strip()
        expect(kinds.get_by_role("row", name=re.compile("^All"))).to_contain_text(re.compile(re.sub(r"\s", r"\\s", bac)))
        page.get_by_role("combobox").filter(has=page.locator("optgroup[label=Deck]")).select_option(label="Hull")
        self.assertIn("value=Hull", page.url)
        sheet.locator('[data-cell$=":name"]').first.click()
        expect(page.get_by_role("region", name="Curve of Deck: Hull")).to_contain_text("earned value is drawn straight")
        page.keyboard.press("ArrowUp")
        expect(totals).to_have_count(0)

    def test_progress_lines_go_on_and_off(self) -> None:
        page = self.open("/FERRY/P04/timeline")
        drawn = page.locator("[data-line]")
        expect(page.get_by_role("treegrid").or_(page.get_by_role("grid")).first).to_be_visible()
        expect(drawn).to_have_count(0)
        page.get_by_role("heading", name="Timeline").click()
        page.keyboard.press("l")
        expect(page.get_by_text("hatched is behind")).to_be_visible()
        expect(drawn.first).to_be_attached()
        page.get_by_label("Fronts").select_option("pages")
        expect(page.locator("[data-line='3']").first).to_be_attached()
        page.get_by_label("Fronts").select_option("dates")
        expect(page.get_by_text("Give dates such as")).to_be_visible()
        page.get_by_role("textbox", name="Dates", exact=True).fill("15 jan, 22 jan")
        page.keyboard.press("Enter")
        expect(page.locator("[data-line='1']").first).to_be_attached()
        expect(page.locator("[data-line='2']")).to_have_count(0)
        page.get_by_role("heading", name="Timeline").click()
        page.keyboard.press("l")
        expect(drawn).to_have_count(0)

    def test_figures_are_chosen_filtered_sorted_and_grouped(self) -> None:
        page = self.open("/FERRY/P04/value")
        sheet = page.get_by_role("treegrid", name="Measures")
        page.get_by_role("button", name="Columns").click()
        menu = page.get_by_role("dialog", name="Columns")
        menu.get_by_label("Find a figure").fill("total float")
        menu.get_by_text("working minutes from early finish to late finish").click()
        page.keyboard.press("Escape")
        expect(sheet.get_by_role("columnheader", name="Total float")).to_be_visible()
        page.get_by_role("button", name="Filter").click()
        conditions = page.get_by_role("dialog", name="Filter")
        conditions.get_by_label("Column").select_option("cv")
        conditions.get_by_label("Condition", exact=True).fill("> many")
        expect(conditions.get_by_role("alert")).to_contain_text("That is no number")
        conditions.get_by_label("Condition", exact=True).fill("< 0")
        page.keyboard.press("Escape")
        page.get_by_label("Group by").select_option("mark")
        page.locator("#head-cv button").click()
        expect(sheet.locator('[data-cell$=":cv"]').first).to_contain_text("\u2212")
        self.assertIn("cols=bac", page.url)
        page.reload()
        expect(page.locator("#head-cv")).to_have_attribute("aria-sort", "ascending")
        expect(page.get_by_role("button", name="Filter (1)")).to_be_visible()
        with page.expect_download() as kept:
            page.get_by_role("link", name="XLSX").click()
        self.assertEqual(kept.value.suggested_filename, "FERRY-P04-value.xlsx")

    def test_the_curve_is_read_by_keys_and_kept_as_a_picture(self) -> None:
        page = self.open("/FERRY/P04/value")
        page.get_by_role("button", name="Forecasts").click()
        for name in ("EAC bottom up", "EAC at CPI"):
            page.get_by_label(name).check()
        page.keyboard.press("Escape")
        page.get_by_label("Bars").check()
        expect(page.get_by_role("img", name=re.compile("of each bucket"))).to_be_visible()
        reader = page.get_by_role("slider", name="Read the curve")
        reader.press("End")
        expect(page.locator("[data-readout]")).to_contain_text("EAC at CPI")
        expect(reader).to_have_attribute("aria-valuetext", re.compile("PV 2"))
        reader.press("ArrowLeft")
        for form in ("SVG", "PNG"):
            with page.expect_download() as kept:
                page.get_by_role("button", name=f"as {form}").click()
            content = kept.value.path().read_bytes()
            self.assertEqual(kept.value.suggested_filename, f"FERRY-P04-curve.{form.lower()}")
            self.assertTrue(content.startswith(b"<svg" if form == "SVG" else b"\x89PNG"))
        self.assertGreater(len(content), 20_000)

    def test_a_bar_is_posted_by_dragging_and_paused(self) -> None:
        page = self.open("/FERRY/now/timeline")
        page.get_by_role("button", name="Fit", exact=True).click()
        bar = page.locator("svg[data-bar]:has([data-handle=worked])").first
        code = str(bar.get_attribute("data-bar"))

        def hold(part: str, by: int) -> None:
            grip = page.locator(f'svg[data-bar="{code}"] [data-handle={part}]').last
            grip.scroll_into_view_if_needed()
            box = box_of(grip)
            page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 12)
            page.mouse.down()
            page.mouse.move(box["x"] + box["width"] / 2 + by, box["y"] + 12, steps=4)

        consequence, mine = page.locator("[data-say]"), Statement.objects.filter(page__state="wet", activity__code=code)
        before = list(mine.values_list("remaining", flat=True))
        hold("finish", 60)
        expect(consequence).to_contain_text("remaining")
        page.keyboard.press("Escape")
        page.mouse.up()
        expect(consequence).to_have_count(0)
        self.assertEqual(list(mine.values_list("remaining", flat=True)), before, "what was let go with Escape wrote nothing")
        hold("finish", 60)
        expect(consequence).to_contain_text("remaining")
        with page.expect_response("**/posting/entries"):
            page.mouse.up()
        self.assertNotIn(mine.get().remaining, [None, *before])
        page.keyboard.down("Alt")
        hold("worked", 40)
        expect(page.locator(f'svg[data-bar="{code}"]')).to_contain_text("pause")
        expect(consequence).to_contain_text("The project")
        with page.expect_response("**/plan/changes"):
            page.mouse.up()
        page.keyboard.up("Alt")
        self.assertEqual(len(Activity.objects.get(project__code="FERRY", code=code).pauses), 1)
        page.get_by_label("Milestones only").check()
        expect(page.locator(f'svg[data-bar="{code}"]')).to_have_count(0)
        page.get_by_role("treegrid").focus()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("F2")
        page.wait_for_url("**/P04/posting**")

    def test_the_timeline_is_grouped_labelled_fitted_and_printed(self) -> None:
        page = self.open("/FERRY/P04/timeline")
        page.get_by_label("B1").check()
        page.get_by_role("button", name="Labels").click()
        page.get_by_label("Find a figure").fill("percent complete")
        page.get_by_text("Percent complete per cent").click()
        page.keyboard.press("Escape")
        expect(page.locator('[data-bar="A110"] text')).to_contain_text("100 %")
        page.get_by_label("Fronts").select_option("strip")
        expect(page.get_by_text("to the right late, to the left early")).to_be_visible()
        expect(page.locator("[data-strip]").first).to_be_attached()
        page.get_by_label("Group by").select_option("state")
        expect(page.get_by_role("treegrid")).to_contain_text("not started")
        for scale in ("Hour", "Fit", "Year"):
            page.get_by_role("button", name=scale, exact=True).click()
        self.assertIn("scale=year", page.url)
        page.get_by_role("button", name="Print").click()
        page.get_by_label("Paper").select_option("A3")
        for form in ("PDF", "SVG"):
            with page.expect_download() as kept:
                page.get_by_role("button", name=f"Timeline as {form}").click()
            self.assertTrue(kept.value.path().read_bytes().startswith(b"%PDF" if form == "PDF" else b"<?xml"))
