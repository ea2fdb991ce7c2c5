"""Planning backward: by hand on four networks, and on random books by computing the plan anew."""

import unittest
from typing import Any

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import apply_keyed
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.exchange.book_json import book_from

IMPOSED = {"imposed_finish": "2027-01-22T17:00"}


def rows(*given: tuple[str, str], **more: Any) -> list[dict[str, Any]]:
    return [{"code": c, "duration": d, **more} for c, d in given]


def last_page(b: Book) -> str | None:
    return b.periods[-1].code if b.periods else None


def backward(b: Book, *chosen: str) -> tuple[Results, Results, str]:
    before = compute(b, last_page(b))
    verb = {"do": "backward"} | ({"rows": [f"a{[a.code for a in b.activities].index(c)}" for c in chosen]} if chosen else {})
    done = apply_keyed(KeyedBook.of(b), [verb], before.schedule.activities)
    return before, compute(done.book, last_page(b)), done.label


def dates(r: Results) -> dict[str, tuple[str, int | None]]:
    return {c: (to_text(x.start), x.total_float) for c, x in r.schedule.activities.items()}


class ByHand(unittest.TestCase):
    def test_a_chain_from_an_imposed_finish(self) -> None:
        """A (2 d) before B (3 d), to end on Friday 22 January: B begins on Wednesday the 20th, A on Monday the 18th; no float is left."""
        b = book(rows(("A", "2d"), ("B", "3d")), [{"from": "A", "to": "B"}], project=IMPOSED)
        before, now, told = backward(b)
        self.assertEqual(dates(before)["A"], ("2027-01-04T08:00", 10 * 480))
        self.assertEqual(dates(now), {"A": ("2027-01-18T08:00", 0), "B": ("2027-01-20T08:00", 0)})
        self.assertEqual((to_text(now.schedule.finish), told), ("2027-01-22T17:00", "2 activities as late as their links allow"))

    def test_without_an_imposed_finish_from_the_latest_there_is(self) -> None:
        """A (5 d) and B (2 d) beside it both lead to C: only B moves, by three days."""
        links = [{"from": "A", "to": "C"}, {"from": "B", "to": "C"}]
        before, now, _ = backward(book(rows(("A", "5d"), ("B", "2d"), ("C", "1d")), links))
        self.assertEqual(dates(now), {"A": ("2027-01-04T08:00", 0), "B": ("2027-01-07T08:00", 0), "C": ("2027-01-11T08:00", 0)})
        self.assertEqual(before.schedule.finish, now.schedule.finish)

    def test_lags_and_what_is_held_or_begun_stays(self) -> None:
        """B starts two days after A does. C has begun; D must start on the 6th; A is chosen alone, so that B keeps its float."""
        given = rows(("A", "5d"), ("B", "5d"), ("C", "9d"), ("D", "1d"))
        given[3]["constraint"] = {"type": "must_start_on", "at": "2027-01-06T08:00"}
        stated = {"activity": "C", "actual_start": "2027-01-04T08:00", "remaining": "8d"}
        link = [{"from": "A", "to": "B", "type": "SS", "lag": "2d"}]
        b = book(given, link, project=IMPOSED, periods=[page("P1", "2027-01-04T17:00", stated)])
        before, now, told = backward(b)
        self.assertEqual({c: s for c, (s, _) in dates(now).items()},
                         {"A": "2027-01-14T08:00", "B": "2027-01-18T08:00", "C": "2027-01-04T08:00", "D": "2027-01-06T08:00"})  # fmt: skip
        self.assertEqual(dates(before)["B"][1], dates(backward(b, "A")[1])["B"][1] + 7 * 480)
        self.assertNotIn("keep", told)  # what must has no float to be moved by

    def test_a_finish_that_cant_be_met_says_why_not(self) -> None:
        b = book(rows(("A", "10d"), ("B", "8d")), [{"from": "A", "to": "B"}], project=IMPOSED)
        with self.assertRaisesRegex(ChangeRefused, "22 January 2027 can't be met: 2 activities have less than no float, A .*3 days"):
            backward(b)
        with self.assertRaisesRegex(ChangeRefused, "as late as its links allow already"):
            backward(book(rows(("A", "2d"))))


class Properties(unittest.TestCase):
    def test_no_link_is_broken_and_nothing_is_before_the_status(self) -> None:
        tried = refused = 0
        for seed in range(200):
            try:
                b = book_from(random_book(seed, 9))
                before, now, _ = backward(b)
            except BookInvalid:
                continue
            except ChangeRefused:
                refused += 1
                continue
            tried += 1
            limit = max(b.project.imposed_finish or 0, before.schedule.finish)
            self.assertLessEqual(now.schedule.finish, limit, seed)
            for code, row in now.schedule.activities.items():
                was = before.schedule.activities[code]
                if row.state != "not_started":
                    self.assertEqual(row.start, was.start, (seed, code))  # what is left of it may wait for what moved
                    continue
                self.assertGreaterEqual(row.start, was.start, (seed, code))
                self.assertTrue(now.status is None or row.start >= now.status or b.activity_by_code[code].mode == "fixed", (seed, code))
                self.assertTrue(row.total_float is None or row.total_float >= 0, (seed, code))
        self.assertGreater(tried, 60, refused)


if __name__ == "__main__":
    unittest.main()
