"""Posting as planned in both ways, carrying forward, and the treatments side by side."""

import unittest
from dataclasses import replace
from decimal import Decimal as D
from typing import Any

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book.lists import TREATMENTS
from dryledger.calendar.calendar import from_text, to_text
from dryledger.checks.checks import checks
from dryledger.compute import compute
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.posting.planned import Filled, as_planned, carried, skipped, tried
from dryledger.posting.treatments import treated

FEW_BOOKS = 40
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
        whole = {s.activity: s for s in as_planned(r, before, "to_date", ["A", "B", "C", "D"]).statements}
        self.assertEqual(
            {k: to_text(s.actual_finish) if s.actual_finish else str(s.percent) for k, s in whole.items()},
            {"A": "2027-01-05T17:00", "B": "0.33", "C": "0.60"},
        )
        self.assertEqual([s.activity for s in as_planned(r, before, "finished", ["A", "B", "C", "D"]).statements], ["A"])

    def test_what_is_said_on_the_page_stays(self) -> None:
        b = book(PLAN, LINKS, periods=[page("P01", WED, {"activity": "A", "note": "ours"})])
        r, before = compute(b), compute(b.with_periods(()))
        filled = as_planned(r, before, "to_date", ["A", "C"])
        self.assertEqual([s.activity for s in filled.statements], ["C"])
        self.assertEqual(
            [(x.activity, x.part, x.posted[:11], x.planned[:8]) for x in filled.left], [("A", "progress", "not started", "finished")]
        )

    def crew(self, *more: Any, driver: str = "work", actuals: str = "posted", **own: Any) -> Filled:
        """C: 5 d by two fitters at 50, of whom one has worked before; glass for 900 over its time, a permit for 70 at its start."""
        plan = [PLAN[2] | {"driver": driver}, PLAN[3]]
        b = book(
            plan,
            LINKS[1:],
            project={"actuals": actuals},
            resources=[
                {
                    "code": "F",
                    "name": "Fitters",
                    "kind": "labour",
                    "units": 2,
                    "rates": [{"from": "2027-01-01", "per": "hour", "amount": "50"}],
                }
            ],
            assignments=[{"activity": "C", "resource": "F", "units": 2, "work": "80h"}],
            costs=[
                {"code": "G", "activity": "C", "name": "Glass", "amount": "900", "accrual": "uniform"},
                {"activity": "C", "name": "Permit", "amount": "70", "accrual": "start"},
            ],
            periods=[page("P01", WED, *more) | own],
        )
        r, before = compute(b), compute(b.with_periods(()))
        out = as_planned(r, before, "to_date", None)
        t = tried(r, out.statements, out.hours, out.costs)
        self.assertEqual(t.results.schedule.finish, before.schedule.finish)
        return out

    def test_hours_and_cost_of_what_is_posted(self) -> None:
        """Three of five days: 48 of 80 h, 540 of 900, the permit; what follows progress is not filled."""
        out = self.crew()
        self.assertEqual([(h.worked, h.to_go) for h in out.hours], [(48 * 60, 32 * 60)])
        self.assertEqual([(str(c.amount), c.source, c.of) for c in out.costs], [("540.00", "accrual", "G"), ("70.00", "accrual", None)])
        self.assertEqual([h.to_go for h in self.crew(driver="duration").hours], [None])
        follows = self.crew(actuals="progress")
        self.assertEqual((len(follows.statements), follows.hours, follows.costs), (1, [], []))

    def test_what_is_posted_stays_and_is_listed(self) -> None:
        out = self.crew(
            hours=[{"activity": "C", "resource": "F", "worked": "10h"}],
            costs=[{"date": "2027-01-05", "activity": "C", "for": "G", "amount": "500", "source": "invoice"}],
        )
        self.assertEqual(
            [(x.part, x.of, x.posted, x.planned) for x in out.left], [("hours", "F", "10 h", "48 h"), ("cost", "Glass", "500", "540.00")]
        )
        self.assertEqual((out.hours, [str(c.amount) for c in out.costs]), ([], ["70.00"]))

    def test_units_and_milestones_are_those_that_are_due(self) -> None:
        steps = [{"name": "Frame", "weight": 1, "at": 0.5}, {"name": "Skin", "weight": 1, "at": 1}]
        plan = [
            PLAN[2] | {"value_method": {"type": "units", "planned": 50}},
            PLAN[1] | {"value_method": {"type": "milestones", "weights": steps}},
        ]
        b = book(plan, periods=[page("P01", "2027-01-05T17:00")])
        out = as_planned(compute(b), compute(b.with_periods(())), "to_date", None)
        self.assertEqual(
            [(s.activity, s.units_done, s.milestones_reached) for s in out.statements], [("C", D(20), ()), ("B", None, ("Frame",))]
        )

    def test_nothing_it_fills_is_refused_at_closing(self) -> None:
        filled = 0
        for seed in range(FEW_BOOKS):
            b = book_from(random_book(seed, 8))
            if not b.periods:
                continue
            r, before = compute(b), compute(b.with_periods(b.periods[:-1]))
            out = as_planned(r, before, "to_date", None)
            known = {(f.check, row) for f in checks(r) if f.severity == "error" for row in f.rows}
            after = checks(tried(r, out.statements, out.hours, out.costs).results)
            self.assertEqual({(f.check, row) for f in after if f.severity == "error" for row in f.rows} - known, set(), seed)
            filled += len(out.statements) + len(out.hours) + len(out.costs)
        self.assertGreater(filled, FEW_BOOKS)


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
        # Of the page: what is due and says nothing. C says something here; A and B are due.
        self.assertEqual([s.activity for s in carried(r, before, to, None)], ["A", "B"])
        self.assertEqual((skipped(r, before, None), skipped(r, before, ["C"])["complete"]), ({"complete": 0, "posted": 1}, 0))

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
