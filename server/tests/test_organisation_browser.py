"""What the organisation keeps, in a browser: a resource is shared, drawn on and changed for all; a kind of project gives its fields."""

from playwright.sync_api import Page, expect

from server.book.loading import load_document
from server.book.models import Project, Resource
from server.book.organisation import Shared
from server.tests.base import ferry
from server.tests.browser import BrowserTest


class Organisation(BrowserTest):
    pages = 2

    def setUp(self) -> None:
        super().setUp()
        other = ferry(1)
        other["project"] |= {"code": "PIER", "name": "Old pier"}
        for resource in other["resources"]:
            resource.pop("shared", None)
        load_document(other)

    def resource(self, page: Page, project: str, code: str) -> None:
        page.goto(f"{self.live_server_url}/{project}/now/plan/resources?part=organisation&who={code}")

    def test_a_resource_is_shared_drawn_on_and_changed_for_all(self) -> None:
        page = self.open("/FERRY/now/plan/resources?part=organisation&who=FIT", "Lorcan")
        page.get_by_role("button", name="Share with all projects").click()
        expect(page.get_by_text("Drawn from the organisation as FIT")).to_be_visible()
        name = page.get_by_role("grid", name="Resources of the project").get_by_text("Ruan Teale's fitters")
        name.click()
        page.keyboard.type("Fitters")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("organisation")
        page.keyboard.press("Escape")
        # Another project has fitters of its own; what comes from the organisation is another row.
        self.resource(page, "PIER", "PNT")
        page.get_by_label("Draw on the organisation's…").select_option("FIT")
        expect(page.get_by_role("grid", name="Resources of the project").get_by_text("Ruan Teale's fitters")).to_have_count(2)
        drawn = Resource.objects.get(project__code="PIER", shared="FIT")
        self.resource(page, "PIER", drawn.code)
        expect(page.get_by_text("Drawn on by FERRY, PIER.")).to_be_visible()
        page.get_by_role("button", name="Change for all projects").click()
        units = page.get_by_label("Units").last
        units.fill("none")
        units.press("Enter")
        expect(page.get_by_role("alert")).to_be_visible()
        units.fill("8")
        units.press("Enter")
        expect(page.get_by_role("alert")).to_have_count(0)
        name = page.get_by_label("Name", exact=True).last
        name.fill("The yard's fitters")
        name.press("Enter")
        expect(page.get_by_text("2 projects follow.")).to_be_visible()
        self.assertEqual({r.name for r in Resource.objects.filter(shared="FIT")}, {"The yard's fitters"})
        own = page.get_by_label("own rates in this project")
        own.click()
        expect(own).to_be_checked()
        self.until(lambda: Resource.objects.get(pk=drawn.pk).own_rates)
        page.goto(f"{self.live_server_url}/?show=people&who=FIT")
        table = page.get_by_role("table", name="People")
        expect(table).to_contain_text("The yard's fitters")
        expect(table).to_contain_text("FERRY")
        times = page.get_by_role("table", name="Over-allocation")
        expect(page.get_by_role("heading", name="Load of The yard's fitters")).to_be_visible()
        expect(times.or_(page.get_by_text("At no time do projects together book more"))).to_be_visible()

    def test_over_allocation_leads_to_the_activity_that_asks(self) -> None:
        page = self.open("/FERRY/now/plan/resources?part=organisation&who=ELE", "Lorcan")
        page.get_by_role("button", name="Share with all projects").click()
        expect(page.get_by_text("Drawn from the organisation as ELE")).to_be_visible()
        page.get_by_role("button", name="Change for all projects").click()
        units = page.get_by_label("Units").last
        units.fill("1")
        units.press("Enter")
        expect(page.get_by_text("1 project follows.").or_(page.get_by_text("0 projects follow."))).to_be_visible()
        page.get_by_role("button", name="Load", exact=True).click()
        expect(page.get_by_text("Load across projects")).to_be_visible()
        page.get_by_role("link", name="All shared resources").click()
        times = page.get_by_role("table", name="Over-allocation")
        link = times.get_by_role("link").first
        code = link.inner_text().split("/")[1]
        link.click()
        expect(page.get_by_label("Plan", exact=True).or_(page.get_by_role("treegrid")).first).to_be_visible()
        self.assertIn(f"find={code}", page.url)
        expect(page.locator(f'[data-cell="{code}:code"]')).to_be_visible()

    def shared(self, page: Page, code: str) -> None:
        expect(page.get_by_role("heading", name="The organisation's list")).to_be_visible()
        if page.get_by_role("button", name="Share with all projects").count():
            page.get_by_role("button", name="Share with all projects").click()
        expect(page.get_by_text(f"Drawn from the organisation as {code}")).to_be_visible()
        page.get_by_role("button", name="Change for all projects").click()

    def test_what_is_typed_one_after_the_other_all_counts(self) -> None:
        page = self.open("/FERRY/now/plan/resources?part=organisation&who=ELE", "Lorcan")
        self.shared(page, "ELE")
        for label, text in (("Sat", "8-12"), ("Sun", "9-11"), ("Skills", "high voltage")):
            page.get_by_label(label, exact=True).last.fill(text)
            page.keyboard.press("Enter")

        def kept() -> bool:
            row = Shared.objects.get(code="ELE")
            week = row.calendar["week"]
            return (week.get("sat"), week.get("sun"), row.resource.get("skills")) == (["08:00-12:00"], ["09:00-11:00"], ["high voltage"])

        self.until(kept)
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_what_another_approver_wrote_meanwhile_is_not_written_over(self) -> None:
        one, other = (self.open("/FERRY/now/plan/resources?part=organisation&who=ELE", "Lorcan") for _ in range(2))
        self.shared(one, "ELE")
        other.reload()
        self.shared(other, "ELE")
        for page, name in ((one, "First name"), (other, "Second name")):
            page.get_by_label("Name", exact=True).last.fill(name)
            page.keyboard.press("Enter")
            self.until(lambda: Shared.objects.get(code="ELE").resource["name"] == "First name")
        expect(other.get_by_role("alert").first).to_be_visible()
        self.assertEqual(Shared.objects.get(code="ELE").resource["name"], "First name")
        other.get_by_label("Units").last.fill("8")  # another cell: that goes through
        other.keyboard.press("Enter")
        self.until(lambda: Shared.objects.get(code="ELE").resource["units"] == 8)

    def test_a_kind_gives_a_project_its_fields(self) -> None:
        page = self.open("/FERRY/now/plan/project", "Lorcan")
        page.get_by_role("button", name="Kinds of projects…").click()
        kinds = page.get_by_role("region", name="Kinds of projects")
        kinds.get_by_label("New kind").fill("Refit")
        kinds.get_by_role("button", name="Add").click()
        sheet = kinds.get_by_role("grid", name="Fields of Refit")
        sheet.locator('[data-cell^="begun"][data-cell$=":name"]').click()
        page.keyboard.type("Slipway")
        page.keyboard.press("Enter")
        expect(sheet).to_contain_text("Slipway")
        sheet.locator('[data-cell$="0:of"]').dblclick()
        page.keyboard.type("the project")
        page.keyboard.press("Enter")
        expect(sheet.locator('[data-cell$="0:of"]')).to_have_text("the project")
        page.get_by_label("Kind of project").select_option("Refit")
        entry = page.get_by_label("Slipway", exact=True)
        entry.fill("North")
        entry.press("Enter")
        expect(page.get_by_role("status").first).to_contain_text("slipway")
        self.assertEqual(Project.objects.get(code="FERRY").fields["slipway"], "North")
        page.goto(f"{self.live_server_url}/")
        page.get_by_role("button", name="Filter").click()
        conditions = page.get_by_role("dialog", name="Filter")
        conditions.get_by_label("Column", exact=True).select_option("own:Slipway")
        conditions.get_by_label("Condition", exact=True).fill("north")
        page.keyboard.press("Escape")
        page.get_by_label("Also show").select_option("kind")
        table = page.get_by_role("table", name="Projects", exact=True)
        expect(table.get_by_role("row")).to_have_count(2)
        expect(table).to_contain_text("Refit")

    def test_readers_are_offered_none_of_it(self) -> None:
        page = self.open("/FERRY/now/plan/resources?part=organisation&who=ELE", "Maud")
        expect(page.get_by_text("which is not on its list any more")).to_be_visible()
        for name in ("Share with all projects", "Stop drawing on it", "Change for all projects", "Update from the organisation's list"):
            expect(page.get_by_role("button", name=name)).to_have_count(0)
        page.goto(f"{self.live_server_url}/FERRY/now/plan/project")
        expect(page.get_by_label("Kind of project")).to_be_disabled()
        expect(page.get_by_role("button", name="Kinds of projects…")).to_have_count(0)
