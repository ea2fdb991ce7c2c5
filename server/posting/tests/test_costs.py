"""Costs over the API: the ledger, what is refused and where, an invoice that meets its accrual, totals, undo, roles."""

import json
from decimal import Decimal
from typing import Any

from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from server.book.documents import book_document
from server.book.models import CostEntry, Project
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages/now/posting/costs"


class Costs(LedgerTest):
    pages = 3

    def post(self, *entries: dict[str, str], remove: tuple[str, ...] = (), status: int = 200) -> Any:
        return self.call("patch", AT, {"revision": self.revision(), "entries": entries, "remove": remove}, status)

    def test_the_ledger_is_written_changed_and_undone(self) -> None:
        before = json.dumps(self.call("get", AT) | {"revision": 0})
        sheet = self.post({"on": "A150", "amount": "1 250.40", "ref": "R77", "date": "20 jan"})["sheet"]
        row = sheet["rows"][-1]
        self.assertEqual((row["on"], row["amount"], row["source"], row["date"]), ("A150", "1250.40", "invoice", "2027-01-20"))
        self.post({"id": row["id"], "amount": "1300", "kind": "accrual"}, {"on": "wbs 1", "amount": "-20"})
        rows = self.call("get", AT)["rows"]
        self.assertEqual(
            [(r["on"], r["amount"], r["source"]) for r in rows[-2:]], [("A150", "1300.00", "accrual"), ("WBS 1", "-20.00", "invoice")]
        )
        outside = compute(book_from(json.loads(json.dumps(book_document(Project.objects.get(code="FERRY"))))))
        for of, measures in (
            ("", outside.project),
            ("a150", outside.activities["A150"]),
            ("WBS 1", outside.wbs["1"]),
        ):
            totals = self.call("get", f"{AT}/totals?of={of}")["totals"]
            shown = {t["source"]: t["to_date"] for t in totals if t["to_date"] != "0.00"}
            self.assertEqual(shown, {k: f"{v:f}" for k, v in measures.ac_by_source.items() if v})
        self.assertEqual(self.call("get", f"{AT}/totals?of=NONE", status=422)["field"], "of")
        self.post(remove=(row["id"],))
        self.assertNotIn(row["id"], {r["id"] for r in self.call("get", AT)["rows"]})
        for _ in range(3):
            self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(json.dumps(self.call("get", AT) | {"revision": 0}), before)

    def test_many_at_once_are_named_by_the_line_they_came_as(self) -> None:
        lines = [{"line": f"begun{i}", "on": "A150", "amount": str(100 + i)} for i in range(3)]
        done = self.post(*lines)
        amounts = {row["id"]: row["amount"] for row in done["sheet"]["rows"]}
        self.assertEqual([amounts[done["made"][f"begun{i}"]] for i in range(3)], ["100.00", "101.00", "102.00"])
        no = self.post({"line": "a", "on": "A150", "amount": "5"}, {"line": "b", "on": "NONE", "amount": "5"}, status=422)
        self.assertEqual((no["row"], no["field"]), ("b", "on"))
        self.assertEqual(len(self.call("get", AT)["rows"]), len(amounts))

    def test_an_invoice_meets_its_accrual(self) -> None:
        self.post({"on": "A150", "amount": "300", "ref": "X1", "kind": "accrual", "date": "11 jan"})
        open_ones = [a for a in self.call("get", AT)["accruals"] if a["ref"] == "X1"]
        self.assertEqual([(a["on"], a["amount"], a["days"]) for a in open_ones], [("A150", "300.00", 11)])
        self.assertEqual(self.post({"on": "A150", "carried": "300", "kind": "accrual", "ref": "X1"}, status=422)["field"], "carried")
        self.assertEqual(self.post({"on": "A130", "carried": "1", "kind": "accrual", "ref": "X1"}, status=422)["field"], "carried")
        carried = self.post({"on": "A150", "carried": "220.50", "kind": "accrual", "ref": "X1"})["sheet"]
        self.assertEqual([a["amount"] for a in carried["accruals"] if a["ref"] == "X1"], ["220.50"])
        self.assertEqual(carried["rows"][-1]["amount"], "-79.50")
        self.post({"on": "A150", "carried": "0", "kind": "accrual", "ref": "X1"})
        self.assertEqual([a for a in self.call("get", AT)["accruals"] if a["ref"] == "X1"], [])
        for _ in range(2):
            self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        done = self.post({"on": "A150", "amount": "310", "ref": "X1", "text": "Steel, second delivery"})
        self.assertEqual(done["sheet"]["rows"][-1]["text"], "Steel, second delivery")
        self.assertIn("takes back the accrual of 300.00: +10.00", done["effect"]["label"])
        self.assertEqual([a for a in done["sheet"]["accruals"] if a["ref"] == "X1"], [])

    def test_what_is_refused_says_where_and_nothing_is_half_written(self) -> None:
        count = CostEntry.objects.count()
        good = {"on": "A150", "amount": "5"}
        for wrong, field in (
            ({"on": "NONE", "amount": "5"}, "on"),
            ({"on": "", "amount": "5"}, "on"),
            ({"on": "A150"}, "amount"),
            ({"on": "A150", "amount": "five"}, "amount"),
            ({"on": "A150", "amount": "5", "date": "23 jan"}, "date"),
            ({"on": "A150", "amount": "5", "kind": "gift"}, "kind"),
            ({"on": "A150", "amount": "5", "ref": "x" * 400}, "ref"),
        ):
            self.assertEqual(self.post(good, wrong, status=422)["field"], field)
        self.post({"id": "e999999", "amount": "5"}, status=409)
        self.post(remove=("e999999",), status=409)
        self.post(status=400)
        self.assertEqual(CostEntry.objects.count(), count)
        self.sign_in("maud")
        self.post(good, status=403)


class ThisPage(LedgerTest):
    pages = 9

    def test_the_posting_sheet_and_the_costs_by_source_say_the_same_of_a_page(self) -> None:
        for page in ("P03", "P09", "now"):
            rows = self.call("get", f"projects/FERRY/pages/{page}/posting")["rows"]
            for row in rows[::9]:
                code = row["code"]
                here = self.call("get", f"projects/FERRY/pages/{page}/posting/costs/totals?of={code}")["totals"]
                shown = Decimal(row["cost"] or 0) + Decimal(row["other_cost"] or 0)
                self.assertEqual(shown, sum((Decimal(t["page"]) for t in here), Decimal(0)), (page, code))
