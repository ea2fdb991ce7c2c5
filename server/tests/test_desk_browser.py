"""The desk in a browser: filtered, grouped, kept as a view; risk, summary and curve; a link to another project; an archive."""

from uuid import uuid4

from django.core.files.base import ContentFile
from playwright.sync_api import Page, expect

from server.archive.writing import archive
from server.book.loading import load_document
from server.book.models import Page as BookPage
from server.book.models import Project
from server.tests.base import ferry
from server.tests.browser import BrowserTest


class Desk(BrowserTest):
    pages = 2

    def setUp(self) -> None:
        super().setUp()
        other = ferry(1)
        other["project"] |= {"code": "PIER", "name": "Old pier", "manager": "Somebody Else", "benefit": "1000000.00"}
        load_document(other)

    def test_filtered_grouped_and_kept_as_a_view(self) -> None:
        page = self.open("/")
        table = page.get_by_role("table", name="Projects", exact=True)
        expect(table.get_by_role("row")).to_have_count(3)
        self.only(page, "Manager", "somebody")
        expect(table.get_by_role("row")).to_have_count(2)
        page.get_by_label("Group by").select_option("manager")
        expect(table.get_by_role("rowheader", name="Somebody Else")).to_be_visible()
        page.get_by_label("Name of a view").fill("Theirs")
        page.get_by_role("button", name="Save view").click()
        self.assertIn("where=", page.url)
        page.goto(f"{self.live_server_url}/")
        page.get_by_label("Views", exact=True).select_option("Theirs")
        expect(table.get_by_role("row")).to_have_count(3)  # the titles, the group and the project
        page.get_by_role("button", name="Delete view Theirs").click()
        expect(page.get_by_label("Views", exact=True)).to_have_count(0)

    def only(self, page: Page, column: str, text: str) -> None:
        """Shows only what a condition on a column holds of."""
        page.get_by_role("button", name="Filter").click()
        conditions = page.get_by_role("dialog", name="Filter")
        conditions.get_by_label("Column", exact=True).select_option(label=column)
        conditions.get_by_label("Condition", exact=True).fill(text)
        page.keyboard.press("Escape")

    def test_headings_sort_and_conditions_count(self) -> None:
        page = self.open("/")
        table = page.get_by_role("table", name="Projects", exact=True)
        vac = table.get_by_role("columnheader", name="VAC")
        vac.get_by_role("button", name="VAC").click()
        expect(vac).to_have_attribute("aria-sort", "ascending")
        rows = table.get_by_role("row")
        low = rows.nth(1).get_by_role("link").first.inner_text()
        vac.get_by_role("button", name="VAC").click()
        expect(vac).to_have_attribute("aria-sort", "descending")
        expect(rows.nth(2).get_by_role("link").first).to_have_text(low)
        self.only(page, "VAC", "> 999999999")
        expect(page.get_by_text("No project is shown. Clear the filter.")).to_be_visible()
        page.get_by_role("button", name="Clear").click()
        expect(rows).to_have_count(3)
        expect(vac).to_have_attribute("aria-sort", "none")

    def test_risk_summary_and_curve_follow_the_filter(self) -> None:
        page = self.open("/")
        page.get_by_label("Name or code").fill("pier")
        page.get_by_role("tab", name="Risk against benefit").click()
        expect(page.get_by_role("table", name="Risk against benefit")).to_contain_text("1 000 000")
        expect(page.locator("svg circle")).to_have_count(1)
        page.get_by_role("tab", name="Summary").click()
        expect(page.get_by_role("table", name="Summary").get_by_role("row")).to_have_count(6)
        page.get_by_role("tab", name="Portfolio curve").click()
        expect(page.get_by_text("1 project in EUR.")).to_be_visible()
        expect(page.get_by_role("table", name="Points of the portfolio curve").get_by_role("row").nth(5)).to_be_visible()
        with page.expect_download() as kept:
            page.get_by_role("link", name="PDF").click()
        self.assertEqual(kept.value.suggested_filename, "projects.pdf")

    def test_a_plan_waits_for_another_project_and_each_shows_the_other(self) -> None:
        page = self.open("/PIER/now/plan")
        note = page.get_by_role("region", name="Details")
        page.locator('[data-cell="A160:code"]').click()
        for _ in range(12):
            if (page.locator("[aria-activedescendant]").first.get_attribute("aria-activedescendant") or "").endswith("-after"):
                break
            page.keyboard.press("ArrowRight")
        page.keyboard.type("FERRY/A999")
        page.keyboard.press("Enter")
        expect(page.locator("[role=gridcell] [role=alert]")).to_contain_text("FERRY/A999")
        page.keyboard.press("ArrowUp")
        page.keyboard.type("FERRY/A860")
        page.keyboard.press("Enter")
        page.keyboard.press("ArrowUp")
        expect(note).to_contain_text("Back in service (FERRY/A860), of another project")
        page.goto(f"{self.live_server_url}/PIER/now/timeline")
        expect(page.get_by_role("row").filter(has_text="FERRY/A860 Back in service")).to_be_visible()
        expect(page.locator("[data-outside='FERRY/A860']")).to_be_visible()
        page.goto(f"{self.live_server_url}/FERRY/now/plan")
        page.get_by_placeholder("Find in the plan").fill("A860")
        page.locator('[data-cell="A860:code"]').click()
        expect(note.get_by_role("link", name="PIER/A160")).to_be_visible()

    def test_an_archive_is_shown_and_brought_in(self) -> None:
        content = ContentFile(archive(Project.objects.get(code="PIER"))).read()
        page = self.open("/")
        choose = page.get_by_label("Choose a file: JSON, XLSX, CSV, a zip of CSVs, or an archive")
        choose.set_input_files({"name": "a.zip", "mimeType": "application/zip", "buffer": content})
        expect(page.get_by_text("it is here already")).to_be_visible()
        self.assertFalse(page.get_by_role("button", name="Import", exact=True).is_enabled())
        choose.set_input_files({"name": "a.zip", "mimeType": "application/zip", "buffer": content[:-1] + b"x"})
        expect(page.get_by_text("not byte for byte")).to_be_visible()
        Project.objects.filter(code="PIER").update(uid=uuid4(), code="OTHER")  # as elsewhere, where it never was
        for own in BookPage.objects.filter(project__code="OTHER"):
            BookPage.objects.filter(pk=own.pk).update(uid=uuid4())
        choose.set_input_files({"name": "b.zip", "mimeType": "application/zip", "buffer": content})
        expect(page.get_by_text("Every seal holds")).to_be_visible()
        page.get_by_role("button", name="Import", exact=True).click()
        page.wait_for_url("**/PIER/now/plan")

    def test_the_guide_opens_at_the_room_one_is_in(self) -> None:
        page = self.open("/FERRY/now/value")
        page.get_by_role("button", name="Guide").click()
        text = page.get_by_role("region", name="Value")
        expect(text).to_contain_text("SPI and CPI both 0.833")
        expect(text.get_by_role("img").first).to_be_visible()
        self.assertNotIn("<!--", text.inner_text())
        page.get_by_role("navigation", name="Pages of the guide").get_by_role("button", name="People and access").click()
        expect(page.get_by_role("region", name="People and access")).to_contain_text("audit trail")
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
