"""The journal: one step an action, nothing left behind by an error, undo and redo in order."""

from server.accounts.models import Person
from server.book.access import Access
from server.book.cache import LruCache
from server.book.models import Project, Statement
from server.book.workspace import workspace_of
from server.journal.models import Step
from server.journal.steps import step
from server.posting.actions import undo_or_redo_entry
from server.shared.problems import Stale
from server.tests.base import LedgerTest
from server.timeline.lines import keep_lines


class Journal(LedgerTest):
    def undo(self, status: int = 200) -> dict[str, object]:
        return self.call("post", "projects/FERRY/undo", {"revision": self.revision()}, status)  # type: ignore[no-any-return]

    def redo(self, status: int = 200) -> dict[str, object]:
        return self.call("post", "projects/FERRY/redo", {"revision": self.revision()}, status)  # type: ignore[no-any-return]

    def percent(self) -> float | None:
        row = Statement.objects.filter(page__state="wet", activity__code="A150").first()
        return float(row.percent) if row and row.percent is not None else None

    def test_an_error_leaves_nothing_behind(self) -> None:
        before, person = self.percent(), Person.objects.get(username="ines")
        with self.assertRaises(RuntimeError), step(Access(person, self.project, person.role), self.revision(), "post", "half done") as s:
            row = Statement.objects.get(page__state="wet", activity__code="A150")
            row.percent = 99
            s.save(row)
            raise RuntimeError
        self.assertEqual((self.percent(), Step.objects.count(), self.revision()), (before, 0, 1))

    def test_who_read_the_book_before_another_wrote_neither_writes_over_it_nor_publishes_without_it(self) -> None:
        person, revision = Person.objects.get(username="ines"), self.revision()
        early, other = (Access(person, Project.objects.get(code="FERRY"), "analyst") for _ in range(2))
        for x in (early, other):
            self.assertEqual(workspace_of(x.project).revision, revision)
        row = next(r["id"] for r in self.call("get", "projects/FERRY/plan")["rows"] if r["code"] == "A150")
        verbs = [{"do": "set", "row": row, "cells": {"name": "Renamed meanwhile"}}]
        self.call("post", "projects/FERRY/plan/changes", {"revision": revision, "verbs": verbs})
        with self.assertRaises(Stale):
            keep_lines(early, "now", revision + 1, "15 jan")
        self.post_entry("A150", percent="31")
        undo_or_redo_entry(other, revision + 2, back=True)
        held = workspace_of(Project.objects.get(code="FERRY"))
        LruCache.forget_all()
        self.assertEqual(held.book, workspace_of(Project.objects.get(code="FERRY")).book)

    def test_undo_and_redo_go_back_and_forth_in_order(self) -> None:
        first = self.percent()
        for text in ("31", "32", "33"):
            self.post_entry("A150", percent=text)
        for expected in (32, 31, first):
            self.undo()
            self.assertEqual(self.percent(), expected)
        self.assertEqual(self.undo(409)["code"], "nothing-to-undo")
        for expected in (31, 32):
            self.redo()
            self.assertEqual(self.percent(), expected)
        self.post_entry("A150", percent="50")
        self.assertEqual(self.redo(409)["code"], "nothing-to-redo")
        self.undo()
        self.assertEqual(self.percent(), 32)

    def test_a_cleared_statement_comes_back_whole(self) -> None:
        self.post_entry("A150", percent="44", note="as it was", cost="12.50")
        sheet = self.call("get", "projects/FERRY/pages/now/posting")["rows"]
        effect = self.call("patch", "projects/FERRY/pages/now/posting/entries", {"revision": self.revision(), "clear": ["A150"]})
        self.assertEqual(effect["subject"], "A150")
        self.assertIsNone(self.percent())
        self.undo()
        self.assertEqual(self.call("get", "projects/FERRY/pages/now/posting")["rows"], sheet)

    def test_who_did_what(self) -> None:
        self.post_entry("A150", percent="44")
        self.sign_in("tobin")
        self.post_entry("A150", cost="100")
        steps = self.call("get", "projects/FERRY/journal")["steps"]
        self.assertEqual(
            [(s["by"], s["subject"], s["undone"]) for s in steps], [("Tobin Test", "A150", False), ("Ines Test", "A150", False)]
        )
        self.assertIn("44 %", steps[1]["label"])
        self.undo()
        self.assertTrue(self.call("get", "projects/FERRY/journal")["steps"][0]["undone"])

    def test_two_people_undo_their_own_steps_and_are_told_whose_stands_in_the_way(self) -> None:
        first = self.percent()
        self.post_entry("A150", percent="44")
        self.sign_in("tobin")
        self.assertEqual(self.undo(409)["detail"], "There is nothing of yours to undo.")
        self.post_entry("A160", note="theirs")
        self.sign_in("ines")
        self.assertIn("44 %", str(self.undo()["label"]))
        self.assertEqual(self.percent(), first)
        note = Statement.objects.get(page__state="wet", activity__code="A160").note
        self.assertEqual(note, "theirs")
        self.redo()
        self.sign_in("tobin")
        self.post_entry("A150", percent="50")
        self.sign_in("ines")
        self.assertIn("Tobin Test did since: “", str(self.undo(409)["detail"]))
        self.assertEqual(self.percent(), 50)

    def test_an_undo_that_would_leave_no_book_is_refused(self) -> None:
        def change(*verbs: dict[str, object]) -> None:
            self.call("post", "projects/FERRY/plan/changes", {"revision": self.revision(), "verbs": list(verbs)})

        rows = {r["code"]: r["id"] for r in self.call("get", "projects/FERRY/plan")["rows"]}
        there = next(r for r in self.call("get", "projects/FERRY/plan")["rows"] if r["code"] == "A170")["after"]
        self.assertIn("A150", there)
        change({"do": "set", "row": rows["A170"], "cells": {"after": ""}})
        self.sign_in("tobin")
        change({"do": "add", "list": "links", "from": rows["A170"], "to": rows["A150"], "cells": {"type": "FS"}})
        self.sign_in("ines")
        self.assertIn("Tobin Test", str(self.undo(409)["detail"]))
        self.call("get", "projects/FERRY/pages/now/posting")

    def test_the_words_of_a_report_can_be_undone(self) -> None:
        self.call(
            "put", "projects/FERRY/pages/now/report", {"revision": self.revision(), "status": "watch", "reason": "Late.", "words": ""}
        )
        self.undo()
        draft = self.call("get", "projects/FERRY/pages/now/report")["draft"]
        self.assertEqual(draft, {"status": "", "reason": "", "words": "", "texts": {}, "heads": {}, "sealed": "", "added": []})
