"""Statistics and work by time: cases by hand, and what must add up on any book."""

import json
import subprocess
import sys
import tempfile
import unittest
from dataclasses import replace
from decimal import Decimal as D
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import baseline, book, line, page
from core.tests.random_books import random_book
from dryledger.budget.money import amount_of
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.exchange.book_json import book_from
from dryledger.readings import read
from dryledger.value.statistics import COLUMNS, ROWS, statistics
from dryledger.value.work_by_time import Amounts, work_by_time

ACTS = [{"code": "A", "duration": "5d", "wbs": "1"}, {"code": "B", "duration": "2d", "wbs": "2"}]
WBS = [{"code": "1", "name": "One"}, {"code": "2", "name": "Two"}, {"code": "3", "name": "Empty"}]
RATE = [{"from": "2027-01-01", "amount": "50.00", "per": "hour", "overtime": "75.00"}]
CREW = [{"code": "F", "name": "Fitters", "rates": RATE}]
BASE = [
    {
        "code": "A",
        "wbs": "1",
        "start": "2027-01-04T08:00",
        "finish": "2027-01-08T17:00",
        "work": "40h",
        "cost_lines": [line("2000.00")],
        "assignments": [{"resource": "F", "work": "40h", "cost": "2000.00"}],
    },
    {"code": "GONE", "wbs": "2", "start": "2027-01-11T08:00", "finish": "2027-01-11T17:00", "cost_lines": [line("80.00")]},
]
BEGUN = {"activity": "A", "actual_start": "2027-01-05T08:00", "remaining": "3d"}
HOURS = [{"activity": "A", "resource": "F", "worked": "14h", "overtime": "2h", "to_go": "20h"}]
ON = [{"activity": "A", "resource": "F", "work": "40h"}]
DAY = 480


def made(*statements: dict[str, Any], status: str = "2027-01-06T17:00", hours: Any = (), measured: bool = True) -> Results:
    """A of five days and 40 hours, begun a day late; B new since the baseline, GONE not in the plan any more."""
    plan = {"wbs": WBS, "resources": CREW, "assignments": ON, "baselines": [baseline(*BASE)]}
    plan |= {"project": {"measured_against": "B0"} if measured else {}, "periods": [page("P1", status, *statements, hours=list(hours))]}
    return compute(book(ACTS, [{"from": "A", "to": "B"}], **plan))


def told(x: Any) -> list[Any]:
    return [x.baseline, x.now, x.actual, x.remaining, x.variance]


def dates(x: Any) -> list[str | None]:
    return [None if t is None else to_text(t) for t in told(x)[:4]]


class ByHand(unittest.TestCase):
    def test_the_project(self) -> None:
        s = statistics(made(BEGUN, hours=HOURS).valuation)
        began = "2027-01-05T08:00"
        self.assertEqual(dates(s.start), ["2027-01-04T08:00", began, began, "2027-01-07T08:00"])
        self.assertEqual(dates(s.finish), ["2027-01-11T17:00", "2027-01-13T17:00", None, "2027-01-13T17:00"])
        self.assertEqual((s.start.variance, s.finish.variance), (DAY, 2 * DAY))
        self.assertEqual(told(s.duration), [6 * DAY, 7 * DAY, 2 * DAY, 5 * DAY, DAY])
        self.assertEqual(told(s.work), [40 * 60, 36 * 60, 16 * 60, 20 * 60, -4 * 60])
        # 14 h at 50 and 2 h at 75 are 850, 20 h to go 1000; the budget was 2080.
        self.assertEqual(told(s.cost), [D("2080.00"), D("1850.00"), D("850.00"), D("1000.00"), D("-230.00")])
        self.assertEqual(s.reasons, {"finish.actual": "not all of it is complete"})

    def test_elements_that_one_side_lacks(self) -> None:
        r = made(BEGUN)
        two, three = (statistics(r.valuation, r.valuation.scope(code)) for code in ("2", "3"))
        self.assertEqual((told(two.duration), told(two.work)), ([DAY, 2 * DAY, 0, 2 * DAY, DAY], [0] * 5))
        self.assertEqual((two.start.actual, two.reasons["start.actual"]), (None, "not started"))
        self.assertEqual((told(three.start), told(three.duration)), ([None] * 5, [None, None, 0, None, 0]))
        self.assertEqual(told(three.cost), [None, D("0.00"), D("0.00"), D("0.00"), D("0.00")])
        self.assertEqual(statistics(made(BEGUN, measured=False).valuation).cost.variance, None)

    def test_complete_and_without_a_page(self) -> None:
        done = {"activity": "A", "actual_start": "2027-01-05T08:00", "actual_finish": "2027-01-06T12:00"}
        r = made(done)
        one = statistics(r.valuation, r.valuation.scope("1"))
        self.assertEqual((dates(one.finish)[2:], told(one.duration)[2:4]), (["2027-01-06T12:00", None], [720, 0]))
        bare = statistics(compute(book(ACTS, wbs=WBS)).valuation)
        self.assertEqual((bare.start.actual, bare.cost.actual, bare.duration.actual), (None, D("0.00"), 0))


class Agreeing(unittest.TestCase):
    """Statistics agree with the figures of the catalogue and with the differences from the baseline, which are made elsewhere."""

    FIGURES = (
        *((name, "now", name) for name in ("start", "finish", "duration", "work", "cost")),
        *((name, "baseline", f"baseline_{name}") for name in ("start", "finish", "duration", "work")),
        ("start", "actual", "actual_start"),
        ("finish", "actual", "actual_finish"),
        ("work", "actual", "work_actual"),
        ("cost", "actual", "ac"),
    )

    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 10**6))
    def test_on_any_book(self, seed: int) -> None:
        r = compute(book_from(random_book(seed)))
        scopes = [("project", r.book.project.code), *(("wbs", w.code) for w in r.book.wbs)]
        for kind, code in scopes:
            s = statistics(r.valuation, None if kind == "project" else r.valuation.scope(code))
            for row, column, key in self.FIGURES:
                mine, shown = getattr(getattr(s, row), column), read(r, key, kind, code)
                self.assertEqual(mine or None if shown is None else mine, shown, (kind, code, key))
            apart = r.differences.get((kind, code))
            for row in ("start", "finish", "duration", "work", "cost"):
                self.assertEqual(getattr(s, row).variance, None if apart is None else getattr(apart, row), (kind, code, row))
            for name in ("duration", "work"):
                row = getattr(s, name)
                if row.now is not None and row.remaining:
                    self.assertEqual(row.remaining, row.now - row.actual)
            self.assertEqual({f"{n}.{c}" for n in ROWS for c in COLUMNS if getattr(getattr(s, n), c) is None}, set(s.reasons))

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 10**6), st.sampled_from(["day", "week", "month"]))
    def test_budgets_by_time_end_where_the_curve_does(self, seed: int, bucket: str) -> None:
        d = random_book(seed)
        for b in d["baselines"]:
            for a in b["activities"]:
                a.pop("value_method", None)  # a method steps PV, not the budget
        for statements in (s for p in d["periods"] for s in p["statements"]):
            statements.pop("milestones_reached", None)
        r = compute(book_from(d), bucket=bucket)
        phased, points = r.phased(bucket), r.points
        if r.baseline is None or not points:
            return
        self.assertEqual(phased.ends, [p.end for p in points])
        most = r.valuation.unit * (len(phased.budget.rows) + 1)
        for i, p in enumerate(points):
            self.assertLessEqual(abs(phased.budget.cumulative[i] - p.pv), most)
            if p.ac is not None:
                self.assertLessEqual(abs(phased.actual.cumulative[i] - p.ac), r.valuation.unit * (len(phased.actual.rows) + 1))


class WorkByTime(unittest.TestCase):
    def test_by_hand(self) -> None:
        (row,) = work_by_time(made(BEGUN, hours=HOURS).valuation, "day").rows
        assert row.planned is not None
        self.assertEqual(row.planned.minutes, [480] * 5 + [0] * 5)
        # Sixteen hours over Tuesday and Wednesday; twenty more over Thursday, Friday and Monday.
        self.assertEqual(row.worked.minutes, [0, 480, 480] + [0] * 7)
        self.assertEqual(row.remaining.minutes, [0, 0, 0, 400, 400, 0, 0, 400, 0, 0])
        self.assertEqual([str(x) for x in row.worked.cost or ()][1:3], ["425.00", "425.00"])
        self.assertEqual((row.remaining.total_cost, row.planned.total_cost), (D("1000.00"), D("2000.00")))

    def test_a_correction_falls_in_its_own_page(self) -> None:
        d = [page("P1", "2027-01-06T17:00", BEGUN, hours=HOURS, state="dry"), page("P2", "2027-01-08T17:00")]
        d[1]["hours"] = [{"activity": "A", "resource": "F", "worked": "-4h", "corrects": "P1", "reason": "booked twice"}]
        r = compute(book(ACTS, resources=CREW, wbs=WBS, assignments=ON, periods=d))
        (row,) = work_by_time(r.valuation, "day").rows
        self.assertEqual(row.worked.minutes[:4], [480, 480, -120, -120])
        self.assertEqual((row.planned, row.reasons), (None, {"planned": "no baseline to measure against"}))

    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 10**6), st.sampled_from(["day", "week", "month", "period"]))
    def test_it_adds_up_to_what_was_posted_and_to_the_forecast(self, seed: int, bucket: str) -> None:
        r = compute(book_from(random_book(seed)))
        v = r.valuation
        rows = work_by_time(v, bucket).rows
        posted: dict[tuple[str, str], int] = {}
        for code in v.book.activity_by_code:
            for reckoned in v.following.of(code):
                posted[code, reckoned.resource] = reckoned.minutes.amount
        for p in v.at.periods:
            for h in p.hours:
                posted[h.activity, h.resource] = posted.get((h.activity, h.resource), 0) + h.worked + h.overtime
        self.assertEqual(
            {(x.activity, x.resource): x.worked.total_minutes for x in rows if x.worked.total_minutes},
            {k: m for k, m in posted.items() if m},
        )
        codes = {x.code for x in v.book.resources} | {a.code for a in v.book.assignments}  # direct costs have no row
        paid = sum(x.amount for x in v.actuals if x.source == "hours") + sum(p.amount for _, of, p in v.reckoned if of in codes)
        left = sum(x.piece.amount for found in v.remains.values() for x in found if x.kind != "direct")
        for whole, mine in ((paid, [x.worked for x in rows]), (left, [x.remaining for x in rows])):
            self.assertEqual(amount_of(whole, v.unit), sum(map(self.cost, mine)))

    def cost(self, x: Amounts) -> D:
        return x.total_cost or D(0)

    def test_a_baseline_that_keeps_no_cost_says_so(self) -> None:
        r = made(BEGUN)
        kept = tuple(replace(a, assignments=tuple(replace(x, cost=None) for x in a.assignments)) for a in r.book.baselines[0].activities)
        bare = replace(r.book, baselines=(replace(r.book.baselines[0], activities=kept),))
        (row,) = work_by_time(compute(bare).valuation, "week").rows
        assert row.planned is not None
        self.assertEqual((row.planned.cost, row.planned.total_minutes, list(row.reasons)), (None, 2400, ["planned.cost"]))


class Command(unittest.TestCase):
    def run_it(self, document: Any, *more: str) -> tuple[int, Any]:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "book.json"
            file.write_text(json.dumps(document))
            command = [sys.executable, str(Path(__file__).parents[1] / "commands" / "compute.py"), str(file), *more]
            done = subprocess.run(command, capture_output=True, text=True, check=False)
        return done.returncode, json.loads(done.stdout or done.stderr)

    def test_parts_that_are_named_and_a_selection(self) -> None:
        d = random_book(7)
        parts = "marks,statistics,budget,work,progress_line,value"
        code, out = self.run_it(d, "--only", parts, "--bucket", "month", "--at", "2027-01-08,2027-01-15T12:00")
        self.assertEqual((code, [x["date"] for x in out["progress_line"]["lines"]][1]), (0, "2027-01-15T12:00"))
        self.assertEqual(set(parts.split(",")) - set(out), set())
        self.assertNotIn("schedule", out)
        whole = ",".join(f"activity:{a['code']}" for a in d["activities"])
        code, chosen = self.run_it(d, "--only", "value,statistics,curve", "--scope", "wbs:1," + whole)
        self.assertEqual((code, set(chosen["selection"])), (0, {"scope", "value", "statistics", "curve"}))
        for wrong in (("--scope", "wbs:NONE"), ("--scope", "team:1"), ("--at", "soon")):
            code, out = self.run_it(d, *wrong)
            self.assertEqual((code, [e["path"] for e in out["errors"]]), (2, [""]))
