"""Posting as planned, carrying forward and treatments over the API: tried, done, undone, and equal to the command line."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from django.conf import settings
from django.db.models import F

from server.book.models import CostEntry, HoursEntry, Project, Statement
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages/now"


class Planned(LedgerTest):
    pages = 4

    def sheet(self) -> str:
        return json.dumps(self.call("get", f"{AT}/posting") | {"revision": 0})

    def test_only_what_should_be_finished(self) -> None:
        tried = self.call("post", f"{AT}/posting/planned", {"revision": 0, "way": "finished"})
        both = self.call("post", f"{AT}/posting/planned", {"revision": 0})
        self.assertTrue(all(s["finished"] for s in tried["stated"]))
        self.assertLessEqual(len(tried["stated"]), len(both["stated"]))
        self.call("patch", f"{AT}/posting/planned", {"revision": self.revision(), "way": "soon"}, 400)

    def test_carrying_forward_is_tried_done_and_undone(self) -> None:
        before, revision = self.sheet(), self.revision()
        of_page = self.call("post", f"{AT}/posting/carry", {"revision": revision, "to": "15 feb"})
        self.assertEqual((of_page["stated"], of_page["skipped"]["complete"]), ([], 0))
        going = [r["code"] for r in self.call("get", f"{AT}/posting")["rows"] if r["state"] == "in_progress"]
        self.assertGreater(of_page["skipped"]["posted"], len(going) - 1)
        asked = {"revision": revision, "to": "15 feb", "activities": going}
        tried = self.call("post", f"{AT}/posting/carry", asked)
        self.assertEqual(self.sheet(), before)
        self.assertGreater(len(tried["stated"]), 0)
        done = self.call("patch", f"{AT}/posting/carry", asked)
        self.assertEqual((tried["moved"], tried["change"]), (done["moved"], done["change"]))
        self.assertEqual(Statement.objects.filter(carry_to__isnull=False, page__state="wet").count(), len(tried["stated"]))
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.sheet(), before)
        for wrong in ("1 jan", "", "someday"):
            no = self.call("patch", f"{AT}/posting/carry", {"revision": self.revision(), "to": wrong}, 422)
            self.assertEqual(no["field"], "to")
        self.call("patch", f"{AT}/posting/carry", {"revision": self.revision(), "to": "15 feb", "activities": ["A999"]}, 404)

    def test_treatments_equal_three_runs_of_the_command(self) -> None:
        shown = self.call("get", f"{AT}/treatments")
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "book.json"
            file.write_bytes(self.client.get("/api/projects/FERRY/export/book.json").content)
            for t in shown["treatments"]:
                command = [
                    sys.executable,
                    str(settings.ROOT / "core" / "commands" / "compute.py"),
                    str(file),
                    "--treatment",
                    t["treatment"],
                ]
                run = subprocess.run([*command, "--only", "schedule"], capture_output=True, check=True)
                self.assertEqual(t["finish"], json.loads(run.stdout)["schedule"]["finish"])
        self.assertEqual([t["in_force"] for t in shown["treatments"]], [True, False, False])
        self.call("patch", f"{AT}/treatments", {"revision": self.revision(), "treatment": "override"})
        self.assertEqual(Project.objects.get(code="FERRY").treatment, "override")
        self.call("patch", f"{AT}/treatments", {"revision": self.revision(), "treatment": "none"}, 400)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual([t["in_force"] for t in self.call("get", f"{AT}/treatments")["treatments"]], [True, False, False])


class Filled(LedgerTest):
    """On a page on which direct costs fall due."""

    pages = 7

    def sheet(self) -> str:
        return json.dumps(self.call("get", f"{AT}/posting") | {"revision": 0})

    def empty(self) -> None:
        """Nothing is said on the page yet."""
        for model in (Statement, HoursEntry, CostEntry):
            model.objects.filter(page__state="wet").delete()
        Project.objects.update(revision=F("revision") + 50)

    def test_each_of_progress_hours_and_cost_can_be_left_out(self) -> None:
        self.empty()
        before = self.sheet()
        counts = {}
        for parts in (["progress"], ["hours"], ["cost"], ["progress", "hours", "cost"], []):
            tried = self.call("post", f"{AT}/posting/planned", {"revision": 0, "parts": parts})
            rows = tried["stated"]
            counts["+".join(parts)] = [sum(bool(r[k]) for r in rows) for k in ("says", "hours", "cost")]
        self.assertEqual(self.sheet(), before)
        whole = counts["progress+hours+cost"]
        self.assertTrue(all(whole), whole)
        self.assertEqual(
            [counts["progress"][1:], counts["hours"][0::2], counts["cost"][:2], counts[""]], [[0, 0], [0, 0], [0, 0], [0, 0, 0]]
        )
        self.assertEqual([counts[k][i] for i, k in enumerate(("progress", "hours", "cost"))], whole)
        self.call("post", f"{AT}/posting/planned", {"revision": 0, "parts": ["luck"]}, 400)

    def test_what_it_fills_is_one_step_and_costs_what_was_said_before(self) -> None:
        self.empty()
        before, revision = self.sheet(), self.revision()
        tried = self.call("post", f"{AT}/posting/planned", {"revision": revision})
        done = self.call("patch", f"{AT}/posting/planned", {"revision": revision})
        self.assertEqual((tried["moved"], tried["change"]), (done["moved"], done["change"]))
        hours = HoursEntry.objects.filter(page__state="wet")
        costs = CostEntry.objects.filter(page__state="wet")
        self.assertEqual({c.source for c in costs}, {"accrual"})
        self.assertEqual({h.activity.code for h in hours.select_related("activity")}, {r["code"] for r in tried["stated"] if r["hours"]})
        again = self.call("post", f"{AT}/posting/planned", {"revision": self.revision()})
        self.assertEqual((again["stated"], again["left"]), ([], []))
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual((self.sheet(), hours.all().count(), costs.all().count()), (before, 0, 0))

    def test_what_is_posted_stays_beside_what_was_planned(self) -> None:
        self.empty()
        rows = self.call("post", f"{AT}/posting/planned", {"revision": 0})["stated"]
        row = next(r for r in rows if r["hours"] and r["says"])
        lines = self.call("get", f"{AT}/posting/hours")["rows"]
        resource = next(x["resource"] for x in lines if x["activity"] == row["code"] and x["due"])
        entry = {"activity": row["code"], "resource": resource, "worked": "1"}
        self.call("patch", f"{AT}/posting/hours", {"revision": self.revision(), "entries": [entry]})
        self.post_entry(row["code"], percent="3")
        left = self.call("post", f"{AT}/posting/planned", {"revision": 0, "activities": [row["code"]]})["left"]
        self.assertEqual({x["part"] for x in left if x["code"] == row["code"]} >= {"progress", "hours"}, True)
        self.assertIn("1 h", [x["posted"] for x in left])
        self.call("patch", f"{AT}/posting/planned", {"revision": self.revision()})
        self.assertEqual(Statement.objects.get(page__state="wet", activity__code=row["code"]).percent, "3")
