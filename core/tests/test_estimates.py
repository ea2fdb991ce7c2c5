"""Estimates of hours spread to chosen resources: by hand, and over random books."""

import random
import unittest
from dataclasses import replace
from decimal import Decimal as D

from core.tests.books import Doc, book
from core.tests.random_books import random_book
from dryledger.book.durations import planned_duration, work_of
from dryledger.book.plan import Book
from dryledger.changes.apply import apply, apply_keyed
from dryledger.changes.estimates import PROJECT, once_applied, type_spread
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import compute
from dryledger.errors import BookInvalid, ChangeRefused, EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import book_document

PEOPLE: list[Doc] = [
    {"code": "FIT", "name": "Fitters", "rates": []},
    {"code": "CR", "name": "Crane", "kind": "equipment", "rates": []},
    {"code": "NAV", "name": "Navvies", "rates": []},
    {"code": "PNT", "name": "Paint", "kind": "material", "rates": []},
]


def two() -> Book:
    """A takes ten days with two fitters and a navvy, B five with nobody; a day has eight hours."""
    return book(
        [{"code": "A", "duration": "10d"}, {"code": "B", "duration": "5d"}, {"code": "M", "kind": "milestone"}],
        resources=PEOPLE,
        assignments=[{"activity": "A", "resource": "FIT", "units": 2}, {"activity": "A", "resource": "NAV"}],
    )


def spread(b: Book, hours: str, to: str) -> Book:
    kept = apply(b, [{"do": "estimate", "name": "E", "measure": "hours", "total": hours, "spread_to": to}]).book
    return apply(kept, [{"do": "apply", "estimate": "E1"}]).book


def minutes(b: Book) -> dict[str, D]:
    """What each assignment works, in minutes of its activity's planned duration."""
    found = {}
    for x in b.assignments:
        a = b.activity_by_code[x.activity]
        found[f"{x.activity}/{x.resource}"] = work_of(b, a, x, planned_duration(b, a)).quantize(D("0.000001"))
    return found


class Spread(unittest.TestCase):
    def test_hours_go_to_those_who_are_there_and_durations_stay(self) -> None:
        """120 h: 60 h each. On A fitters and crane are chosen: the fitters are there and get all 60; on B nobody is, so both get 30."""
        b = two()
        now = spread(b, "120", "Fitters; CR")
        self.assertEqual({a.code: a.duration for a in now.activities}, {a.code: a.duration for a in b.activities})
        self.assertEqual(minutes(now), {"A/FIT": D(3600), "A/NAV": D(4800), "B/FIT": D(1800), "B/CR": D(1800)})
        units = {x.code: x.units for x in now.assignments}
        self.assertEqual((units["A/FIT"], units["B/CR"]), (D("0.75"), D("0.75")))  # 60 h in 80, 30 h in 40
        (kept,) = now.estimates
        self.assertEqual(kept.spread_to, ("FIT", "CR"))

    def test_hours_by_units_where_several_are_there(self) -> None:
        """A's 60 h go to two fitters and one navvy: 40 and 20."""
        found = minutes(spread(two(), "120", "fit; nav"))
        self.assertEqual((found["A/FIT"], found["A/NAV"]), (D(2400), D(1200)))

    def test_given_work_is_given_anew(self) -> None:
        b = book(
            [{"code": "A", "duration": "1d", "driver": "work"}],
            resources=PEOPLE,
            assignments=[{"activity": "A", "resource": "FIT", "work": "40h"}, {"activity": "A", "resource": "NAV", "work": "24h"}],
        )
        now = spread(b, "80", "FIT")
        self.assertEqual(planned_duration(now, now.activity_by_code["A"]), 2400)
        self.assertEqual(minutes(now), {"A/FIT": D(4800), "A/NAV": D(1440)})

    def test_who_gets_none_is_taken_off(self) -> None:
        self.assertNotIn("A/FIT", minutes(spread(two(), "0", "FIT")))

    def test_what_can_not_be_spread_is_refused_in_words(self) -> None:
        b = two()
        for measure, text, words in (
            ("hours", "Nobody", "no resource"),
            ("hours", "PNT", "is material"),
            ("money", "FIT", "Only hours"),
        ):
            with self.assertRaisesRegex(EntryRefused, words) as no:
                type_spread(b, measure, text)
            self.assertEqual(no.exception.field, "spread_to")
        self.assertEqual(type_spread(b, "hours", " crane;FIT ; fit"), ["CR", "FIT"])
        nothing = book([{"code": "A", "duration": "0d"}], resources=PEOPLE)
        with self.assertRaisesRegex(ChangeRefused, "takes no time"):
            spread(nothing, "8", "FIT")

    def test_who_takes_hours_of_an_estimate_stays_and_stays_who_works(self) -> None:
        kept = apply(two(), [{"do": "estimate", "name": "Crane", "measure": "hours", "total": "80", "spread_to": "CR"}]).book
        with self.assertRaisesRegex(ChangeRefused, "takes hours of the estimate “Crane”"):
            apply(kept, [{"do": "remove", "rows": ["CR"]}])
        freed = apply(kept, [{"do": "remove", "rows": ["E1"]}, {"do": "remove", "rows": ["CR"]}]).book
        self.assertNotIn("CR", freed.resource_by_code)
        material = replace(kept, resources=tuple(replace(x, kind="material") if x.code == "CR" else x for x in kept.resources))
        with self.assertRaisesRegex(ChangeRefused, "is material"):
            apply(material, [{"do": "apply", "estimate": "E1"}])
        read = book_document(kept)
        read["estimates"][0]["spread_to"] = ["GONE"]
        with self.assertRaisesRegex(BookInvalid, "no resource"):
            book_from(read)

    def test_who_is_named_anew_beside_it_takes_the_hours(self) -> None:
        kept = apply(two(), [{"do": "estimate", "name": "E", "measure": "hours", "total": "120", "spread_to": "FIT"}]).book
        verbs = [{"do": "set", "row": "r0", "cells": {"code": "CREW"}}, {"do": "apply", "estimate": "e0"}]
        self.assertEqual(minutes(apply_keyed(KeyedBook.of(kept), verbs, {}).book), {"A/CREW": D(3600), "A/NAV": D(4800), "B/CREW": D(3600)})

    def test_what_is_told_is_what_it_does(self) -> None:
        tried = 0
        for seed in range(120):
            b, rng = book_from(random_book(seed)), random.Random(seed)
            able = [x.code for x in b.resources if x.kind != "material"]
            chosen = rng.sample(able, rng.randint(1, len(able))) if able else []
            if not chosen:
                continue
            verb = {"do": "estimate", "name": "E", "measure": "hours", "total": str(rng.randint(1, 4000)), "spread_to": "; ".join(chosen)}
            try:
                kept = apply(b, [verb])
                code = kept.book.estimates[-1].code
                now = apply(kept.book, [{"do": "apply", "estimate": code}]).book
            except ChangeRefused:
                continue
            tried += 1
            shares = {(s.kind, s.code): s.amount for s in now.estimates[-1].shares}
            told = once_applied(b, compute(b).schedule, "hours", shares, chosen)
            for code, a in now.activity_by_code.items():
                was = planned_duration(b, b.activity_by_code[code])
                self.assertEqual(planned_duration(now, a), was, (seed, code))
                theirs = [x for x in now.assignments_of.get(code, ()) if x.resource in chosen]
                own = sum((work_of(now, a, x, was) for x in theirs), D(0))
                others = [
                    x
                    for x in now.assignments_of.get(code, ())
                    if x.resource not in chosen and now.resource_by_code[x.resource].kind == "labour"
                ]
                whole = own + sum((work_of(now, a, x, was) for x in others), D(0))
                self.assertAlmostEqual(whole, told["activity", code][1], 3, (seed, code))
                if ("activity", code) in shares and was:
                    self.assertAlmostEqual(own, shares["activity", code], 3, (seed, code))
            self.assertEqual(told[PROJECT][0], sum((told["activity", a.code][0] for a in b.activities), D(0)))
        self.assertGreater(tried, 20)
