"""A request by mail, there and back: the sheet goes out with what is asked, is sent back, and comes in by the inbox."""

import smtplib
import tempfile
from email.message import EmailMessage
from pathlib import Path

from django.conf import settings

from server.asking.inbox import read_inbox
from server.asking.models import Answer, Request
from server.asking.tests.test_asking import AT, AskingTest
from server.shared.files import XLSX
from server.tests.outbox import WithOutbox
from stand_ins.outbox import OWN, attachments


class Mail(WithOutbox, AskingTest):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.inbox = Path(folder.name)
        super().setUp()

    def back(self, sheet: bytes, to: str = OWN, name: str = "filled in.xlsx") -> None:
        """Somebody answers the mail with a file."""
        message = EmailMessage()
        message["From"], message["To"], message["Subject"] = "wim@tarnquay.example", to, "Re: how far"
        message.set_content("Attached.")
        main, sub = XLSX.split("/")
        message.add_attachment(sheet, maintype=main, subtype=sub, filename=name)
        with smtplib.SMTP("127.0.0.1", self.port) as server:
            server.send_message(message)

    def test_the_sheet_goes_out_and_comes_back_by_mail(self) -> None:
        asked = self.ask("Wim Carrow")
        self.assertEqual(asked["requests"][0]["sent"], "accepted by the mail server")
        (_, state, message), *_ = self.kept.all()
        self.assertEqual((state, message["To"]), ("delivered", "Wim Carrow <wim@tarnquay.example>"))
        self.assertIn("how far is it, to 29 Jan 2027?", message["Subject"])
        body = message.get_body().get_content()  # type: ignore[union-attr]
        self.assertIn("by 28 Jan 2027", " ".join(body.split()))
        sheet, paper = attachments(message)
        self.assertEqual((sheet.get_filename(), paper.get_filename()), ("FERRY P04 Wim Carrow.xlsx", "FERRY P04 Wim Carrow.pdf"))
        self.assertTrue((paper.get_payload(decode=True) or b"").startswith(b"%PDF"))  # type: ignore[union-attr]
        filled = self.sheet("Wim Carrow", lambda page, heads, lines: page.cell(lines[0], heads["Days left"], "2,5"))
        self.back(filled)
        self.back(filled, to="somebody@else.example")  # not for the application
        self.back(b"no workbook", name="note.txt")
        assert self.inbox is not None
        self.assertEqual(len(list(self.inbox.glob("*.xlsx"))), 1)
        (line,) = read_inbox(self.inbox)
        self.assertIn("Wim Carrow, page P04: 1 answers.", line)
        self.assertEqual(Answer.objects.get().cells, {"remaining": "2.5"})

    def test_who_is_not_there_and_an_outbox_that_is_away_are_told(self) -> None:
        whom = [{"name": "Wim Carrow", "email": "gone.carrow@tarnquay.example"}]
        self.assertIn("550", self.call("post", AT, {"whom": whom})["requests"][0]["sent"])
        self.stop()
        request = Request.objects.get()
        told = self.call("post", f"{AT}/remind", {"requests": [request.pk]})["requests"][0]
        self.assertIn("does not answer", told["sent"])
        self.assertIsNotNone(told["reminded"])

    def test_a_reminder_says_that_it_is_one(self) -> None:
        asked = self.ask("Joss Amberley")
        self.call("post", f"{AT}/remind", {"requests": [asked["requests"][0]["id"]]})
        (_, _, latest), (_, _, first) = self.kept.all()
        self.assertTrue(latest["Subject"].startswith("Reminder: "))
        self.assertFalse(first["Subject"].startswith("Reminder"))
        self.assertIn(settings.OUTBOX_FROM, latest["From"])

    def test_the_inbox_is_read_from_the_tray(self) -> None:
        self.ask("Joss Amberley")
        with self.settings(INBOX=self.inbox):
            self.back(self.sheet("Joss Amberley", lambda page, heads, lines: page.cell(lines[0], heads["Days left"], 4)))
            self.assertEqual(self.tray()["inbox"], 1)
            self.assertEqual(len(self.call("post", f"{AT}/inbox")["lines"]), 1)
            self.assertEqual((self.tray()["inbox"], len(self.tray()["tray"])), (0, 1))
