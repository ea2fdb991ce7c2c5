"""The catalogue of figures: every one can be read at every scope where it means something, and says what Results say."""

import re
import subprocess
import sys
import unittest
from decimal import Decimal as D
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import baseline, book, line, page
from core.tests.random_books import random_book
from dryledger.book.formulas import names_in
from dryledger.calendar.calendar import from_text
from dryledger.compute import Results, compute
from dryledger.errors import UnknownFigure
from dryledger.exchange.book_json import book_from
from dryledger.figure_values import Value, written
from dryledger.figures import CATALOGUE, KINDS, SCOPES, figure, figures_of
from dryledger.readings import field_values, read, reason
from dryledger.results import results_document
from dryledger.working.working import working

TYPES: dict[str, tuple[type, ...]] = {
    **dict.fromkeys(("text", "choice", "date"), (str,)),
    **dict.fromkeys(("duration", "instant"), (int,)),
    **dict.fromkeys(("percent", "ratio", "number"), (float,)),
    "flag": (bool,),
    "money": (D,),
}


def every_row(r: Results) -> list[tuple[str, str]]:
    out = [("project", r.book.project.code)] + [("wbs", w.code) for w in r.book.wbs]
    return out + [("activity", c) for c in r.valuation.codes]


def two() -> Results:
    """A of ten days is half done and a day late, B of five days follows it; C is new, D is only in the baseline."""
    b = book(
        [
            {"code": "A", "name": "Dig", "duration": "10d", "wbs": "1.1"},
            {"code": "B", "name": "Pour", "duration": "5d", "wbs": "1.1", "deadline": "2027-01-22T17:00"},
            {"code": "C", "duration": "2d", "wbs": "1"},
        ],
        links=[{"from": "A", "to": "B"}],
        project={"measured_against": "B0"},
        wbs=[{"code": "1", "name": "All"}, {"code": "1.1", "name": "Ground", "parent": "1"}],
        resources=[{"code": "F", "name": "F", "rates": [{"from": "2027-01-01", "amount": "10.00", "per": "hour"}]}],
        assignments=[{"activity": "A", "resource": "F"}, {"activity": "B", "resource": "F", "units": 0.5}],
        fields=[
            {"code": "crew", "name": "Crew", "kind": "number"},
            {"code": "rate", "name": "Rate", "kind": "formula", "formula": "cost / hours"},
            {"code": "left", "name": "Left", "kind": "formula", "formula": "remaining + crew if state == 'in_progress' else 0"},
        ],
        baselines=[
            baseline(
                {"code": "A", "wbs": "1.1", "duration": "10d", "start": "2027-01-04T08:00", "finish": "2027-01-15T17:00", "work": "80h"}
                | {"cost_lines": [line("800.00")]},
                {"code": "D", "name": "Dropped", "duration": "1d", "start": "2027-01-18T08:00", "finish": "2027-01-18T17:00", "work": "8h"}
                | {"cost_lines": [line("100.00")]},
            )
        ],
        periods=[
            page(
                "P1",
                "2027-01-08T17:00",
                {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 40, "remaining": "6d"},
                hours=[{"activity": "A", "resource": "F", "worked": "2000min", "to_go": "48h"}],
            )
        ],
    )
    return compute(b)


class Catalogue(unittest.TestCase):
    def test_it_is_well_formed(self) -> None:
        keys = [f.key for f in CATALOGUE]
        self.assertEqual(len(keys), len(set(keys)))
        for f in CATALOGUE:
            self.assertTrue(f.word and f.formula and f.kind in KINDS and set(f.scopes) <= set(SCOPES), f.key)
            for o in f.operands:
                self.assertLessEqual(set(f.scopes), set(figure(o).scopes), f.key)
        variables = [f.variable for f in figures_of("activity")]
        self.assertEqual(len(variables), len(set(variables)))

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10_000))
    def test_every_figure_of_every_row_is_of_its_kind_or_says_why_not(self, seed: int) -> None:
        b = book_from(random_book(seed))
        for period in [None, *(p.code for p in b.periods[:1])]:
            r = compute(b, period)
            for scope, code in every_row(r):
                for f in figures_of(scope):
                    value = read(r, f.key, scope, code)
                    why = reason(r, f.key, scope, code)
                    self.assertEqual(value is None, bool(why), (f.key, scope, code, value, why))
                    self.assertTrue(
                        value is None or (isinstance(value, TYPES[f.kind]) and (f.kind == "flag") == isinstance(value, bool)),
                        (f.key, value),
                    )
                    w = working(r, f.key, scope, code)
                    self.assertEqual(w.result is None, value is None, (f.key, scope, code))

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10_000))
    def test_figures_are_those_of_the_results(self, seed: int) -> None:
        r = compute(book_from(random_book(seed)))
        document = results_document(r)
        value, plan, differences = document["value"], document["schedule"], document["differences"]
        assert isinstance(value, dict) and isinstance(plan, dict) and isinstance(differences, dict)
        shown: dict[tuple[str, str, str], object] = {}
        for scope, rows in (("project", [value["project"]]), ("wbs", value["wbs"]), ("activity", value["activities"])):
            for m in rows:
                flat = m | {f"eac.{k}": v for k, v in m["eac"].items()} | {f"ac.{k}": v for k, v in m["ac_by_source"].items()}
                shown |= {(scope, m["code"], k): v for k, v in flat.items() if k not in ("eac", "ac_by_source", "reasons")}
        for x in plan["activities"]:
            shown |= {("activity", x["code"], k): v for k, v in x.items() if k != "driven_by"}
        for scope, rows in (("wbs", differences["wbs"]), ("activity", differences["activities"]), ("project", [differences["project"]])):
            for d in rows:
                if d is not None:
                    shown |= {(scope, d["code"], k if k in ("code", "change") else f"{k}_difference"): v for k, v in d.items()}
        self.assertGreater(len(shown), 40)
        for (scope, code, key), stated in shown.items():
            found: Value | str = read(r, key, scope, code)
            if figure(key).kind in ("instant", "money"):
                found = written(found, figure(key).kind)
            self.assertEqual(found, stated, (scope, code, key))

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10_000))
    def test_a_scope_folds_what_its_activities_say(self, seed: int) -> None:
        r = compute(book_from(random_book(seed)))
        for scope, code in every_row(r):
            if scope == "activity":
                continue
            every = r.valuation.scope(None if scope == "project" else code).activities

            def inside(key: str, codes: list[str] = every) -> list[Any]:
                return [v for c in codes if (v := read(r, key, "activity", c)) is not None]

            def of(key: str, scope: str = scope, code: str = code) -> Value:
                return read(r, key, scope, code)

            for key in ("start", "actual_start", "baseline_start", "total_float"):
                self.assertEqual(of(key), min(inside(key), default=None), (key, code))
            for key in ("finish", "baseline_finish"):
                self.assertEqual(of(key), max(inside(key), default=None), (key, code))
            for key in ("work", "work_actual", "work_remaining", "baseline_work"):
                self.assertEqual(of(key), sum(inside(key)) if inside(key) else None, (key, code))
            states = set(inside("state"))
            self.assertEqual(of("state"), None if not states else states.pop() if len(states) == 1 else "in_progress")
            done = of("state") == "complete"
            self.assertEqual(of("actual_finish"), max(inside("actual_finish")) if done else None)
            for now, first, last in (("duration", "start", "finish"), ("baseline_duration", "baseline_start", "baseline_finish")):
                a, b = of(first), of(last)
                expected = r.book.axis.between(a, b) if isinstance(a, int) and isinstance(b, int) else None
                self.assertEqual(of(now), expected, (now, code))
            bac, ev = of("bac"), of("ev")
            share = of("percent_earned")
            assert isinstance(bac, D) and isinstance(ev, D) and (share is None or isinstance(share, float))
            if share is not None and bac:
                self.assertAlmostEqual(float(100 * ev / bac), share, delta=float(100 * r.valuation.unit / bac) + 1e-6)

    def test_what_is_not_there_is_refused(self) -> None:
        r = two()
        for key, scope in (
            ("nothing", "project"),
            ("spi_t", "activity"),
            ("critical", "project"),
            ("field:crew", "wbs"),
            ("field:no", "activity"),
        ):
            with self.assertRaises(UnknownFigure):
                read(r, key, scope, "A" if scope == "activity" else "1")
        with self.assertRaises(KeyError):
            read(r, "ev", "activity", "Z")
        with self.assertRaises(KeyError):
            read(r, "ev", "wbs", None)


class ByHand(unittest.TestCase):
    def test_an_activity(self) -> None:
        r = two()

        def a(key: str) -> Value:
            return read(r, key, "activity", "A")

        # 2 000 minutes at 10 an hour are 333.33, of 800 that is 41.66625 %; 40 % of 800 earned; 50 % of the time planned; 6 days to go.
        self.assertEqual((a("ac"), a("ev"), a("pv")), (D("333.33"), D("320.00"), D("400.00")))
        self.assertEqual((a("percent_planned"), a("percent_earned"), a("percent_spent")), (50.0, 40.0, 41.66625))
        self.assertEqual((a("work_actual"), a("work_remaining"), a("work"), a("baseline_work")), (2000, 2880, 4880, 4800))
        self.assertEqual((a("duration"), a("planned_duration"), a("remaining")), (2400 + 2880, 4800, 2880))
        self.assertEqual((a("finish_difference"), a("duration_difference"), a("work_difference")), (480, 480, 80))
        self.assertEqual((a("planned_cost"), a("planned_work")), (D("800.00"), 4800))
        self.assertEqual(
            (a("ac.hours"), a("ac.invoice"), reason(r, "ac.invoice", "activity", "A")), (D("333.33"), None, "none by this date")
        )
        # B follows on Tuesday the 19th for five days and misses its Friday by one working day.
        self.assertEqual(read(r, "deadline_difference", "activity", "B"), 480)
        self.assertEqual(read(r, "state", "activity", "B"), "not_started")

    def test_a_scope(self) -> None:
        r = two()
        one = {
            key: read(r, key, "wbs", "1.1") for key in ("start", "finish", "duration", "baseline_duration", "work", "state", "actual_start")
        }
        self.assertEqual(one["start"], from_text("2027-01-04T08:00"))
        self.assertEqual(one["finish"], from_text("2027-01-25T17:00"))
        self.assertEqual((one["duration"], one["baseline_duration"]), (16 * 480, 10 * 480))
        self.assertEqual((one["work"], one["state"], one["actual_start"]), (4880 + 1200, "in_progress", from_text("2027-01-04T08:00")))
        self.assertEqual(read(r, "actual_finish"), None)
        self.assertEqual((read(r, "name", "activity", "D"), read(r, "change", "activity", "D")), ("Dropped", "removed"))
        self.assertEqual(read(r, "duration_difference", "activity", "D"), -480)
        self.assertEqual(read(r, "change", "activity", "C"), "added")
        self.assertEqual(read(r, "wbs", "wbs", "1.1"), "1")

    def test_own_fields_call_figures_by_name(self) -> None:
        r = two()
        self.assertEqual(field_values(r, "A")["rate"], D(10))
        self.assertEqual(field_values(r, "A")["left"], D(6))
        self.assertEqual(read(r, "field:left", "activity", "B"), D(0))
        self.assertEqual(sorted(names_in("cost / hours if 'x' else crew")), ["cost", "crew", "hours"])
        self.assertEqual(names_in("1 +"), frozenset())
        w = working(r, "field:rate", "activity", "A")
        self.assertEqual((w.title, w.formula, w.result), ("Rate", "cost / hours", D(10)))

    def test_the_page_of_the_formats_is_the_catalogue(self) -> None:
        root = Path(__file__).resolve().parents[2]
        printed = subprocess.run([sys.executable, root / "core" / "commands" / "figures.py"], capture_output=True, text=True, check=True)
        self.assertEqual((root / "docs" / "formats" / "figures.md").read_text(), printed.stdout)

    def test_every_variable_can_be_typed(self) -> None:
        for f in figures_of("activity"):
            self.assertTrue(re.fullmatch(r"[a-z_]+", f.variable), f.key)
