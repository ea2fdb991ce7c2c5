"""The desk shows each project's figures, and sums that never cross a currency."""

import csv
import io
import json
from decimal import Decimal
from importlib import import_module
from typing import Any

from django.db import connection
from django.db.models import F, Value
from django.db.models.functions import Concat
from django.test import Client
from django.test.utils import CaptureQueriesContext
from openpyxl import load_workbook

from dryledger.calendar.calendar import to_text
from dryledger.report.facts import milestone_facts
from server.book.loading import load_document
from server.book.results import current_results
from server.desk.models import ProjectSummary
from server.desk.summaries import _here
from server.tests.base import LedgerTest, entry, ferry


def renamed(code: str, currency: str) -> Any:
    """The demo book as another project."""
    document = ferry(1)
    document["project"] |= {"code": code, "currency": currency}
    return document


class DeskTest(LedgerTest):
    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        load_document(renamed("SECOND", "EUR"))
        load_document(renamed("ABROAD", "NOK"))

    def test_the_sums_are_those_of_the_rows_of_one_currency(self) -> None:
        desk = self.call("get", "projects")
        rows = {row["code"]: row for row in desk["projects"]}
        self.assertEqual({s["currency"]: s["projects"] for s in desk["sums"]}, {"EUR": 2, "NOK": 1})
        for s in desk["sums"]:
            inside = [row for row in rows.values() if row["currency"] == s["currency"]]
            for key in ("bac", "pv", "ev", "ac", "eac", "vac"):
                self.assertEqual(Decimal(s[key]), sum(Decimal(row[key]) for row in inside), key)
            self.assertEqual(s["cpi"], round(float(Decimal(s["ev"]) / Decimal(s["ac"])), 6))
            self.assertEqual(s["spi"], round(float(Decimal(s["ev"]) / Decimal(s["pv"])), 6))

    def test_a_row_shows_what_its_own_value_room_shows(self) -> None:
        row = next(r for r in self.call("get", "projects")["projects"] if r["code"] == "FERRY")
        shown = self.call("get", "projects/FERRY/pages/now/value")["project"]["figures"]
        for key in ("bac", "pv", "ev", "ac", "eac", "vac"):
            self.assertEqual(Decimal(row[key]), Decimal(shown[key]), key)

    def test_a_posting_moves_the_row_at_once(self) -> None:
        def cpi() -> Any:
            return next(r for r in self.call("get", "projects")["projects"] if r["code"] == "FERRY")["cpi"]

        before = cpi()
        revision = self.call("get", "projects/FERRY")["revision"]
        self.call("patch", "projects/FERRY/pages/now/posting/entries", entry(revision, "A150", percent="97"))
        self.assertGreater(cpi(), before)


class LateMilestones(LedgerTest):
    def test_what_is_late_is_what_the_report_says_the_latest_first(self) -> None:
        late = self.call("get", "projects")["late"]
        self.assertEqual([x["late_days"] for x in late], sorted((x["late_days"] for x in late), reverse=True))
        self.assertTrue(late)
        results = current_results(self.project)
        worked = {
            m.code: (to_text(m.baseline), to_text(m.now), float(m.late))
            for m in milestone_facts(results)
            if m.baseline is not None and m.late is not None and m.now > m.baseline and not m.reached
        }
        self.assertEqual({x["code"]: (x["baseline_date"], x["now"], x["late_days"]) for x in late}, worked)
        self.assertEqual({(x["project"], x["baseline"]) for x in late}, {("FERRY", "B0")})

    def test_the_desk_is_taken_away_with_the_figures_that_it_shows(self) -> None:
        desk = self.call("get", "projects")
        answer = self.client.get("/api/desk.csv")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/csv; charset=utf-8"), answer.content[:200])
        rows = list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"))))
        self.assertEqual([(r["Code"], r["BAC"], r["Against baseline"]) for r in rows], [("FERRY", desk["projects"][0]["bac"], "B0")])
        book = load_workbook(io.BytesIO(self.client.get("/api/desk.xlsx").content))
        self.assertEqual(book.sheetnames[:3], ["Projects", "By currency", "Late milestones"])
        sums = list(book["By currency"].iter_rows(min_row=3, values_only=True))
        found = dict(zip(sums[0], sums[1], strict=True))
        self.assertEqual((found["Currency"], found["Projects"]), ("EUR", 1))
        self.assertAlmostEqual(found["EAC"], float(desk["sums"][0]["eac"]), 2)
        self.assertEqual(book["Late milestones"].max_row - 3, len(desk["late"]))


class HealthTest(LedgerTest):
    def test_health_is_told_to_whoever_asks_and_nothing_else_is(self) -> None:
        anybody = Client()
        answer = anybody.get("/api/health")
        self.assertEqual((answer.status_code, answer.json()), (200, {"status": "ok"}))
        self.assertIn(anybody.get("/api/projects").status_code, (401, 403))


class OutsideContext(DeskTest):
    """What follows from all projects: statistics, curve, reports due, views, and that it is the same after a start."""

    def test_the_curve_ends_at_the_sum_of_the_ends(self) -> None:
        curve = self.call("get", "desk/curve?currency=EUR")
        ends = [self.call("get", f"projects/{code}/pages/now/curve?bucket=week")["points"][-1] for code in ("FERRY", "SECOND")]
        self.assertEqual((curve["projects"], curve["currencies"]), (["FERRY", "SECOND"], ["EUR", "NOK"]))
        self.assertEqual(Decimal(curve["points"][-1]["pv"]), sum(Decimal(p["pv"]) for p in ends))
        self.assertEqual(Decimal(curve["points"][-1]["forecast"]), sum(Decimal(p["forecast"]) for p in ends))
        one = self.call("get", "desk/curve?codes=SECOND")
        self.assertEqual(one["projects"], ["SECOND"])

    def test_the_statistics_are_those_of_each_project(self) -> None:
        found = {p["code"]: p["rows"] for p in self.call("get", "desk/statistics")["projects"]}
        own = self.call("get", "projects/FERRY/pages/now/statistics")["scopes"][0]["rows"]
        self.assertEqual((set(found), found["FERRY"]), ({"FERRY", "SECOND", "ABROAD"}, own))

    def test_a_report_is_due_until_one_is_issued(self) -> None:
        due = {p["code"]: p["report_due"] for p in self.call("get", "projects")["projects"]}
        self.assertEqual(due, {"FERRY": "P01", "SECOND": None, "ABROAD": None})

    def test_views_are_ones_own(self) -> None:
        look = {"name": "Act", "filters": {"mark_word": "Act"}, "group": "client", "order": "vac"}
        own = look | {"shared": False, "by": ""}
        self.assertEqual(self.call("put", "desk/views", look)["views"], [own])
        self.assertEqual(self.call("put", "desk/views", look | {"group": ""})["views"], [own | {"group": ""}])
        many = json.dumps([{"key": "client", "text": f"not client {n}"} for n in range(20)])
        self.assertEqual(self.call("put", "desk/views", look | {"filters": {"where": many}})["views"][0]["filters"], {"where": many})
        self.sign_in("maud")
        self.assertEqual(self.call("get", "projects")["views"], [])
        self.sign_in("ines")
        self.assertEqual(self.call("delete", "desk/views?name=Act")["views"], [])

    def test_views_of_before_are_conditions_and_headings_now(self) -> None:
        changed = import_module("server.desk.migrations.0003_conditions").changed
        old = {"name": "Late", "filters": {"by": "own:Slipway", "is": "North", "find": "x"}, "group": "client", "order": "late"}
        new = changed(old)
        self.assertEqual((new["group"], new["order"], new["filters"]["find"]), ("client", "-late_days", "x"))
        self.assertEqual(json.loads(new["filters"]["where"]), [{"key": "own:Slipway", "text": "= North"}])
        self.assertEqual(changed({"name": "All"}), {"name": "All", "filters": {}, "order": ""})

    def test_nothing_old_is_shown_of_what_is_kept_in_the_table(self) -> None:
        before = self.call("get", "projects")
        _here._kept.clear()  # as after a start: only the table is left
        with CaptureQueriesContext(connection) as asked:
            self.assertEqual(self.call("get", "projects"), before)
        self.assertFalse([q for q in asked.captured_queries if "book_activity" in q["sql"]])  # no plan was read
        _here._kept.clear()
        ProjectSummary.objects.update(key=Concat(F("key"), Value("x")), text="rubbish")  # of another build, or cut off
        self.assertEqual(self.call("get", "projects"), before)
        self.post_entry("A150", percent="99")
        _here._kept.clear()
        row = next(p for p in self.call("get", "projects")["projects"] if p["code"] == "FERRY")
        self.assertEqual(Decimal(row["ev"]), Decimal(self.call("get", "projects/FERRY/pages/now/value")["project"]["figures"]["ev"]))
        self.assertNotEqual(row["ev"], before["projects"][0]["ev"])

    def test_workbook_and_paper_hold_all_of_it(self) -> None:
        book = load_workbook(io.BytesIO(self.client.get("/api/desk.xlsx").content))
        names = [
            "Projects",
            "By currency",
            "Late milestones",
            "Risk against benefit",
            "Summary",
            "People across projects",
            "Portfolio curve",
        ]
        self.assertEqual((book.sheetnames, len(book["Portfolio curve"]._charts)), (names, 1))
        curve = self.call("get", "desk/curve")
        self.assertEqual(book["Portfolio curve"].max_row - 3, len(curve["points"]))
        paper = self.client.get("/api/desk.pdf")
        self.assertEqual((paper.status_code, paper.content[:5]), (200, b"%PDF-"))

    def test_what_is_asked_wrongly_is_told(self) -> None:
        self.assertEqual(self.call("get", f"desk/curve?currency={'E' * 11}", status=400)["field"], "currency")
        self.assertEqual(self.call("get", "desk/curve?currency=XXX")["points"], [])
        self.call("put", "desk/views", {"name": ""}, 400)
