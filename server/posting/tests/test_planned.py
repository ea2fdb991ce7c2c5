"""Posting as planned, carrying forward and treatments over the API: tried, done, undone, and equal to the command line."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from django.conf import settings

from server.book.models import Project, Statement
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
