"""Reports: a reason is needed, an edition never changes, HTML and PDF say the same."""

import io
import subprocess

from server.book.models import Project
from server.report.models import Edition
from server.tests.base import LedgerTest


class Reports(LedgerTest):
    pages = 3

    def write(self, status: str, reason: str = "", words: str = "") -> None:
        self.call(
            "put", "projects/FERRY/pages/now/report", {"revision": self.revision(), "status": status, "reason": reason, "words": words}
        )

    def issue(self, status: int = 200) -> dict[str, str]:
        answer: dict[str, str] = self.call("post", "projects/FERRY/pages/now/report/issue", {"revision": self.revision()}, status)
        return answer

    def get(self, name: str) -> bytes:
        answer = self.client.get(f"/api/projects/FERRY/pages/P03/report/editions/{name}")
        self.assertEqual(answer.status_code, 200)
        return answer.content

    def test_a_reason_is_needed_unless_on_plan(self) -> None:
        self.sign_in("lorcan")
        self.assertEqual(self.issue(422)["field"], "status")
        self.write("watch")
        self.assertEqual(self.issue(422)["field"], "reason")
        self.write("watch", "Class comments came late.")
        self.assertEqual(self.issue()["status"], "watch")

    def test_an_analyst_writes_and_an_approver_issues(self) -> None:
        self.write("on_plan")
        self.issue(403)

    def test_an_edition_never_changes(self) -> None:
        self.sign_in("lorcan")
        self.write("act", "<script>alert(1)</script> late", "First words, édition № 1.")
        self.issue()
        html, pdf = self.get("1.html"), self.get("1.pdf")
        self.assertNotIn(b"<script>", html)
        self.post_entry("A150", percent="90")
        self.write("on_plan")
        self.issue()
        self.assertEqual((self.get("1.html"), self.get("1.pdf")), (html, pdf))
        self.assertNotEqual(self.get("2.html"), html)
        self.assertEqual(Edition.objects.count(), 2)
        edition = Edition.objects.get(number=1)
        with self.assertRaises(TypeError):
            edition.save()

    def test_html_and_pdf_say_the_same_on_a4(self) -> None:
        self.write("watch", "Battery room drawings slipped.", "Next week the yard opens.")
        html = self.get("draft.html").decode()
        text = subprocess.run(
            ["pdftotext", "-layout", "-", "-"], input=self.get("draft.pdf"), capture_output=True, check=True
        ).stdout.decode()
        info = subprocess.run(["pdfinfo", "-"], input=self.get("draft.pdf"), capture_output=True, check=True).stdout.decode()
        self.assertIn("(A4)", info)
        report = self.call("get", "projects/FERRY/pages/now/report")
        for said in (
            "Battery room drawings slipped.",
            "Next week the yard opens.",
            *(m["name"] for m in report["milestones"]),
            *(w["name"] for w in report["worked_on"]),
            *(w["name"] for w in report["coming_next"]),
        ):
            self.assertIn(said, html)
            self.assertIn(said.split()[0], text)
        self.assertIn("Corrie and Vane design office", html)
        self.assertGreater(len(io.BytesIO(self.get("draft.pdf")).getvalue()), 10_000)
        self.assertEqual(Project.objects.count(), 1)
