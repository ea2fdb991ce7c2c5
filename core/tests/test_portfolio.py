"""Sums over projects: by hand, by currency, and what is missing in them."""

import json
import subprocess
import sys
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import baseline, book, doc, line, page
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.compute import compute
from dryledger.desk.curve import CurvePart, portfolio_curve
from dryledger.desk.portfolio import figures_of_project, sums_by_currency
from dryledger.desk.risk import risk_and_benefit
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.value.measures import NO_PLAN

ROOT = Path(__file__).parents[2]
SPAN = {"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-08T17:00", "duration": "5d"}


def half_done(code: str, currency: str = "EUR", eac: str = "cpi") -> Book:
    """A of 1000.00 over a week, half of it earned for 600.00 on Wednesday evening."""
    stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 50}
    cost = {"activity": "A", "date": "2027-01-05", "amount": "600.00", "source": "invoice"}
    return book([{"code": "A", "duration": "5d"}], baselines=[baseline({**SPAN, "cost_lines": [line("1000.00")]})],
                periods=[page("P1", "2027-01-06T17:00", stated, costs=[cost])],
                project={"code": code, "currency": currency, "measured_against": "B0", "eac": eac})  # fmt: skip


class Sums(unittest.TestCase):
    def test_one_currency_at_a_time_from_the_figures_as_shown(self) -> None:
        found = [figures_of_project(compute(b)) for b in (half_done("X"), half_done("Y", "USD"), half_done("Z"))]
        eur, usd = sums_by_currency(found)
        self.assertEqual((eur.currency, eur.projects, usd.projects), ("EUR", ["X", "Z"], ["Y"]))
        # BAC 2000, PV 60 % of it, EV half, AC 1200; by CPI each needs 600 + 500 ÷ (5/6) = 1200.
        self.assertEqual(
            [str(x) for x in (eur.bac, eur.pv, eur.ev, eur.ac, eur.eac)], ["2000.00", "1200.00", "1000.00", "1200.00", "2400.00"]
        )
        self.assertEqual([str(x) for x in (eur.sv, eur.cv, eur.etc, eur.vac)], ["-200.00", "-200.00", "1200.00", "-400.00"])
        self.assertEqual((eur.spi, eur.cpi, eur.sv_percent, eur.cv_percent), (0.833333, 0.833333, -16.666667, -20.0))
        self.assertEqual((eur.tcpi_bac, eur.tcpi_eac, eur.reasons), (1.25, 0.833333, {}))

    def test_what_has_no_status_is_named_and_in_no_sum(self) -> None:
        idle = book([{"code": "A"}], project={"code": "N"})
        [x] = sums_by_currency([figures_of_project(compute(b)) for b in (idle, half_done("X"))])
        self.assertEqual((x.projects, x.left_out, str(x.bac)), (["X"], [("N", "no status date")], "1000.00"))
        [alone] = sums_by_currency([figures_of_project(compute(idle))])
        self.assertEqual((alone.projects, str(alone.bac), alone.spi, alone.reasons["spi"]), ([], "0.00", None, NO_PLAN))

    def test_without_an_estimate_of_one_the_sum_has_none(self) -> None:
        fresh = book([{"code": "A"}], periods=[page("P1", "2027-01-06T17:00")], project={"code": "F", "eac": "cpi"})
        [x] = sums_by_currency([figures_of_project(compute(b)) for b in (fresh, half_done("X"))])
        self.assertEqual((x.eac, x.etc, x.vac, x.tcpi_eac), (None, None, None, None))
        self.assertEqual({x.reasons[k] for k in ("eac", "etc", "vac", "tcpi_eac")}, {"no estimate at completion of F"})
        self.assertEqual(x.cpi, 0.833333)

    @settings(max_examples=40)
    @given(st.lists(st.integers(0, 10**6), min_size=1, max_size=4))
    def test_totals_equal_sums(self, seeds: list[int]) -> None:
        found = []
        for seed in seeds:
            try:
                found.append(figures_of_project(compute(book_from(random_book(seed, 6)))))
            except BookInvalid:
                continue
        for x in sums_by_currency(found):
            mine = [f for f in found if f.currency == x.currency and f.status is not None]
            for key in ("bac", "pv", "ev", "ac"):
                self.assertEqual(getattr(x, key), sum((getattr(f, key) for f in mine), Decimal(0)))
            self.assertEqual((x.sv, x.cv), (x.ev - x.pv, x.ev - x.ac))


class Command(unittest.TestCase):
    def run_on(self, *texts: str) -> tuple[int, str, str]:
        with tempfile.TemporaryDirectory() as folder:
            files = []
            for i, text in enumerate(texts):
                files.append(Path(folder) / f"{i}.json")
                files[-1].write_text(text)
            done = subprocess.run([sys.executable, ROOT / "core" / "commands" / "portfolio.py", *files], capture_output=True, text=True)
        return done.returncode, done.stdout, done.stderr

    def test_it_prints_projects_and_sums_or_every_error(self) -> None:
        good = json.dumps(doc([{"code": "A"}], periods=[page("P1", "2027-01-08T17:00")]))
        code, out, err = self.run_on(good, json.dumps(doc([{"code": "A"}], project={"code": "Y"})))
        found = json.loads(out)
        self.assertEqual((code, err, [p["status"] for p in found["projects"]]), (0, "", ["2027-01-08T17:00", None]))
        self.assertEqual(found["currencies"][0]["left_out"], [{"code": "Y", "reason": "no status date"}])
        code, out, err = self.run_on(good, "nonsense", "{}")
        self.assertEqual((code, out), (2, ""))
        self.assertEqual(len({e["file"] for e in json.loads(err)["errors"]}), 2)


class Risk(unittest.TestCase):
    def test_exposure_is_probability_times_impact_of_what_is_open(self) -> None:
        risks = [
            {"code": "1", "name": "Rock", "probability": 25, "impact": "400.00"},
            {"code": "2", "name": "Ice", "probability": 50, "impact": "30.01", "state": "open"},
            {"code": "3", "name": "Gone", "probability": 90, "impact": "900.00", "state": "closed"},
            {"code": "4", "name": "Unknown", "impact": "900.00"},
        ]
        whole = doc([{"code": "A", "duration": "5d"}], risks=risks, costs=[{"activity": "A", "name": "C", "amount": "500.00"}],
                    project={"benefit": "9000.00"}, baselines=[baseline({**SPAN, "cost_lines": [line("460.02")]})])  # fmt: skip
        whole["project"]["measured_against"] = "B0"
        found = risk_and_benefit(compute(book_from(whole)))
        # 100.00 + 15.005 = 115.005, shown as 115.00 (half to even); ÷ 460.02 of BAC
        self.assertEqual((str(found.exposure), found.percent, str(found.benefit), found.unrated), ("115.00", 24.998913, "9000.00", ("4",)))
        self.assertIsNone(risk_and_benefit(compute(book([{"code": "A"}]))).percent)


class Curves(unittest.TestCase):
    @given(st.lists(st.integers(0, 4000), min_size=1, max_size=4))
    @settings(max_examples=25, deadline=None)
    def test_the_last_point_is_the_sum_of_the_last_points(self, seeds: list[int]) -> None:
        parts = []
        for seed in seeds:
            try:
                r = compute(book_from(random_book(seed, 6)))
            except BookInvalid:
                continue
            if r.status is not None and r.points:
                parts.append(CurvePart(str(seed), r.status, tuple(r.points)))
        points = portfolio_curve(parts)
        if parts:
            self.assertEqual(points[-1].pv, sum(p.points[-1].pv for p in parts))
            self.assertEqual([p.pv for p in points], sorted(p.pv for p in points))
            if points[-1].forecast is not None:
                lasts = [p.points[-1] for p in parts]
                self.assertEqual(points[-1].forecast, sum(x.ac or 0 if x.forecast is None else x.forecast for x in lasts))
            if len(parts) == 1:
                self.assertEqual([(p.end, p.pv) for p in points], [(p.end, p.pv) for p in parts[0].points])
