"""Levelling, the critical chain and its buffers, by hand and by properties."""

import unittest
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.buffers.chain import Chain, chain_of, chain_status
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.options.levelling import level

CREW = {"code": "R", "name": "Crew", "units": 1}


def work(code: str, days: int, safe: int, **more: Any) -> dict[str, Any]:
    return {"code": code, "duration": f"{days}d", "safe_duration": f"{safe}d"} | more


def one_crew() -> Book:
    """A (5 d) and B (3 d) both need the one crew; C (2 d) follows both; F (1 d) joins at C."""
    acts = [work("A", 5, 9), work("B", 3, 6), work("C", 2, 4), work("F", 1, 3)]
    links = [{"from": "A", "to": "C"}, {"from": "B", "to": "C"}, {"from": "F", "to": "C"}]
    on = [{"activity": c, "resource": "R"} for c in "AB"]
    return book(acts, links, resources=[CREW], assignments=on)


class ByHand(unittest.TestCase):
    def test_levelling_gives_the_crew_to_the_least_late_start_first(self) -> None:
        rows = level(one_crew()).rows
        dates = {c: (to_text(r.start)[5:13], to_text(r.finish)[5:13]) for c, r in rows.items()}
        self.assertEqual(dates, {
            "A": ("01-04T08", "01-08T17"), "B": ("01-11T08", "01-13T17"), "C": ("01-14T08", "01-15T17"), "F": ("01-04T08", "01-04T17"),
        })  # fmt: skip

    def test_chain_and_buffers(self) -> None:
        c = chain_of(one_crew())
        self.assertEqual(c.codes, ("A", "B", "C"))
        # √(32² + 24² + 16²) hours = 43.08, so 43 h; half of the sum is 36 h.
        self.assertEqual((c.size, chain_of(one_crew(), "half").size), (43 * 60, 36 * 60))
        self.assertEqual((to_text(c.end), to_text(c.promise)), ("2027-01-15T17:00", "2027-01-25T11:00"))
        [f] = c.feeding
        # F ends on Monday, the join is Thursday week: two days of buffer have room.
        self.assertEqual((f.codes, f.joins, f.size, f.shortage, to_text(f.start)), (("F",), "C", 960, 0, "2027-01-12T08:00"))

    def test_a_feeding_buffer_without_room_shows_its_shortage(self) -> None:
        acts = [work("A", 5, 9), work("F", 4, 8), work("C", 2, 4)]
        c = chain_of(book(acts, [{"from": "A", "to": "C"}, {"from": "F", "to": "C"}]))
        [f] = c.feeding
        self.assertEqual((f.size, f.shortage, to_text(f.start)), (4 * 480, 3 * 480, "2027-01-08T08:00"))

    def test_a_feeding_chain_goes_back_all_its_way(self) -> None:
        acts = [work("A", 9, 9), work("G", 1, 2), work("F", 2, 4), work("C", 1, 1)]
        links = [{"from": "A", "to": "C"}, {"from": "G", "to": "F", "lag": "1d"}, {"from": "F", "to": "C"}]
        f = chain_of(book(acts, links)).feeding[0]
        self.assertEqual((f.codes, f.size), (("G", "F"), 18 * 60))  # √(8² + 16²) hours

    def test_buffer_use_and_zones(self) -> None:
        acts, links = [work("A", 5, 9), work("C", 5, 9)], [{"from": "A", "to": "C"}]
        chain = chain_of(book(acts, links))
        # Half done, A two days longer than planned: √(2 × 32²) = 45 h of buffer, 16 h of it used.
        said = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-12T17:00"}
        r = compute(book(acts, links, periods=[page("P1", "2027-01-12T17:00", said)]))
        s = chain_status(chain, r)
        self.assertEqual((chain.size, s.progress, s.use, s.zone), (45 * 60, 0.5, 960 / 2700, "ok"))
        self.assertEqual(chain_status(chain, r, watch=0.0).zone, "watch")
        self.assertEqual(chain_status(chain, r, watch=0.0, act=0.05).zone, "act")
        self.assertEqual(to_text(s.forecast), "2027-01-19T17:00")

    def test_no_safety_no_buffer(self) -> None:
        b = book([{"code": "A", "duration": "2d"}])
        self.assertEqual((chain_of(b).size, chain_status(chain_of(b), compute(b)).use), (0, None))

    def test_more_units_than_there_are_is_told(self) -> None:
        b = book([{"code": "A"}], resources=[CREW], assignments=[{"activity": "A", "resource": "R", "units": 2}])
        self.assertEqual([x.activity for x in level(b).too_many], ["A"])


class Properties(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.integers(0, 10**6))
    def test_no_resource_above_its_units_and_no_link_broken(self, seed: int) -> None:
        doc = random_book(seed, 10)
        b = book_from(doc)
        rows, project = level(b).rows, from_text("2027-01-04T08:00")
        beyond = {(x.activity, x.resource) for x in level(b).too_many}
        driven = {a.code for a in b.activities if a.mode == "driven"}
        for resource in b.resources:
            spans = [
                (rows[x.activity].start, rows[x.activity].finish, x.units)
                for x in b.assignments
                if x.resource == resource.code and (x.activity, x.resource) not in beyond and x.activity in driven
            ]
            if resource.kind != "material" and len(driven) == len(b.activities):
                for t, _, _ in spans:
                    self.assertLessEqual(sum((u for s, f, u in spans if s <= t < f), Decimal(0)), resource.units)
        self.assertTrue(all(r.start >= project for c, r in rows.items() if c in driven))
        chain = chain_of(b)
        self.checked(b, chain)

    def checked(self, b: Book, chain: Chain) -> None:
        finishes = [r.finish for r in chain.levelled.rows.values()]
        self.assertEqual(chain.end, max(finishes))
        every = [*chain.codes, *(c for f in chain.feeding for c in f.codes)]
        self.assertEqual(len(every), len(set(every)))
        for f in chain.feeding:
            self.assertGreaterEqual(f.start, chain.levelled.rows[f.codes[-1]].finish if f.size > f.shortage else 0)
            self.assertTrue(0 <= f.shortage <= f.size)
