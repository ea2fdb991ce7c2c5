"""Corrections over the API: hours and costs of dry pages, both ends told, and no dry page changed."""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from django.conf import settings

from server.book.models import CostEntry, HoursEntry, Project
from server.book.verify import verify
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages"


class Corrections(LedgerTest):
    pages = 4

    def correct(self, status: int = 200, **typed: str) -> dict[str, object]:
        return dict(
            self.call("post", f"{AT}/now/posting/corrections", {"revision": self.revision(), "reason": "booked twice", **typed}, status)
        )

    def figures(self, page: str) -> str:
        return json.dumps([self.call("get", f"{AT}/{page}/{part}") | {"revision": 0} for part in ("value", "balance", "curve", "posting")])

    def hours(self) -> dict[str, object]:
        """A row of the second page's hours."""
        rows = self.call("get", f"{AT}/P02/posting/hours")["rows"]
        return dict(next(r for r in rows if r["worked"]))

    def test_hours_of_a_dry_page_are_corrected_and_both_ends_say_so(self) -> None:
        row, before = self.hours(), self.figures("P02")
        was = float(str(row["total"])) - float(str(row["before"]))
        done = self.correct(corrects="P02", on=str(row["activity"]), resource=str(row["resource"]), worked="2h", overtime="0")
        made = done["corrections"]["made"][0]  # type: ignore[index]
        self.assertEqual((made["corrects"], made["reason"]), ("P02", "booked twice"))
        self.assertAlmostEqual(made["worked"] + made["overtime"], 2 - was, 2)
        received = self.call("get", f"{AT}/P02/posting/corrections")["received"]
        self.assertEqual([r["page"] for r in received], ["P04"])
        self.assertEqual(self.figures("P02"), before)
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])
        self.correct(422, corrects="P02", on=str(row["activity"]), resource=str(row["resource"]), worked="2h")
        gone = {"revision": self.revision(), "remove": made["id"]}
        self.assertEqual(self.call("patch", f"{AT}/now/posting/corrections", gone)["corrections"]["made"], [])
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(HoursEntry.objects.filter(corrects="P02").count(), 1)

    def test_figures_are_the_cores(self) -> None:
        row = self.hours()
        self.correct(corrects="P02", on=str(row["activity"]), resource=str(row["resource"]), worked="90min")
        shown = self.call("get", f"{AT}/now/balance")
        book = self.client.get("/api/projects/FERRY/export/book.json").content
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "book.json"
            file.write_bytes(book)
            run = [sys.executable, str(settings.ROOT / "core" / "commands" / "compute.py"), str(file), "--only", "value"]
            value = json.loads(subprocess.run(run, capture_output=True, check=True).stdout)["value"]["project"]
        self.assertEqual((shown["ac"], shown["ev"]), (value["ac"], value["ev"]))

    def test_a_cost_is_corrected_by_what_it_should_be(self) -> None:
        rows = self.call("get", f"{AT}/P03/posting/costs")["rows"] or self.call("get", f"{AT}/P02/posting/costs")["rows"]
        page = "P03" if self.call("get", f"{AT}/P03/posting/costs")["rows"] else "P02"
        row = next(r for r in rows if r["source"] == "invoice")
        self.correct(corrects=page, on=row["on"], ref=row["ref"], amount="100")
        made = CostEntry.objects.get(corrects=page)
        alike = sum(float(r["amount"]) for r in rows if (r["on"], r["ref"]) == (row["on"], row["ref"]))
        self.assertAlmostEqual(float(made.amount), 100 - alike, 2)
        self.assertEqual((made.source, made.reason), ("correction", "booked twice"))
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])

    def test_a_statement_is_corrected_and_both_ends_say_so(self) -> None:
        sheet = self.call("get", f"{AT}/P03/posting")
        going = {r["code"] for r in self.call("get", f"{AT}/now/posting")["rows"] if r["state"] == "in_progress"}
        row = next(r for r in sheet["rows"] if r["code"] in going and r["entry"]["percent"] and r["method"] == "percent")
        before = self.figures("P03")
        done = self.correct(corrects="P03", on=row["code"], percent="12", reason="misread")
        made = done["corrections"]["made"][0]  # type: ignore[index]
        self.assertEqual((made["kind"], made["corrects"], made["on"], made["reason"]), ("statement", "P03", row["code"], "misread"))
        self.assertIn(f"{row['entry']['percent']:g} %", made["was"])
        self.assertIn("12 %", made["now"])
        self.assertEqual(self.call("get", f"{AT}/P03/posting/corrections")["received"][0] | {"id": made["id"]}, made)
        self.assertEqual(self.figures("P03"), before)
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])
        own = next(r for r in self.call("get", f"{AT}/now/posting")["rows"] if r["code"] == row["code"])
        self.assertEqual((own["entry"]["percent"], own["entry"]["actual_start"]), (12, row["entry"]["actual_start"]))
        stated = self.call("get", f"projects/FERRY/history/{row['code']}")["entries"]
        self.assertIn(("P04", "statement", "P03", "misread"), [(e["page"], e["kind"], e["corrects"], e["note"]) for e in stated])
        self.assertEqual(self.correct(422, corrects="P03", on=row["code"], percent="12").get("field"), "percent")
        self.assertEqual(self.correct(422, corrects="P03", on=row["code"], actual_start="30 jan 2028").get("field"), "actual_start")
        self.assertEqual(self.correct(422, corrects="P03", on=row["code"]).get("field"), "percent")
        gone = {"revision": self.revision(), "remove": made["id"]}
        self.assertEqual(self.call("patch", f"{AT}/now/posting/corrections", gone)["corrections"]["made"], [])

    def test_what_is_refused(self) -> None:
        row = self.hours()
        good = {"corrects": "P02", "on": str(row["activity"]), "resource": str(row["resource"]), "worked": "1h"}
        for wrong, status, field in (
            ({"reason": " "}, 422, "reason"),
            ({"worked": "-3h"}, 422, "worked"),
            ({"worked": "soon"}, 422, "worked"),
            ({"on": "A999"}, 422, "on"),
            ({"resource": "NOBODY"}, 422, "resource"),
            ({"corrects": "P04"}, 409, None),
            ({"corrects": "P99"}, 404, None),
            ({"resource": "", "amount": ""}, 422, "amount"),
        ):
            with self.subTest(wrong):
                self.assertEqual(self.correct(status, **{**good, **wrong}).get("field"), field)
        self.assertFalse(HoursEntry.objects.filter(corrects__isnull=False).exists())
        self.sign_in("maud")
        self.correct(403, **good)
