"""People across projects on the desk: as the core reckons it, of what one sees, as it is now."""

import io
from typing import Any

from django.core.management import call_command
from openpyxl import load_workbook

from server.book.loading import load_document
from server.book.models import Project
from server.tests.base import LedgerTest, ferry
from server.tests.test_floors import ROOT


class PeopleTest(LedgerTest):
    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        call_command("demo_organisation", ROOT / "demo" / "organisation" / "lists.json")
        other = ferry(1)
        other["project"]["code"] = "TUG"
        load_document(other)

    def loads(self, query: str = "", status: int = 200) -> Any:
        found = self.call("get", f"desk/people{query}", status=status)
        return {r["code"]: r for r in found["resources"]} if status == 200 else found

    def test_two_projects_ask_for_twice_as_much_of_the_same(self) -> None:
        both, one = self.loads()["ELE"], self.loads("?codes=TUG")["ELE"]
        self.assertEqual((list(both["projects"]), list(one["projects"])), (["FERRY", "TUG"], ["TUG"]))
        ends = one["ends"]
        within = {next(i for i, end in enumerate(ends) if x["start"] < end) for x in one["spans"]}
        self.assertTrue(within and within <= set(one["over"]))  # by the booking, minute by minute, not by sums
        self.assertTrue(all(any(x["start"] < ends[i] for x in one["spans"]) for i in one["over"]))
        for i, hours in enumerate(both["asked"]):
            self.assertAlmostEqual(hours, sum(p[i] for p in both["projects"].values()), 1)
        self.assertGreater(both["over_hours"], one["over_hours"])
        causes = both["causes"][str(both["over"][0])]
        self.assertEqual({c["project"] for c in causes}, {"FERRY", "TUG"})
        self.assertAlmostEqual(sum(c["hours"] for c in causes), both["asked"][both["over"][0]], 1)
        self.assertEqual({w["page"] for s in both["spans"] for w in s["who"]}, {"P02", "P01"})
        day = self.loads("?bucket=day&resource=BRG")
        self.assertEqual(list(day), ["BRG"])
        self.assertAlmostEqual(sum(day["BRG"]["asked"]), sum(self.loads()["BRG"]["asked"]), 0)

    def test_what_is_posted_counts_at_once(self) -> None:
        before = self.loads()["ELE"]
        rows = self.call("get", "projects/FERRY/plan")["rows"]
        long = next(r for r in rows if "ELE" in r.get("people", ""))
        verb = {"do": "set", "row": long["id"], "cells": {"duration": "60d"}}
        revision = Project.objects.get(code="FERRY").revision
        self.call("post", "projects/FERRY/plan/changes", {"revision": revision, "verbs": [verb]})
        self.assertGreater(sum(self.loads()["ELE"]["asked"]), sum(before["asked"]))

    def test_of_what_one_does_not_see_nothing_is_told(self) -> None:
        whole = self.loads()["ELE"]
        Project.objects.filter(code="TUG").update(members_only=True)
        found = self.loads()["ELE"]
        self.assertEqual(list(found["projects"]), ["FERRY"])
        self.assertLess(sum(found["asked"]), sum(whole["asked"]))
        self.assertNotIn("TUG", str(self.loads()))

    def test_asked_wrongly_it_says_so_and_files_have_it(self) -> None:
        self.loads("?bucket=year", 400)
        self.assertEqual(self.loads("?resource=NONE"), {})
        answer = self.client.get("/api/desk.xlsx")
        sheet = load_workbook(io.BytesIO(answer.content))["People across projects"]
        rows = [[c.value for c in r] for r in sheet.iter_rows()]
        self.assertIn("ELE", [r[0] for r in rows])
