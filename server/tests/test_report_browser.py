"""The report in a browser: written, laid out, reviewed, issued and sent; every number opens its working."""

import re
import socket
import tempfile
from pathlib import Path

from django.test import override_settings
from playwright.sync_api import expect

from server.report.models import Delivery, Recipient, ReviewEvent
from server.tests.browser import BrowserTest
from stand_ins.outbox import Kept, attachments, taking


class Reports(BrowserTest):
    pages = 3

    def outbox(self) -> Kept:
        """A mail server of the test's own, for as long as it runs."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]
        kept = Kept(Path(folder.name))
        server = taking(kept, port)
        server.start()
        self.addCleanup(server.stop)
        settings = override_settings(OUTBOX_PORT=port)
        settings.enable()
        self.addCleanup(settings.disable)
        return kept

    def test_written_reviewed_issued_and_sent(self) -> None:
        kept = self.outbox()
        page = self.open("/FERRY/P03/report")
        page.get_by_role("button", name="Watch", exact=True).click()
        page.get_by_label("Why", exact=True).fill("Class comments came late.")
        page.get_by_role("region", name="Summary").get_by_role("button", name="Edit the drafted text").click()
        expect(page.get_by_label("Words of Summary")).to_have_value(re.compile("of the budget is earned"))
        page.get_by_role("button", name="Add words to Money by WBS").click()
        page.get_by_label("Words of Money by WBS").fill("Paid on time.")
        page.get_by_role("button", name="Ask for a review").click()
        expect(page.get_by_text("Ines Test asks for a review.")).to_be_visible()
        approver = self.open("/FERRY/P03/report", "Lorcan")
        expect(approver.get_by_label("Words of Money by WBS")).to_have_value("Paid on time.")
        approver.get_by_role("button", name="Comment on Money by WBS").click()
        approver.get_by_label("Comment on Money by WBS").fill("Which invoice?")
        approver.get_by_role("button", name="Add comment").click()
        expect(approver.get_by_role("complementary", name="Comments on Money by WBS")).to_contain_text("Lorcan Test")
        approver.get_by_role("button", name="Send back…").click()
        approver.get_by_label("What is to be changed").fill("Name the invoice.")
        approver.get_by_role("button", name="Send back", exact=True).click()
        expect(approver.get_by_text("Lorcan Test: Name the invoice.")).to_be_visible()
        page.reload()
        page.get_by_role("complementary", name="Comments on Money by WBS").get_by_role("button", name="Done").click()
        expect(page.get_by_text("dealt with by Ines Test")).to_be_visible()
        page.get_by_label("Words of Money by WBS").fill("Invoice 4 was paid on time.")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("Saved", exact=True)).to_be_visible()
        page.get_by_role("button", name="Ask for a review").click()
        expect(page.get_by_text("Ines Test asks for a review.")).to_be_visible()
        approver.reload()
        approver.get_by_role("button", name="Approve", exact=True).click()
        expect(approver.get_by_text("Approved", exact=True)).to_be_visible()
        approver.get_by_role("button", name="Issue", exact=True).click()
        expect(approver.get_by_text("Edition 1 is issued.")).to_be_visible()
        approver.get_by_role("button", name="Distribution list").click()
        approver.get_by_label("Name", exact=True).fill("Isla Corrance")
        approver.get_by_label("Mail address").fill("nobody")
        approver.get_by_role("button", name="Add", exact=True).click()
        expect(approver.get_by_role("alert")).to_contain_text("is no mail address")
        approver.get_by_label("Mail address").fill("isla@tarnquay.example")
        approver.get_by_role("button", name="Add", exact=True).click()
        expect(approver.get_by_role("cell", name="isla@tarnquay.example")).to_be_visible()
        approver.get_by_role("button", name="Editions 1").click()
        approver.get_by_role("button", name="Send edition 1").click()
        approver.get_by_role("button", name="Send edition 1").last.click()
        expect(approver.get_by_text("isla@tarnquay.example: delivered")).to_be_visible()
        approver.get_by_role("button", name="Send edition 1").click()
        approver.get_by_label(re.compile("^Isla")).check()
        approver.get_by_role("button", name="Send edition 1").last.click()
        expect(approver.get_by_role("alert")).to_contain_text("was sent to Isla Corrance already")
        approver.get_by_role("button", name="Send again").click()
        self.until(lambda: Delivery.objects.filter(state="delivered").count() == 2)
        self.assertEqual([len(attachments(m)) for _, _, m in kept.all()], [1, 1])
        self.assertEqual((Recipient.objects.count(), ReviewEvent.objects.filter(kind="asked").count()), (1, 2))

    def test_a_closed_page_without_a_status_is_added_to_and_issued(self) -> None:
        page = self.open("/FERRY/P02/report", "Lorcan")
        page.get_by_role("button", name="Issue", exact=True).click()
        adding = page.get_by_role("group", name="Add to Overall status")
        expect(page.get_by_text("sealed without an overall status")).to_be_visible()
        expect(adding.get_by_label("Stands now at")).to_be_focused()
        adding.get_by_label("Stands now at").select_option("Watch")
        adding.get_by_role("button", name="Add", exact=True).click()
        expect(adding.get_by_role("alert")).to_contain_text("Write what is to be added.")
        adding.get_by_label("What is to be added").fill("The hull came late.")
        adding.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_text(re.compile(r"Added on .* by Lorcan Test: Watch\. The hull came late\."))).to_be_visible()
        page.get_by_role("button", name="Add to Money by WBS").click()
        page.get_by_label("What is to be added").fill("Invoice 5 came after that.")
        page.reload()
        page.get_by_role("button", name="Add to Money by WBS").click()
        expect(page.get_by_label("What is to be added")).to_have_value("Invoice 5 came after that.")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_text(re.compile("by Lorcan Test: Invoice 5 came"))).to_be_visible()
        page.get_by_role("button", name="Issue", exact=True).click()
        expect(page.get_by_text("Edition 1 is issued.")).to_be_visible()

    def test_heads_sections_and_the_workings_of_numbers(self) -> None:
        page = self.open("/FERRY/P03/report", "Lorcan")
        page.get_by_role("button", name="Layout…").click()
        panel = page.get_by_role("region", name="Sections of this project's report")
        panel.get_by_label("Show Indices over the pages").uncheck()
        panel.get_by_role("button", name="Move Money by WBS up").press("Enter")
        panel.get_by_label(re.compile("^Heads beside")).fill("Safety")
        panel.get_by_role("button", name="Save layout").click()
        expect(page.get_by_label("Where Safety stands")).to_be_visible()
        expect(page.get_by_role("region", name="Indices over the pages")).to_have_count(0)
        page.get_by_role("button", name="On plan", exact=True).click()
        page.get_by_role("button", name="Issue", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("Say where Safety stands")
        expect(page.get_by_label("Where Safety stands")).to_be_focused()
        page.get_by_label("Where Safety stands").select_option("act")
        page.get_by_role("button", name="Issue", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("Say why Safety is not on plan")
        page.get_by_role("button", name=re.compile("^Earned value, Last page")).click()
        margin = page.get_by_role("complementary").filter(has=page.get_by_role("heading", name="Earned value"))
        expect(margin).to_contain_text("As of 15 January 2027")
        page.get_by_role("region", name="Money by WBS").get_by_role("button", name=re.compile("^MV Corran Light.*, EV")).first.click()
        expect(page.get_by_role("heading", name="Earned value, this period")).to_be_visible()
        reader = self.open("/FERRY/P03/report", "Maud")
        expect(reader.get_by_text("of the budget is earned")).to_be_visible()
        expect(reader.get_by_role("button", name=re.compile("^(Save|Comment|Add words|Ask for)"))).to_have_count(0)
        expect(reader.get_by_role("button", name="Issue", exact=True)).to_be_disabled()
