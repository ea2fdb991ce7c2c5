"""Spending against the budget by time, and pages measured by another baseline than the first: a case by hand, and what must foot."""

import unittest
from decimal import Decimal
from typing import Any

from core.tests.books import baseline, book, line, page
from core.tests.random_books import random_book
from dryledger.by_value import value_of_field, values_by_field
from dryledger.compute import Results, compute
from dryledger.errors import TooManyPoints
from dryledger.exchange.book_json import book_from
from dryledger.posting.effects import balance
from dryledger.readings import read
from dryledger.spending import PARTS, SpendingRow, by_kind, spending
from dryledger.value.rebased import first_beside, rebased
from dryledger.value.statistics import statistics

Doc = dict[str, Any]
MON, FRI, NEXT = "2027-01-04T08:00", "2027-01-08T17:00", "2027-01-15T17:00"
FITTER = {"code": "F", "name": "Fitter", "rates": [{"from": "2027-01-01", "amount": "50", "per": "hour"}]}


def project(*pages: Doc, **more: Any) -> Results:
    """A takes a fitter two weeks for 4,000.00, B a crane at its start for 500; in the baseline both start on Monday 4 January."""
    assigned = [{"resource": "F", "work": "80h", "cost": "4000.00"}]
    base = baseline(
        {
            "code": "A",
            "start": MON,
            "finish": NEXT,
            "duration": "10d",
            "cost_lines": [line("4000", name="Fitter")],
            "assignments": assigned,
        },
        {"code": "B", "start": MON, "finish": FRI, "duration": "5d", "cost_lines": [line("500", name="Crane", accrual="start")]},
    )
    acts = [{"code": "A", "wbs": "1", "duration": "10d", "fields": {"deck": "car"}}, {"code": "B", "wbs": "1", "duration": "5d"}]
    known: Doc = {
        "wbs": [{"code": "1", "name": "Hull"}],
        "fields": [{"code": "deck", "name": "Deck", "of": "activity", "kind": "text"}],
        "resources": [FITTER],
        "assignments": [{"activity": "A", "resource": "F"}],
        "costs": [{"code": "D1", "activity": "B", "name": "Crane", "amount": "500", "accrual": "start"}],
        "baselines": [base],
        "project": {"measured_against": "B0"},
    }
    return compute(book(acts, periods=list(pages), **(known | more)))


def week(code: str, day: str, *told: Doc, **more: Any) -> Doc:
    return page(code, f"2027-01-{day}T17:00", *told, **more)


A_HALF = {"activity": "A", "actual_start": MON, "percent": 50, "remaining": "5d"}
HOURS = [{"activity": "A", "resource": "F", "worked": "44h"}]


def row(r: Results, by: str, code: str) -> SpendingRow:
    return next(x for x in spending(r, "week", by).rows if x.code == code)


def texts(cells: list[Decimal]) -> list[str]:
    return [f"{c:f}" for c in cells]


class ByHand(unittest.TestCase):
    """After a week A has 44 h instead of 40 posted (2,200.00 of 2,000.00) and B is silent: its crane is due from Monday on."""

    def setUp(self) -> None:
        self.r = project(week("P01", "08", A_HALF, hours=HOURS))

    def test_a_week_spent_and_a_week_to_come(self) -> None:
        a = row(self.r, "wbs", "A")
        self.assertEqual(texts(a.budget), ["2000.00", "2000.00"])
        self.assertEqual((texts(a.actual), texts(a.remaining)), (["2200.00", "0.00"], ["0.00", "2000.00"]))
        self.assertEqual((texts(a.difference), texts(a.running)), (["-200.00", "0.00"], ["-200.00", "-200.00"]))
        b = row(self.r, "wbs", "B")
        self.assertEqual((texts(b.budget), texts(b.forecast)), (["500.00", "0.00"], ["0.00", "500.00"]))

    def test_the_same_by_resource_kind_and_own_field(self) -> None:
        self.assertEqual([texts(row(self.r, "resource", c).forecast) for c in ("F", "")], [["2200.00", "2000.00"], ["0.00", "500.00"]])
        self.assertEqual([texts(row(self.r, "kind", c).budget)[0] for c in ("labour", "direct")], ["2000.00", "500.00"])
        self.assertEqual([row(self.r, "field:deck", c).name for c in ("car", "")], ["car", "none given"])
        self.assertEqual(texts(row(self.r, "field:deck", "car").running), ["-200.00", "-200.00"])

    def test_what_is_entered_on_an_element_is_a_row_of_its_own(self) -> None:
        cost = {"wbs": "1", "date": "2027-01-06", "amount": "30", "source": "invoice"}
        s = spending(project(week("P01", "08", A_HALF, hours=HOURS, costs=[cost])), "week")
        self.assertEqual([(x.name, x.sums) for x in s.rows], [("Hull", True), ("entered on 1 itself", False), ("A", False), ("B", False)])
        self.assertEqual([texts(x.actual)[0] for x in s.rows], ["2230.00", "30.00", "2200.00", "0.00"])
        self.assertEqual(texts(s.total.actual), texts(s.rows[0].actual))

    def test_rows_by_what_there_is_none_of(self) -> None:
        for by in ("colour", "field:none", ""):
            with self.assertRaises(KeyError):
                spending(self.r, "week", by)


class Foots(unittest.TestCase):
    def test_every_way_of_rows_comes_to_the_same_in_any_currency(self) -> None:
        seen = 0
        for seed in range(120):
            document = random_book(seed, 6)
            document["project"]["currency"] = ("EUR", "JPY", "KWD", "CLF")[seed % 4]
            r = compute(book_from(document))
            try:
                ways = [spending(r, "month", by) for by in ("wbs", "resource", "kind")]
            except TooManyPoints:
                continue
            seen += 1
            for s in ways:
                leaves = [x for x in s.rows if not x.sums]
                for part in ("budget", "actual", "forecast", "difference", "running"):
                    whole = [sum(c, Decimal(0)) for c in zip(*(getattr(x, part) for x in leaves), strict=True)] or [Decimal(0)] * len(
                        s.ends
                    )
                    self.assertEqual(getattr(s.total, part), whole, (seed, part))
                self.assertEqual(sum(s.total.actual), r.totals.ac, seed)
                self.assertEqual(s.total.budget, ways[0].total.budget)
                if r.baseline is not None and s.ends and r.totals.eac["bottom_up"] is not None:
                    self.assertEqual(s.total.running[-1], r.totals.bac - r.totals.eac["bottom_up"], seed)
        self.assertGreater(seen, 60)


class AgainstTheFirst(unittest.TestCase):
    """B1 carries a week and 500.00 more: what was a week late against B0 is on the day against B1."""

    def rebased(self, *codes: str) -> Results:
        first = project().book.baselines[0]
        acts = [{"code": a.code, "start": MON, "finish": NEXT, "duration": "10d", "cost_lines": [line("2500")]} for a in first.activities]
        acts[0] |= {"finish": "2027-01-22T17:00", "duration": "15d"}
        both = [
            baseline({"code": "A", "start": MON, "finish": NEXT, "duration": "10d", "cost_lines": [line("4500")]})
            | {"approved_by": "Ada Marsh"},
            baseline(*acts, code="B1") | {"before": "B0", "reason": "Longer route", "approved_by": "Ada Marsh"},
        ]
        told = A_HALF | {"remaining": "10d"}
        pages = [week(f"P0{i}", day, told, measured_against=code) for i, (day, code) in enumerate(zip(("07", "08"), codes, strict=True), 1)]
        return project(*pages, baselines=both)

    def test_both_differences_are_told(self) -> None:
        r = self.rebased("B0", "B1")
        b = balance(r)
        self.assertEqual((b.baseline, b.drift, b.first, b.first_drift), ("B1", 0, "B0", 5))
        now, then = statistics(r.valuation), statistics(r.valuation, against=first_beside(r.book, r.baseline))
        self.assertEqual((now.finish.variance, then.finish.variance), (0, 5 * 480))
        self.assertEqual((now.cost.baseline, then.cost.baseline), (5000, 4500))
        self.assertEqual(read(r, "original_finish_difference"), 5 * 480)

    def test_the_page_on_which_it_changed_says_so(self) -> None:
        r = self.rebased("B0", "B1")
        (x,) = rebased(r.book, r.at.periods)
        self.assertEqual((x.page, x.was.code, x.now.code, x.now.reason), ("P02", "B0", "B1", "Longer route"))
        self.assertEqual((x.days, x.was.bac, x.now.bac), (5, 4500, 5000))
        self.assertEqual(list(rebased(r.book, r.at.periods[:1])), [])

    def test_nothing_is_said_where_the_first_is_the_measured_one(self) -> None:
        r = self.rebased("B0", "B0")
        self.assertEqual((balance(r).first, list(rebased(r.book, r.at.periods))), (None, []))


class ByKind(unittest.TestCase):
    def test_a_selection_by_hand(self) -> None:
        """44 hours of 50.00 posted, five days of 8 hours left; the crane's 500.00 still to come, 70.00 entered on the element."""
        costs = [{"wbs": "1", "date": "2027-01-07", "amount": "70.00", "source": "invoice"}]
        r = project(week("P1", "08", A_HALF, hours=HOURS, costs=costs))

        def told(*codes: str, wbs: tuple[str, ...] = ()) -> dict[str, tuple[str, ...]]:
            series = (*PARTS, "forecast", "difference")
            return {x.name: (*(f"{x.whole(of):f}" for of in series),) for x in by_kind(r, codes, wbs)}

        both = told("A", "B")
        self.assertEqual(list(both), ["Labour", "Direct costs", "All"])
        self.assertEqual(both["Labour"], ("4000.00", "2200.00", "2000.00", "4200.00", "-200.00"))
        self.assertEqual(both["Direct costs"], ("500.00", "0.00", "500.00", "500.00", "0.00"))
        self.assertEqual(both["All"], ("4500.00", "2200.00", "2500.00", "4700.00", "-200.00"))
        self.assertEqual(list(told("B")), ["Direct costs", "All"])
        self.assertEqual(told()["All"], ("0.00",) * 5)
        self.assertEqual(told(wbs=("1",))["All"], ("4500.00", "2270.00", "2500.00", "4770.00", "-270.00"))

    def test_the_kinds_of_any_selection_add_up_to_its_measures(self) -> None:
        for seed in range(60):
            r = compute(book_from(random_book(seed)))
            some, wbs = [a.code for a in r.book.activities][::2], [w.code for w in r.book.wbs]
            for codes, elements in ((some, ()), (some, wbs[:1]), (r.valuation.codes, wbs)):
                m, (*kinds, whole) = r.selection(codes, elements), by_kind(r, codes, elements)
                for part in PARTS:
                    self.assertEqual(sum(x.whole(part) for x in kinds), whole.whole(part), seed)
                self.assertEqual(whole.whole("actual"), m.ac, seed)
                if r.baseline is not None:
                    self.assertEqual(whole.whole("budget"), m.bac, seed)
                if m.eac["bottom_up"] is not None:
                    self.assertEqual(whole.whole("forecast"), m.eac["bottom_up"], seed)


class Values(unittest.TestCase):
    def test_activities_by_the_value_of_an_own_field(self) -> None:
        r = project(week("P1", "08", A_HALF, hours=HOURS))
        self.assertEqual(value_of_field(r, "deck"), {"A": "car", "B": ""})
        self.assertEqual((values_by_field(r, 1), values_by_field(r, 0)), ({"deck": ["car"]}, {}))
        with self.assertRaises(KeyError):
            value_of_field(r, "keel")
