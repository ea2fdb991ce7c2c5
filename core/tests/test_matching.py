"""A plan from elsewhere as a baseline, what refers to one, and a plan held to its dates: by hand, and over random books."""

import random
import unittest
from dataclasses import replace
from itertools import pairwise

from core.tests.books import Doc, baseline, book, page
from core.tests.random_books import random_book
from dryledger.baseline.matching import baseline_from
from dryledger.baseline.referring import referring
from dryledger.baseline.snapshot import snapshot
from dryledger.book.plan import Book
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.errors import ChangeRefused, DryLedgerError
from dryledger.exchange.book_json import book_from
from dryledger.options.holding import with_dates
from dryledger.results import results_document

TAKEN = ("B9", "From elsewhere", 0, "Lorcan Vey", "as agreed")


def chain(count: int) -> list[Doc]:
    return [{"code": f"A{i:03}", "duration": f"{1 + i % 5}d", "wbs": "1" if i % 2 else "2"} for i in range(1, count + 1)]


def links_of(acts: list[Doc]) -> list[Doc]:
    return [{"from": a["code"], "to": b["code"]} for a, b in pairwise(acts)]


def plan(acts: list[Doc], **more: object) -> Book:
    wbs = [{"code": "1", "name": "One"}, {"code": "2", "name": "Two"}]
    crew = [{"code": "F", "name": "Fitters", "rates": [{"from": "2026-01-01", "amount": "40.00", "per": "hour"}]}]
    on = [{"activity": a["code"], "resource": "F"} for a in acts]
    return book(acts, links_of(acts), wbs=wbs, resources=crew, assignments=on, **more)


def measured(b: Book) -> Results:
    return compute(replace(b, project=replace(b.project, measured_against="B9")))


class Matching(unittest.TestCase):
    def test_by_hand(self) -> None:
        """A and B are here, B and C there: B's dates, work and cost of there, at its place here; A only here, C only there."""
        here = book([{"code": "A", "duration": "2d"}, {"code": "B", "duration": "3d", "wbs": "1"}], wbs=[{"code": "1", "name": "One"}])
        there = book(
            [{"code": "C", "duration": "1d"}, {"code": "B", "duration": "5d"}],
            [{"from": "C", "to": "B"}],
            resources=[{"code": "X", "name": "Others", "rates": [{"from": "2026-01-01", "amount": "10.00", "per": "hour"}]}],
            assignments=[{"activity": "B", "resource": "X"}],
        )
        m = baseline_from(here, there, compute(there).schedule, *TAKEN)
        (b,) = m.baseline.activities
        self.assertEqual((b.code, b.wbs, to_text(b.start), to_text(b.finish)), ("B", "1", "2027-01-05T08:00", "2027-01-11T17:00"))
        self.assertEqual((b.work, [str(x.amount) for x in b.cost_lines]), (2400, ["400.00"]))  # 5 days of 8 hours at 10.00
        self.assertEqual((m.only_there, m.only_here, m.resources), (("C",), ("A",), ("X",)))
        self.assertEqual((m.baseline.source, b.assignments), ("import", ()))

    def test_what_can_not_be_one_is_refused_in_words(self) -> None:
        here = book([{"code": "A"}])
        with self.assertRaisesRegex(ChangeRefused, "USD"):
            other = book([{"code": "A"}], project={"currency": "USD"})
            baseline_from(here, other, compute(other).schedule, *TAKEN)
        nobody = book([{"code": "Z"}])
        with self.assertRaises(ChangeRefused) as no:
            baseline_from(here, nobody, compute(nobody).schedule, *TAKEN)
        self.assertEqual(no.exception.code, "nothing-there")

    def test_three_hundred_activities_of_which_twenty_do_not_match(self) -> None:
        """Measures against it are those against the same plan baselined here, to the last figure."""
        both = chain(280)
        pages = [page("P1", "2027-03-05T17:00", {"activity": "A001", "actual_start": "2027-01-04T08:00", "percent": 50})]
        here = plan(both + [{"code": f"H{i}", "duration": "1d"} for i in range(20)], periods=pages)
        there = plan(both + [{"code": f"T{i}", "duration": "1d"} for i in range(20)])
        m = baseline_from(here, there, compute(there).schedule, *TAKEN)
        self.assertEqual((len(m.baseline.activities), len(m.only_there), len(m.only_here), m.resources), (280, 20, 20, ()))
        self.assertEqual(set(m.only_there), {f"T{i}" for i in range(20)})
        same = plan(both)
        own = snapshot(same, compute(same).schedule, *TAKEN)
        from_there, from_here = (
            results_document(measured(replace(here, baselines=(x,)))) for x in (m.baseline, replace(own, source=m.baseline.source))
        )
        self.assertEqual(from_there, from_here)

    def test_a_plan_matched_with_itself_is_its_own_baseline(self) -> None:
        for seed in range(60):
            b = book_from(random_book(seed))
            b = replace(b, periods=(), baselines=(), options=(), promises=(), project=replace(b.project, measured_against=None))
            try:
                s = compute(b).schedule
            except DryLedgerError:
                continue
            m, own = baseline_from(b, b, s, *TAKEN), snapshot(b, s, *TAKEN)
            self.assertEqual((m.only_there, m.only_here, m.resources), ((), (), ()))
            self.assertEqual(m.baseline.activities, own.activities, seed)


class Referring(unittest.TestCase):
    def test_what_keeps_a_baseline(self) -> None:
        rows = [baseline(), baseline(code="B1") | {"before": "B0"}, baseline(code="B2") | {"before": "B1"}]
        b = book([{"code": "A"}], baselines=rows, project={"measured_against": "B2", "compared_with": ["B0"]})
        for code in ("B0", "B1", "B2"):
            self.assertTrue(referring(b, code), code)
        free = book([{"code": "A"}], baselines=rows[:1], project={})
        self.assertEqual(referring(free, "B0"), [])
        self.assertTrue(referring(free, "B0", ["P01"]), "a page is sealed with it")


class Held(unittest.TestCase):
    def dates(self, b: Book) -> dict[str, tuple[int, int]]:
        return {c: (x.start, x.finish) for c, x in compute(b).schedule.activities.items()}

    def test_by_hand(self) -> None:
        """B waits a day more than its link asks, so it is held; C starts before its link lets it, so it is pinned."""
        acts = [{"code": c, "duration": "2d"} for c in "ABC"]
        b = book(acts, [{"from": "A", "to": "B"}, {"from": "B", "to": "C"}])
        day = 1440
        now = self.dates(b)
        wanted = {"A": now["A"], "B": tuple(t + day for t in now["B"]), "C": tuple(t - day for t in now["C"])}
        made = with_dates(b, wanted)  # type: ignore[arg-type]
        by = made.activity_by_code
        self.assertEqual(self.dates(made), wanted)
        self.assertEqual((by["A"].constraint, by["B"].mode, by["C"].mode), (None, "driven", "fixed"))
        self.assertEqual(by["B"].constraint and by["B"].constraint.type, "start_on_or_after")

    def test_any_dates_are_met_to_the_minute(self) -> None:
        tried = 0
        for seed in range(80):
            b, rng = book_from(random_book(seed)), random.Random(seed)
            rows = replace(b, periods=(), baselines=(), options=(), promises=(), project=replace(b.project, measured_against=None))
            try:
                now = self.dates(rows)
            except DryLedgerError:
                continue
            wanted = {}
            for code, (start, finish) in now.items():
                axis, long = rows.axes[code], rows.axes[code].between(start, finish)
                if long and rng.random() < 0.4:
                    start = axis.last(axis.pos(start) + rng.randint(-2, 6) * 480)
                    finish = axis.first(axis.pos(start) + long)
                wanted[code] = (start, finish)
            made = self.dates(with_dates(rows, wanted))
            self.assertEqual({c for c in wanted if made[c] != wanted[c] and wanted[c][0] != wanted[c][1]}, set(), seed)
            tried += 1
        self.assertGreater(tried, 40)
