"""Rates and leave as they are typed into a resource: by hand, and by properties."""

import unittest
from datetime import date
from decimal import Decimal as D
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from dryledger.book.lists import LISTS
from dryledger.book.plan import Book, Rate
from dryledger.changes.apply import apply_keyed
from dryledger.changes.keyed import KeyedBook
from dryledger.entry.rate_cells import rates_in_force
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document

FITTER = {"code": "FIT", "name": "Fitter", "units": 1}


def yard(*rates: dict[str, Any]) -> Book:
    """A fitter with rates, on a project from 4 January whose last page is of 8 January 2027."""
    rows = [{"code": "A", "duration": "5d"}]
    return book(rows, resources=[FITTER | {"rates": list(rates)}], periods=[page("P1", "2027-01-08T17:00")])


def typed(b: Book, **cells: Any) -> Book:
    given = {key.replace("__", "."): value for key, value in cells.items()}
    return apply_keyed(KeyedBook.of(b), [{"do": "set", "row": "r0", "cells": given}], {}).book


def told(b: Book) -> list[tuple[str, str, D, D | None]]:
    return [(r.start.isoformat(), r.per, r.amount, r.overtime) for r in b.resources[0].rates]


class ByHand(unittest.TestCase):
    def test_one_in_force_is_written_over_and_the_first_holds_from_the_start(self) -> None:
        b = typed(yard(), rate__hour="54", rate__overtime="81")
        self.assertEqual(told(b), [("2027-01-04", "hour", D(54), D(81))])
        b = typed(b, rate__hour="58 from 1 jun 2027")
        self.assertEqual(told(b), [("2027-01-04", "hour", D(54), D(81)), ("2027-06-01", "hour", D(58), D(81))])
        b = typed(b, rate__hour="55.125", rate__use="20")
        self.assertEqual([x[2] for x in told(b)], [D("55.125"), D(58), D(20)])
        self.assertEqual([x[1] for x in told(typed(b, rate__hour=""))], ["hour", "use"])

    def test_a_rate_that_begins_later_is_not_in_force_and_stays(self) -> None:
        b = typed(yard({"from": "2027-02-01", "amount": "60", "per": "hour"}), rate__hour="50")
        self.assertEqual([(x[0], x[2]) for x in told(b)], [("2027-01-04", D(50)), ("2027-02-01", D(60))])

    def test_overtime_belongs_to_a_rate_by_time(self) -> None:
        b = typed(yard({"from": "2027-01-01", "amount": "400", "per": "day"}), rate__overtime="70")
        self.assertEqual(told(b), [("2027-01-01", "day", D(400), D(70))])
        for cells in ({"rate__overtime": "70"}, {"rate__hour": "-1"}, {"rate__hour": "a lot"}, {"rate__year": "1"}):
            with self.assertRaises(ChangeRefused):
                typed(yard(), **cells)

    def test_leave_is_a_range_with_a_reason_and_may_leave_some_there(self) -> None:
        b = typed(yard(), exceptions=[{"from": "22 mar", "to": "26 mar", "name": "holiday"}, {"from": "1 feb", "units": "0.5"}])
        found = [(e.start.isoformat(), e.end.isoformat(), e.name, e.units) for e in b.resources[0].exceptions]
        self.assertEqual(found, [("2027-02-01", "2027-02-01", "", D("0.5")), ("2027-03-22", "2027-03-26", "holiday", D(0))])
        for wrong in ([{"to": "1 feb"}], [{"from": "3 feb", "to": "1 feb"}], [{"from": "1 feb", "units": "none"}]):
            with self.assertRaises(ChangeRefused):
                typed(yard(), exceptions=wrong)
        with self.assertRaises(ChangeRefused):  # two at the same time
            typed(yard(), exceptions=[{"from": "1 feb", "to": "5 feb"}, {"from": "3 feb", "to": "8 feb"}])


dates = st.dates(date(2026, 6, 1), date(2027, 6, 1))
rates = st.builds(Rate, dates, st.decimals(0, 500, places=2), st.sampled_from(["hour", "day", "use", "unit"]))


class Properties(unittest.TestCase):
    @settings(max_examples=30, deadline=None)
    @given(st.lists(rates, max_size=6, unique_by=lambda r: (r.per, r.start)), st.sampled_from(["hour", "day", "use"]), st.integers(1, 900))
    def test_what_is_typed_is_in_force_then_and_other_kinds_stay(self, had: list[Rate], per: str, amount: int) -> None:
        b = yard(*(row_document(LISTS["resources"].by_key["rates"].rows, r) for r in had))
        now = typed(b, **{f"rate__{per}": str(amount)}).resources[0].rates
        on = date(2027, 1, 8)
        before, after = rates_in_force(b.resources[0].rates, on), rates_in_force(now, on)
        self.assertEqual(after, before | {f"rate.{per}": D(amount)})
        self.assertEqual({r for r in now if r.per != per}, {r for r in b.resources[0].rates if r.per != per})
        self.assertEqual({r for r in now if r.start > on}, {r for r in b.resources[0].rates if r.start > on})


if __name__ == "__main__":
    unittest.main()
