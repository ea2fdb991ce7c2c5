"""Columns of any figure, curves with other baselines, and files of the value room."""

import csv
import io
from decimal import Decimal
from typing import Any

import openpyxl

from dryledger.figures import CATALOGUE
from server.tests.base import LedgerTest

PAGE = "projects/FERRY/pages/P04"


class ValueTest(LedgerTest):
    pages = 4

    def file(self, path: str, status: int = 200) -> bytes:
        answer = self.client.get(f"/api/{PAGE}/{path}")
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.content

    def book(self, path: str) -> Any:
        return openpyxl.load_workbook(io.BytesIO(self.file(path)))


class Columns(ValueTest):
    def test_every_figure_of_the_catalogue_can_be_a_column(self) -> None:
        offered = self.call("get", f"{PAGE}/value/figures")["figures"]
        keys = [f["key"] for f in offered]
        self.assertEqual(keys[: len(CATALOGUE) - 2], [f.key for f in CATALOGUE if f.key not in ("code", "name")])
        self.assertIn("field:permit", keys)
        names = self.call("get", f"{PAGE}/value?columns=people")["rows"]
        self.assertIn("Corrie and Vane design office", {r["figures"]["people"] for r in names})
        found = self.call("get", f"{PAGE}/value?columns={','.join(keys)}")
        self.assertEqual([c["key"] for c in found["columns"]], keys)
        for row in [*found["rows"], found["project"]]:
            self.assertLessEqual(set(keys), set(row["figures"]), row["code"])
        usual = self.call("get", f"{PAGE}/value")
        for a, b in zip(found["rows"], usual["rows"], strict=True):
            self.assertEqual({k: a["figures"][k] for k in b["figures"]}, b["figures"])

    def test_lengths_are_days_of_the_rows_own_calendar(self) -> None:
        found = self.call("get", f"{PAGE}/value?columns=duration,remaining")
        self.assertEqual({c["kind"] for c in found["columns"]}, {"days"})
        row = next(r for r in found["rows"] if r["code"] == "A110")
        self.assertEqual(row["figures"]["duration"], "5")

    def test_what_is_no_figure_is_refused_by_its_name(self) -> None:
        for path in ("value?columns=luck", "value.csv?columns=field:none", "curve?baselines=B9", "timeline?baselines=B9"):
            self.assertIn(self.call("get", f"{PAGE}/{path}", status=404)["field"], ("columns", "baselines"))
        self.call("post", f"{PAGE}/selection", {"activities": ["A110"], "columns": ["luck"]}, 404)

    def test_a_selection_has_the_columns_that_are_asked_for(self) -> None:
        body = {"activities": ["A110", "A150"], "columns": ["spi", "eac.cpi", "ac.hours", "critical"], "baselines": []}
        row = self.call("post", f"{PAGE}/selection", body)["row"]
        self.assertEqual(list(row["figures"]), body["columns"])
        self.assertEqual(row["reasons"]["critical"], "not a measure of a selection")
        self.assertIsNotNone(row["figures"]["eac.cpi"])

    def test_a_curve_says_what_each_bucket_adds_and_every_forecast(self) -> None:
        c = self.call("get", f"{PAGE}/curve?bucket=month&baselines=B1")
        self.assertEqual(sum(Decimal(p["added_pv"]) for p in c["points"]), Decimal(c["points"][-1]["pv"]))
        self.assertEqual(c["points"][-1]["forecasts"], c["eac"])
        self.assertEqual(set(c["points"][0]["others"]), {"B1"})
        self.assertEqual(self.call("get", f"{PAGE}/curve?baselines=")["points"][0]["others"], {})


class Files(ValueTest):
    def test_csv_says_what_the_screen_says(self) -> None:
        rows = list(csv.DictReader(io.StringIO(self.file("value.csv?columns=ev,spi").decode())))
        value = self.call("get", f"{PAGE}/value?columns=ev,spi")
        self.assertEqual([r["Earned value"] for r in rows], [r["figures"]["ev"] or "" for r in [*value["rows"], value["project"]]])
        pages = list(csv.DictReader(io.StringIO(self.file("trend.csv").decode())))
        self.assertEqual([p["Page"] for p in pages], ["P01", "P02", "P03", "P04"])
        self.assertIn(b"EV added", self.file("compared.csv?with=P02"))

    def test_charts_are_drawn_from_the_cells_of_their_sheet(self) -> None:
        for path, sheets in (
            ("value.xlsx", {"Curve": 2, "Pages": 1}),
            ("trend.xlsx", {"Pages": 1}),
            ("statistics.xlsx", {"Cost": 1}),
            ("work.xlsx", {"Sums": 1}),
        ):
            book = self.book(path)
            for title, count in sheets.items():
                charts = book[title]._charts
                self.assertEqual(len(charts), count, (path, title))
                for series in (s for chart in charts for s in chart.series):
                    values = series.yVal.numRef.f if getattr(series, "yVal", None) is not None else series.val.numRef.f
                    self.assertTrue(values.startswith(f"'{title}'!"), values)

    def test_no_name_becomes_a_formula(self) -> None:
        task = next(r["id"] for r in self.call("get", "projects/FERRY/plan")["rows"] if r["code"] == "A110")
        rename = {"do": "set", "row": task, "cells": {"name": "=1+1"}}
        self.call("post", "projects/FERRY/plan/changes", {"revision": self.revision(), "verbs": [rename]})
        for path in ("value.xlsx", "work.xlsx", "statistics.xlsx"):
            cells = [c for sheet in self.book(path).worksheets for row in sheet.iter_rows() for c in row]
            self.assertFalse([c for c in cells if c.data_type == "f"], path)
            self.assertTrue(any(c.value == "'=1+1" for c in cells) or path == "statistics.xlsx", path)
        self.assertIn(b",'=1+1,", self.file("value.csv"))
