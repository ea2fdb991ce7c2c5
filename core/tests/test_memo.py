"""A changed book with everything taken over gives what one made afresh gives."""

import random
import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any
from unittest.mock import patch

from core.tests.random_books import random_book
from dryledger.book.memo import changed
from dryledger.book.plan import Book, Constraint
from dryledger.book.rules import check_book
from dryledger.budget.lines import costs_alike, planned_cost
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.network import engine as compiled
from dryledger.results import results_document


def edited(book: Book, r: random.Random) -> dict[str, Any]:
    """One edit of a plan, as the lists that it changes."""
    i = r.randrange(len(book.activities))
    a = book.activities[i]
    edits: list[dict[str, Any]] = [
        {"activities": replace(a, duration=r.choice([60, 480, 2400]), driver="duration", kind="task")},
        {"activities": replace(a, name="Another name")},
        {"activities": replace(a, calendar=r.choice(book.calendars).code)},
        {"activities": replace(a, pauses=())},
        {"activities": replace(a, constraint=Constraint("start_on_or_after", book.project.start + 20_000))},
    ]
    for key in ("links", "assignments", "costs"):
        rows = getattr(book, key)
        if rows:
            edits.append({key: tuple(x for j, x in enumerate(rows) if j != r.randrange(len(rows)))})
    picked = r.choice(edits)
    new = picked.get("activities")
    return picked if new is None else {"activities": (*book.activities[:i], new, *book.activities[i + 1 :])}


class Onwards(unittest.TestCase):
    def test_edit_after_edit_nothing_differs_from_computing_anew(self) -> None:
        for seed in range(60):
            r = random.Random(seed)
            book = book_from(random_book(seed))
            with patch.object(compiled, "LARGE", 0 if seed % 2 else 10**9):
                before = compute(book)
                for n in range(4):
                    lists = edited(book, r)
                    after, fresh = changed(book, **lists), replace(book, **lists)
                    self.assertEqual(check_book(after, book), check_book(fresh), (seed, n))
                    if check_book(fresh):
                        break
                    again = compute(after.with_periods(after.periods), before=before)
                    self.assertEqual(results_document(again), results_document(compute(fresh)), (seed, n, list(lists)))
                    book, before = again.book, again

    def test_what_rests_on_the_same_is_kept_and_what_does_not_is_not(self) -> None:
        book = book_from(random_book(5))
        compute(book.with_periods(book.periods))
        a = book.activities[0]
        shorter = changed(book, activities=(replace(a, name="Renamed"), *book.activities[1:]))
        self.assertIs(shorter.network_index, book.network_index)
        self.assertIs(shorter.links_into, book.links_into)
        self.assertIsNot(shorter.activity_by_code, book.activity_by_code)
        unlinked = changed(book, links=())
        self.assertNotIn("network_index", unlinked.__dict__)
        self.assertIs(unlinked.axes, book.axes)

    def test_faults_of_a_change_are_found_again(self) -> None:
        book = book_from(random_book(7))
        a = book.activities[0]
        loop = replace(book.links[0], source=a.code, target=a.code) if book.links else None
        for lists in (
            {"activities": (a, *book.activities)},
            {"activities": (replace(a, wbs="NOWHERE"), *book.activities[1:])},
            {"activities": book.activities[1:]},
            {"links": (loop, *book.links)},
        ):
            after = changed(book, **lists)
            self.assertEqual(check_book(after, book), check_book(replace(after)), list(lists))
            self.assertTrue(check_book(after, book), list(lists))

    def test_the_same_cost_on_other_dates_only_where_no_rate_changes(self) -> None:
        alike = other = 0
        for seed in range(120):
            book = book_from(random_book(seed))
            bare = compute(book.with_periods(()))
            late = compute(replace(book, periods=(), project=replace(book.project, start=book.project.start + 10 * 1440)))
            for a in book.activities:
                was, now = bare.schedule.activities[a.code], late.schedule.activities[a.code]
                if costs_alike(book, a, was, now):
                    alike += was.start != now.start
                    self.assertEqual(planned_cost(book, a, was), planned_cost(book, a, now), (seed, a.code))
                else:
                    other += planned_cost(book, a, was) != planned_cost(book, a, now) != Decimal(0)
        self.assertGreater(min(alike, other), 20)
