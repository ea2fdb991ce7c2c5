"""Compiled and plain passes give the same, and computing again gives what computing anew gives."""

import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from decimal import Decimal
from unittest.mock import patch

from core.commands.make_book import make_book
from core.tests.random_books import random_book
from dryledger.book.plan import Book
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
