"""People across projects: by hand, minute by minute against a slow reckoning, and the organisation's resources in a book."""

import unittest
from dataclasses import replace
from datetime import date
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book.lists import LISTS
from dryledger.book.plan import Book, Rate
from dryledger.book.shared import SharedResource
from dryledger.budget.booking import over_allocated
from dryledger.calendar.axis import DAY, Axis
from dryledger.calendar.calendar import Calendar, from_text, to_text
from dryledger.changes.apply import apply_keyed
from dryledger.changes.elsewhere import OutsideContext
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import compute
from dryledger.desk.people import Asking, Leave, asking, leave_of, load_of, over_of
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import row_document

FIVE = Calendar("five", "Five-day week", (((480, 720), (780, 1020)),) * 5 + ((),) * 2)
EARLY = Calendar("early", "Six days", (((360, 840),),) * 6 + ((),))
CLOCK = Calendar("clock", "Always", (((0, 1440),),) * 7)
MONDAY = from_text("2027-01-04T00:00")
ELE = SharedResource("ELE", "Electricians", FIVE, units=Decimal(2), currency="EUR", rates=())


def pier(**more: Any) -> Book:
    """A of five days from Monday with one electrician of the organisation."""
    resource = {"code": "E1", "name": "Sparks", "shared": "ELE", "units": 1, **more}
    return book([{"code": "A", "name": "Wire", "duration": "5d"}], resources=[resource], assignments=[{"activity": "A", "resource": "E1"}])


class ByHand(unittest.TestCase):
    def test_two_projects_and_two_electricians(self) -> None:
        rows = asking(compute(pier()))
        self.assertEqual([(x.project, x.resource, x.activity, x.units) for x in rows], [("X", "ELE", "A", Decimal(1))])
        other = [replace(rows[0], project=p, units=Decimal(u)) for p, u in (("DOCK", 1), ("QUAY", "0.5"))]
        load = load_of(ELE, [*rows, *other], "week")
        # Twice forty hours and half of them are booked of two who work forty each.
        self.assertEqual((load.sums, load.there, load.over), ([Decimal(6000)], [Decimal(4800)], [0]))
        self.assertEqual(load.asked[0], {(p, "A"): Decimal(n) for p, n in (("X", 2400), ("DOCK", 2400), ("QUAY", 1200))})
        spans = over_of(ELE, [*rows, *other])
        # 2.5 of 2 in every working minute of the week: ten spans of four hours, half a unit beyond.
        self.assertEqual((len(spans), sum(x.unit_minutes for x in spans)), (10, Decimal(1200)))
        first = spans[0]
        self.assertEqual(
            (to_text(first.start), to_text(first.end), first.required), ("2027-01-04T08:00", "2027-01-04T12:00", Decimal("2.5"))
        )
        self.assertEqual(over_of(ELE, [*rows, other[0]]), [])
        # One of the two is away on Friday, as a project of theirs knows: the two that are booked then are one too many, for eight hours.
        away = [Leave("ELE", from_text("2027-01-08T00:00"), from_text("2027-01-09T00:00"), Decimal(1))]
        spans = over_of(ELE, [*rows, other[0]], away)
        self.assertEqual([(x.available, x.unit_minutes) for x in spans], [(1, 240), (1, 240)])
        self.assertEqual(load_of(ELE, [*rows, other[0]], "week", away).there, [Decimal(4800 - 480)])

    def test_where_the_organisation_does_not_work_there_are_none(self) -> None:
        row = replace(asking(compute(pier()))[0], axis=EARLY.axis, own=EARLY.axis, start=MONDAY + 360, finish=MONDAY + 840)
        spans = over_of(ELE, [row])
        self.assertEqual([(x.start - MONDAY, x.end - MONDAY, x.available) for x in spans], [(360, 480, 0), (720, 780, 0)])

    def test_what_is_done_or_not_shared_asks_for_nothing(self) -> None:
        self.assertEqual(asking(compute(pier(shared=None))), [])
        self.assertEqual(asking(compute(pier(kind="material"))), [])
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-08T17:00"}
        b = pier()
        done = book([{"code": "A", "name": "Wire", "duration": "5d"}], resources=[{"code": "E1", "name": "S", "shared": "ELE"}],
                    assignments=[{"activity": "A", "resource": "E1"}], periods=[page("P1", "2027-01-08T17:00", stated)])  # fmt: skip
        self.assertEqual((len(asking(compute(b))), asking(compute(done))), (1, []))
        self.assertEqual((load_of(ELE, [], "week").ends, over_of(ELE, [])), ([], []))


calendars = st.sampled_from([FIVE, EARLY, CLOCK])
spans = st.tuples(st.integers(0, 9 * DAY), st.integers(0, 4 * DAY))


@st.composite
def some_asking(draw: st.DrawFn) -> Asking:
    axis, own = draw(calendars).axis, draw(calendars).axis
    if draw(st.booleans()):
        axis = axis.without([(MONDAY + DAY, MONDAY + 2 * DAY + 600)])
    start, length = draw(spans)
    units, who = draw(st.sampled_from(["0.5", "1", "2"])), draw(st.sampled_from("PQR"))
    code = str(draw(st.integers(0, 10**6)))
    return Asking(who, "ELE", code, code, MONDAY + start, MONDAY + start + length, Decimal(units), axis, own)


def works(axis: Axis, t: int) -> bool:
    return axis.pos(t + 1) > axis.pos(t)


class Properties(unittest.TestCase):
    @settings(max_examples=25, deadline=None)
    @given(st.lists(some_asking(), max_size=5, unique_by=lambda x: x.activity), calendars)
    def test_over_allocation_is_that_of_every_minute(self, rows: list[Asking], calendar: Calendar) -> None:
        kept = replace(ELE, calendar=calendar)
        stated = {t: (x.required, x.available, x.who) for x in over_of(kept, rows) for t in range(x.start, x.end)}
        for t in range(MONDAY, MONDAY + 13 * DAY, 7):  # a prime step, so that all edges are met at last
            on = [x for x in rows if x.start <= t < x.finish and works(x.axis, t) and works(x.own, t)]
            required, there = sum((x.units for x in on), Decimal(0)), kept.units if works(calendar.axis, t) else Decimal(0)
            expected = (required, there, tuple((x.project, x.activity) for x in on)) if required > there else None
            self.assertEqual(stated.get(t), expected, t - MONDAY)

    @settings(max_examples=15, deadline=None)
    @given(st.lists(some_asking(), max_size=4, unique_by=lambda x: (x.project, x.activity)), st.sampled_from(["day", "week", "month"]))
    def test_no_hour_of_the_load_is_lost(self, rows: list[Asking], bucket: str) -> None:
        load = load_of(ELE, rows, bucket)
        for x in rows:
            mine = sum(found.get((x.project, x.activity), Decimal(0)) for found in load.asked)
            both = sum(works(x.axis, t) and works(x.own, t) for t in range(x.start, x.finish))
            self.assertEqual(mine, x.units * both)

    def test_of_one_project_alone_it_is_the_over_allocation_of_that(self) -> None:
        tried = 0
        for seed in range(60):
            try:
                found = book_from(random_book(seed, 8))
                b = replace(found, resources=tuple(replace(r, shared=r.code) for r in found.resources))
                r = compute(b)
            except BookInvalid:
                continue
            for x in b.resources:
                kept = SharedResource(x.code, x.name, b.calendar_by_code[x.calendar], units=x.units)
                away = [y for y in leave_of(b) if y.resource == x.code]
                mine = over_of(kept, [a for a in asking(r) if a.resource == x.code], away)
                own = sum((o.unit_minutes for o in over_allocated(b, r.schedule, r.at.to_go) if o.resource == x.code), Decimal(0))
                self.assertEqual(sum((o.unit_minutes for o in mine), Decimal(0)), own, (seed, x.code))
                tried += own > 0
        self.assertGreater(tried, 5)


class InABook(unittest.TestCase):
    def change(self, b: Book, *verbs: dict[str, Any], kept: SharedResource = ELE) -> Book:
        return apply_keyed(KeyedBook.of(b), list(verbs), {}, OutsideContext(shared=[kept])).book

    def test_drawing_on_one_brings_it_with_its_calendar_and_rates(self) -> None:
        rates = (Rate(date(2026, 1, 1), Decimal("58"), "hour"),)
        b = self.change(book([{"code": "A"}]), {"do": "draw", "shared": "ELE"}, kept=replace(ELE, calendar=EARLY, rates=rates))
        [made] = b.resources
        self.assertEqual((made.code, made.name, made.units, made.shared, made.rates), ("ELE", "Electricians", 2, "ELE", rates))
        self.assertEqual((made.calendar, b.calendar_by_code["early"].week), ("early", EARLY.week))
        self.assertEqual(row_document(LISTS["resources"], made)["shared"], "ELE")
        again = self.change(b, {"do": "draw", "shared": "ELE"}, kept=replace(ELE, units=Decimal(9), rates=()))
        self.assertEqual((again.resources[0].rates, again.resources[0].units), ((), 2))

    def test_what_is_the_organisations_is_refused_and_own_rates_are_not(self) -> None:
        b = pier()
        for cells in ({"name": "X"}, {"rates": []}, {"role": True}):
            with self.assertRaisesRegex(ChangeRefused, "The organisation keeps this"):
                self.change(b, {"do": "set", "row": "r0", "cells": cells})
        own = self.change(b, {"do": "set", "row": "r0", "cells": {"own_rates": True}})
        rated = self.change(own, {"do": "set", "row": "r0", "cells": {"rates": [{"from": "2026-01-01", "amount": "9", "per": "hour"}]}})
        kept = self.change(rated, {"do": "draw", "shared": "ELE", "row": "r0"})
        self.assertEqual((kept.resources[0].name, kept.resources[0].rates), ("Electricians", rated.resources[0].rates))
        left = self.change(kept, {"do": "leave", "row": "r0"}).resources[0]
        self.assertEqual((left.shared, left.own_rates, left.name), (None, False, "Electricians"))
        with self.assertRaisesRegex(ChangeRefused, "no resource “NONE”"):
            self.change(b, {"do": "draw", "shared": "NONE"})
