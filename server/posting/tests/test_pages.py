"""Pages over the API: the status date tried and moved, notes, closing with the next date, taking a page back, roles."""

import json

from server.book.models import Page, Project, Statement
from server.book.verify import verify
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages"


class Pages(LedgerTest):
    pages = 3

    def figures(self) -> str:
        parts = ("posting", "value", "curve", "timeline", "balance", "report")
        return json.dumps([self.call("get", f"{AT}/now/{part}") | {"revision": 0} for part in parts])

    def move(self, to: str, status: int = 200, page: str = "now") -> dict[str, object]:
        return dict(self.call("patch", f"{AT}/{page}/status", {"revision": self.revision(), "status": to}, status))

    def test_a_status_date_goes_there_and_back(self) -> None:
        self.post_entry("A150", percent="40", cost="123.45")
        before, revision = self.figures(), self.revision()
        was = Page.objects.get(code="P03").status
        tried = self.call("post", f"{AT}/now/status", {"revision": revision, "status": "25 jan"})
        self.assertEqual((self.figures(), self.revision()), (before, revision))
        moved = self.move("25 jan")
        self.assertEqual(
            {k: tried[k] for k in ("status", "comes_due", "moved", "finish", "change")},
            {k: moved[k] for k in ("status", "comes_due", "moved", "finish", "change")},
        )
        self.assertEqual(self.call("get", f"{AT}/now/posting")["status"], "2027-01-25T16:00")
        self.assertNotEqual(self.figures(), before)
        self.move(was)
        self.assertEqual(self.figures(), before)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(Page.objects.get(code="P03").status, "2027-01-25T16:00")

    def test_where_it_can_not_lie_is_said(self) -> None:
        self.post_entry("A150", actual_start="20 jan")
        for to, saying in (
            ("8 jan", "page P02"),
            ("15 jan", "page P02"),
            ("18 jan", "has its actual start"),
            ("", None),
            ("someday", "is not a date"),
        ):
            answer = self.move(to, 400 if to == "" else 422)
            if saying:
                self.assertIn(saying, str(answer["detail"]))
                self.assertEqual(answer["field"], "status")
        self.move("25 jan", 409, page="P01")

    def test_closing_takes_the_next_date_and_a_page_can_be_taken_back(self) -> None:
        self.assertEqual(self.call("get", "projects/FERRY/next-page")["status"], "2027-01-29T16:00")
        self.call("post", f"{AT}/now/close", {"revision": self.revision(), "next": "21 jan"}, 422)
        self.call("post", f"{AT}/now/close", {"revision": self.revision(), "next": "3 feb"})
        self.assertEqual(Page.objects.get(code="P04").status, "2027-02-03T16:00")
        self.post_entry("A150", percent="40")
        self.call("post", f"{AT}/P04/take-back", {"revision": self.revision()}, 409)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.call("post", f"{AT}/P04/take-back", {"revision": self.revision()})["page"], "P03")
        self.assertEqual(list(Page.objects.values_list("code", "state")), [("P01", "dry"), ("P02", "dry"), ("P03", "dry")])
        self.assertEqual(self.call("get", f"{AT}/now/posting")["page"], "P03")
        self.post_entry("A150", percent="40", status=409)
        self.call("post", "projects/FERRY/redo", {"revision": self.revision()}, 409)
        self.call("post", "projects/FERRY/next-page", {"revision": self.revision(), "next": "1 jan"}, 422)
        self.assertEqual(self.call("post", "projects/FERRY/next-page", {"revision": self.revision(), "next": ""})["page"], "P04")
        self.call("post", "projects/FERRY/next-page", {"revision": self.revision()}, 409)
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])

    def test_a_note_is_kept_and_undone(self) -> None:
        note = {"revision": self.revision(), "note": "Quay closed on Tuesday."}
        self.call("patch", f"{AT}/now/note", note)
        self.assertEqual(self.call("get", f"{AT}/now/posting")["note"], "Quay closed on Tuesday.")
        self.call("patch", f"{AT}/now/note", note, 409)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertIsNone(self.call("get", f"{AT}/now/posting")["note"])

    def test_readers_move_nothing(self) -> None:
        self.sign_in("maud")
        revision, before = self.revision(), Statement.objects.count()
        for method, path, body in (
            ("post", "now/status", {"status": "25 jan"}),
            ("patch", "now/status", {"status": "25 jan"}),
            ("patch", "now/note", {"note": "x"}),
            ("post", "now/close", {}),
            ("post", "now/take-back", {}),
        ):
            self.call(method, f"{AT}/{path}", {"revision": revision, **body}, 403)
        self.call("post", "projects/FERRY/next-page", {"revision": revision}, 403)
        self.assertEqual((self.revision(), Statement.objects.count()), (revision, before))

    def test_a_rhythm_is_typed_and_proposes(self) -> None:
        project = self.call("get", "projects/FERRY/about")["project"]
        self.assertEqual(project["rhythm"], "")

        def say(text: str, status: int = 200) -> None:
            verbs = [{"do": "set", "row": project["id"], "cells": {"rhythm": text}}]
            self.call("post", "projects/FERRY/plan/changes", {"revision": self.revision(), "preview": False, "verbs": verbs}, status)

        say("every month on the last working day")
        self.assertEqual(self.call("get", "projects/FERRY/about")["project"]["rhythm"], "every month on the last working day")
        self.assertEqual(self.call("get", "projects/FERRY/next-page")["status"], "2027-02-26T16:00")
        say("now and then", 422)
        say("")
        self.assertEqual(self.call("get", "projects/FERRY/next-page")["status"], "2027-01-29T16:00")
