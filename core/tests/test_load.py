"""The load of resources over time: by hand, and on random books against a slow reckoning and the remaining work."""

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal as D
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book import plan
from dryledger.book.plan import Book
from dryledger.budget.load import Load, booked_loads, loads, spread_over
from dryledger.budget.remaining import remaining_work
from dryledger.calendar.axis import DAY
from dryledger.calendar.buckets import BUCKETS
from dryledger.calendar.calendar import Calendar, to_text
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from

FIVE = Calendar("five", "Five", (((480, 720), (780, 1020)),) * 5 + ((),) * 2)
CREW = {"code": "R", "name": "Crew", "units": 1}


def crew(*rows: dict[str, Any], units: float = 1, **more: Any) -> Book:
    """Activities that the crew is assigned to."""
    return book(
        list(rows), resources=[CREW | {"units": units}], assignments=[{"activity": a["code"], "resource": "R"} for a in rows], **more
    )


def load(b: Book, bucket: str = "week") -> tuple[list[str], Load]:
    r = compute(b)
    ends, [found] = loads(r.at, r.progress, r.schedule, bucket)
    return [to_text(e)[:10] for e in ends], found


def hours(minutes: list[D]) -> list[float]:
    return [float(m) / 60 for m in minutes]


class ByHand(unittest.TestCase):
    def test_two_at_once_ask_for_more_than_there_is(self) -> None:
        ends, found = load(crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "8d"}))
        # B takes a week and three days: 64 hours, 40 of them beside A's.
        self.assertEqual((ends, hours(found.asked), hours(found.there)), (["2027-01-11", "2027-01-18"], [80, 24], [40, 40]))
        self.assertEqual((found.over, found.causes[0]), ([0], {"A": D(2400), "B": D(2400)}))
        self.assertEqual(load(crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "5d"}, units=2))[1].over, [])

    def test_by_day_and_by_month(self) -> None:
        ends, found = load(crew({"code": "A", "duration": "2d"}), "day")
        self.assertEqual((ends, hours(found.asked)), (["2027-01-05", "2027-01-06"], [8, 8]))
        ends, found = load(crew({"code": "A", "duration": "30d"}), "month")
        # January 2027 has twenty working days from the 4th on, and the first of it counts as there too.
        self.assertEqual((ends, hours(found.asked), hours(found.there)[0]), (["2027-02-01", "2027-03-01"], [160, 80], 21 * 8))

    def test_posted_work_leaves_what_is_to_go_from_the_status_on(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "2d"}
        ends, found = load(crew({"code": "A", "duration": "5d"}, periods=[page("P1", "2027-01-08T17:00", stated)]))
        self.assertEqual((ends, hours(found.asked)), (["2027-01-18"], [16]))
        done = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-08T17:00"}
        self.assertEqual(
            load(crew({"code": "A", "duration": "5d"}, periods=[page("P1", "2027-01-08T17:00", done)])), ([], Load("R", [], []))
        )

    def test_hours_to_go_on_work_without_time_left_count_once(self) -> None:
        """Such as are stated on work that is about to be finished: they fall into the bucket in which it stands."""
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "0d"}
        posted = [{"activity": "A", "resource": "R", "worked": "30h", "to_go": "6h"}]
        _, found = load(crew({"code": "A", "duration": "5d"}, periods=[page("P1", "2027-01-07T12:00", stated, hours=posted)]))
        self.assertEqual(hours(found.asked), [6])

    def test_what_is_booked_and_there_by_the_minute(self) -> None:
        """Two on a crew of one for a week, on leave on Friday: 80 h booked, 32 there; over are 32 h of the second, and both on Friday."""
        b = crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "5d"})
        leave = plan.UnitsException(date(2027, 1, 8), date(2027, 1, 8))
        r = compute(replace(b, resources=(replace(b.resources[0], exceptions=(leave,)),)))
        ends, [found] = booked_loads(r.at, r.schedule, "week")
        self.assertEqual(([to_text(e)[:10] for e in ends], hours(found.booked), hours(found.available)), (["2027-01-11"], [80], [32]))
        self.assertEqual(hours(found.over), [32 + 16])
        _, [by_day] = booked_loads(r.at, r.schedule, "day")
        self.assertEqual((hours(by_day.available), hours(by_day.over)), ([8, 8, 8, 8, 0], [8, 8, 8, 8, 16]))

    def test_a_material_has_none(self) -> None:
        r = compute(
            book([{"code": "A"}], resources=[CREW | {"kind": "material"}], assignments=[{"activity": "A", "resource": "R", "quantity": 5}])
        )
        self.assertEqual(loads(r.at, r.progress, r.schedule), ([], []))


def computed(seed: int) -> Results | None:
    try:
        return compute(book_from(random_book(seed, 8)))
    except BookInvalid:
        return None


class Properties(unittest.TestCase):
    def test_all_that_remains_is_asked_for_and_by_whom_adds_up(self) -> None:
        tried = 0
        for seed in range(60):
            r = computed(seed)
            if r is None:
                continue
            remains: dict[str, D] = {}
            for a in r.book.activities:
                if r.schedule.activities[a.code].state != "complete":
                    for resource, minutes in remaining_work(r.at, a, r.progress[a.code]).items():
                        remains[resource] = remains.get(resource, D(0)) + minutes
            for bucket in BUCKETS:
                _, found = loads(r.at, r.progress, r.schedule, bucket)
                for x in found:
                    self.assertAlmostEqual(sum(x.asked), remains.get(x.resource, D(0)), 6, (seed, bucket, x.resource))
                    for i, causes in enumerate(x.causes):
                        self.assertAlmostEqual(sum(causes.values()), x.asked[i], 6)
                    tried += sum(x.asked) > 0
        self.assertGreater(tried, 60)

    @settings(max_examples=80, deadline=None)
    @given(st.integers(0, 20 * DAY), st.integers(0, 12 * DAY), st.integers(1, 5000))
    def test_a_span_is_spread_as_its_minutes_lie(self, start: int, length: int, minutes: int) -> None:
        axis, ends = FIVE.axis, [(i + 1) * DAY for i in range(40)]
        found = dict(spread_over(axis, (start, start + length), D(minutes), [e - DAY for e in ends], ends))
        whole = axis.between(start, start + length)
        for i, end in enumerate(ends):
            inside = max(min(end, start + length) - max(end - DAY, start), 0)
            mine = axis.between(max(end - DAY, start), min(end, start + length)) if inside else 0
            expected = D(minutes) * mine / whole if whole else D(minutes if end - DAY <= start < end else 0)
            self.assertAlmostEqual(found.get(i, D(0)), expected, 6)
        self.assertAlmostEqual(sum(found.values()), D(minutes), 6)


if __name__ == "__main__":
    unittest.main()
