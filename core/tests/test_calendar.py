"""The working axis, by hand and by properties."""

import unittest
from datetime import date

from hypothesis import given
from hypothesis import strategies as st

from dryledger.calendar.calendar import Axis, Calendar, CalendarException, from_text, to_text

DAY = ((480, 720), (780, 1020))
FIVE = Calendar("c", "Five", (DAY,) * 5 + ((), ()))
HOLIDAY = Calendar(
    "h",
    "Holiday",
    (DAY,) * 5 + ((), ()),
    (CalendarException(date(2027, 3, 26), date(2027, 3, 29), ()), CalendarException(date(2027, 4, 3), date(2027, 4, 3), ((600, 660),))),
)
BASE = from_text("2027-01-01T00:00")


class ByHand(unittest.TestCase):
    def test_a_week_has_forty_hours(self) -> None:
        self.assertEqual(FIVE.axis.between(from_text("2027-01-04T00:00"), from_text("2027-01-11T00:00")), 2400)

    def test_the_weekend_stands_still(self) -> None:
        axis = FIVE.axis
        friday, monday = from_text("2027-01-08T17:00"), from_text("2027-01-11T08:00")
        self.assertEqual(axis.pos(friday), axis.pos(monday))
        self.assertEqual(to_text(axis.first(axis.pos(monday))), "2027-01-08T17:00")
        self.assertEqual(to_text(axis.last(axis.pos(friday))), "2027-01-11T08:00")

    def test_holidays_take_time_and_special_days_add_it(self) -> None:
        # Good Friday and Easter Monday off; Saturday 3 April works one hour.
        self.assertEqual(HOLIDAY.axis.between(from_text("2027-03-22T00:00"), from_text("2027-04-05T00:00")), 4800 - 2 * 480 + 60)

    def test_a_pause_is_taken_out(self) -> None:
        axis = FIVE.axis.without([(from_text("2027-01-05T00:00"), from_text("2027-01-07T00:00"))])
        start = from_text("2027-01-04T08:00")
        self.assertEqual(to_text(axis.first(axis.pos(start) + 960)), "2027-01-07T17:00")


class Properties(unittest.TestCase):
    @given(
        st.integers(0, 400_000),
        st.sampled_from([FIVE, HOLIDAY]),
        st.lists(st.tuples(st.integers(0, 90_000), st.integers(1, 9_000)), max_size=3),
    )
    def test_first_and_last_bound_each_position(self, offset: int, calendar: Calendar, pauses: list[tuple[int, int]]) -> None:
        axis: Axis = calendar.axis.without([(BASE + a, BASE + a + b) for a, b in pauses])
        t = BASE + offset
        p = axis.pos(t)
        self.assertLessEqual(axis.first(p), t)
        self.assertGreaterEqual(axis.last(p), t)
        self.assertEqual(axis.pos(axis.first(p)), p)
        self.assertEqual(axis.pos(axis.last(p)), p)
        self.assertEqual(axis.pos(axis.first(p) - 1), p - 1)
        self.assertEqual(axis.pos(axis.last(p) + 1), p + 1)
        self.assertTrue(axis.last(axis.latest_opening(t)) <= t < axis.last(axis.latest_opening(t) + 1))
