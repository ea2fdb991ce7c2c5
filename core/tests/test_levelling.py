"""Levelling by hand, and against a slow reckoning of random books, minute by minute."""

import itertools
import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from core.tests.oracle_levelling import OracleLevelling
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.budget.booking import over_allocated, over_by_resource, over_minutes
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.options.levelling import MODES, level

CREW = {"code": "R", "name": "Crew", "units": 1}


def on(*codes: str, **more: Any) -> list[dict[str, Any]]:
    return [{"activity": c, "resource": "R"} | more for c in codes]


def crew(*activities: dict[str, Any], links: Any = (), assignments: Any = None, **more: Any) -> Book:
    """Activities that all ask for the one crew, unless other assignments are given."""
    who = on(*(a["code"] for a in activities)) if assignments is None else assignments
    return book(list(activities), list(links), resources=[CREW], assignments=who, **more)


def computed(seed: int) -> Results | None:
    """A random book of some seed at its last page; None where its dates run out of time."""
    try:
        return compute(book_from(random_book(seed, 8)))
    except BookInvalid:
        return None


class ByHand(unittest.TestCase):
    def test_the_least_late_start_goes_first_and_the_other_waits(self) -> None:
        b = crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "3d"}, {"code": "C", "duration": "2d"},
                 links=[{"from": "A", "to": "C"}, {"from": "B", "to": "C"}])  # fmt: skip
        found = level(compute(b))
        dates = {c: (to_text(x.start)[5:13], to_text(x.finish)[5:13]) for c, x in found.plan.activities.items()}
        self.assertEqual(dates, {"A": ("01-04T08", "01-08T17"), "B": ("01-11T08", "01-13T17"), "C": ("01-14T08", "01-15T17")})
        self.assertEqual({c: to_text(t) for c, t in found.dates.items()}, {"B": "2027-01-11T08:00"})
        self.assertEqual((found.waits_for, found.held_by, found.over), ({"B": ("R",)}, {"B": (("A", "R"),)}, []))
        self.assertEqual(found.moved, ["B", "C"])

    def test_within_float_the_finish_stands_and_what_found_no_place_is_told(self) -> None:
        b = crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "3d"})
        found = level(compute(b), "within_float")
        self.assertEqual((found.dates, found.plan.finish), ({}, compute(b).schedule.finish))
        # Three days of eight hours, in two spans a day: the lunch hour lies between.
        [first, *_] = found.over
        self.assertEqual((to_text(first.start), to_text(first.end), first.activities), ("2027-01-04T08:00", "2027-01-04T12:00", ("A", "B")))
        self.assertEqual((len(found.over), over_minutes(found.over)), (6, Decimal(3 * 480)))

    def test_a_gap_between_bookings_is_used_only_by_what_fits_whole(self) -> None:
        pin = {"mode": "fixed", "start": "2027-01-06T08:00", "finish": "2027-01-08T17:00"}
        b = crew({"code": "P", **pin}, {"code": "S", "duration": "2d"}, {"code": "L", "duration": "3d"})
        found = level(compute(b))
        starts = {c: to_text(x.start)[5:13] for c, x in found.plan.activities.items()}
        self.assertEqual(starts, {"P": "01-06T08", "S": "01-04T08", "L": "01-11T08"})

    def test_an_ask_above_the_units_counts_as_all_of_them_and_is_told(self) -> None:
        b = crew({"code": "A", "duration": "1d"}, {"code": "B", "duration": "1d"}, assignments=on("A", units=3) + on("B"))
        found = level(compute(b))
        self.assertEqual({c: to_text(t)[5:13] for c, t in found.dates.items()}, {"B": "01-05T08"})
        self.assertEqual(over_minutes(found.over), Decimal(2 * 480))

    def test_started_work_stays_but_not_if_it_waits_for_what_moves(self) -> None:
        acts = [
            {"code": "A", "duration": "4d"},
            {"code": "B", "duration": "4d"},
            {"code": "C", "duration": "2d"},
            {"code": "D", "duration": "2d"},
        ]
        stated = [{"activity": c, "actual_start": "2027-01-04T08:00", "remaining": "2d"} for c in "AB"]
        pages = [page("P1", "2027-01-05T17:00", *stated)]
        # B has begun although C comes before it: its rest waits for C, and C waits for A, which stays.
        b = crew(*acts, links=[{"from": "C", "to": "B"}], periods=pages)
        found = level(compute(b))
        got = {c: to_text(x.resume or x.start)[5:13] for c, x in found.plan.activities.items()}
        self.assertEqual(got, {"A": "01-06T08", "C": "01-08T08", "B": "01-12T08", "D": "01-14T08"})
        free = level(compute(b, treatment="override"))
        # Under progress override the rest of B stays too, and both are over-allocated together.
        self.assertEqual(to_text(free.plan.activities["B"].resume or 0)[5:13], "01-06T08")
        self.assertEqual({x.activities for x in free.over}, {("A", "B")})

    def test_as_late_as_possible_keeps_its_place_by_a_date(self) -> None:
        b = crew({"code": "A", "duration": "5d"}, {"code": "B", "duration": "1d", "constraint": {"type": "as_late_as_possible"}},
                 assignments=on("B"))  # fmt: skip
        found = level(compute(b))
        self.assertEqual({c: to_text(t) for c, t in found.dates.items()}, {"B": "2027-01-08T08:00"})
        self.assertEqual((found.waits_for, found.moved), ({}, ["B"]))

    def test_earlier_levelled_dates_are_dropped_first(self) -> None:
        b = crew({"code": "A", "duration": "1d", "levelled": "2027-02-01T08:00"})
        found = level(compute(b))
        self.assertEqual((found.dates, found.moved, to_text(found.plan.finish)), ({}, ["A"], "2027-01-04T17:00"))

    def test_a_project_without_resources_has_nothing_to_level(self) -> None:
        found = level(compute(book([{"code": "A", "duration": "1d"}])))
        self.assertEqual((found.dates, found.over, found.moved), ({}, [], []))


class Leave(unittest.TestCase):
    """The one crew, or two of it, is away on Wednesday 6 January, or there are more of it; all work takes days of 8 hours."""

    def levelled(self, *activities: dict[str, Any], crew: float = 1, there: float = 0, **more: Any) -> Any:
        leave = [{"from": "2027-01-06", "to": "2027-01-06", "name": "leave", "units": there}]
        rows = [CREW | {"units": crew, "exceptions": leave}]
        return level(compute(book(list(activities), resources=rows, assignments=on(*(a["code"] for a in activities), **more))))

    def begins(self, found: Any) -> dict[str, str]:
        return {code: to_text(x.start) for code, x in found.plan.activities.items()}

    def test_work_through_it_is_not_delayed_and_told(self) -> None:
        found = self.levelled({"code": "A", "duration": "5d"})
        self.assertEqual((found.dates, [(x.required, x.available, x.end - x.start) for x in found.over]), ({}, [(1, 0, 240), (1, 0, 240)]))

    def test_nothing_begins_in_it(self) -> None:
        """A takes Monday and Tuesday, so B would begin on Wednesday: it begins on Thursday, held by A, who books the last minute before."""
        found = self.levelled({"code": "A", "duration": "2d"}, {"code": "B", "duration": "2d"})
        self.assertEqual(self.begins(found)["B"], "2027-01-07T08:00")
        self.assertEqual((found.held_by["B"], found.over), ((("A", "R"),), []))

    def test_an_ask_above_what_is_left_of_it_is_measured_against_all(self) -> None:
        """Of two one is away: A asks for both and goes on; B, who asks for both too, has to wait for A and not for the leave."""
        found = self.levelled({"code": "A", "duration": "3d"}, {"code": "B", "duration": "1d"}, crew=2, there=1, units=2)
        self.assertEqual(self.begins(found), {"A": "2027-01-04T08:00", "B": "2027-01-07T08:00"})

    def test_where_there_are_more_two_go_beside_each_other(self) -> None:
        found = self.levelled(
            {"code": "A", "duration": "1d"},
            {"code": "B", "duration": "1d"},
            {"code": "C", "duration": "1d"},
            {"code": "D", "duration": "1d"},
            there=2,
        )
        days = sorted(x[:10] for x in self.begins(found).values())
        self.assertEqual(days, ["2027-01-04", "2027-01-05", "2027-01-06", "2027-01-06"])
        self.assertEqual(found.over, [])

    def test_nothing_to_go_books_nothing(self) -> None:
        hours = [{"activity": "A", "resource": "R", "worked": "1h", "to_go": "0h"}]
        started = {"activity": "A", "actual_start": "2027-01-04T08:00"}
        rows = [{"code": "A", "duration": "5d"}, {"code": "B", "duration": "2d"}]
        b = book(rows, resources=[CREW], assignments=on("A", "B"), periods=[page("P01", "2027-01-04T17:00", started, hours=hours)])
        self.assertEqual((level(compute(b)).dates, level(compute(b)).over), ({}, []))


class AgainstTheOracle(unittest.TestCase):
    @settings(max_examples=120)
    @given(st.integers(0, 10**6), st.sampled_from(MODES))
    def test_dates_and_holders_are_the_same(self, seed: int, mode: str) -> None:
        r = computed(seed)
        if r is None:
            return
        oracle, found = OracleLevelling(r.book, mode == "within_float"), level(r, mode)
        self.assertEqual(found.dates, dict(sorted(oracle.dates.items(), key=lambda x: list(oracle.base).index(x[0]))))
        self.assertEqual({c: list(x) for c, x in found.waits_for.items()}, oracle.short)
        self.assertEqual({c: sorted(set(x)) for c, x in found.held_by.items()}, {c: sorted(set(x)) for c, x in oracle.holders.items()})

    @settings(max_examples=120)
    @given(st.integers(0, 10**6), st.sampled_from(MODES))
    def test_what_must_hold(self, seed: int, mode: str) -> None:
        r = computed(seed)
        if r is None:
            return
        found = level(r, mode)
        again = compute(found.book, treatment=r.treatment)
        self.assertEqual(again.schedule.activities, found.plan.activities)
        for code, at in found.dates.items():
            x = found.plan.activities[code]
            self.assertEqual(x.early_start, at)
        if mode == "within_float":
            bare = compute(replace(r.book, activities=tuple(replace(a, levelled=None) for a in r.book.activities)))
            latest = max(x.early_finish for x in bare.schedule.activities.values())
            self.assertEqual(max(x.early_finish for x in found.plan.activities.values()), latest)
        else:
            units = {x.code: x.units for x in r.book.resources}
            for x in found.over:
                # Beyond float only work that stays, or an ask above the units, is left over-allocated.
                mine = [a for a in r.book.assignments if a.resource == x.resource and a.activity in x.activities]
                self.assertTrue(
                    all(self.stays(r, c) for c in x.activities)
                    or any(a.units > units[x.resource] for a in mine)
                    or x.available != units[x.resource],
                    x,
                )
        self.assertEqual(level(r, mode).dates, found.dates)

    def stays(self, r: Results, code: str) -> bool:
        return r.progress[code].state == "in_progress" or r.book.activity_by_code[code].mode == "fixed"

    @settings(max_examples=80)
    @given(st.integers(0, 10**6))
    def test_over_allocation_counts_every_minute(self, seed: int) -> None:
        r = computed(seed)
        if r is None:
            return
        expected: dict[tuple[str, int], tuple[Decimal, tuple[str, ...]]] = {}
        beyond: dict[tuple[str, int], Decimal] = {}
        for resource in r.book.resources:
            booked: dict[int, list[str]] = {}
            own = r.book.calendar_by_code[resource.calendar].axis
            for a in r.book.activities:
                x = r.schedule.activities[a.code]
                if (
                    x.state == "complete"
                    or resource.kind == "material"
                    or not any(k.activity == a.code and k.resource == resource.code for k in r.book.assignments)
                    or r.at.to_go.get((a.code, resource.code)) == 0
                ):
                    continue
                axis = r.book.axes[a.code]
                for t in range(x.resume or x.start, x.finish):
                    if axis.between(t, t + 1) and own.between(t, t + 1):
                        booked.setdefault(t, []).append(a.code)
            for t, codes in booked.items():
                need = sum((k.units for k in r.book.assignments if k.resource == resource.code and k.activity in codes), Decimal(0))
                day = date.fromisoformat(to_text(t)[:10])
                there = next((e.units for e in resource.exceptions if e.start <= day <= e.end), resource.units)
                if need > there:
                    expected[resource.code, t] = need, tuple(codes)
                    beyond[resource.code, t] = need - there
        found = over_allocated(r.book, r.schedule, r.at.to_go)
        got = {(x.resource, t): (x.required, x.activities) for x in found for t in range(x.start, x.end)}
        self.assertEqual(got, expected)
        sums = over_by_resource(found)
        self.assertEqual(sum((x.unit_minutes for x in sums), Decimal(0)), over_minutes(found))
        for total in sums:
            mine = {t: need for (code, t), need in expected.items() if code == total.resource}
            self.assertEqual((total.start, total.end, total.required), (min(mine), max(mine) + 1, max(n for n, _ in mine.values())))
            self.assertEqual(total.unit_minutes, sum((n for (code, _), n in beyond.items() if code == total.resource), Decimal(0)))
            self.assertEqual(set(total.activities), {c for _, codes in mine.values() for c in codes})
        for x, y in itertools.pairwise(found):
            self.assertFalse((x.resource, x.end, x.activities, x.available) == (y.resource, y.start, y.activities, y.available))
