"""Posting over the API: what an entry changes, what is refused, undo, stale writes, dry pages, roles."""

import json

from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.results import results_document
from server.book.documents import book_document
from server.book.lookup import find_page
from server.book.models import HoursEntry, Page, Project, Statement
from server.book.results import view_of
from server.book.verify import verify
from server.book.workspace import workspace_of
from server.posting.sheet import SHEET, sheet
from server.tests.base import LedgerTest, entry


class Posting(LedgerTest):
    pages = 3

    def figures(self) -> str:
        """Everything a page shows, as one text."""
        return json.dumps(
            [
                self.call("get", f"projects/FERRY/pages/now/{part}") | {"revision": 0}
                for part in ("posting", "value", "curve", "timeline", "balance", "report")
            ]
        )

    def test_an_entry_moves_its_row_its_successors_and_the_totals_and_undo_brings_all_back(self) -> None:
        before = self.figures()
        self.post_entry("A150", percent="40")
        effect = self.post_entry("A150", remaining="12 days")
        row = next(r for r in effect["rows"] if r["code"] == "A150")
        self.assertEqual((row["entry"]["percent"], row["entry"]["remaining"]), (40.0, "12d"))
        self.assertIn("A170", {m["code"] for m in effect["moved"]})
        after = self.figures()
        self.assertNotEqual(before, after)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.figures(), before)
        self.call("post", "projects/FERRY/redo", {"revision": self.revision()})
        self.call("post", "projects/FERRY/redo", {"revision": self.revision()})
        self.assertEqual(self.figures(), after)
        self.call("post", "projects/FERRY/redo", {"revision": self.revision()}, 409)

    def test_screens_equal_the_command_line(self) -> None:
        self.post_entry("A150", percent="40", remaining="6d", cost="123.45")
        project = Project.objects.get(code="FERRY")
        outside = results_document(compute(book_from(json.loads(json.dumps(book_document(project))))))
        shown = self.call("get", "projects/FERRY/pages/now/value")
        for row, m in zip([r for r in shown["rows"] if r["kind"] == "wbs"], outside["value"]["wbs"], strict=True):  # type: ignore[index]
            self.assertEqual(
                row["figures"] | {"eac": None},
                {k: None if m[k] is None else str(m[k]) for k in ("bac", "pv", "ev", "ac", "sv", "cv", "spi", "cpi")} | {"eac": None},
            )
        self.assertEqual(results_document(compute(workspace_of(project).book)), outside)

    def test_refused_in_words_at_the_cell_and_nothing_is_written(self) -> None:
        before = self.figures()
        for code, field, text, words in (
            ("A150", "actual_start", "1 mar", "after this page's status date"),
            ("A150", "percent", "140", "Give 0 to 100"),
            ("A150", "percent", "lots", "not a number"),
            ("A150", "remaining", "x", "not a duration"),
            ("A150", "actual_finish", "4 jan", "before the start"),
            ("A150", "cost", "1.9999", "smaller"),
            ("A150", "cost", "1.999", "can be read as 1999"),
            ("A150", "actual_start", "32 jan", "not a date"),
        ):
            problem = self.post_entry(code, 422, **{field: text})
            self.assertEqual(problem["field"], field)
            self.assertIn(words, problem["detail"])
        self.post_entry("A150", 422, note="x" * 5000)
        self.post_entry("NONE", 404, percent="4")
        self.assertEqual(self.figures(), before)

    def test_several_rows_are_one_step_written_together_or_not_at_all(self) -> None:
        before = self.figures()
        rows = [{"activity": "A150", "percent": "40"}, {"activity": "A170", "percent": "lots"}]
        refused = self.call("patch", "projects/FERRY/pages/now/posting/entries", {"revision": self.revision(), "entries": rows}, 422)
        self.assertEqual((refused["row"], refused["field"]), ("A170", "percent"))
        self.assertEqual(self.figures(), before)
        rows[1] = {"activity": "A170", "percent": "10", "cost": "12.50"}
        effect = self.call("patch", "projects/FERRY/pages/now/posting/entries", {"revision": self.revision(), "entries": rows})
        self.assertEqual(effect["label"], "posted 2 rows")
        self.assertEqual({r["code"] for r in effect["rows"] if r["posted"]} & {"A150", "A170"}, {"A150", "A170"})
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.figures(), before)
        empty = [{"activity": "A150"}]
        self.call("patch", "projects/FERRY/pages/now/posting/entries", {"revision": self.revision(), "entries": empty}, 400)

    def test_a_start_is_taken_from_the_plan_and_said(self) -> None:
        effect = self.post_entry("A170", percent="10")
        self.assertIn("is assumed", effect["filled"][0])
        self.assertTrue(next(r for r in effect["rows"] if r["code"] == "A170")["entry"]["actual_start"])

    def test_progress_that_falls_is_written_and_said(self) -> None:
        self.post_entry("A170", percent="31")
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()})
        effect = self.post_entry("A170", percent="5")
        self.assertIn("5 % is less than the 31 % of the page before", effect["filled"][0])
        self.assertEqual(self.post_entry("A170", percent="40")["filled"], [])

    def test_a_finish_makes_it_complete(self) -> None:
        row = next(r for r in self.post_entry("A150", actual_finish="22 jan")["rows"] if r["code"] == "A150")
        self.assertEqual((row["state"], row["percent_now"]), ("complete", 100.0))
        self.post_entry("A150", 422, percent="60")
        row = next(r for r in self.post_entry("A150", actual_finish="")["rows"] if r["code"] == "A150")
        self.assertEqual(row["state"], "in_progress")

    def test_all_done_asks_for_its_finish(self) -> None:
        row = next(r for r in self.post_entry("A150", percent="100")["rows"] if r["code"] == "A150")
        self.assertEqual(row["asks"], ["actual_finish"])

    def test_a_stale_write_is_told_what_changed(self) -> None:
        seen = self.revision()
        self.post_entry("A150", percent="30")
        self.sign_in("tobin")
        problem = self.post_entry("A150", 409, revision=seen, percent="70")
        self.assertEqual(problem["code"], "stale")
        self.assertEqual((problem["changes"][0]["by"], problem["changes"][0]["subject"]), ("Ines Test", "A150"))
        self.assertEqual(Statement.objects.get(page__state="wet", activity__code="A150").percent, "30")

    def test_a_sheet_says_the_revision_that_it_is_made_of(self) -> None:
        """Also where somebody made it who came before the last write, and it is kept for those who come after."""
        early = Project.objects.get(code="FERRY")
        self.post_entry("A150", percent="41")
        workspace_of(early).memo.take(SHEET)
        sheet(view_of(early, find_page(early, "now")))
        self.assertEqual(self.call("get", "projects/FERRY/pages/now/posting")["revision"], self.revision())
        self.assertGreater(self.revision(), early.revision)

    def test_post_to_plan_is_one_step(self) -> None:
        Statement.objects.filter(page__state="wet").delete()
        HoursEntry.objects.filter(page__state="wet").delete()
        Page.objects.filter(state="wet").update(revision=99)
        Project.objects.update(revision=50)
        before = self.figures()
        tried = self.call("post", "projects/FERRY/pages/now/posting/planned", {"revision": 50})
        self.assertEqual(self.figures(), before)
        effect = self.call("patch", "projects/FERRY/pages/now/posting/planned", {"revision": 50})
        self.assertEqual((tried["moved"], tried["change"]), (effect["moved"], effect["change"]))
        self.assertGreater(effect["posted"], 3)
        self.assertEqual(
            effect["to_go"],
            0,
            [r["code"] for r in self.call("get", "projects/FERRY/pages/now/posting")["rows"] if r["wants"] and not r["posted"]],
        )
        self.call("post", "projects/FERRY/undo", {"revision": 51})
        self.assertEqual(self.figures(), before)
        only = self.call("patch", "projects/FERRY/pages/now/posting/planned", {"revision": 52, "activities": ["A150"]})
        self.assertEqual(only["posted"], 1)


class Pages(LedgerTest):
    def test_closing_seals_and_opens_the_next(self) -> None:
        wet = self.call("get", "projects/FERRY/pages/P02/value")
        revision = self.revision()
        closed = self.call("post", "projects/FERRY/pages/P02/close", {"revision": revision})
        self.assertEqual(closed, {"page": "P03", "revision": revision + 1})
        pages = self.call("get", "projects/FERRY")["pages"]
        self.assertEqual(
            [(p["code"], p["status"], p["state"]) for p in pages][1:],
            [("P02", "2027-01-15T16:00", "dry"), ("P03", "2027-01-22T16:00", "wet")],
        )
        self.assertEqual(self.call("get", "projects/FERRY/pages/P02/value"), wet)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()}, 409)
        self.post_entry("A150", percent="50")
        self.assertEqual(self.call("get", "projects/FERRY/pages/P02/value"), wet)
        self.assertEqual(verify(self.project).wrong, [])

    def test_no_request_changes_a_dry_page(self) -> None:
        before = self.call("get", "projects/FERRY/pages/P01/posting")
        rev = self.revision()
        self.post_entry("A110", 409, page="P01", percent="50")
        self.call("patch", "projects/FERRY/pages/P01/posting/entries", {"revision": rev, "clear": ["A110"]}, 409)
        self.call("patch", "projects/FERRY/pages/P01/posting/planned", {"revision": rev}, 409)
        self.call("patch", "projects/FERRY/pages/P01/posting/carry", {"revision": rev, "to": "1 feb"}, 409)
        self.call("patch", "projects/FERRY/pages/P01/treatments", {"revision": rev, "treatment": "override"}, 409)
        self.call("post", "projects/FERRY/pages/P01/close", {"revision": rev}, 409)
        self.call("put", "projects/FERRY/pages/P01/report", {"revision": rev, "status": "act", "reason": "x", "words": ""}, 409)
        self.assertEqual(self.call("get", "projects/FERRY/pages/P01/posting"), before)

    def test_a_change_behind_the_seal_is_found(self) -> None:
        Statement.objects.filter(page__code="P01", activity__code="A110").update(percent=1)
        self.assertEqual(len(verify(self.project).wrong), 1)
        page = Page.objects.get(code="P01")
        page.digest = "0" * 64
        page.save()
        self.assertEqual(len(verify(self.project).wrong), 2)


class Guards(LedgerTest):
    def test_a_reader_cannot_write(self) -> None:
        self.sign_in("maud")
        rev = self.revision()
        self.post_entry("A150", 403, percent="50")
        for path, body in (
            ("pages/now/posting/planned", {}),
            ("pages/now/posting/carry", {"to": "1 feb"}),
            ("undo", {}),
            ("redo", {}),
            ("pages/now/close", {}),
            ("pages/now/report/issue", {}),
        ):
            self.call("post", f"projects/FERRY/{path}", {"revision": rev, **body}, 403)
        self.call("put", "projects/FERRY/pages/now/report", {"revision": rev, "status": "", "reason": "", "words": ""}, 403)
        self.assertEqual(self.revision(), rev)

    def test_nobody_signed_out_sees_anything(self) -> None:
        self.client.logout()
        for path in (
            "projects",
            "projects/FERRY",
            *(
                f"projects/FERRY/pages/P01/{p}"
                for p in (
                    "posting",
                    "value",
                    "curve",
                    "balance",
                    "timeline",
                    "report",
                    "working?measure=ev",
                    "activities/A110",
                    "report/editions/draft.html",
                    "report/editions/1.pdf",
                )
            ),
            "projects/FERRY/journal",
        ):
            self.call("get", path, status=401)
        self.post_entry_signed_out()

    def post_entry_signed_out(self) -> None:
        self.call("patch", "projects/FERRY/pages/P02/posting/entries", entry(1, "A150", percent="4"), 401)
        self.call("post", "session", {"username": "ines"}, 400)
        self.call("post", "session", {"username": "ines", "password": "wrong"}, 400)
        self.assertEqual(self.call("post", "session", {"username": "ines", "password": "a long secret"})["person"]["role"], "analyst")

    def test_demo_people_only_in_demo_mode(self) -> None:
        self.client.logout()
        self.assertEqual(self.call("get", "session")["demo_people"], [])
        with self.settings(DEMO=True):
            self.assertEqual(len(self.call("get", "session")["demo_people"]), 4)
            self.call("post", "session", {"username": "maud"})

    def test_bad_requests_get_problems_not_tracebacks(self) -> None:
        for path, body in (
            ("projects/FERRY/undo", {}),
            ("projects/FERRY/undo", {"revision": "x"}),
            ("projects/FERRY/pages/now/posting/planned", []),
            ("projects/FERRY/pages/now/posting/planned", {"revision": 1, "activities": "A"}),
        ):
            self.assertIn("detail", self.call("post", path, body, 400))
        self.call("get", "projects/NONE", status=404)
        self.call("get", "projects/FERRY/pages/P99/value", status=404)
        self.call("get", "projects/FERRY/pages/P01/working?measure=nonsense", status=404)
        self.call("get", "projects/FERRY/pages/P01/curve?bucket=hour", status=400)
        self.call("get", "nothing/here", status=404)
        self.post_entry("A150", 400)


class Whole(LedgerTest):
    """The demo with all its pages."""

    pages = None

    def test_the_page_is_posted_as_planned_and_closed_without_mending(self) -> None:
        def impossible() -> int:
            found: int = self.call("get", "projects/FERRY/pages/now/checks")["impossible"]
            return found

        self.assertEqual(impossible(), 1)  # the demo's own: hours to go on work that is finished
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()}, 409)
        self.call("patch", "projects/FERRY/pages/now/posting/planned", {"revision": self.revision()})
        self.assertEqual(impossible(), 0)
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()})

    def test_a_finish_brings_no_remaining_hours_with_it(self) -> None:
        self.post_entry("A330", actual_finish="11 mar")
        left = HoursEntry.objects.filter(page__state="wet", activity__code="A330").values_list("to_go", flat=True)
        self.assertEqual(set(left), {"0min"})
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertNotEqual(set(left.all()), {"0min"})
