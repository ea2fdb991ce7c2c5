"""Curves in every bucket and scope, and differences from a baseline, by hand."""

import unittest
from decimal import Decimal as D
from typing import Any

from core.tests.books import Doc, baseline, book, line, page
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute

WBS = [{"code": "1", "name": "One"}, {"code": "2", "name": "Two"}]
ACTS = [{"code": "A", "duration": "5d", "wbs": "1"}, {"code": "B", "duration": "5d", "wbs": "2"}]
LINKS = [{"from": "A", "to": "B"}]
BASE_A = {
    "code": "A",
    "wbs": "1",
    "start": "2027-01-04T08:00",
    "finish": "2027-01-08T17:00",
    "duration": "5d",
    "work": "40h",
    "cost_lines": [line("1000.00")],
}
BASE_B = {
    "code": "B",
    "wbs": "2",
    "start": "2027-01-11T08:00",
    "finish": "2027-01-15T17:00",
    "duration": "5d",
    "cost_lines": [line("500.00")],
}


def at_work(*more: Doc, bases: tuple[Doc, ...] = (BASE_A, BASE_B), acts: list[Doc] | None = None, **extra: Any) -> Results:
    """A is begun two days late and has three days to go on Friday."""
    stated = {"activity": "A", "actual_start": "2027-01-06T08:00", "percent": 40, "remaining": "3d"}
    costs = [
        {"activity": "A", "date": "2027-01-07", "amount": "300.00", "source": "invoice"},
        {"wbs": "2", "date": "2027-01-08", "amount": "50.00", "source": "feed"},
    ]
    return compute(
        book(
            acts or ACTS,
            LINKS,
            wbs=WBS,
            baselines=[baseline(*bases), *more],
            project={"measured_against": "B0"} | extra,
            costs=[{"activity": "B", "name": "c", "kind": "fixed", "amount": "500.00"}],
            periods=[page("P1", "2027-01-08T17:00", stated, costs=costs)],
        )
    )


def shown(r: Results, bucket: str, wbs: str | None = None) -> list[tuple[str, ...]]:
    return [(to_text(p.end), str(p.pv), str(p.ev), str(p.ac), str(p.forecast)) for p in r.curve_of(wbs, bucket)]


class Curves(unittest.TestCase):
    def test_weeks(self) -> None:
        self.assertEqual(
            shown(at_work(), "week"),
            [
                ("2027-01-11T00:00", "1000.00", "400.00", "350.00", "350.00"),
                ("2027-01-18T00:00", "1500.00", "None", "None", "550.00"),
                ("2027-01-25T00:00", "1500.00", "None", "None", "850.00"),
            ],
        )

    def test_days_know_costs_by_their_date_and_value_by_its_page(self) -> None:
        days = {x[0][:10]: x for x in shown(at_work(), "day")}
        # Begun on the morning of the 6th, 400.00 earned by the evening of the 8th: a third of it a day.
        self.assertEqual(days["2027-01-07"][1:4], ("600.00", "133.33", "0.00"))
        self.assertEqual(days["2027-01-08"][1:4], ("800.00", "266.67", "300.00"))
        self.assertEqual(days["2027-01-09"][1:4], ("1000.00", "400.00", "350.00"))
        self.assertEqual(days["2027-01-10"][1:4], ("1000.00", "None", "None"))

    def test_months_and_periods(self) -> None:
        self.assertEqual(shown(at_work(), "month"), [("2027-02-01T00:00", "1500.00", "400.00", "350.00", "850.00")])
        self.assertEqual([x[0] for x in shown(at_work(), "period")], ["2027-01-08T17:00", "2027-01-20T17:00"])

    def test_one_branch(self) -> None:
        self.assertEqual(
            shown(at_work(), "week", "2"),
            [
                ("2027-01-11T00:00", "0.00", "0.00", "50.00", "50.00"),
                ("2027-01-18T00:00", "500.00", "None", "None", "250.00"),
                ("2027-01-25T00:00", "500.00", "None", "None", "550.00"),
            ],
        )

    def test_another_baseline_beside(self) -> None:
        points = at_work(baseline(BASE_A, code="B1"), compared_with=["B1"]).points
        self.assertEqual([p.others["B1"] for p in points], [D("1000.00")] * 3)

    def test_no_page_no_value(self) -> None:
        r = compute(book(ACTS, LINKS, wbs=WBS, baselines=[baseline(BASE_A, BASE_B)], project={"measured_against": "B0"}))
        self.assertEqual([x[1:] for x in shown(r, "week")], [("1000.00", "None", "None", "None"), ("1500.00", "None", "None", "None")])

    def test_an_empty_book_has_no_curve(self) -> None:
        self.assertEqual(compute(book([])).points, [])


class Differences(unittest.TestCase):
    def row(self, r: Results, kind: str, code: str) -> tuple[Any, ...]:
        d = r.differences[kind, code]
        return d.start, d.finish, d.duration, d.work, str(d.cost), d.change

    def test_now_less_baseline(self) -> None:
        r = at_work()
        # begun two days late, six days long, ends three days late; cost 300 + nothing to come against 1000; no crew now
        self.assertEqual(self.row(r, "activity", "A"), (960, 3 * 480, 480, -2400, "-700.00", "both"))
        self.assertEqual(self.row(r, "activity", "B"), (3 * 480, 3 * 480, 0, 0, "0.00", "both"))
        self.assertEqual(self.row(r, "wbs", "2"), (3 * 480, 3 * 480, 0, 0, "50.00", "both"))
        self.assertEqual(self.row(r, "project", "X"), (960, 3 * 480, 480, -2400, "-650.00", "both"))

    def test_added_and_removed(self) -> None:
        r = at_work(
            acts=[*ACTS, {"code": "N", "duration": "2d", "wbs": "1"}], bases=(BASE_A, BASE_B, BASE_B | {"code": "OLD", "work": "8h"})
        )
        self.assertEqual(self.row(r, "activity", "N"), (None, None, 960, 0, "0.00", "added"))
        self.assertEqual(self.row(r, "activity", "OLD"), (None, None, -2400, -480, "-500.00", "removed"))
        self.assertEqual(r.activities["OLD"].bac, D("500.00"))
        self.assertEqual(r.project.bac, D("2000.00"))

    def test_none_without_a_baseline(self) -> None:
        self.assertEqual(compute(book(ACTS, LINKS, wbs=WBS)).differences, {})
