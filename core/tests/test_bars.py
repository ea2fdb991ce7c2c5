"""Bars as they are posted, and fronts as they are typed, by hand and over random books."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import Doc, book, page
from core.tests.random_books import random_book
from core.tests.test_entries import DONE, made
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import Results, compute
from dryledger.errors import EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.posting.bars import cells_of_bar, done_to
from dryledger.posting.planned import tried
from dryledger.posting.typed import read_entries
from dryledger.timeline.fronts import type_fronts

UNDER_WAY: Doc = {"activity": "B", "actual_start": "2027-01-11T08:00", "remaining": "3d"}


class Posted(unittest.TestCase):
    def setUp(self) -> None:
        self.r = compute(made(UNDER_WAY))

    def says(self, code: str, part: str, to: str, r: Results | None = None) -> dict[str, str]:
        return cells_of_bar(r or self.r, code, part, to)

    def test_work_under_way(self) -> None:
        """Worked Monday to Friday, five days; three remain from Monday on: 5 of 8, done to Friday's close."""
        self.assertEqual(to_text(done_to(self.r, "B") or 0), "2027-01-15T17:00")
        for part, to, cells in (
            ("worked", "2027-01-18T17:00", {"percent": "75"}),  # 6 of 8
            ("worked", "2027-01-13T12:00", {"percent": "31"}),  # 2.5 of 8: 31.25
            ("worked", "2027-01-01T12:00", {"percent": "0"}),
            ("worked", "2027-02-01T12:00", {"percent": "100"}),
            ("finish", "2027-01-22", {"remaining": "5d"}),  # Monday to Friday's close
            ("finish", "2027-01-19T12:00", {"remaining": "1.5d"}),
            ("finish", "2027-01-14", {"actual_finish": "2027-01-14"}),
            ("start", "2027-01-12T13:00", {"actual_start": "2027-01-12 13:00"}),
        ):
            self.assertEqual(self.says("B", part, to), cells, (part, to))

    def test_a_method_without_a_percent_says_what_remains(self) -> None:
        doc: list[Doc] = [{"code": c, "name": c, "duration": "5d"} for c in "AB"]
        doc[1]["value_method"] = {"type": "units", "planned": 40}
        r = compute(book(doc, [{"from": "A", "to": "B"}], periods=[page("P1", "2027-01-15T17:00", DONE, UNDER_WAY)]))
        self.assertEqual(self.says("B", "worked", "2027-01-18T17:00", r), {"remaining": "2d"})

    def test_what_has_not_begun_is_complete_or_takes_no_time(self) -> None:
        self.assertIsNone(done_to(self.r, "C"))
        for code, part, to, cells in (
            ("C", "start", "2027-01-25", {"carry_to": "2027-01-25"}),
            ("C", "start", "2027-01-14", {"actual_start": "2027-01-14"}),
            ("C", "finish", "2027-01-14", {"actual_finish": "2027-01-14"}),
            ("A", "finish", "2027-01-07", {"actual_finish": "2027-01-07"}),
            ("A", "start", "2027-01-05", {"actual_start": "2027-01-05"}),
            ("M", "start", "2027-01-25", {"carry_to": "2027-01-25"}),
            ("M", "start", "2027-01-14", {"actual_finish": "2027-01-14"}),
        ):
            self.assertEqual(self.says(code, part, to), cells, (code, part, to))

    def test_what_says_nothing_is_refused_in_words(self) -> None:
        for code, part, to, words in (
            ("C", "worked", "2027-01-20", "has not begun"),
            ("C", "finish", "2027-01-29", "has not begun"),
            ("A", "worked", "2027-01-06", "complete"),
            ("B", "finish", "2027-01-18T08:00", "goes on"),
            ("B", "finish", "", "Give the date"),
            ("B", "middle", "2027-01-20", "start, worked, finish"),
        ):
            with self.assertRaisesRegex(EntryRefused, words):
                self.says(code, part, to)

    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 100_000), st.integers(1, 20))
    def test_an_end_that_is_dragged_is_where_the_work_then_ends(self, seed: int, days: int) -> None:
        r = compute(book_from(random_book(seed)))
        if r.status is None:
            return
        before = compute(r.book.with_periods(r.book.periods[:-1]))
        for code, row in r.schedule.activities.items():
            ends: list[object] = [k for k in r.book.links_into.get(code, ()) if k.type[1] == "F"]  # what holds its end, not its start
            held = r.book.activity_by_code[code].constraint
            ends += [held] if held is not None and "finish" in held.type else []
            if r.progress[code].state != "in_progress" or row.resume is None or ends or r.progress[code].remaining == 0:
                continue
            axis = r.book.axes[code]
            at = axis.first(axis.pos(row.resume) + days * 480)
            cells = cells_of_bar(r, code, "finish", to_text(at))
            (entered,) = read_entries(r, before, {code: cells})
            assert entered.checked is not None
            self.assertEqual(tried(r, [entered.checked.statement]).results.schedule.activities[code].finish, at, (seed, code))

    @settings(max_examples=80, deadline=None)
    @given(st.integers(0, 100_000))
    def test_where_the_percent_lies_says_the_percent(self, seed: int) -> None:
        r = compute(book_from(random_book(seed)))
        for code, p in r.progress.items():
            at = done_to(r, code)
            if at is None:
                continue
            says = cells_of_bar(r, code, "worked", to_text(at))
            if "percent" in says and p.elapsed + p.remaining > 200:
                self.assertLessEqual(abs(int(says["percent"]) - p.percent * 100), 1, (seed, code))


class Fronts(unittest.TestCase):
    def setUp(self) -> None:
        self.r = compute(made(UNDER_WAY))

    def dates(self, text: str) -> list[str]:
        return [to_text(t) for t in type_fronts(self.r, text)]

    def test_dates_and_sentences(self) -> None:
        fridays = ["2027-01-08T17:00", "2027-01-15T17:00"]
        for text, dates in (
            ("12 jan, 7 jan 12:00", ["2027-01-07T12:00", "2027-01-12T17:00"]),
            ("every Friday", fridays),
            ("every second Friday", fridays[:1]),
            ("every second friday from 11 jan", fridays[1:]),
            ("every week from 6 jan", ["2027-01-06T17:00", "2027-01-13T17:00"]),
            ("every month from 15 jan", ["2027-01-15T17:00"]),
            ("each day from 14 jan", ["2027-01-14T17:00", "2027-01-15T17:00"]),
            ("12 jan, every Friday", [fridays[0], "2027-01-12T17:00", fridays[1]]),
            ("every month on the last working day", []),
        ):
            self.assertEqual(self.dates(text), dates, text)

    def test_what_is_no_date_is_refused(self) -> None:
        for text in ("", " , ", "someday", "every blue moon", "every week from someday"):
            with self.assertRaises(EntryRefused) as no:
                type_fronts(self.r, text)
            self.assertEqual(no.exception.field, "dates")
        self.assertEqual(type_fronts(self.r, "2027-01-12T09:30"), [from_text("2027-01-12T09:30")])
