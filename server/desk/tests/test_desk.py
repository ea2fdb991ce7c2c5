"""The desk shows each project's figures, and sums that never cross a currency."""

from decimal import Decimal
from typing import Any

from django.test import Client

from server.book.loading import load_document
from server.tests.base import LedgerTest, ferry


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
        self.call("patch", "projects/FERRY/pages/now/posting/activities/A150", {"revision": revision, "percent": "97"})
        self.assertGreater(cpi(), before)


class HealthTest(LedgerTest):
    def test_health_is_told_to_whoever_asks_and_nothing_else_is(self) -> None:
        anybody = Client()
        answer = anybody.get("/api/health")
        self.assertEqual((answer.status_code, answer.json()), (200, {"status": "ok"}))
        self.assertIn(anybody.get("/api/projects").status_code, (401, 403))
