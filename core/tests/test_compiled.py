"""Compiled and plain passes give the same, and computing again gives what computing anew gives."""

import itertools
import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from decimal import Decimal, localcontext
from unittest.mock import patch

from core.commands.make_book import make_book
from core.tests.books import baseline, book, line, page
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.budget.money import CONTEXT
from dryledger.budget.spread import SHAPES, cumulative
from dryledger.calendar.buckets import bucket_ends
from dryledger.compute import Results, compute
from dryledger.exchange.book_json import book_from
from dryledger.network import engine as compiled
from dryledger.results import results_document


class Compiled(unittest.TestCase):
    def test_the_same_as_plain(self) -> None:
        for seed in range(40):
            interpreted = compute(book_from(random_book(seed)), treatment=("retained", "override", "recorded")[seed % 3])
            with patch.object(compiled, "LARGE", 0):
                machine = compute(book_from(random_book(seed)), treatment=interpreted.treatment)
            self.assertEqual(machine.schedule, interpreted.schedule, seed)

    def test_a_large_book_computes_compiled(self) -> None:
        book = book_from(make_book(compiled.LARGE, 3))
        large = compute(book)
        with patch.object(compiled, "LARGE", 10**9):
            self.assertEqual(compute(replace(book)).schedule, large.schedule)
        self.assertEqual(large.project.bac, sum((m.bac for m in large.activities.values()), Decimal(0)))


class Columns(unittest.TestCase):
    """What columns add up is what the lines of each activity come to, in plain passes and in compiled ones."""

    def alike(self, r: Results, about: object) -> None:
        with localcontext(CONTEXT):
            left, planned = r.valuation.remains, r.valuation.planned
            own = {a.code: [x.piece for x in left._lines(a.code)] for a in r.book.activities}
            self.assertEqual({code: sum(p.amount for p in lines) for code, lines in own.items() if lines}, left.totals, about)
            pieces = [p for lines in own.values() for p in lines]
            ends = bucket_ends("week", min((p.start for p in pieces), default=0), max((p.finish for p in pieces), default=0))
            self.assertEqual(left.due(ends), cumulative(ends, pieces), about)
            if planned is not None:
                codes = [a.code for a in planned.baseline.activities]
                ends = bucket_ends("day", *map(max, zip(*planned.spans.values(), strict=True)))
                self.assertEqual(planned.line(set(codes), ends), cumulative(ends, planned.pieces(codes)), about)
                v = r.valuation
                for code, line_of in v._planned_elements.items():
                    self.assertEqual(line_of, planned.scope(v._days, codes if code is None else v.scope(code).activities), (about, code))
                for t in ends[::3]:
                    self.assertEqual({c: x for c in codes if (x := planned.at(c, t))}, planned.all_at(t), about)

    def test_of_random_books(self) -> None:
        for seed in (*range(60), 2006, 2018):  # in the last two apportioned work begins before its element does
            with patch.object(compiled, "LARGE", 0 if seed % 2 else 10**9):
                self.alike(compute(book_from(random_book(seed))), seed)

    def test_what_64_bits_cannot_hold_is_reckoned_without_end(self) -> None:
        """A bell over 191,999 minutes has a denominator of 7·10¹⁵: times 10¹¹ cents it is no number of 64 bits."""
        for amount, large in itertools.product(("12.34", "987654321.01", "8765432109876.54"), (0, 10**9)):
            own = [{"code": f"A{i}", "duration": f"{191_999 - 60 * i}min", "profile": shape} for i, shape in enumerate(SHAPES)]
            costs = [{"activity": a["code"], "name": "Cost", "amount": amount} for a in own]
            lines = [line(amount, profile=a["profile"]) for a in own]
            rows = [
                {**a, "start": "2027-01-04T08:00", "finish": "2028-08-01T17:00", "cost_lines": [x]} for a, x in zip(own, lines, strict=True)
            ]
            base = baseline(*({k: v for k, v in a.items() if k != "profile"} for a in rows))
            b = book(own, costs=costs, baselines=[base], project={"measured_against": "B0"}, periods=[page("P", "2027-03-01T08:00")])
            with patch.object(compiled, "LARGE", large):
                r = compute(b)
                self.alike(r, (amount, large))
                self.assertEqual(r.project.bac, 4 * Decimal(amount))
                self.assertEqual(r.points[-1].pv, 4 * Decimal(amount))


class Again(unittest.TestCase):
    def test_after_any_change_of_a_page_nothing_differs_from_computing_anew(self) -> None:
        changed = 0
        for seed in range(60):
            book = book_from(random_book(seed))
            if not book.periods or not book.periods[-1].statements:
                continue
            before = compute(book)
            results_document(before)
            last = book.periods[-1]
            for i, stated in enumerate(last.statements):
                new = replace(stated, percent=Decimal("0.35"), remaining=(stated.remaining or 0) + 333, carry_to=None)
                page = replace(last, statements=(*last.statements[:i], new, *last.statements[i + 1 :]), hours=last.hours[i % 2 :])
                after = book.with_periods((*book.periods[:-1], page))
                again = compute(after, before=before)
                self.assertEqual(results_document(again), results_document(compute(replace(after))), (seed, stated.activity))
                before, changed = again, changed + 1
        self.assertGreater(changed, 60)

    def test_many_threads_may_look_at_one_plan(self) -> None:
        interval = sys.getswitchinterval()
        sys.setswitchinterval(1e-5)
        self.addCleanup(sys.setswitchinterval, interval)
        with ThreadPoolExecutor(8) as threads:
            for seed in range(25):
                book = book_from(random_book(seed))
                want, first = results_document(compute(replace(book))), compute(book)

                def once(_: int, book: Book = book, first: Results = first) -> object:
                    return results_document(compute(book.with_periods(book.periods), before=first))

                self.assertEqual([x for x in threads.map(once, range(8)) if x != want], [], seed)
