"""The budget by time, costs by kind, loads, and estimates tried, kept, compared and applied."""

import csv
import io
from decimal import Decimal
from typing import Any

import openpyxl

from server.plan.tests.test_changes import Plans


class Budget(Plans):
    def get(self, path: str, status: int = 200) -> Any:
        return self.call("get", f"projects/{self.code}/{path}", status=status)

    def small(self) -> None:
        """Two elements; two fitters at 50 for 5 d of Dig, a fixed 1 200 on Pour, 300 out of budget."""
        self.begin()
        self.outline("Works\n  Dig|5d\n  Pour|5d\nOther\n  Tidy|1d\n")
        rates = [{"from": "1 jan 2027", "amount": "50", "per": "hour"}]
        dig, pour = self.row("Dig")["id"], self.row("Pour")["id"]
        self.change(
            {"do": "add", "list": "resources", "cells": {"name": "Fitters", "units": "1", "rates": rates}},
            {"do": "set", "row": dig, "cells": {"people": "FIT 2"}},
            {"do": "chain", "rows": [dig, pour]},
            {"do": "set", "row": pour, "cells": {"direct_cost": "1200"}},
            {"do": "add", "list": "costs", "activity": pour, "cells": {"name": "Margin", "amount": "300", "in_budget": False}},
        )

    def test_by_hand(self) -> None:
        self.small()
        found = self.get("budget?bucket=week")
        self.assertEqual(found["budget"]["columns"], ["4000.00", "1200.00"])
        self.assertEqual(found["budget"]["running"], ["4000.00", "5200.00"])
        self.assertEqual(found["outside"]["total"], "300.00")
        kinds = {k["kind"]: k["amount"] for k in found["kinds"]}
        self.assertEqual(kinds, {"labour": "4000.00", "equipment": "0.00", "material": "0.00", "direct": "1200.00", "outside": "300.00"})
        part = self.get(f"budget?bucket=month&rows={self.row('Other')['id']}")
        self.assertEqual({k["amount"] for k in part["kinds"]}, {"0.00"})
        self.assertIn("day, week, month", self.get("budget?bucket=year", 400)["detail"])

    def test_totals_are_sums_both_ways(self) -> None:
        for bucket in ("day", "week", "month"):
            t = self.get(f"budget?bucket={bucket}")["budget"]
            rows = [[Decimal(c) for c in r["cells"]] for r in t["rows"]]
            self.assertEqual([sum(c) for c in zip(*rows, strict=True)], [Decimal(c) for c in t["columns"]])
            self.assertEqual([sum(r) for r in rows], [Decimal(r["total"]) for r in t["rows"]])
            self.assertEqual(
                Decimal(t["total"]), sum(Decimal(r["cost"]) for r in self.plan()["rows"] if r["kind"] != "wbs" and "cost" in r)
            )

    def test_over_booking_is_shown_with_its_causes(self) -> None:
        self.small()
        load = self.get("loads?bucket=week")["loads"][0]
        self.assertEqual((load["asked"], load["there"], load["over"]), ([80.0], [40.0], [0]))
        self.assertEqual([(c["name"], c["hours"]) for c in load["causes"]["0"]], [("Dig", 80.0)])
        month = self.get("loads?bucket=month")["loads"][0]
        self.assertEqual((month["asked"], month["there"]), ([80.0], [168.0]))  # 21 working days in January 2027

    def test_an_estimate_is_tried_kept_compared_and_applied(self) -> None:
        self.small()
        self.change({"do": "set", "row": self.row("Works")["id"], "cells": {"weight": "3"}})
        tried = self.get("estimates/try?measure=money&total=1000&percent=-10")
        shares = {r["name"]: r["share"] for r in tried["rows"]}
        self.assertEqual(shares, {"Works": "675.00", "Dig": "337.50", "Pour": "337.50", "Other": "225.00", "Tidy": "225.00"})
        self.assertIn("not an amount", self.get("estimates/try?measure=money&total=x", 422)["detail"])
        before = self.book()
        kept = self.change({"do": "estimate", "name": "Top", "measure": "money", "total": "1000", "as": "e"})["made"]["e"]
        self.change({"do": "apply", "estimate": kept})
        self.assertEqual(self.row("Tidy")["cost"], "250.00")
        self.assertEqual(self.row("Pour")["cost"], "1575.00")
        after = {r["name"]: r["after"] for r in self.get("estimates")["kept"][0]["rows"]}
        self.assertEqual(after["Pour"], "1575.00")
        self.undo_or_redo("undo")
        self.undo_or_redo("undo")
        self.assertEqual(self.book(), before)

    def test_an_estimate_follows_a_new_code(self) -> None:
        self.small()
        kept = self.change({"do": "estimate", "name": "Top", "measure": "money", "total": "1000", "as": "e"})["made"]["e"]
        self.change({"do": "set", "row": self.row("Tidy")["id"], "cells": {"code": "Z-9"}})
        self.change({"do": "set", "row": self.row("Other")["id"], "cells": {"code": "W-9"}})
        self.assertEqual([r["code"] for r in self.get("estimates")["kept"][0]["rows"] if r["name"] == "Tidy"], ["Z-9"])
        self.change({"do": "apply", "estimate": kept})
        self.assertEqual(self.row("Tidy")["cost"], "500.00")

    def test_hours_go_to_who_is_there_or_to_the_duration(self) -> None:
        self.small()
        kept = self.change({"do": "estimate", "name": "Hours", "measure": "hours", "total": "120", "as": "e"})["made"]["e"]
        self.change({"do": "apply", "estimate": kept})
        self.assertEqual(self.row("Dig")["span"] or self.row("Dig")["duration"], "1.88d")  # 30 h by two
        self.assertEqual(self.row("Tidy")["duration"], "7.5d")  # 60 h


class Spending(Plans):
    def test_what_is_budgeted_spent_and_forecast_foots_and_is_the_same_in_files(self) -> None:
        at = f"projects/{self.code}/pages/now/spending"
        for by in ("wbs", "resource", "kind", "field:deck"):
            found = self.call("get", f"{at}?bucket=month&by={by}")
            self.assertEqual((found["of"], found["baseline"]), ("baseline", "B0"))
            leaves = [x for x in found["lines"] if not x["sums"]]
            for series, cells in found["total"]["series"].items():
                whole = [sum(Decimal(x["series"][series][i]) for x in leaves) for i in range(len(found["ends"]))]
                self.assertEqual([Decimal(c) for c in cells], whole, (by, series))
        balance = self.call("get", f"projects/{self.code}/pages/now/balance")
        self.assertEqual(Decimal(found["total"]["series"]["running"][-1]), Decimal(balance["bac"]) - Decimal(balance["eac"]))
        written = list(csv.DictReader(io.StringIO(self.client.get(f"/api/{at}.csv?by=kind").content.decode("utf-8-sig"))))
        self.assertEqual(
            {x["Series"] for x in written if x["Name"] == "Labour"},
            {"Budget", "Actual", "Actual and forecast", "Difference", "Running difference"},
        )
        kinds = self.call("get", f"{at}?by=kind")
        labour = next(x for x in kinds["lines"] if x["code"] == "labour")
        self.assertEqual(next(x["Total"] for x in written if (x["Name"], x["Series"]) == ("Labour", "Actual")), labour["totals"]["actual"])
        book = openpyxl.load_workbook(io.BytesIO(self.client.get(f"/api/{at}.xlsx?by=kind").content))
        self.assertEqual(len(book["Against the budget"]._charts), 2)
        row = next(r for r in book["Actual"].iter_rows(values_only=True) if r[1] == "Labour")
        self.assertEqual(Decimal(str(row[-1])), Decimal(labour["totals"]["actual"]))

    def test_rows_that_there_are_none_of_and_too_small_a_step(self) -> None:
        at = f"projects/{self.code}/pages/now/spending"
        self.assertEqual(self.call("get", f"{at}?by=colour", status=404)["field"], "by")
        self.assertEqual(self.call("get", f"{at}?bucket=year", status=400)["field"], "bucket")
