"""Posting as planned in both ways, carrying forward, and the treatments side by side."""

import unittest
from dataclasses import replace

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book.lists import TREATMENTS
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import compute
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.posting.planned import as_planned, carried, tried
from dryledger.posting.treatments import treated

MON, WED, FRI = "2027-01-04T08:00", "2027-01-06T17:00", "2027-01-08T17:00"
PLAN = [
    {"code": "A", "duration": "2d"},
    {"code": "B", "duration": "3d"},
    {"code": "C", "duration": "5d"},
    {"code": "D", "duration": "1d"},
]
LINKS = [{"from": "A", "to": "B"}, {"from": "C", "to": "D"}]


class AsPlanned(unittest.TestCase):
    def test_each_to_the_status_date_or_only_what_should_be_finished(self) -> None:
        """To Wednesday: A (2 d) should be done, B a third (1 of 3 d), C three fifths; D is not due."""
        b = book(PLAN, LINKS, periods=[page("P01", WED)])
        r, before = compute(b), compute(b.with_periods(()))
        whole = {s.activity: s for s in as_planned(r, before, "to_date", ["A", "B", "C", "D"])}
        self.assertEqual(
            {k: to_text(s.actual_finish) if s.actual_finish else str(s.percent) for k, s in whole.items()},
            {"A": "2027-01-05T17:00", "B": "0.33", "C": "0.60"},
        )
        self.assertEqual([s.activity for s in as_planned(r, before, "finished", ["A", "B", "C", "D"])], ["A"])

    def test_what_is_said_on_the_page_stays(self) -> None:
        b = book(PLAN, LINKS, periods=[page("P01", WED, {"activity": "A", "note": "ours"})])
        r, before = compute(b), compute(b.with_periods(()))
        self.assertNotIn("A", [s.activity for s in as_planned(r, before, "to_date", ["A", "C"])])


class Carried(unittest.TestCase):
    def test_work_behind_is_carried_and_its_judgements_stay(self) -> None:
        stated = {"activity": "C", "actual_start": MON, "percent": 20, "remaining": "4d"}
        b = book(PLAN, LINKS, periods=[page("P01", WED, stated)])
        r, before = compute(b), compute(b.with_periods(()))
        to = from_text("2027-01-11T08:00")
        (one,) = carried(r, before, to, ["C"])
        self.assertEqual((one.remaining, str(one.percent)), (4 * 480, "0.2"))
        t = tried(r, [one])
        row = t.results.schedule.activities["C"]
        self.assertEqual((to_text(row.resume or 0), to_text(row.finish)), ("2027-01-11T08:00", "2027-01-14T17:00"))
        self.assertEqual([m.code for m in t.moved], ["C", "D"])
        with self.assertRaises(EntryRefused):
            carried(r, before, from_text(WED), None)

    def test_what_is_tried_is_what_is_then_computed(self) -> None:
        for seed in range(40):
            b = book_from(random_book(seed, 8))
            if not b.periods:
                continue
            last = b.periods[-1]
            r, before = compute(b), compute(b.with_periods(b.periods[:-1]))
            statements = carried(r, before, last.status + 3 * 1440, None)
            t = tried(r, statements)
            own = {s.activity: s for s in last.statements} | {s.activity: s for s in statements}
            again = b.with_periods((*b.periods[:-1], replace(last, statements=tuple(own.values()))))
            self.assertEqual(t.results.schedule.activities, compute(again).schedule.activities)
            for s in (x for x in statements if b.activity_by_code[x.activity].mode == "driven"):
                row = t.results.schedule.activities[s.activity]
                self.assertGreaterEqual(row.resume or row.start, min(last.status + 3 * 1440, row.finish))


class Treatments(unittest.TestCase):
    def test_side_by_side_is_what_each_gives_alone(self) -> None:
        seen = 0
        for seed in range(60):
            try:
                b = book_from(random_book(seed, 8))
                r = compute(b)
            except BookInvalid:
                continue
            found, touched = treated(r)
            alone = [compute(b, treatment=t) for t in TREATMENTS]
            self.assertEqual([t.results.schedule.activities for t in found], [x.schedule.activities for x in alone])
            self.assertEqual([t.results.schedule.finish for t in found], [x.schedule.finish for x in alone])
            differ = {
                c
                for c in b.activity_by_code
                if len({(x.schedule.activities[c].finish, x.schedule.activities[c].total_float) for x in alone}) > 1
            }
            self.assertLessEqual(differ, {x.code for x in touched})
            seen += len(touched)
        self.assertGreater(seen, 10)

    def test_by_hand(self) -> None:
        """B started on Monday before A, which needs three more days from Thursday: retained B resumes after it, override at once."""
        b = book(
            [{"code": "A", "duration": "5d"}, {"code": "B", "duration": "3d"}],
            [{"from": "A", "to": "B"}],
            periods=[
                page(
                    "P01",
                    WED,
                    {"activity": "A", "actual_start": MON, "remaining": "3d"},
                    {"activity": "B", "actual_start": MON, "remaining": "2d"},
                )
            ],
        )
        found, touched = treated(compute(b))
        self.assertEqual([to_text(t.results.schedule.finish) for t in found], ["2027-01-13T17:00", "2027-01-11T17:00", "2027-01-13T17:00"])
        self.assertEqual([(x.code, x.out_of_sequence) for x in touched], [("A", False), ("B", True)])
        self.assertEqual([to_text(d.begin) for d in touched[1].dates], ["2027-01-12T08:00", "2027-01-07T08:00", "2027-01-12T08:00"])
