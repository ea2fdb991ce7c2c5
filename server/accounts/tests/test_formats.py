"""Each person's own formats: what they type, what they are told, and the files that they take away."""

import io
from typing import Any

import openpyxl

from server.accounts.models import Person
from server.tests.base import LedgerTest

POSTING = "projects/FERRY/pages/now/posting"
OWN = {"decimal": ",", "month_first": True, "first_day": "sun"}


class OwnFormats(LedgerTest):
    pages = 3

    def setUp(self) -> None:
        super().setUp()
        self.call("patch", "session/formats", OWN)
        self.client.defaults["HTTP_DRY_FORMATS"] = "comma month sun"

    def row(self, code: str) -> Any:
        return next(r for r in self.call("get", POSTING)["rows"] if r["code"] == code)

    def test_they_are_kept_and_refused_by_name(self) -> None:
        self.assertEqual(self.call("get", "session")["person"]["formats"], OWN)
        for wrong in ({"decimal": ";"}, {"first_day": "someday"}, {"month_first": "perhaps"}):
            self.call("patch", "session/formats", OWN | wrong, 400)
        self.assertEqual(self.call("patch", "session/formats", {"first_day": "sat"})["person"]["formats"], OWN | {"first_day": "sat"})
        self.assertEqual(Person.objects.get(username="ines").formats.decimal, ",")

    def test_what_is_typed_is_read_in_them(self) -> None:
        code = next(r["code"] for r in self.call("get", POSTING)["rows"] if r["state"] == "in_progress" and r["method"] == "percent")
        self.post_entry(code, percent="97,5", cost="1.250,50")
        row = self.row(code)
        self.assertEqual((row["entry"]["percent"], row["cost"]), (97.5, "1250.50"))
        refused = self.post_entry(code, 422, cost="12,345")
        self.assertEqual((refused["nearest"], "0,01" in refused["detail"]), ("12,34", True))
        del self.client.defaults["HTTP_DRY_FORMATS"]
        self.post_entry(code, cost="1250.75")
        self.assertEqual(self.row(code)["cost"], "1250.75", "a program writes as the book does")

    def test_dates_go_by_their_order(self) -> None:
        code = next(r["code"] for r in self.call("get", POSTING)["rows"] if r["state"] == "in_progress")
        status = self.call("get", POSTING)["status"]
        month, day = int(status[5:7]), int(status[8:10])
        told = self.post_entry(code, 422, actual_finish=f"{month}/{day}/2031")
        self.assertRegex(told["detail"], rf"[A-Z][a-z]+ {day}, 2031")

    def test_two_people_see_one_sheet_each_in_their_own(self) -> None:
        def seen() -> list[tuple[str, str]]:
            return [(r.get("people", ""), r.get("constraint", "")) for r in self.call("get", "projects/FERRY/plan")["rows"]]

        self.client.defaults["HTTP_DRY_FORMATS"] = "point day mon"
        theirs = seen()
        self.client.defaults["HTTP_DRY_FORMATS"] = "comma month sun"
        mine = seen()
        self.assertIn(("DES 2; NAV 0,5", ""), mine)
        self.assertIn(("DES 2; NAV 0.5", ""), theirs)
        self.assertEqual({c for _, c in mine if c}, {"start on or after February 1, 2027, 07:30"})
        row = next(r for r in self.call("get", "projects/FERRY/plan")["rows"] if r.get("people") == "DES 2; NAV 0,5")
        cells = {"people": "NAV 0,125", "constraint": "start on or after February 1, 2027, 07:30"}
        body = {"revision": self.revision(), "verbs": [{"do": "set", "row": row["id"], "cells": cells}]}
        self.call("post", "projects/FERRY/plan/changes", body)
        self.assertIn(("NAV 0,125", cells["constraint"]), seen())

    def test_report_and_workbook(self) -> None:
        del self.client.defaults["HTTP_DRY_FORMATS"]  # a link carries no header: the formats are those that were kept
        draft = "projects/FERRY/pages/now/report/editions/draft"
        page = self.client.get(f"/api/{draft}.html").content.decode()
        self.assertRegex(page, r"Mar \d+, 2027")
        self.assertRegex(page, r"\d\u00a0\d{3},\d\d")
        self.assertNotRegex(page, r"\d{1,2} Mar 2027")
        self.assertTrue(self.client.get(f"/api/{draft}.pdf").content.startswith(b"%PDF"))
        book = openpyxl.load_workbook(io.BytesIO(self.client.get(f"/api/{draft}.xlsx").content))
        formats = {c.number_format for s in book.worksheets for row in s.iter_rows() for c in row if c.value is not None and c.is_date}
        self.assertEqual(formats, {"mmm d, yyyy"})
        self.sign_in("lorcan")
        self.assertRegex(self.client.get(f"/api/{draft}.html").content.decode(), r"\d{1,2} Mar 2027")
