"""Total float is the delay that an activity can really take: by it the finish stands, by a minute more it moves."""

import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import FIVE, book, page
from dryledger.book.plan import Book, Statement
from dryledger.compute import compute

SIX = {"code": "six", "name": "Six days, early", "week": {key: ["06:00-14:00"] for key in ("mon", "tue", "wed", "thu", "fri", "sat")}}
STATUS = "2027-01-05T12:00"


@st.composite
def plans(draw: Any, one_calendar: bool) -> Book:
    """Up to eight activities on one or two calendars, any links with lags, none of it begun."""
    n = draw(st.integers(2, 8))
    codes = [f"A{i}" for i in range(n)]
    kinds = ["five"] if one_calendar else ["five", "six"]
    acts = [{"code": c, "duration": f"{draw(st.integers(1, 20))}h", "calendar": draw(st.sampled_from(kinds))} for c in codes]
    pairs = draw(st.lists(st.tuples(st.integers(0, n - 1), st.integers(0, n - 1)), max_size=12, unique=True))
    links = [
        {"from": codes[i], "to": codes[j], "type": draw(st.sampled_from(["FS", "SS", "FF", "SF"])), "lag": f"{draw(st.integers(0, 9))}h"}
        for i, j in pairs
        if i < j
    ]
    return book(acts, links, calendars=[FIVE, SIX], periods=[page("P1", STATUS)])


def delayed(b: Book, code: str, minutes: int) -> int:
    """The project's finish when one activity may not begin before its early start and so many working minutes."""
    row = compute(b).schedule.activities[code]
    axis = b.axes[code]
    carry = Statement(code, carry_to=axis.last(axis.pos(row.early_start) + minutes))
    return compute(replace(b, periods=(replace(b.periods[0], statements=(carry,)),))).schedule.finish


class Float(unittest.TestCase):
    def can_be_used(self, b: Book) -> None:
        r = compute(b)
        for code, row in r.schedule.activities.items():
            assert row.total_float is not None and row.free_float is not None
            self.assertLessEqual(delayed(b, code, row.total_float), r.schedule.finish, f"{code} by its float")
            self.assertGreater(delayed(b, code, row.total_float + 1), r.schedule.finish, f"{code} by a minute more")

    @settings(max_examples=80)
    @given(plans(True))
    def test_on_one_calendar(self, b: Book) -> None:
        self.can_be_used(b)

    @settings(max_examples=80)
    @given(plans(False))
    def test_on_two_calendars(self, b: Book) -> None:
        self.can_be_used(b)

    @settings(max_examples=60)
    @given(plans(True))
    def test_free_float_moves_no_successor(self, b: Book) -> None:
        r = compute(b)
        for code, row in r.schedule.activities.items():
            axis = b.axes[code]
            carry = Statement(code, carry_to=axis.last(axis.pos(row.early_start) + (row.free_float or 0)))
            later = compute(replace(b, periods=(replace(b.periods[0], statements=(carry,)),))).schedule.activities
            for link in b.links:
                if link.source == code:
                    now, then = later[link.target], r.schedule.activities[link.target]
                    own = b.axes[link.target]
                    self.assertEqual(own.pos(now.early_start), own.pos(then.early_start), (code, link))
