"""Checks over the API: the list, answers and their end, limits, signs, CSV, and what stops a page from closing."""

import csv
import io

from server.book.models import Answer, Page, Project
from server.book.verify import verify
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages/now"


class Checks(LedgerTest):
    pages = 3

    def list(self) -> dict[str, dict[str, object]]:
        found = self.call("get", f"{AT}/checks")
        return {c["check"]: c for c in found["checks"]}

    def impossible(self) -> str:
        """An activity at 100 % that is not finished."""
        self.post_entry("A150", actual_start="20 jan", percent="100")
        return "A150"

    def answer(self, row: str, status: int = 200, **more: str) -> dict[str, object]:
        entry = {"check": "full_not_finished", "row": row, "text": "papers to come", **more}
        return dict(self.call("patch", f"{AT}/checks/answers", {"revision": self.revision(), "entries": [entry]}, status))

    def test_a_page_is_not_closed_with_what_cannot_be_true(self) -> None:
        row = self.impossible()
        found = self.list()["full_not_finished"]
        self.assertEqual((found["severity"], found["open"]), ("error", 1))
        self.assertTrue(found["rows"][0]["new"])  # type: ignore[index]
        no = self.call("post", f"{AT}/close", {"revision": self.revision()}, 409)
        self.assertIn("(A150) at 100 % without a finish", no["detail"])
        self.assertEqual(Page.objects.get(code="P03").state, "wet")
        self.answer(row, until="P04")
        signs = self.call("get", f"{AT}/checks/signs")
        self.assertEqual((signs["impossible"], self.list()["full_not_finished"]["open"]), (0, 0))
        self.call("post", f"{AT}/close", {"revision": self.revision()})
        self.assertEqual(self.list()["full_not_finished"]["open"], 0)  # P04: good until here
        self.assertIn("papers to come", str(self.call("get", "projects/FERRY/pages/P03/checks")))
        self.call("post", f"{AT}/close", {"revision": self.revision()})
        self.assertEqual(self.list()["full_not_finished"]["open"], 1)  # P05: it comes back
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])
        self.assertEqual(Answer.objects.get().by, "Ines Test")

    def test_an_answer_is_undone_and_taken_back(self) -> None:
        row = self.impossible()
        self.answer(row)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.list()["full_not_finished"]["open"], 1)
        self.answer(row)
        self.call("post", f"{AT}/close", {"revision": self.revision()})
        self.answer(row, text="")
        self.assertEqual(self.list()["full_not_finished"]["open"], 1)
        self.assertEqual(Answer.objects.get().until, "P03")  # what is sealed with P03 stays true there

    def test_what_an_answer_must_say(self) -> None:
        row = self.impossible()
        for more, field in (
            ({"text": "  "}, "text"),
            ({"text": "x" * 5000}, "text"),
            ({"until": "P01"}, "until"),
            ({"until": "next week"}, "until"),
        ):
            with self.subTest(more):
                no = self.answer(**{"row": row, "status": 422, **more})  # type: ignore[arg-type]
                self.assertEqual(no["field"], field)
        for more in ({"check": "lead"}, {"row": "A999"}):
            self.answer(**{"row": row, "status": 409, **more})  # type: ignore[arg-type]
        self.assertEqual(Answer.objects.count(), 0)
        self.sign_in("maud")
        self.answer(row, 403)

    def test_limits_are_the_projects(self) -> None:
        self.call("patch", "projects/FERRY/limits", {"revision": self.revision(), "duration": "3"})
        self.assertGreater(len(self.list()["long_duration"]["rows"]), 5)  # type: ignore[arg-type]
        for wrong in ("-1", "soon", "1e9"):
            no = self.call("patch", "projects/FERRY/limits", {"revision": self.revision(), "lag": wrong}, 422)
            self.assertEqual(no["field"], "lag")
        self.call("patch", "projects/FERRY/limits", {"revision": self.revision(), "duration": ""})
        self.assertIsNone(Project.objects.get(code="FERRY").limits)

    def test_the_quality_of_the_plan_as_csv(self) -> None:
        answer = self.client.get(f"/api/{AT}/checks/quality.csv")
        rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
        shown = self.call("get", f"{AT}/checks")["quality"]
        self.assertEqual([(r["Criterion"], int(r["Caught"])) for r in rows], [(q["says"], q["caught"]) for q in shown])
