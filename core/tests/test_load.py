"""The load of resources over time: by hand, and on random books against the minutes that are over-allocated everywhere else."""

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal as D
from typing import Any

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book import plan
from dryledger.book.plan import Book
from dryledger.budget.booking import over_allocated, over_by_resource
from dryledger.budget.load import Load, loads
from dryledger.calendar.buckets import BUCKETS
from dryledger.calendar.calendar import to_text
from dryledger.checks.checks import checks
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.options.board import standing

CREW = {"code": "R", "name": "Crew", "units": 1}


def crew(*rows: dict[str, Any], units: float = 1, **more: Any) -> Book:
    """Activities that the crew is assigned to."""
    return book(
        list(rows), resources=[CREW | {"units": units}], assignments=[{"activity": a["code"], "resource": "R"} for a in rows], **more
    )


def load(b: Book, bucket: str = "week") -> tuple[list[str], Load]:
    r = compute(b)
    ends, [found] = loads(r.at, r.schedule, bucket)
    return [to_text(e)[:10] for e in ends], found


def hours(minutes: list[D]) -> list[float]:
    return [float(m) / 60 for m in minutes]


class ByHand(unittest.TestCase):
    def test_two_at_once_ask_for_more_than_there_is(self) -> None:
        ends, found = load(crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "8d"}))
        # B takes a week and three days: 64 hours, 40 of them beside A's.
        self.assertEqual((ends, hours(found.booked), hours(found.available)), (["2027-01-11", "2027-01-18"], [80, 24], [40, 40]))
        self.assertEqual((found.over_at, found.causes[0]), ([0], {"A": D(2400), "B": D(2400)}))
        self.assertEqual(load(crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "5d"}, units=2))[1].over_at, [])

    def test_by_day_and_by_month(self) -> None:
        ends, found = load(crew({"code": "A", "duration": "2d"}), "day")
        self.assertEqual((ends, hours(found.booked)), (["2027-01-05", "2027-01-06"], [8, 8]))
        ends, found = load(crew({"code": "A", "duration": "30d"}), "month")
        # January 2027 has twenty working days from the 4th on, and the first of it counts as there too.
        self.assertEqual((ends, hours(found.booked), hours(found.available)[0]), (["2027-02-01", "2027-03-01"], [160, 80], 21 * 8))

    def test_posted_work_leaves_what_is_to_go_from_the_status_on(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "2d"}
        ends, found = load(crew({"code": "A", "duration": "5d"}, periods=[page("P1", "2027-01-08T17:00", stated)]))
        self.assertEqual((ends, hours(found.booked)), (["2027-01-18"], [16]))
        done = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-08T17:00"}
        self.assertEqual(
            load(crew({"code": "A", "duration": "5d"}, periods=[page("P1", "2027-01-08T17:00", done)])), ([], Load("R", [], [], []))
        )

    def test_nothing_to_go_books_nothing(self) -> None:
        """Hours stated to go say whether anything is booked, not how much: units are booked as long as the work lasts."""
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "2d"}
        for to_go, booked in (("6h", [16]), ("0h", [])):
            posted = [{"activity": "A", "resource": "R", "worked": "30h", "to_go": to_go}]
            _, found = load(crew({"code": "A", "duration": "5d"}, periods=[page("P1", "2027-01-08T17:00", stated, hours=posted)]))
            self.assertEqual(hours(found.booked), booked)

    def test_what_is_booked_and_there_by_the_minute(self) -> None:
        """Two on a crew of one for a week, on leave on Friday: 80 h booked, 32 there; over are 32 h of the second, and both on Friday."""
        b = crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "5d"})
        leave = plan.UnitsException(date(2027, 1, 8), date(2027, 1, 8))
        r = compute(replace(b, resources=(replace(b.resources[0], exceptions=(leave,)),)))
        ends, [found] = loads(r.at, r.schedule, "week")
        self.assertEqual(([to_text(e)[:10] for e in ends], hours(found.booked), hours(found.available)), (["2027-01-11"], [80], [32]))
        self.assertEqual(hours(found.over), [32 + 16])
        _, [by_day] = loads(r.at, r.schedule, "day")
        self.assertEqual((hours(by_day.available), hours(by_day.over)), ([8, 8, 8, 8, 0], [8, 8, 8, 8, 16]))

    def test_a_material_has_none(self) -> None:
        r = compute(
            book([{"code": "A"}], resources=[CREW | {"kind": "material"}], assignments=[{"activity": "A", "resource": "R", "quantity": 5}])
        )
        self.assertEqual(loads(r.at, r.schedule), ([], []))


def computed(seed: int) -> Results | None:
    try:
        return compute(book_from(random_book(seed, 8)))
    except BookInvalid:
        return None


class Properties(unittest.TestCase):
    def test_what_each_books_adds_up_and_is_over_where_checks_levelling_options_and_the_desk_say_so(self) -> None:
        """One definition: the same minutes, whoever tells them."""
        tried = 0
        for seed in range(80):
            r = computed(seed)
            if r is None:
                continue
            spans = over_allocated(r.book, r.schedule, r.at.to_go)
            by = {x.resource: x.unit_minutes for x in over_by_resource(spans)}
            self.assertEqual(standing(r).over_allocated, sum(by.values(), D(0)))
            told = {row for f in checks(r) if f.check == "overbooked" for row in f.rows}
            self.assertEqual(told, set(by), seed)
            for bucket in BUCKETS:
                for x in loads(r.at, r.schedule, bucket)[1]:
                    self.assertEqual(sum(x.over, D(0)), by.get(x.resource, D(0)), (seed, bucket, x.resource))
                    self.assertEqual([sum(c.values(), D(0)) for c in x.causes], x.booked)
                    tried += bool(x.over_at)
        self.assertGreater(tried, 60)


if __name__ == "__main__":
    unittest.main()
