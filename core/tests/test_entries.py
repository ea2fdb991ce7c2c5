"""Entries, marks, effects, reports and workings over one small book."""

import unittest
from dataclasses import replace
from decimal import Decimal as D
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import Doc, baseline, book, line, page
from core.tests.random_books import random_book
from dryledger.book.durations import planned_duration
from dryledger.book.pages import HoursEntry
from dryledger.book.plan import Book, Statement
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import Results, compute
from dryledger.errors import EntryRefused, UnknownFigure
from dryledger.exchange.book_json import book_from
from dryledger.marks.marks import drift_days, marks, project_mark
from dryledger.posting.assumed import begin_statement, stated_by_hours
from dryledger.posting.effects import balance, change, moved
from dryledger.posting.entries import check_entry, describe, needs_entry, plan_statement
from dryledger.posting.planned import tried
from dryledger.posting.typed import read_statement
from dryledger.report.facts import report_facts
from dryledger.report.money import money_rows
from dryledger.working.working import working

ACTS = [
    {"code": "A", "name": "Dig", "duration": "5d"},
    {"code": "B", "name": "Pour", "duration": "5d"},
    {"code": "C", "name": "Cure", "duration": "5d"},
    {"code": "M", "name": "Slab ready", "kind": "milestone"},
]
LINKS = [{"from": "A", "to": "B"}, {"from": "B", "to": "C"}, {"from": "C", "to": "M"}]
WEEKS = (("2027-01-04", "2027-01-08"), ("2027-01-11", "2027-01-15"), ("2027-01-18", "2027-01-22"))
BASES = [
    {"code": c, "start": f"{a}T08:00", "finish": f"{b}T17:00", "duration": "5d", "cost_lines": [line("100.00")]}
    for c, (a, b) in zip("ABC", WEEKS, strict=True)
]
BASES.append({"code": "M", "start": "2027-01-22T17:00", "finish": "2027-01-22T17:00", "cost_lines": []})
DONE = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-08T17:00"}
CREW: dict[str, Any] = {
    "resources": [{"code": "K", "name": "Kit Hollin", "rates": []}],
    "assignments": [{"activity": c, "resource": "K"} for c in "AB"],
}


def made(*second: Doc, first: Doc = DONE, **more: Any) -> Book:
    """Two weekly pages; the first says A is done, the second says what is given."""
    return book(
        ACTS,
        LINKS,
        baselines=[baseline(*BASES)],
        project={"measured_against": "B0"} | more,
        **CREW,
        periods=[page("P1", "2027-01-08T17:00", first, state="dry"), page("P2", "2027-01-15T17:00", *second)],
    )


def both(b: Book) -> tuple[Results, Results]:
    return compute(b), compute(b, "P1")


class Entries(unittest.TestCase):
    def refused(self, s: Statement, changed: str) -> EntryRefused:
        with self.assertRaises(EntryRefused) as caught:
            check_entry(*both(made()), s, {changed})
        return caught.exception

    def test_a_new_statement_keeps_facts(self) -> None:
        begun = {
            "activity": "A",
            "actual_start": "2027-01-05T08:00",
            "percent": 40,
            "remaining": "3d",
            "units_done": 7,
            "note": "wet ground",
        }
        s = begin_statement(compute(made(first=begun), "P1"), "A")
        self.assertEqual(
            (s.actual_start, s.percent, s.remaining, s.units_done, s.note), (from_text("2027-01-05T08:00"), None, None, D(7), None)
        )
        self.assertEqual(begin_statement(compute(made(), "P1"), "B"), Statement("B"))

    def typed(self, s: Statement, **cells: str) -> Statement:
        return read_statement(*both(made()), s, cells).statement

    def test_a_start_is_assumed_where_the_forecast_has_it_else_where_the_page_begins(self) -> None:
        stated = check_entry(*both(made()), Statement("B", percent=D("0.4")), {"percent"})
        self.assertIn("11 Jan is assumed", stated.filled[0])
        self.assertEqual(stated.statement, Statement("B", from_text("2027-01-11T08:00"), percent=D("0.4"), assumed=("actual_start",)))
        early = self.typed(Statement("C"), percent="10")  # its forecast lies after the page
        self.assertEqual((to_text(early.actual_start or 0), early.assumed), ("2027-01-11T08:00", ("actual_start",)))
        late = self.typed(Statement("B"), actual_finish="7 jan")  # before the page began: as long before as is planned
        self.assertEqual((to_text(late.actual_start or 0), late.assumed), ("2027-01-01T08:00", ("actual_start",)))
        self.assertEqual(describe(early), "started 11 January 2027 (assumed), 10 %")

    def test_an_assumed_date_is_confirmed_retyped_or_taken_back(self) -> None:
        done = self.typed(Statement("B"), percent="100")
        self.assertEqual((to_text(done.actual_finish or 0), done.assumed), ("2027-01-15T17:00", ("actual_start", "actual_finish")))
        confirmed = self.typed(done, actual_finish="15 jan")
        self.assertEqual((confirmed.actual_finish, confirmed.percent, confirmed.assumed), (done.actual_finish, None, ("actual_start",)))
        self.assertEqual(self.typed(done, actual_start="12 jan").assumed, ("actual_finish",))
        for cells in ({"percent": "60"}, {"remaining": "1d"}, {"carry_to": "20 jan"}):
            less = self.typed(done, **cells)
            self.assertEqual((less.actual_finish, less.assumed), (None, ("actual_start",)), cells)
        cleared = self.typed(done, actual_finish="")
        self.assertEqual((cleared.actual_finish, cleared.percent), (None, D(1)))

    def test_hours_say_that_work_has_begun_and_ended(self) -> None:
        r, start = both(made())
        (begun,) = stated_by_hours(r, start, [HoursEntry("B", "K", 480)])
        self.assertEqual(begun, Statement("B", from_text("2027-01-11T08:00"), assumed=("actual_start",)))
        (ended,) = stated_by_hours(r, start, [HoursEntry("B", "K", 480, to_go=0)])
        assert isinstance(ended, Statement)
        self.assertEqual((to_text(ended.actual_finish or 0), ended.assumed), ("2027-01-15T17:00", ("actual_start", "actual_finish")))
        self.assertEqual(stated_by_hours(r, start, [HoursEntry("B", "K")]), [])
        hours = {
            "periods": (r.book.periods[0], replace(r.book.periods[1], statements=(ended,), hours=(HoursEntry("B", "K", 480, to_go=0),)))
        }
        given = compute(replace(r.book, **hours))
        (again,) = stated_by_hours(given, start, [HoursEntry("B", "K", 480, to_go=60)])
        self.assertEqual(again, begun)
        alone = compute(replace(r.book, periods=(r.book.periods[0], replace(r.book.periods[1], statements=(begun,)))))  # type: ignore[arg-type]
        self.assertEqual(stated_by_hours(alone, start, [HoursEntry("B", "K")]), ["B"])

    def test_what_cannot_be(self) -> None:
        after, before = from_text("2027-01-18T08:00"), from_text("2027-01-11T08:00")
        self.assertEqual(self.refused(Statement("B", actual_start=after), "actual_start").nearest, "15 jan")
        self.assertIn("Check the year", self.refused(Statement("B", actual_start=from_text("1927-01-11T08:00")), "actual_start").message)
        late = Statement("B", actual_start=from_text("2027-01-13T08:00"), actual_finish=from_text("2027-01-12T17:00"))
        self.assertEqual(self.refused(late, "actual_finish").field, "actual_finish")
        self.assertEqual(self.refused(late, "actual_start").field, "actual_start")
        done = Statement("B", before, from_text("2027-01-14T17:00"), D("0.5"))
        self.assertEqual(self.refused(done, "percent").nearest, "100")

    def test_a_finish_ends_judgement(self) -> None:
        s = Statement("B", from_text("2027-01-11T08:00"), from_text("2027-01-14T17:00"), None, 480)
        stated = check_entry(*both(made()), s, {"actual_finish"}).statement
        self.assertEqual((stated.percent, stated.remaining), (None, None))

    def test_what_wants_a_word(self) -> None:
        r, start = both(made())
        self.assertEqual([c for c in "ABCM" if needs_entry(r, start, c)], ["B"])

    def test_post_to_plan_says_what_was_forecast(self) -> None:
        r, start = both(made())
        self.assertIsNone(plan_statement(r, start, "A"))
        self.assertIsNone(plan_statement(r, start, "C"))
        stated = plan_statement(r, start, "B")
        assert stated is not None
        self.assertEqual((to_text(stated.actual_start or 0), to_text(stated.actual_finish or 0)), ("2027-01-11T08:00", "2027-01-15T17:00"))
        cut = replace(r.book, periods=(r.book.periods[0], replace(r.book.periods[1], status=from_text("2027-01-13T17:00"))))
        stated = plan_statement(compute(cut), start, "B")
        assert stated is not None
        self.assertEqual((stated.percent, stated.remaining), (D("0.60"), 960))

    def test_described_for_the_journal(self) -> None:
        self.assertEqual(describe(Statement("A", from_text("2027-01-04T08:00"), None, D("0.375"))), "started 4 January 2027, 37.5 %")
        self.assertEqual(describe(Statement("A", 0, from_text("2027-01-04T08:00"))), "finished 4 January 2027")


class Effects(unittest.TestCase):
    def test_what_moved_and_by_how_much(self) -> None:
        before = compute(made())
        after = compute(made({"activity": "B", "actual_start": "2027-01-11T08:00", "percent": 40, "remaining": "6d"}))
        self.assertEqual([(m.code, m.days) for m in moved(before, after)], [("B", D(1)), ("C", D(1)), ("M", D(1))])
        delta = change(balance(before), balance(after))
        self.assertEqual((delta["ev"], delta["spi"], delta["finish"]), (D("40.00"), 0.2, 1.0))
        self.assertNotIn("pv", delta)
        self.assertEqual(moved(after, after), [])

    def test_the_balance_says_as_of_when_and_against_what(self) -> None:
        b = balance(compute(made()))
        self.assertEqual((to_text(b.status or 0), b.baseline, b.currency, b.drift), ("2027-01-15T17:00", "B0", "EUR", D(5)))
        self.assertEqual(b.reasons["cpi"], "no actual cost by this date")


class Marks(unittest.TestCase):
    def marks(self, *stated: Doc) -> dict[str, str]:
        return {c: m.mark for c, m in marks(compute(made(*stated))).activities.items()}

    def test_in_order(self) -> None:
        self.assertEqual(self.marks(), {"A": "done", "B": "act", "C": "act", "M": "act"})
        begun = {"activity": "B", "actual_start": "2027-01-11T08:00", "remaining": "2d"}
        self.assertEqual(self.marks(begun), {"A": "done", "B": "watch", "C": "watch", "M": "watch"})
        finished = {"activity": "B", "actual_start": "2027-01-11T08:00", "actual_finish": "2027-01-15T17:00"}
        self.assertEqual(self.marks(finished), {"A": "done", "B": "done", "C": "soon", "M": "soon"})

    def test_the_project_gives_its_reasons(self) -> None:
        mark = project_mark(compute(made()))
        self.assertEqual(mark.mark, "act")
        self.assertIn("Earned value is below what was planned by this date (SPI 0.500).", mark.reasons)
        self.assertIn("The finish lies 5 days after the baseline's.", mark.reasons)
        missed = project_mark(compute(made(deadline="2027-01-25T17:00")))
        self.assertIn("The finish misses the deadline by 4 days.", missed.reasons)
        finished = {"activity": "B", "actual_start": "2027-01-11T08:00", "actual_finish": "2027-01-15T17:00"}
        self.assertEqual(project_mark(compute(made(finished))).mark, "on_plan")
        self.assertEqual(drift_days(compute(made(finished))), 0)


class Reports(unittest.TestCase):
    def test_the_facts(self) -> None:
        hours = [{"activity": "B", "resource": "K", "worked": "8h"}]
        b = made({"activity": "B", "actual_start": "2027-01-11T08:00", "percent": 40, "note": "Rain on Tuesday."})
        b = replace(
            b,
            periods=(
                b.periods[0],
                replace(b.periods[1], hours=book(ACTS, **CREW, periods=[page("P", "2027-01-15T17:00", hours=hours)]).periods[0].hours),
            ),
        )
        f = report_facts(b, compute(b))
        self.assertEqual(
            [(w.code, w.people, w.note, w.percent) for w in f.worked_on], [("B", ["Kit Hollin"], "Rain on Tuesday.", D("0.4"))]
        )
        self.assertEqual([w.code for w in f.coming_next], ["B", "C"])
        (money,) = money_rows(compute(b))
        self.assertEqual((money.period["pv"], money.period["ev"]), (D("100.00"), D("40.00")))
        self.assertEqual((money.to_date["pv"], money.to_date["ev"]), (D("200.00"), D("140.00")))
        self.assertEqual(
            [(m.name, to_text(m.baseline or 0)[:10], to_text(m.now)[:10], m.reached) for m in f.milestones],
            [("Slab ready", "2027-01-22", "2027-01-27", False)],
        )


class Workings(unittest.TestCase):
    def test_each_step_leads_to_the_rows(self) -> None:
        r = compute(made({"activity": "B", "actual_start": "2027-01-11T08:00", "percent": 40}))
        spi = working(r, "spi")
        self.assertEqual(
            [(o.label, o.value, o.measure) for o in spi.operands],
            [("Earned value", D("140.00"), "ev"), ("Planned value", D("200.00"), "pv")],
        )
        self.assertEqual((spi.result, spi.sentence), (0.7, "Unfavourable: less was done than planned by this date."))
        self.assertEqual([(x.code, x.value) for x in working(r, "ev").rows], [("A", D("100.00")), ("B", D("40.00"))])
        ev = working(r, "ev", "activity", "B")
        self.assertEqual([(o.label, o.value) for o in ev.operands], [("budget", D("100.00")), ("done, per cent", D("40.00"))])
        self.assertEqual([(x.code, x.value, x.note) for x in ev.rows], [("P2", D(40), "started")])

    def test_the_finish_leads_back_along_its_drivers(self) -> None:
        rows = working(compute(made()), "finish", "activity", "M").rows
        self.assertEqual([(x.code, x.note) for x in rows], [("M", "predecessor Cure"), ("C", "predecessor Pour"), ("B", "status date")])

    def test_no_figure_says_why(self) -> None:
        w = working(compute(made()), "cpi")
        self.assertEqual((w.result, w.reason), (None, "no actual cost by this date"))
        with self.assertRaises(UnknownFigure):
            working(compute(made()), "nonsense")


class AssumedOnAnyBook(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 400), st.data())
    def test_what_is_typed_on_any_activity_makes_a_statement_that_the_book_takes(self, seed: int, data: st.DataObject) -> None:
        """Percent, time left or hours: a start is there and not after the finish, neither after the status; figures can be worked out."""
        b = book_from(random_book(seed, 6))
        if not b.periods:
            return
        r, before = compute(b), compute(b.with_periods(b.periods[:-1]))
        code = data.draw(st.sampled_from(sorted(b.activity_by_code)))
        field, text = data.draw(st.sampled_from([("percent", "30"), ("percent", "100"), ("remaining", "0d"), ("remaining", "2d")]))
        mine = next((s for s in b.periods[-1].statements if s.activity == code), None)
        try:
            s = read_statement(r, before, mine or begin_statement(before, code), {field: text}).statement
        except EntryRefused:
            return
        t = tried(r, [s]).results
        assert r.status is not None
        if planned_duration(b, b.activity_by_code[code]):
            self.assertIsNotNone(s.actual_start)
        dates = [d for d in (s.actual_start, s.actual_finish, r.status) if d is not None]
        self.assertEqual(dates, sorted(dates))
        self.assertLessEqual({f for f in s.assumed if getattr(s, f) is None}, set())
        self.assertIn(t.progress[code].state, ("in_progress", "complete") if s.actual_start is not None else ("not_started",))
        again = read_statement(t, before, s, {field: text}).statement
        self.assertEqual((again.actual_start, again.actual_finish, again.assumed), (s.actual_start, s.actual_finish, s.assumed))
        taken_back = read_statement(t, before, s, {"percent": "50"}) if "actual_finish" in s.assumed else None
        if taken_back is not None:
            self.assertIsNone(taken_back.statement.actual_finish)
