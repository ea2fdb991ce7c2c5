"""What-if copies, retired projects, groups, deleting: over requests, with every sum of the desk looked at byte for byte."""

from datetime import date
from typing import Any
from unittest.mock import patch

from server.book.models import Page, Project
from server.tests.base import LedgerTest

EVERYWHERE = ("desk/statistics", "desk/curve", "desk/people", "desk/people?bucket=day")
FILES = ("/api/desk.csv", "/api/projects/FERRY/export/book.json")


class Standings(LedgerTest):
    pages = 3

    def all(self) -> tuple[Any, ...]:
        desk = self.call("get", "projects")
        files = tuple(self.client.get(path).content for path in FILES)
        return (desk["sums"], desk["late"], *(self.call("get", path) for path in EVERYWHERE), *files)

    def copy(self, **more: Any) -> str:
        body = {"name": "What if", "code": "WHAT", "source": "copy", "of": "FERRY", "what_if": True, "progress": True} | more
        code: str = self.call("post", "projects", body)["code"]
        return code

    def line(self, code: str) -> dict[str, Any]:
        return next(p for p in self.call("get", "projects")["projects"] if p["code"] == code)

    def test_a_copy_made_changed_and_thrown_away_leaves_every_sum_and_export_as_it_was(self) -> None:
        self.sign_in("lorcan")
        resource = self.call("get", "projects/FERRY/plan/lists")["resources"][1]["id"]
        self.call("post", "resources", {"project": "FERRY", "row": resource, "code": "ELE"})
        before = self.all()
        self.copy()
        self.assertEqual((self.line("WHAT")["standing"], self.line("WHAT")["copy_of"]), ("what_if", "FERRY"))
        self.assertEqual(self.all(), before)
        plan = self.call("get", "projects/WHAT/plan")
        row = next(r["id"] for r in plan["rows"] if r["code"] == "A700")
        change = {"revision": plan["revision"], "verbs": [{"do": "set", "row": row, "cells": {"duration": "90d"}}]}
        self.call("post", "projects/WHAT/plan/changes", change)
        self.assertEqual(self.all(), before)
        Page.objects.filter(project__code="WHAT", state="dry").delete()  # else it can't go
        self.call("post", "projects/WHAT/delete", {"code": "WHAT"}, 204)
        self.assertEqual(self.all(), before)
        self.call("get", "projects/WHAT", status=404)

    def test_made_real_it_counts_and_retired_it_does_not(self) -> None:
        self.sign_in("lorcan")
        self.copy(progress=False, start="2027-01-04")
        before = self.call("get", "projects")["sums"]
        self.call("post", "projects/WHAT/standing", {"standing": "real"})
        self.assertNotEqual(self.call("get", "projects")["sums"], before)
        self.call("post", "projects/FERRY/standing", {"standing": "retired"})
        self.assertEqual(self.line("FERRY")["standing"], "retired")
        self.assertEqual([p["code"] for p in self.call("get", "desk/statistics")["projects"]], ["WHAT"])
        self.call("post", "projects/FERRY/standing", {"standing": "what_if"}, 400)
        self.sign_in("ines")
        self.assertFalse(self.line("WHAT")["may_stand"])
        self.call("post", "projects/FERRY/standing", {"standing": "real"}, 403)
        self.call("post", "projects/WHAT/delete", {"code": "WHAT"}, 403)

    def test_what_holds_a_dry_page_or_is_waited_for_is_not_deleted(self) -> None:
        self.sign_in("lorcan")
        told = self.call("post", "projects/FERRY/delete", {"code": "FERRY"}, 409)
        self.assertIn("2 dry pages", told["detail"])
        self.assertIn("retired", told["detail"])
        self.copy(progress=False)
        self.assertEqual(self.call("post", "projects/WHAT/delete", {"code": "WHAT?"}, 422)["field"], "code")
        plan = self.call("get", "projects/FERRY/plan")
        row = next(r for r in plan["rows"] if r["code"] == "A700")
        cells = {"after": f"{row['after']}; WHAT/A100"}
        change = {"revision": plan["revision"], "verbs": [{"do": "set", "row": row["id"], "cells": cells}]}
        self.call("post", "projects/FERRY/plan/changes", change)
        self.assertIn("FERRY waits", self.call("post", "projects/WHAT/delete", {"code": "WHAT"}, 409)["detail"])
        self.assertTrue(Project.objects.filter(code="WHAT").exists())

    def test_groups_and_shared_views(self) -> None:
        self.assertEqual(self.call("put", "projects/FERRY/place", {"place": " Fleet/  Big refits /"})["place"], "Fleet / Big refits")
        self.assertEqual(self.line("FERRY")["place"], "Fleet / Big refits")
        self.call("put", "projects/FERRY/place", {"place": "x" * 400}, 422)
        self.call("put", "desk/views", {"name": "Ours", "group": "place", "shared": True})
        self.call("put", "desk/views", {"name": "Mine"})
        self.sign_in("maud")
        views = self.call("get", "projects")["views"]
        self.assertEqual([(v["name"], v["shared"], v["by"]) for v in views], [("Ours", True, "Ines Test")])
        self.call("put", "projects/FERRY/place", {"place": "A"}, 403)

    def test_a_group_has_the_sums_of_what_counts_in_it(self) -> None:
        self.copy()
        whole = self.call("get", "projects")["sums"]
        found = self.call("post", "desk/sums", {"groups": [["FERRY", "WHAT", "GONE"], ["WHAT"], []]})["groups"]
        self.assertEqual(found, [whole, [], []])

    def test_a_page_that_is_due_says_so(self) -> None:
        self.assertFalse(self.line("FERRY")["page_due"])
        self.assertFalse(any(p["due"] for p in self.call("get", "projects/FERRY")["pages"]))
        with patch("server.desk.selectors.localdate", return_value=date(2027, 6, 1)):
            self.assertTrue(self.line("FERRY")["page_due"])
            pages = self.call("get", "projects/FERRY")["pages"]
            self.assertEqual([p["due"] for p in pages], [p["state"] == "wet" for p in pages])
            self.sign_in("maud")
            self.assertFalse(any(p["due"] for p in self.call("get", "projects/FERRY")["pages"]), "a reader closes nothing")
