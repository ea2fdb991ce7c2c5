"""People and access in a browser: somebody is added, chooses a password, sees what they may; a project is kept for its members."""

from playwright.sync_api import Page, expect

from server.accounts.models import Person
from server.book.membership import Member
from server.book.models import Project
from server.tests.browser import BrowserTest

LIST = "sign-in name,full name,role,project,project role\nkes,Kes Low,none,FERRY,reader\n"


class PeopleAndAccess(BrowserTest):
    pages = 2

    def setUp(self) -> None:
        super().setUp()
        Person.objects.filter(username="maud").update(administrator=True)

    def enter(self, name: str, password: str) -> Page:
        page = self.browser.new_context().new_page()
        self.addCleanup(page.context.close)
        page.goto(self.live_server_url)
        page.get_by_label("Name", exact=True).fill(name)
        page.get_by_label("Password", exact=True).fill(password)
        page.get_by_role("button", name="Sign in", exact=True).click()
        return page

    def test_somebody_is_added_and_chooses_a_password(self) -> None:
        admin = self.open("/people", "Maud")
        admin.get_by_role("button", name="Add a person").click()
        form = admin.get_by_role("dialog")
        form.get_by_label("Sign-in name").fill("two words")
        form.get_by_label("Full name").fill("Idris Vane")
        form.get_by_role("button", name="Add", exact=True).click()
        expect(form.get_by_role("alert")).to_contain_text("without spaces")
        form.get_by_label("Sign-in name").fill("idris")
        form.get_by_role("button", name="Add", exact=True).click()
        password = admin.locator("main code").inner_text()
        page = self.enter("idris", password)
        expect(page.get_by_text("Choose another password before you go on.")).to_be_visible()
        for key, text in (("Password now", password), ("New password", "quite another secret"), ("New password again", "not the same")):
            page.get_by_label(key, exact=True).fill(text)
        page.get_by_role("button", name="Change password").click()
        expect(page.get_by_role("alert")).to_contain_text("differ")
        page.get_by_label("New password again").fill("quite another secret")
        page.get_by_role("button", name="Change password").click()
        expect(page.get_by_role("link", name="MV Corran Light, hybrid-electric refit")).to_be_visible()
        expect(page.get_by_role("button", name="New project")).to_have_count(0)
        admin.reload()
        row = admin.get_by_role("row", name="Idris Vane")
        expect(row).to_contain_text("1 session")
        row.get_by_label("Change: Idris Vane").select_option("sign-out")
        expect(row).not_to_contain_text("1 session")
        page.reload()
        expect(page.get_by_label("Password", exact=True)).to_be_visible()
        admin.get_by_role("tab", name="Audit trail").click()
        admin.get_by_label("Name, project or text").fill("Idris")
        expect(admin.get_by_role("table").get_by_role("row")).to_have_count(5)  # added, signed in, changed, signed out, and their titles

    def test_a_project_is_kept_for_its_members(self) -> None:
        approver = self.open("/FERRY/now/plan/project", "Lorcan")
        approver.get_by_role("tab", name="Access").click()
        only = approver.get_by_label("For members only")
        only.click()
        expect(approver.get_by_role("alert")).to_contain_text("needs an approver among them")
        approver.get_by_label("Role here: Lorcan Test").select_option("approver")
        expect(approver.get_by_label("Role here: Lorcan Test")).to_have_value("approver")
        approver.get_by_label("Role here: Maud Test").select_option("analyst")
        only.click()
        self.until(lambda: Project.objects.get(code="FERRY").members_only)
        other = self.open("/people", "Ines")
        expect(other.get_by_text("This is for administrators.")).to_be_visible()
        other.goto(f"{self.live_server_url}/")
        expect(other.get_by_text("There is no project yet")).to_be_visible()
        member = self.open("/FERRY/now/posting", "Maud")
        expect(member.get_by_role("button", name="Undo").first).to_be_visible()

    def test_a_list_of_people_is_shown_then_taken(self) -> None:
        admin = self.open("/people", "Maud")
        chooser = admin.get_by_label("CSV file of people")
        chooser.set_input_files({"name": "people.csv", "mimeType": "text/csv", "buffer": b"who\nme\n"})
        expect(admin.get_by_role("alert")).to_contain_text("The first line names the columns")
        chooser.set_input_files({"name": "people.csv", "mimeType": "text/csv", "buffer": LIST.encode()})
        expect(admin.get_by_role("status")).to_contain_text("Nothing is imported yet.")
        admin.get_by_role("button", name="Import", exact=True).click()
        expect(admin.get_by_role("button", name="Download passwords")).to_be_visible()
        self.assertEqual(Member.objects.get(person__username="kes").role, "reader")

    def test_one_sees_and_ends_ones_own_sessions(self) -> None:
        there = self.open("/FERRY/now/value", "Ines")
        here = self.open("/account", "Ines")
        here.get_by_role("button", name="End", exact=True).click()
        expect(here.get_by_role("button", name="End", exact=True)).to_have_count(0)
        there.reload()
        expect(there.get_by_label("Password", exact=True)).to_be_visible()
