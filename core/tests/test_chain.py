"""The critical chain, its buffers, the promise and the fever chart: by hand and against a slow reckoning of random books."""

import unittest
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from core.tests.oracle_levelling import OracleLevelling, oracle_chain, oracle_hand_overs, oracle_safety, untied
from core.tests.random_books import random_book
from dryledger.book.options import promise_at
from dryledger.book.pages import HoursEntry
from dryledger.book.plan import Book, Constraint
from dryledger.buffers.chain import Chain, chain_of, dates_to_write, promised, without_safe
from dryledger.buffers.fever import buffer_of, fever_of
from dryledger.buffers.first import first_of
from dryledger.buffers.waiting import hand_overs_of
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import apply
from dryledger.compute import compute
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.exchange.book_json import book_from
from dryledger.options.board import results_of
from dryledger.options.levelling import level, with_levelled_dates
from dryledger.schedule.driving import driving_path

CREW = {"code": "R", "name": "Crew", "units": 1}


def work(code: str, days: int, safe: int, **more: Any) -> dict[str, Any]:
    return {"code": code, "duration": f"{days}d", "safe_duration": f"{safe}d"} | more


def one_crew(**more: Any) -> Book:
    """A (5 d) and B (3 d) both need the one crew; C (2 d) follows both; F (1 d) joins at C."""
    acts = [work("A", 5, 9), work("B", 3, 6), work("C", 2, 4), work("F", 1, 3)]
    links = [{"from": "A", "to": "C"}, {"from": "B", "to": "C"}, {"from": "F", "to": "C"}]
    on = [{"activity": c, "resource": "R"} for c in "AB"]
    return book(acts, links, resources=[CREW], assignments=on, **more)


def chain_in(b: Book) -> Chain:
    return chain_of(compute(b))


def kept(b: Book, *pages: dict[str, Any], **more: Any) -> Book:
    """The book with its own chain as a promise from before the first page on, its levelled dates, and pages."""
    c = chain_in(b)
    after = replace(with_levelled_dates(b, c.levelled.dates), promises=(promised(c, "K1", None, "Ann"),))
    found = book([{"code": "Z"}], periods=[{**p, "statements": [], "hours": []} for p in pages]).periods
    stated = one_crew(periods=list(pages), **more).periods if pages else ()
    return after.with_periods(stated or found)


class ByHand(unittest.TestCase):
    def test_chain_and_buffers(self) -> None:
        c = chain_in(one_crew())
        self.assertEqual([(x.code, x.after) for x in c.rows], [("A", None), ("B", "resource:R"), ("C", "link:B")])
        # √(32² + 24² + 16²) hours = 43.08, so 43 h; half of the sum is 36 h.
        half = chain_in(one_crew(project={"buffers": {"size": "half"}}))
        self.assertEqual((c.size, half.size, c.length), (43 * 60, 36 * 60, 10 * 480))
        self.assertEqual((to_text(c.start or 0), to_text(c.promise or 0)), ("2027-01-15T17:00", "2027-01-25T11:00"))
        [f] = c.feeding
        # F ends on Monday, the join is Thursday week: two days of buffer have room.
        self.assertEqual(([x.code for x in f.rows], f.join, f.size, f.shortage), (["F"], "C", 960, 0))
        self.assertEqual((to_text(f.start), to_text(f.end)), ("2027-01-12T08:00", "2027-01-14T08:00"))

    def test_a_feeding_buffer_without_room_shows_its_shortage(self) -> None:
        acts = [work("A", 5, 9), work("F", 4, 8), work("C", 2, 4)]
        c = chain_in(book(acts, [{"from": "A", "to": "C"}, {"from": "F", "to": "C"}]))
        [f] = c.feeding
        self.assertEqual((f.size, f.shortage, to_text(f.start)), (4 * 480, 3 * 480, "2027-01-07T17:00"))

    def test_a_path_that_joins_twice_has_one_buffer_before_its_first_join(self) -> None:
        acts = [work("A", 3, 5), work("C", 2, 4), work("D", 2, 4), work("F", 1, 2)]
        links = [{"from": "A", "to": "C"}, {"from": "C", "to": "D"}, {"from": "F", "to": "C"}, {"from": "F", "to": "D"}]
        c = chain_in(book(acts, links))
        self.assertEqual([([x.code for x in f.rows], f.join) for f in c.feeding], [(["F"], "C")])

    def test_a_lag_is_taken_back_from_the_join(self) -> None:
        acts = [work("A", 5, 9), work("F", 1, 1), work("C", 2, 4)]
        c = chain_in(book(acts, [{"from": "A", "to": "C"}, {"from": "F", "to": "C", "lag": "1d"}]))
        # No safety, no room: the buffer is a point a working day before the join on Monday.
        self.assertEqual([(f.size, f.shortage, to_text(f.start)) for f in c.feeding], [(0, 0, "2027-01-08T08:00")])

    def test_started_work_counts_with_what_is_left_of_it(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "2d"}
        b = book([work("A", 4, 8), work("C", 2, 2)], [{"from": "A", "to": "C"}], periods=[page("P1", "2027-01-05T17:00", stated)])
        c = chain_in(b)
        self.assertEqual([(x.code, x.even, x.safety) for x in c.rows], [("A", 960, 960), ("C", 960, 0)])

    def test_odd_books_are_told_sensibly(self) -> None:
        bare = compute(book([{"code": "A", "duration": "2d"}, {"code": "M", "kind": "milestone"}], [{"from": "A", "to": "M"}]))
        c = chain_of(bare)
        self.assertEqual((c.size, [x.code for x in c.rows], without_safe(bare)), (0, ["A"], ["A"]))
        self.assertEqual(c.promise, bare.schedule.finish)
        one = chain_in(book([work("A", 2, 3)]))
        self.assertEqual((len(one.rows), one.size, one.feeding), (1, 480, ()))
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-05T17:00"}
        over = chain_in(book([work("A", 2, 3)], periods=[page("P1", "2027-01-05T17:00", stated)]))
        self.assertEqual((over.rows, over.size, over.promise), ((), 0, None))
        self.assertEqual(chain_in(book([])).rows, ())

    def test_a_safe_duration_below_even_odds_gives_no_safety(self) -> None:
        self.assertEqual(chain_in(book([work("A", 4, 2)])).size, 0)


class HandOvers(unittest.TestCase):
    """Two fitters for A (1 of them, 3 d), B (1, 5 d), then C (2, 2 d) and D (1, 1 d)."""

    ACTS = (work("A", 3, 4), work("B", 5, 6), work("C", 2, 3), work("D", 1, 2))

    def made(self, links: list[dict[str, Any]] | None = None, **more: Any) -> Book:
        on = [{"activity": c, "resource": "R", "units": units} for c, units in (("A", 1), ("B", 1), ("C", 2), ("D", 1))]
        return book(list(self.ACTS), links or [], resources=[CREW | {"units": 2}], assignments=on, **more)

    def promised(self, b: Book, page: str | None = None) -> Book:
        """The book with its own chain as a promise and the levelled dates that are to be written."""
        r = compute(b)
        c = chain_of(r)
        new = promised(c, "K1", page, "Ann")
        return replace(with_levelled_dates(b, dates_to_write(r, c, new)), promises=(new,))

    def ends(self, b: Book, *codes: str) -> list[str]:
        rows = compute(b).schedule.activities
        return [to_text(rows[c].start)[:10] for c in codes or "ABCD"]

    def test_who_hands_what_over_to_whom_and_that_it_binds(self) -> None:
        b = self.made()
        c = chain_of(compute(b))
        # Float sorts them B, A, C, D: A and B begin on Monday, D follows A on Thursday, C has both fitters from the week after.
        self.assertEqual([(t.source, t.target) for t in c.ties], [("A", "D"), ("B", "C"), ("D", "C")])
        p = self.promised(b)
        self.assertEqual([a.code for a in p.activities if a.levelled is not None], [])
        self.assertEqual(self.ends(p), ["2027-01-04", "2027-01-04", "2027-01-11", "2027-01-07"])
        rows = compute(p).schedule.activities
        self.assertEqual((rows["C"].driven_by, rows["D"].driven_by), (["tie:B"], ["tie:A"]))
        # D has a day until C takes its fitter: 1 day of float; free float of A: none.
        self.assertEqual((rows["D"].total_float, rows["A"].free_float), (480, 0))
        self.assertEqual(driving_path(compute(p).schedule), {"B", "C"})

    def test_an_early_finish_is_handed_on_and_a_tie_ends(self) -> None:
        done = [
            {"activity": c, "actual_start": "2027-01-04T08:00", "actual_finish": f"2027-01-0{d}T17:00"} for c, d in (("A", 5), ("B", 6))
        ]
        status = "2027-01-06T17:00"
        p = self.promised(self.made(periods=[page("P1", "2027-01-04T08:00")]), "P1")
        later = p.with_periods(self.made(periods=[page("P1", "2027-01-04T08:00"), page("P2", status, *done)]).periods)
        # Both finish two and one days early: D begins after the status date, C a day after it.
        self.assertEqual(self.ends(later, "C", "D"), ["2027-01-08", "2027-01-07"])
        begun = {"activity": "C", "actual_start": "2027-01-06T13:00", "remaining": "1d"}
        started = p.with_periods(self.made(periods=[page("P1", "2027-01-04T08:00"), page("P2", status, *done, begun)]).periods)
        self.assertEqual(compute(started).schedule.ties.kept, p.promises[0].ties[:1])
        more = replace(p, resources=tuple(replace(r, units=Decimal(3)) for r in p.resources))
        gone = replace(p, assignments=tuple(x for x in p.assignments if x.activity != "D"))
        for b, kept in ((more, []), (gone, [("B", "C")])):
            self.assertEqual([(t.source, t.target) for t in compute(b).schedule.ties.kept], kept)
        idle = HoursEntry("A", "R", to_go=0)
        empty = later.with_periods((replace(later.periods[0], hours=(idle,)), *later.periods[1:]))
        self.assertNotIn("A", [t.source for t in compute(empty, "P1").schedule.ties.kept])

    def test_one_late_by_two_days_and_who_waits_for_the_same_crew_end_alike_everywhere(self) -> None:
        """A takes 7 days where 5 were promised; B needs the same crew. Chart, plan, levelling beyond float and an option that does
        nothing say one end; who waits for whom is named, and untied B waits no more."""
        late = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "4d"}
        b = kept(one_crew(), page("P1", "2027-01-06T17:00", late))
        r = compute(b, "P1")
        fever = fever_of(r)
        assert fever is not None
        end = fever.trail[-1].forecast_end
        # A ends on the 12th, B (3 d) on the 15th, C (2 d) on the 19th: two days after the 15th that was promised without buffer.
        self.assertEqual(to_text(end), "2027-01-19T17:00")
        self.assertEqual({r.schedule.finish, level(r, "beyond_float").plan.finish, results_of(r, b).schedule.finish}, {end})
        [x] = hand_overs_of(r)
        self.assertEqual((x.tie.source, x.tie.target, x.tie.resource, x.state, x.idle), ("A", "B", "R", "waits", 0))
        found = buffer_of(r)
        assert found is not None
        # The buffer ends on the 22nd: √(4² + 3² + 2²) days, 5.4, after the 15th.
        self.assertEqual((found.point.exact, found.promised, found.late < 0), (fever.trail[-1].exact, fever.date, True))
        free = apply(b, [{"do": "untie", "from": "A", "to": "B", "resource": "R"}]).book
        [x] = hand_overs_of(compute(free, "P1"))
        self.assertEqual((x.state, to_text(x.start or 0)), ("untied", "2027-01-11T08:00"))  # as levelled

    def test_untying_counts_from_its_page_on(self) -> None:
        b = self.made(periods=[page("P1", "2027-01-04T08:00"), page("P2", "2027-01-05T17:00")])
        p = self.promised(b, "P1")
        verb = {"do": "untie", "from": "B", "to": "C", "resource": "R", "page": "P2"}
        free = apply(p, [verb]).book
        pairs = [[(t.source, t.target) for t in compute(free, code).schedule.ties.kept] for code in ("P1", "P2")]
        self.assertEqual(pairs, [[("A", "D"), ("B", "C"), ("D", "C")], [("A", "D"), ("D", "C")]])
        for wrong, words in ((verb, "by no promise"), (verb | {"page": "P9"}, "no page"), (verb | {"from": "A"}, "by no promise")):
            with self.assertRaisesRegex(ChangeRefused, words):
                apply(free, [wrong])

    def test_one_that_closes_a_loop_is_left_out_and_named(self) -> None:
        p = self.promised(self.made(periods=[page("P1", "2027-01-04T08:00")]), "P1")
        back = apply(p, [{"do": "link", "from": "C", "to": "D", "cells": {}}]).book
        fever = fever_of(compute(back))
        assert fever is not None
        self.assertEqual(fever.trail[0].left_out, (("D", "C"),))

    def test_a_milestone_that_is_only_tied_and_late_work_that_waits(self) -> None:
        p = self.promised(self.made(periods=[page("P1", "2027-01-04T08:00")]), "P1")
        flag = replace(p, activities=tuple(replace(a, kind="milestone", duration=0) if a.code == "D" else a for a in p.activities))
        self.assertEqual(to_text(compute(flag).schedule.activities["D"].start), "2027-01-07T08:00")
        late = Constraint("as_late_as_possible", None)
        asked = replace(p, activities=tuple(replace(a, constraint=late) if a.code == "D" else a for a in p.activities))
        self.assertEqual(self.ends(asked, "D"), ["2027-01-07"])
        self.assertEqual(self.ends(replace(asked, promises=()), "D"), ["2027-01-08"])

    def test_open_ends_feed_the_end_of_the_chain(self) -> None:
        acts = [work("A", 5, 9), work("C", 2, 4), work("F", 1, 3)]
        c = chain_in(book(acts, [{"from": "A", "to": "C"}]))
        # F is done on Monday evening; its 16 h would begin on Monday 11 January, two days before the chain ends.
        self.assertEqual([(f.join, f.size, to_text(f.start), to_text(f.end), f.shortage) for f in c.feeding],
                         [(None, 960, "2027-01-11T08:00", "2027-01-12T17:00", 0)])  # fmt: skip


class Fever(unittest.TestCase):
    DONE = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-12T17:00"}

    def test_use_over_progress_page_by_page(self) -> None:
        b = kept(one_crew(), page("P1", "2027-01-05T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "3d"}),
                 page("P2", "2027-01-12T17:00", self.DONE))  # fmt: skip
        fever = fever_of(compute(b))
        assert fever is not None
        self.assertEqual((fever.promise.code, to_text(fever.date)), ("K1", "2027-01-25T11:00"))
        # P1: two of ten days done, all as planned. P2: five done, but A took two days longer: 16 h of 43 used, above 0.1 + 0.6 × 0.5.
        first, second = fever.trail
        self.assertEqual((first.progress, first.use, first.zone), (0.2, 0.0, "fine"))
        self.assertEqual((second.progress, second.use, second.zone), (0.5, round(16 / 43, 6), "fine"))
        self.assertEqual((to_text(second.forecast_end), second.used), ("2027-01-19T17:00", 960))
        self.assertEqual([(f.join, f.progress, f.use, f.zone) for f in first.feeding], [("C", 0.0, 0.0, "fine")])
        # F has not begun by the second page: it ends a day after its buffer began, 8 h of 16, above 0.1 + 0.6 × 0 and 0.3.
        self.assertEqual([(f.use, f.zone) for f in second.feeding], [(1.0, "act")])
        self.assertEqual([(u.code, u.took, u.waited) for u in second.used_by], [("A", 960, 0), ("B", 0, 0), ("C", 0, 0)])
        self.assertEqual((first.other, second.other), (0, 0))
        # Half the chain took 16 h of 43: at that pace 32 h, four days from Monday 18 January on.
        assert first.pace is not None and second.pace is not None
        self.assertEqual(
            (first.pace.rate, first.pace.use, second.pace.rate, second.pace.use), (0.0, 0.0, round(32 / 43, 6), round(32 / 43, 6))
        )
        self.assertEqual(to_text(second.pace.date), "2027-01-21T17:00")

    def test_what_to_do_first_and_what_was_noted(self) -> None:
        late = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "3d", "note": "Crane late."}
        b = kept(one_crew(), page("P1", "2027-01-05T17:00", late), page("P2", "2027-01-12T17:00", {**self.DONE, "note": ""}))
        r = compute(b)
        fever = fever_of(r)
        assert fever is not None
        # A is done: B and C are next on the chain; F's buffer is used wholly, so it comes after them, before anything fine.
        self.assertEqual([(x.code, x.remaining, x.why, x.zone) for x in first_of(r, fever)],
                         [("B", 3 * 480, "chain", "fine"), ("C", 2 * 480, "chain", "fine"), ("F", 480, "feeding", "act")])  # fmt: skip
        used = fever.trail[-1].used_by[0]
        self.assertEqual((used.page, used.note), ("P2", "Crane late."))
        before = compute(b, "P1")
        earlier = fever_of(before)
        assert earlier is not None
        self.assertEqual(
            [(x.code, x.remaining, x.why) for x in first_of(before, earlier)], [("A", 3 * 480, "chain"), ("B", 3 * 480, "chain")]
        )

    def test_the_lines_can_be_set(self) -> None:
        for lines, zone in (({"watch": [0.0, 0.6]}, "watch"), ({"act": [0.0, 0.6], "watch": [0.0, 0.5]}, "act")):
            own = one_crew(project={"buffers": lines})
            b = kept(own, page("P1", "2027-01-12T17:00", self.DONE), project={"buffers": lines})
            fever = fever_of(compute(b))
            assert fever is not None
            self.assertEqual(fever.trail[0].zone, zone, lines)

    def test_without_a_size_any_overrun_is_missed(self) -> None:
        small = book([{"code": "A", "duration": "2d"}])
        promise = promised(chain_in(small), "K1", None, "Ann")
        for finish, zone in (("2027-01-05T17:00", "fine"), ("2027-01-06T17:00", "missed")):
            stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": finish}
            b = replace(book([{"code": "A", "duration": "2d"}], periods=[page("P1", "2027-01-06T17:00", stated)]), promises=(promise,))
            fever = fever_of(compute(b))
            assert fever is not None
            [point] = fever.trail
            self.assertEqual((point.progress, point.use, point.zone, point.reason), (1.0, None, zone, "the buffer has no size"))

    def test_the_promise_in_force_is_the_last_whose_page_is_not_after_it(self) -> None:
        pages = [page(f"P{n}", f"2027-01-{n + 3:02}T17:00") for n in (1, 2, 3)]
        b = one_crew(periods=pages)
        first, later = (promised(chain_in(one_crew()), code, at, "Ann") for code, at in (("K1", "P1"), ("K2", "P3")))
        b = replace(b, promises=(first, later))
        self.assertEqual([x and x.code for x in (promise_at(b, n) for n in (0, 1, 2, 3))], [None, "K1", "K1", "K2"])
        two, three = fever_of(compute(b, "P2")), fever_of(compute(b, "P3"))
        assert two is not None and three is not None
        self.assertEqual([[p.period for p in f.trail] for f in (two, three)], [["P1", "P2"], ["P3"]])

    def test_a_promise_stays_when_the_plan_changes(self) -> None:
        b = kept(one_crew(), page("P1", "2027-01-05T17:00"))
        longer = replace(b, activities=tuple(replace(a, duration=a.duration * 2) for a in b.activities))
        self.assertEqual(longer.promises, b.promises)
        gone = replace(b, activities=b.activities[:2], links=(), assignments=())
        before, after = fever_of(compute(b)), fever_of(compute(gone))
        assert before is not None and after is not None
        # C was taken out: its two days count as done, and its finish no longer.
        self.assertEqual((before.trail[0].progress, after.trail[0].progress), (0.0, 0.2))


class AgainstTheOracle(unittest.TestCase):
    @settings(max_examples=150)
    @given(st.integers(0, 10**6))
    def test_chains_sizes_and_places(self, seed: int) -> None:
        doc = random_book(seed, 8)
        for i, a in enumerate(doc["activities"]):
            if (seed + i) % 4:
                a["safe_duration"] = f"{(seed + 3 * i) % 9 + 1}d"
        try:
            r = compute(book_from(doc))
        except BookInvalid:
            return
        found, oracle = chain_of(r), OracleLevelling(untied(r.book), False)
        chain, feeding = oracle_chain(r, oracle)
        self.assertEqual([(x.code, x.after) for x in found.rows], chain)
        self.assertEqual([([x.code for x in f.rows], f.join) for f in found.feeding], feeding)
        self.assertEqual([(t.source, t.target, t.resource) for t in found.ties], oracle_hand_overs(r, oracle))
        for rows, size in [(found.rows, found.size), *((f.rows, f.size) for f in found.feeding)]:
            squares = sum((Decimal(oracle_safety(r, x.code)) ** 2 for x in rows), Decimal(0))
            self.assertEqual([x.safety for x in rows], [oracle_safety(r, x.code) for x in rows])
            self.assertTrue(size % 60 == 0 and abs(Decimal(size) - squares.sqrt()) <= 30)
        if found.rows:
            assert found.end is not None and found.start is not None
            rows = found.levelled.plan.activities
            self.assertEqual(found.start, max(rows[x.code].early_finish for x in found.rows))
            self.assertEqual(r.book.axis.between(found.start, found.end), found.size)
        for f in found.feeding:
            self.assertGreaterEqual(f.start, found.levelled.plan.activities[f.rows[-1].code].early_finish)
            self.assertEqual(f.shortage, f.size - max(r.book.axis.between(f.start, f.end), 0) if f.size else 0)

    @settings(max_examples=60)
    @given(st.integers(0, 10**6))
    def test_fever_points(self, seed: int) -> None:
        doc = random_book(seed, 8)
        for i, a in enumerate(doc["activities"]):
            a["safe_duration"] = f"{(seed + i) % 9 + 1}d"
        try:
            b = book_from(doc)
            pages = [compute(b, p.code) for p in b.periods]
        except BookInvalid:
            return
        if not pages or not (chain := chain_of(pages[0])).rows:
            return
        b = replace(b, promises=(promised(chain, "K9", b.periods[0].code, "Ann"),))
        pages = [compute(b, p.code) for p in b.periods]
        fever = fever_of(compute(b))
        assert fever is not None
        self.assertEqual([p.period for p in fever.trail], [p.code for p in b.periods])
        for r, point in zip(pages, fever.trail, strict=True):
            for lengths, room, got in [
                (fever.promise.chain, fever.promise.buffer, point),
                *((f.chain, f.buffer, q) for f, q in zip(fever.promise.feeding, point.feeding, strict=True)),
            ]:
                done, whole = Decimal(0), sum(x.length for x in lengths)
                for x in lengths:
                    row = r.schedule.activities[x.code]
                    left = 0 if row.state == "complete" else row.remaining if row.state == "in_progress" else x.length
                    done += max(x.length - left, 0)
                complete = all(r.schedule.activities[x.code].state == "complete" for x in lengths)
                share = done / whole if whole else Decimal(complete)
                end = max(r.schedule.activities[x.code].early_finish for x in lengths)
                late = max(b.axis.pos(end) - b.axis.pos(room.start), 0)
                self.assertEqual((got.forecast_end, got.progress), (end, float(round(share, 6))))
                exact = Fraction(int(done), whole) if whole else Fraction(int(complete))
                lines = [Fraction(1, 10) + Fraction(6, 10) * exact, Fraction(3, 10) + Fraction(6, 10) * exact]
                if room.size:
                    use = Decimal(late) / room.size
                    self.assertEqual(got.use, float(round(use, 6)))
                    used = Fraction(late, room.size)
                    above = 0 if complete or not used else sum(used >= x for x in lines)
                    self.assertEqual(got.zone, "missed" if used > 1 else ["fine", "watch", "act"][above])
                self.assertEqual(got.other + sum(x.took + x.waited for x in got.used_by), late)
                if not room.size:
                    self.assertEqual((got.use, got.zone), (None, "missed" if late else "fine"))
