"""Putting an over-allocation right: by hand, and on random books by computing each way anew."""

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal as D
from typing import Any

from core.tests.books import book
from core.tests.random_books import random_book
from dryledger.book.plan import Book, UnitsException
from dryledger.budget.booking import over_allocated, over_minutes
from dryledger.budget.free import Free
from dryledger.budget.stretches import stretches
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import apply
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.options.remedies import Remedy, remedies

ADA = {"code": "ADA", "name": "Ada", "units": 1, "skills": ["Welding"]}
BEN = {"code": "BEN", "name": "Ben", "units": 1, "skills": ["welding", "rigging"]}
CY = {"code": "CY", "name": "Cy", "units": 1, "skills": ["painting"]}
ROWS = [{"code": "A", "duration": "5d"}, {"code": "B", "duration": "2d"}, {"code": "C", "duration": "10d"}]


def yard(*more: dict[str, Any], **other: Any) -> Book:
    """Ada on A (a week) and B (two days of it) at once, C two weeks beside them: B has eight days of float, A five."""
    on = [{"activity": a, "resource": "ADA"} for a in "AB"]
    return book(ROWS, resources=[ADA, BEN, CY], assignments=[*on, *more], **other)


def ways(b: Book) -> list[Remedy]:
    r = compute(b)
    [x] = stretches(b, over_allocated(b, r.schedule, r.at.to_go))
    return remedies(r, "ADA", x.start, x.end)


class ByHand(unittest.TestCase):
    def test_each_way_with_what_comes_of_it(self) -> None:
        told = [(x.kind, x.activity, x.other or x.mode, x.later, x.own_later, x.left) for x in ways(yard())]
        # Ben has the skill and is free; A after B begins on Wednesday, B after A a week later: both within their float. Cy can't weld.
        self.assertEqual(
            told,
            [
                ("other", "A", "BEN", 0, 0, 0),
                ("other", "B", "BEN", 0, 0, 0),
                ("later", "A", "", 0, 960, 0),
                ("later", "B", "", 0, 2400, 0),
                ("units", None, "", 0, 0, 0),
                ("level", None, "within_float", 0, 0, 0),
                ("level", None, "beyond_float", 0, 0, 0),
            ],
        )

    def test_who_is_not_free_is_not_offered_nor_a_day_beyond_float(self) -> None:
        b = yard({"activity": "C", "resource": "BEN"})
        self.assertNotIn("other", {x.kind for x in ways(b)})
        tight = [{"code": "A", "duration": "5d"}, {"code": "B", "duration": "5d"}]
        b = book(tight, resources=[ADA], assignments=[{"activity": a, "resource": "ADA"} for a in "AB"])
        told = [(x.kind, x.mode, x.later) for x in ways(b)]
        self.assertEqual(told, [("units", "", 0), ("level", "beyond_float", 2400)])

    def test_units_are_raised_on_those_dates_and_leave_stays(self) -> None:
        """Two are wanted from Monday to Tuesday; where Ada is on leave on the first of these days, only the second is raised."""
        b = yard()
        [x] = [x for x in ways(b) if x.kind == "units"]
        self.assertEqual((x.units, x.changes[0].cells["exceptions"]), (2, [{"from": "2027-01-04", "to": "2027-01-05", "units": 2}]))
        ada = replace(b.resources[0], exceptions=(UnitsException(date(2027, 1, 4), date(2027, 1, 4), "leave"),))
        r = compute(replace(b, resources=(ada, *b.resources[1:])))
        over = stretches(r.book, over_allocated(r.book, r.schedule, r.at.to_go))
        [x] = [x for x in remedies(r, "ADA", over[0].start, over[0].end) if x.kind == "units"]
        rows = [(e["from"], e["to"], e.get("name"), e.get("units", 0)) for e in x.changes[0].cells["exceptions"]]
        self.assertEqual(rows, [("2027-01-04", "2027-01-04", "leave", 0), ("2027-01-05", "2027-01-05", None, 2)])

    def test_what_is_free_and_by_how_much_it_is_too_much(self) -> None:
        r = compute(yard({"activity": "B", "resource": "BEN", "units": 0.5}))
        free = Free(r.book, r.schedule, r.at.to_go)
        # Ben gives B half of two days: 32 of the 40 hours of A are free. A whole unit more on A is too much by 8 hours, half a one is not.
        self.assertEqual((free.minutes("BEN", "A"), *(free.too_much("BEN", ["A"], D(u)) for u in ("1", "0.5"))), (32 * 60, 8 * 60, 0))
        # On both at once: Ben works 40 h and 16 h, the latter 16 h twice; of Cy's 40 h in that time all are free.
        both = (free.booking("CY", "AB", D(1)), free.too_much("CY", "AB", D(1)), free.in_all("CY", "AB"))
        self.assertEqual([x / 60 for x in both], [56, 16, 40])
        self.assertEqual((free.fits("BEN", "A", D(1)), free.fits("CY", "A", D(1))), (False, True))
        at = free.place("BEN", "A", D(1), r.schedule.activities["A"].late_start or 0)
        self.assertEqual(at and to_text(at), "2027-01-06T08:00")


class Properties(unittest.TestCase):
    def test_each_way_made_is_what_was_told(self) -> None:
        """On random books: applied, it computes to the finish and the over-allocation that it said; later within float moves no finish."""
        tried = 0
        for seed in range(60):
            try:
                r: Results = compute(book_from(random_book(seed, 8)))
            except BookInvalid:
                continue
            for span in stretches(r.book, over_allocated(r.book, r.schedule, r.at.to_go))[:2]:
                for x in remedies(r, span.resource, span.start, span.end):
                    now = compute(apply(r.book, [c.verb for c in x.changes]).book)
                    self.assertEqual(r.book.axis.between(r.schedule.finish, now.schedule.finish), x.later, (seed, x))
                    self.assertEqual(over_minutes(over_allocated(now.book, now.schedule, now.at.to_go)), x.left_in_all, (seed, x))
                    self.assertFalse(x.kind == "later" and x.later > 0, (seed, x))
                    tried += 1
        self.assertGreater(tried, 20)


if __name__ == "__main__":
    unittest.main()
