"""What follows progress is told apart wherever it stands: balance line, value, posting, hours, work by time, workings and files."""

import csv
import io
from decimal import Decimal
from typing import Any

from server.book.models import HoursEntry
from server.tests.base import LedgerTest

PAGE = "projects/FERRY/pages/now"


class Reckoned(LedgerTest):
    pages = 4

    def follow(self, row: str, **cells: str) -> None:
        changes = {"revision": self.revision(), "preview": False, "rest": False, "verbs": [{"do": "set", "row": row, "cells": cells}]}
        self.call("post", "projects/FERRY/plan/changes", changes)

    def setUp(self) -> None:
        super().setUp()
        HoursEntry.objects.filter(resource__code="DES").delete()
        self.follow(self.call("get", "projects/FERRY/about")["project"]["id"], actuals="progress")

    def rows(self, path: str) -> list[list[str]]:
        return list(csv.reader(io.StringIO(self.client.get(f"/api/{PAGE}/{path}").content.decode())))

    def test_the_share_of_ac_is_the_same_on_every_screen(self) -> None:
        balance = self.call("get", f"{PAGE}/balance")
        value = self.call("get", f"{PAGE}/value?columns=ac,ac.progress")
        self.assertEqual(balance["reckoned"], value["project"]["figures"]["ac.progress"])
        self.assertGreater(Decimal(balance["reckoned"]), 0)
        for row in value["rows"]:
            self.assertEqual(Decimal(row["reckoned"] or 0), Decimal(row["figures"]["ac.progress"] or 0), row["code"])
        of_activities = sum(Decimal(r["reckoned"] or 0) for r in value["rows"] if r["kind"] == "activity")
        self.assertEqual(of_activities, Decimal(balance["reckoned"]))
        note = self.call("get", f"{PAGE}/activities/A150")
        self.assertEqual(note["measures"]["reckoned"], next(r["reckoned"] for r in value["rows"] if r["code"] == "A150"))

    def test_what_the_page_reckons_stands_in_its_sheets(self) -> None:
        posting = {r["code"]: r for r in self.call("get", f"{PAGE}/posting")["rows"]}
        fresh = next(r for r in posting.values() if r["reckoned"])
        totals = {t["source"]: t["page"] for t in self.call("get", f"{PAGE}/posting/costs/totals?of={fresh['code']}")["totals"]}
        self.assertEqual((totals["progress"], sum(map(Decimal, totals.values()))), (fresh["reckoned"], Decimal(fresh["other_cost"])))
        hours = [x for x in self.call("get", f"{PAGE}/posting/hours")["rows"] if x["resource"] == "DES" and x["reckoned"]]
        self.assertGreater(len(hours), 0)
        for x in hours:
            self.assertAlmostEqual(x["total"], x["before"] + x["corrected"] + x["reckoned"], 1)
            self.assertAlmostEqual(x["change"], x["total"] + x["remaining"] - x["budgeted"], 1)
        work = self.call("get", f"{PAGE}/work?bucket=month")
        told = {(x["activity"], x["resource"]) for x in work["lines"] if x["reckoned"]}
        self.assertLessEqual({(x["activity"], x["resource"]) for x in hours}, told)
        self.assertIn(["Worked, following progress"], [[r[4]] for r in self.rows("work.csv?bucket=month")])

    def test_files_have_a_column_of_it_and_workings_say_how(self) -> None:
        head, *rows = self.rows("value.csv")
        self.assertEqual(head[-1], "Actual cost following progress")
        self.assertEqual(Decimal(rows[-1][-1]), Decimal(self.call("get", f"{PAGE}/balance")["reckoned"]))
        self.assertEqual(len(self.rows("value.csv?columns=bac,pv")[0]), 6)  # no actual cost, nothing of it
        code = next(x["activity"] for x in self.call("get", f"{PAGE}/posting/hours")["rows"] if x["resource"] == "DES" and x["reckoned"])
        working: Any = self.call("get", f"{PAGE}/working?measure=ac&kind=activity&code={code}")
        self.assertTrue(any("d elapsed" in r["note"] for r in working["rows"]), working["rows"])

    def test_a_resource_an_assignment_and_a_cost_say_otherwise(self) -> None:
        whole = Decimal(self.call("get", f"{PAGE}/balance")["reckoned"])
        resource = next(r for r in self.call("get", "projects/FERRY/plan/lists")["resources"] if r["code"] == "DES")
        self.follow(resource["id"], actuals="posted")
        self.assertLess(Decimal(self.call("get", f"{PAGE}/balance")["reckoned"] or 0), whole)
        plan = {r["code"]: r for r in self.call("get", "projects/FERRY/plan")["rows"]}
        note = self.call("get", f"projects/FERRY/plan/rows/{plan['A150']['id']}")
        self.follow(next(a["id"] for a in note["assignments"] if a["code"] == "DES"), actuals="progress")
        again = self.call("get", f"projects/FERRY/plan/rows/{plan['A150']['id']}")
        self.assertEqual([a["actuals"] for a in again["assignments"] if a["code"] == "DES"], ["progress"])
        cost = next(r for r in plan.values() if r.get("direct_cost"))
        direct = self.call("get", f"projects/FERRY/plan/rows/{cost['id']}")["costs"][0]
        self.follow(direct["id"], actuals="posted")
        self.assertEqual(self.call("get", f"projects/FERRY/plan/rows/{cost['id']}")["costs"][0]["actuals"], "posted")

    def test_new_projects_follow_progress(self) -> None:
        made = self.call("post", "projects", {"name": "Lock gate", "start": "2027-03-01", "currency": "EUR"})
        self.assertEqual(self.call("get", f"projects/{made['code']}/about")["project"]["actuals"], "progress")
        copy = self.call("post", "projects", {"name": "Another", "source": "template", "of": "quay-works"})
        self.assertEqual(self.call("get", f"projects/{copy['code']}/about")["project"]["actuals"], "progress")
