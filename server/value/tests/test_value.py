"""What the value room serves: the same figures everywhere, workings that lead on."""

import csv
import io
import json
from decimal import Decimal
from typing import Any

from django.conf import settings

from dryledger.calendar.calendar import to_text
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from, parse_json
from server.book.documents import book_document
from server.book.loading import load_document
from server.tests.base import LedgerTest


class Figures(LedgerTest):
    pages = 9

    def get(self, part: str, page: str = "now", status: int = 200) -> dict[str, object]:
        return self.call("get", f"projects/FERRY/pages/{page}/{part}", status=status)  # type: ignore[no-any-return]

    def near(self, total: Decimal, shown: Decimal, count: int) -> None:
        """Each row is rounded by itself, so a sum of rows may be half a cent a row away from the rounded sum."""
        self.assertLessEqual(abs(total - shown), Decimal("0.005") * count)

    def test_rows_add_up_and_agree_with_the_balance_line(self) -> None:
        value, balance, report = self.get("value"), self.get("balance"), self.get("report")
        rows = value["rows"]
        for name in ("bac", "pv", "ev", "ac"):
            top = sum(Decimal(r["figures"][name]) for r in rows if r["kind"] == "wbs" and r["parent"] is None)  # type: ignore[attr-defined]
            self.near(top, Decimal(value["project"]["figures"][name]), len(rows))  # type: ignore[index,arg-type]
            self.assertEqual(value["project"]["figures"][name], balance[name])  # type: ignore[index]
        self.assertEqual(report["balance"], balance)
        money = next(t for s in report["sections"] for t in s["tables"] if t["key"] == "money.to_date")  # type: ignore[attr-defined,index]
        self.assertEqual(money["rows"][-1]["cells"][2]["text"], balance["ev"])  # type: ignore[index]

    def test_every_figure_has_a_working_with_the_same_result(self) -> None:
        value = self.get("value")
        rows = [value["project"], *[r for r in value["rows"] if r["code"] in ("3", "A320", "A250", "A850")]]
        for row in rows:
            for measure in ("bac", "pv", "ev", "ac", "sv", "cv", "spi", "cpi", "eac"):
                w = self.get(f"working?measure={measure}&kind={row['kind']}&code={row['code']}")
                shown = row["figures"][measure]
                self.assertEqual(
                    None if w["result"] is None else Decimal(str(w["result"])),
                    None if shown is None else Decimal(str(shown)),
                    (row, measure),
                )
                self.assertTrue(w["formula"])
                self.assertEqual((w["status"], w["baseline"]), (value["status"], "B0"))

    def test_rows_behind_a_sum_add_up_to_it(self) -> None:
        for measure in ("pv", "ev", "ac", "bac"):
            for scope in ("kind=project&code=FERRY", "kind=wbs&code=3"):
                w = self.get(f"working?measure={measure}&{scope}")
                parts = [Decimal(r["value"]) for r in w["rows"]]  # type: ignore[attr-defined]
                self.near(sum(parts, Decimal(0)), Decimal(str(w["result"])), len(parts))

    def test_the_curve_of_a_branch_ends_at_its_budget(self) -> None:
        curve, value = self.get("curve?wbs=3&bucket=month"), self.get("value")
        branch = next(r for r in value["rows"] if r["kind"] == "wbs" and r["code"] == "3")  # type: ignore[attr-defined]
        self.assertEqual(curve["points"][-1]["pv"], branch["figures"]["bac"])  # type: ignore[index]
        self.assertEqual(curve["points"][-1]["forecast"], branch["figures"]["eac"])  # type: ignore[index]
        self.assertEqual(set(curve["points"][0]["others"]), {"B1"})  # type: ignore[index]
        self.get("curve?wbs=nowhere", status=404)

    def test_the_margin_of_an_activity(self) -> None:
        a = self.get("activities/A360")
        self.assertEqual(
            [h["note"] for h in a["history"]][-2:], ["Maker's cell line stopped; delivery now eight working days later.", None]
        )
        self.assertEqual(a["history"][-1]["state"], "wet")  # type: ignore[index]
        self.assertEqual(a["measures"]["code"], "A360")  # type: ignore[index]
        self.get("activities/NONE", status=404)

    def test_dry_pages_show_what_they_said(self) -> None:
        for i, page in enumerate(("P02", "P05", "P08"), 1):
            self.assertEqual(self.get("balance", page)["status"], self.get("value", page)["status"], i)
        self.assertEqual(self.get("balance", "P07")["drift"], 0.0)
        self.assertEqual(self.get("balance", "P08")["drift"], 8.0)
        desk = self.call("get", "projects")["projects"]
        self.assertEqual([(p["code"], p["page"], p["mark"]) for p in desk], [("FERRY", "P09", "act")])
        marks = [p["mark"] for p in self.call("get", "projects/FERRY")["pages"]]
        self.assertEqual(marks[6:8], ["watch", "act"])


class Tables(LedgerTest):
    pages = 6

    def csv(self, part: str) -> list[dict[str, str]]:
        text = self.client.get(f"/api/projects/FERRY/pages/now/{part}").content.decode()
        return list(csv.DictReader(io.StringIO(text)))

    def test_the_summary_agrees_with_the_measures_and_the_file(self) -> None:
        out, value = self.call("get", "projects/FERRY/pages/now/statistics"), self.call("get", "projects/FERRY/pages/now/value")
        scopes = {s["code"]: s for s in out["scopes"]}
        for row in (value["project"], *(r for r in value["rows"] if r["kind"] == "wbs")):
            cost = next(x for x in scopes[row["code"]]["rows"] if x["row"] == "cost")
            self.assertEqual((cost["baseline"], cost["actual"]), (row["figures"]["bac"], row["figures"]["ac"]))
            beside = scopes[row["code"]]["figures"]
            self.assertEqual([beside[key] for key in ("ev", "spi", "cpi")], [row["figures"][key] for key in ("ev", "spi", "cpi")])
        lines = self.csv("statistics.csv")
        self.assertEqual(len(lines), 5 * len(scopes))
        self.assertEqual(
            {x["Forecast"] for x in lines if x["Scope"] == "FERRY" and x["Row"] == "Cost"}, {scopes["FERRY"]["rows"][4]["now"]}
        )

    def test_work_by_time_adds_up_both_ways(self) -> None:
        out = self.call("get", "projects/FERRY/pages/now/work?bucket=month")
        for series in ("worked", "remaining"):
            lines = [x[series] for x in out["lines"]]
            for i in range(len(out["ends"])):
                self.assertAlmostEqual(sum(x["hours"][i] for x in lines), out["total"][series]["hours"][i], 1)
                self.assertEqual(sum(Decimal(x["cost"][i]) for x in lines), Decimal(out["total"][series]["cost"][i]))
            self.assertEqual(sum(map(Decimal, out["total"][series]["cost"])), Decimal(out["total"][series]["total_cost"]))
        worked = [x for x in self.csv("work.csv?bucket=month") if x["Series"] == "Worked" and x["Unit"] == "EUR"]
        self.assertEqual(sum(Decimal(x["Total"]) for x in worked), Decimal(out["total"]["worked"]["total_cost"]))
        hours = self.call("get", "projects/FERRY/pages/now/posting/costs/totals?of=")["totals"]
        self.assertEqual(next(t["to_date"] for t in hours if t["source"] == "hours"), out["total"]["worked"]["total_cost"])
        self.assertEqual(self.call("get", "projects/FERRY/pages/now/work?bucket=year", status=400)["field"], "bucket")


class Pages(LedgerTest):
    pages = 5

    def get(self, part: str, page: str = "now", status: int = 200) -> Any:
        return self.call("get", f"projects/FERRY/pages/{page}/{part}", status=status)

    def test_every_page_has_the_figures_that_it_shows_itself(self) -> None:
        rows = self.get("trend")["pages"]
        self.assertEqual([x["page"] for x in rows], ["P01", "P02", "P03", "P04", "P05"])
        for x in rows:
            balance = self.get("balance", x["page"])
            self.assertEqual((x["spi"], x["cpi"], x["eac"], x["finish"]), tuple(balance[k] for k in ("spi", "cpi", "eac", "finish")))
        self.assertEqual(len(self.get("trend", "P02")["pages"]), 2)

    def test_what_changed_since_another_page_adds_up(self) -> None:
        out, now, then = self.get("compared?with=P03"), self.get("balance"), self.get("balance", "P03")
        self.assertEqual((out["page"], out["other"], out["count"]), ("P05", "P03", len(out["rows"])))
        self.assertLessEqual(abs(sum(Decimal(x["ev"]) for x in out["rows"]) - Decimal(now["ev"]) + Decimal(then["ev"])), Decimal("0.5"))
        self.assertEqual([abs(x["days"]) for x in out["rows"]], sorted((abs(x["days"]) for x in out["rows"]), reverse=True))
        self.assertEqual(self.get("compared?with=P05")["rows"], [])
        self.get("compared?with=P99", status=404)


class Selections(LedgerTest):
    pages = 4

    def test_any_rows_are_summed_once_as_the_core_does(self) -> None:
        r = compute(book_from(json.loads(json.dumps(book_document(self.project)))))
        activities, wbs = ["A110", "A120", "A340", "A350"], ["3"]
        out = self.call("post", "projects/FERRY/pages/now/selection", {"activities": activities, "wbs": wbs, "bucket": "month"})
        mine = r.selection(activities, wbs)
        self.assertEqual(
            [out["row"]["figures"][k] for k in ("bac", "pv", "ev", "ac")], [f"{getattr(mine, k):f}" for k in ("bac", "pv", "ev", "ac")]
        )
        points = r.curve_of_selection(activities, wbs, "month")
        self.assertEqual([(p["end"], p["pv"]) for p in out["curve"]["points"]], [(to_text(p.end), f"{p.pv:f}") for p in points])
        whole = self.call("post", "projects/FERRY/pages/now/selection", {"wbs": [w.code for w in r.book.wbs]})
        self.assertEqual(whole["row"]["figures"]["ev"], self.call("get", "projects/FERRY/pages/now/balance")["ev"])
        self.call("post", "projects/FERRY/pages/now/selection", {"activities": ["NONE"]}, 404)
        self.call("post", "projects/FERRY/pages/now/selection", {"bucket": "year"}, 400)
        self.call("post", "projects/FERRY/pages/now/selection", {})


class OfAValue(LedgerTest):
    """Curves by the value of an own field, and a selection by kind of cost."""

    pages = 4
    at = "projects/FERRY/pages/now"

    def test_the_curve_of_a_value_is_that_of_its_activities(self) -> None:
        fields = {f["code"]: f["values"] for f in self.call("get", f"{self.at}/value")["fields"]}
        self.assertIn("Hull", fields["deck"])
        book = self.call("get", "projects/FERRY/export/book.json")
        codes = [a["code"] for a in book["activities"] if a.get("fields", {}).get("deck") == "Hull"]
        whole = self.call("post", f"{self.at}/selection", {"activities": codes, "split": True})
        self.assertEqual(self.call("get", f"{self.at}/curve?field=deck&value=Hull"), whole["curve"])
        kinds = {k["name"]: k for k in whole["kinds"]}
        self.assertEqual(kinds["All"]["budget"], whole["curve"]["bac"])
        self.assertEqual(self.call("post", f"{self.at}/selection", {"activities": codes})["kinds"], [], "only where it is asked for")
        nobody = self.call("get", f"{self.at}/curve?field=deck&value=Moon")
        self.assertEqual((nobody["bac"], nobody["points"]), ("0.00", []))

    def test_what_is_no_field_is_refused_by_its_name(self) -> None:
        self.assertIn("keel", self.call("get", f"{self.at}/curve?field=keel&value=x", status=404)["detail"])


class AgainstTheFirst(LedgerTest):
    def test_the_margin_says_both_differences(self) -> None:
        load_document(parse_json((settings.ROOT / "demo" / "winch.json").read_text()))
        late = [x["code"] for x in self.call("get", "projects/WINCH/pages/now/value")["rows"] if x["kind"] == "activity"]
        notes = [self.call("get", f"projects/WINCH/pages/now/activities/{code}") for code in late]
        moved = [n for n in notes if n["first_late_days"] not in (None, n["late_days"])]
        self.assertTrue(moved)
        self.assertEqual({n["first"] for n in notes}, {"B0"})
        self.assertTrue(all(n["first_late_days"] > n["late_days"] for n in moved if n["late_days"] is not None))
        self.assertIsNone(self.call("get", "projects/FERRY/pages/now/activities/A150")["first"])
