"""Copying activities between projects, and hours that follow the shifts of a calendar: by hand, and on random books."""

import unittest
from dataclasses import replace
from decimal import Decimal as D
from typing import Any

from core.tests.books import book
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.changes.apply import Changed, apply_keyed
from dryledger.changes.elsewhere import OutsideContext
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import compute
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.exchange.book_json import book_from

ROWS = [{"code": "A", "duration": "2d", "note": "wet"}, {"code": "B", "duration": "3d"}, {"code": "C", "duration": "1d"}]
FITTER = {"code": "FIT", "name": "Fitter", "units": 2, "rates": [{"from": "2027-01-01", "amount": "50", "per": "hour"}]}


def there() -> Book:
    """A before B before C; the fitter on A and B, a direct cost on B."""
    b = book(
        ROWS,
        [{"from": "A", "to": "B", "type": "FS", "lag": "1d"}, {"from": "B", "to": "C"}],
        resources=[FITTER],
        assignments=[{"activity": "A", "resource": "FIT"}, {"activity": "B", "resource": "FIT", "units": 2}],
        costs=[{"activity": "B", "name": "Paint", "kind": "fixed", "amount": "70"}],
    )
    return replace(b, project=replace(b.project, code="THERE"))


def copied(here: Book, *codes: str, other: Book | None = None, **more: Any) -> Changed:
    verb = {"do": "copy", "from": "THERE", "rows": list(codes)} | more
    return apply_keyed(KeyedBook.of(here), [verb], {}, OutsideContext(books={"THERE": other or there()}))


class ByHand(unittest.TestCase):
    def test_with_the_links_between_them_people_and_costs(self) -> None:
        done = copied(book([{"code": "A", "name": "Mine"}], wbs=[{"code": "1", "name": "Yard"}]), "A", "B", parent="w0")
        b = done.book
        self.assertEqual([(a.code, a.name, a.wbs, a.note) for a in b.activities[1:]], [("A-2", "A", "1", "wet"), ("B", "B", "1", "")])
        self.assertEqual([(k.source, k.target, k.lag) for k in b.links], [("A-2", "B", 480)])
        self.assertEqual([(x.activity, x.resource, x.units) for x in b.assignments], [("A-2", "FIT", 1), ("B", "FIT", 2)])
        self.assertEqual([(c.activity, c.name, c.amount) for c in b.costs], [("B", "Paint", 70)])
        self.assertEqual((b.resources[0].rates[0].amount, done.label), (50, "copied 2 activities from THERE; Fitter came along"))

    def test_who_is_here_already_is_not_made_twice(self) -> None:
        here = book([{"code": "Z"}], resources=[FITTER | {"code": "F1"}, {"code": "FIT", "name": "Another"}])
        b = copied(here, "A").book
        self.assertEqual((len(b.resources), b.assignments[0].resource), (2, "F1"))
        shared = replace(there(), resources=(replace(there().resources[0], shared="ORG"),))
        here = book([{"code": "Z"}], resources=[{"code": "X", "name": "Yard fitter", "shared": "ORG"}])
        self.assertEqual(copied(here, "A", other=shared).book.assignments[0].resource, "X")

    def test_what_cant_be_copied(self) -> None:
        yen = replace(there(), project=replace(there().project, currency="JPY"))
        for other, codes, words in ((yen, ["A"], "JPY"), (there(), ["Q"], "Choose activities"), (there(), ["A"], "no project")):
            verb = {"do": "copy", "from": "THERE" if words != "no project" else "GONE", "rows": codes}
            with self.assertRaisesRegex(ChangeRefused, words):
                apply_keyed(KeyedBook.of(book([{"code": "Z"}])), [verb], {}, OutsideContext(books={"THERE": other}))

    def test_a_whole_plan_copied_ends_when_the_other_does(self) -> None:
        tried = 0
        for seed in range(60):
            try:
                other = book_from(random_book(seed, 8))
                plan = replace(other, periods=(), externals=(), promises=(), links=tuple(k for k in other.links if "/" not in k.source))
                free = tuple(replace(a, mode="driven", start=None, finish=None, levelled=None, pauses=()) for a in plan.activities)
                plan = replace(plan, activities=free)
                want = compute(plan)
            except BookInvalid:
                continue
            none = dict.fromkeys(("activities", "links", "assignments", "costs", "resources", "wbs", "fields", "baselines", "options"), ())
            none |= dict.fromkeys(("promises", "estimates", "orders", "changes", "reserves", "mark_rules", "answers"), ())
            own = replace(plan.project, code="HERE", measured_against=None, compared_with=(), fields={})
            here = replace(plan, project=own, **none)
            b = copied(here, *(a.code for a in plan.activities), other=plan).book
            found = compute(b)
            based = [a for a in plan.activities if a.value_method.type == "apportioned"]
            self.assertEqual(found.schedule.finish, want.schedule.finish, seed)
            self.assertTrue(based or found.valuation.total().forecast == want.valuation.total().forecast, seed)
            tried += 1
        self.assertGreater(tried, 25)


class Shifts(unittest.TestCase):
    def week(self, b: Book, hours: str, **cells: Any) -> Changed:
        days = dict.fromkeys(("mon", "tue", "wed", "thu", "fri"), hours)
        return apply_keyed(KeyedBook.of(b), [{"do": "set", "row": "k0", "cells": {"week": days} | cells}], {})

    def test_hours_follow_the_shifts_and_it_is_told(self) -> None:
        done = self.week(book(ROWS), "7-12, 13-17")
        c = done.book.calendars[0]
        self.assertEqual((c.hours_per_day, c.hours_per_week, c.hours_per_month), (9, 45, 180))
        self.assertIn("follows its shifts, day 9 h, week 45 h, month 180 h", done.label + str(done.edits))
        self.assertEqual(done.book.activities[0].duration, 2 * 9 * 60)  # two days are two days still

    def test_what_said_otherwise_stays(self) -> None:
        b = book(ROWS)
        b = replace(b, calendars=(replace(b.calendars[0], hours_per_day=D("7.5")), *b.calendars[1:]))
        c = self.week(b, "7-12, 13-17").book.calendars[0]
        self.assertEqual((c.hours_per_day, c.hours_per_week), (D("7.5"), 45))
        c = self.week(book(ROWS), "8-12", hours_per_day="6").book.calendars[0]
        self.assertEqual((c.hours_per_day, c.hours_per_week), (6, 20))


if __name__ == "__main__":
    unittest.main()
