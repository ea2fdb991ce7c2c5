"""The two passes, by hand and by properties."""

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import book, page
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.schedule.driving import driving_path
from dryledger.schedule.schedule import shift


def dates(r: Results, code: str) -> tuple[str, str]:
    row = r.schedule.activities[code]
    return to_text(row.start)[5:], to_text(row.finish)[5:]


CHAIN = [
    {"code": "A", "duration": "5d"},
    {"code": "B", "duration": "3d"},
    {"code": "C", "duration": "1d"},
    {"code": "M", "kind": "milestone"},
]
LINKS = [{"from": "A", "to": "B", "lag": "1d"}, {"from": "B", "to": "M"}, {"from": "C", "to": "M"}]


class ByHand(unittest.TestCase):
    def test_finish_to_start_with_lag(self) -> None:
        r = compute(book(CHAIN, LINKS))
        self.assertEqual(dates(r, "A"), ("01-04T08:00", "01-08T17:00"))
        self.assertEqual(dates(r, "B"), ("01-12T08:00", "01-14T17:00"))
        self.assertEqual(dates(r, "M"), ("01-14T17:00", "01-14T17:00"))
        self.assertEqual(r.schedule.activities["C"].total_float, 8 * 480)
        self.assertEqual(r.schedule.activities["B"].driven_by, ["link:A"])
        self.assertTrue(r.schedule.activities["A"].critical)

    def test_another_projects_dates_stand(self) -> None:
        """The outside work runs from Wednesday 6 January 13:00 to Friday 15 January 12:00; A takes two days on a five-day week."""
        for kind, lag, start, finish in (
            ("FS", "0d", "01-15T13:00", "01-19T12:00"),
            ("FS", "-1d", "01-14T13:00", "01-18T12:00"),
            ("SS", "1d", "01-07T13:00", "01-11T12:00"),
            ("FF", "0d", "01-13T13:00", "01-15T12:00"),
            ("SF", "2d", "01-06T13:00", "01-08T12:00"),
        ):
            other = {"code": "PIER/P", "name": "Pile", "start": "2027-01-06T13:00", "finish": "2027-01-15T12:00", "state": "complete"}
            links = [{"from": "PIER/P", "to": "A", "type": kind, "lag": lag}, {"from": "A", "to": "M"}]
            r = compute(book([{"code": "A", "duration": "2d"}, {"code": "M", "kind": "milestone"}], links, externals=[other]))
            with self.subTest(kind=kind, lag=lag):
                self.assertEqual(dates(r, "A"), (start, finish))
                self.assertEqual(r.schedule.activities["A"].driven_by, ["link:PIER/P"])
                self.assertEqual((r.schedule.finish, driving_path(r.schedule)), (r.schedule.activities["M"].finish, {"A", "M"}))

    def test_an_outside_link_is_a_link_in_and_makes_started_work_out_of_sequence(self) -> None:
        other = {"code": "PIER/P", "name": "Pile", "start": "2027-01-06T13:00", "finish": "2027-01-15T12:00"}
        links = [{"from": "PIER/P", "to": "M"}, {"from": "PIER/P", "to": "A"}]
        stated = page("P01", "2027-01-06T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "1d"})
        r = compute(book([{"code": "A", "duration": "2d"}, {"code": "M", "kind": "milestone"}], links, externals=[other], periods=[stated]))
        self.assertEqual(dates(r, "M"), ("01-15T12:00", "01-15T12:00"))  # the instant itself: a milestone with a link in
        self.assertTrue(r.schedule.activities["A"].out_of_sequence)
        self.assertEqual(dates(r, "A"), ("01-04T08:00", "01-18T12:00"))
        override = compute(book([{"code": "A", "duration": "2d"}], links[1:], externals=[other], periods=[stated]), treatment="override")
        self.assertEqual(dates(override, "A"), ("01-04T08:00", "01-07T17:00"))

    def test_what_an_external_activity_must_be(self) -> None:
        rows = [{"code": "A", "duration": "2d"}, {"code": "P/B", "duration": "1d"}]
        for other, stated in (
            ({"code": "PIER", "start": "2027-01-06T13:00", "finish": "2027-01-15T12:00"}, "does not name a project"),
            ({"code": "P/B", "start": "2027-01-06T13:00", "finish": "2027-01-15T12:00"}, "twice"),
            ({"code": "P/C", "start": "2027-01-16T13:00", "finish": "2027-01-15T12:00"}, "before the start"),
        ):
            with self.assertRaisesRegex(BookInvalid, stated):
                book(rows, externals=[{"name": "Other"} | other])
        there = {"code": "P/C", "name": "C", "start": "2027-01-06T13:00", "finish": "2027-01-15T12:00"}
        with self.assertRaisesRegex(BookInvalid, "P/C"):
            book(rows, [{"from": "A", "to": "P/C"}], externals=[there])

    def test_a_levelled_date_binds_as_a_carry_forward_date_does(self) -> None:
        held = [a | ({"levelled": "2027-01-13T08:00"} if a["code"] in ("B", "C") else {}) for a in CHAIN]
        r = compute(book(held, LINKS))
        self.assertEqual((dates(r, "B"), r.schedule.activities["B"].driven_by), (("01-13T08:00", "01-15T17:00"), ["levelled"]))
        late = [a | ({"constraint": {"type": "as_late_as_possible"}} if a["code"] == "C" else {}) for a in held]
        self.assertEqual(dates(compute(book(late, LINKS)), "C"), ("01-13T08:00", "01-13T17:00"))  # not moved late
        done = {"activity": "C", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-04T17:00"}
        begun = {"activity": "B", "actual_start": "2027-01-05T08:00", "remaining": "1d", "carry_to": "2027-01-13T08:00"}
        r = compute(book(held, LINKS, periods=[page("P1", "2027-01-08T17:00", done, done | {"activity": "A"}, begun)]))
        self.assertEqual(dates(r, "C"), ("01-04T08:00", "01-04T17:00"))
        self.assertEqual(r.schedule.activities["B"].driven_by, ["carry", "levelled"])

    def test_as_late_as_possible_moves_only_what_is_shown(self) -> None:
        late = [a | ({"constraint": {"type": "as_late_as_possible"}} if a["code"] == "C" else {}) for a in CHAIN]
        r = compute(book(late, LINKS))
        row = r.schedule.activities["C"]
        self.assertEqual(dates(r, "C"), ("01-14T08:00", "01-14T17:00"))
        self.assertEqual((to_text(row.early_start)[5:], row.total_float), ("01-04T08:00", 8 * 480))

    def test_a_pinned_activity_keeps_its_dates(self) -> None:
        pinned = {"code": "B", "mode": "fixed", "start": "2027-01-06T08:00", "finish": "2027-01-07T17:00"}
        r = compute(book([{"code": "A", "duration": "5d"}, pinned, {"code": "C"}], [{"from": "A", "to": "B"}, {"from": "B", "to": "C"}]))
        self.assertEqual(dates(r, "B"), ("01-06T08:00", "01-07T17:00"))
        self.assertEqual(dates(r, "C")[0], "01-08T08:00")
        # A would have to end by B's start, the close of Tuesday: three days earlier
        self.assertEqual(r.schedule.activities["A"].total_float, -3 * 480)

    def test_remaining_work_is_never_before_the_status_date(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-05T08:00", "percent": 40, "remaining": "6d"}
        r = compute(book(CHAIN, LINKS, periods=[page("P1", "2027-01-08T17:00", stated)]))
        row = r.schedule.activities["A"]
        self.assertEqual((to_text(row.resume or 0), to_text(row.finish)), ("2027-01-11T08:00", "2027-01-18T17:00"))
        self.assertEqual(dates(r, "C")[0], "01-11T08:00")
        self.assertEqual(row.driven_by, ["status"])

    def test_each_link_type(self) -> None:
        for kind, expected in (("FS", "01-06T08:00"), ("SS", "01-04T08:00"), ("FF", "01-04T08:00"), ("SF", "01-04T08:00")):
            r = compute(book([{"code": "A", "duration": "2d"}, {"code": "B", "duration": "2d"}], [{"from": "A", "to": "B", "type": kind}]))
            self.assertEqual(dates(r, "B")[0], expected, kind)
        r = compute(book([{"code": "A", "duration": "5d"}, {"code": "B", "duration": "2d"}], [{"from": "A", "to": "B", "type": "FF"}]))
        self.assertEqual(dates(r, "B"), ("01-07T08:00", "01-08T17:00"))

    def test_elapsed_lag_counts_the_weekend(self) -> None:
        r = compute(book([{"code": "A", "duration": "5d"}, {"code": "B"}], [{"from": "A", "to": "B", "lag": "3d", "lag_basis": "elapsed"}]))
        self.assertEqual(dates(r, "B")[0], "01-12T08:00")

    def test_a_date_that_logic_cannot_meet_gives_negative_float(self) -> None:
        r = compute(book([{"code": "A", "duration": "5d", "constraint": {"type": "finish_on_or_before", "at": "2027-01-07T17:00"}}]))
        self.assertEqual(r.schedule.activities["A"].total_float, -480)

    def test_three_treatments_of_work_out_of_sequence(self) -> None:
        acts, links = [{"code": "A", "duration": "5d"}, {"code": "B", "duration": "5d"}], [{"from": "A", "to": "B"}]
        stated = [
            {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "3d"},
            {"activity": "B", "actual_start": "2027-01-06T08:00", "remaining": "2d"},
        ]
        b = book(acts, links, periods=[page("P1", "2027-01-06T17:00", *stated)])
        retained, override, recorded = (compute(b, treatment=t) for t in ("retained", "override", "recorded"))
        self.assertEqual(dates(retained, "B")[1], "01-13T17:00")
        self.assertEqual(dates(override, "B")[1], "01-08T17:00")
        self.assertEqual(dates(recorded, "B")[1], "01-13T17:00")
        self.assertTrue(retained.schedule.activities["B"].out_of_sequence)
        # A would have had to end by B's actual start, Tuesday's close; it ends on Monday, four working days later.
        self.assertEqual(recorded.schedule.activities["A"].total_float, -4 * 480)

    def test_statements_replace_earlier_ones_whole(self) -> None:
        first = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 50, "remaining": "1d"}
        second = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 60}
        r = compute(
            book(
                [{"code": "A", "duration": "10d"}], periods=[page("P1", "2027-01-08T17:00", first), page("P2", "2027-01-15T17:00", second)]
            )
        )
        self.assertEqual(r.progress["A"].remaining, 4 * 480)
        self.assertEqual(r.progress["A"].remaining_from, "percent")


@st.composite
def networks(draw: Any) -> dict[str, Any]:
    n = draw(st.integers(1, 9))
    codes = [f"A{i}" for i in range(n)]
    acts = [{"code": c, "duration": f"{draw(st.integers(0, 12))}h"} for c in codes]
    pairs = draw(st.lists(st.tuples(st.integers(0, n - 1), st.integers(0, n - 1)), max_size=14, unique=True))
    links = [
        {"from": codes[i], "to": codes[j], "type": draw(st.sampled_from(["FS", "SS", "FF", "SF"])), "lag": f"{draw(st.integers(-6, 9))}h"}
        for i, j in pairs
        if i < j
    ]
    stated = [
        {"activity": c, "actual_start": "2027-01-04T08:00", "remaining": f"{draw(st.integers(0, 20))}h"}
        for c in codes
        if draw(st.integers(0, 3)) == 0
    ]
    return {"activities": acts, "links": links, "said": stated}


class Properties(unittest.TestCase):
    @settings(max_examples=120)
    @given(networks())
    def test_dates_break_no_link_and_float_is_what_can_be_used(self, made: dict[str, Any]) -> None:
        r = compute(book(made["activities"], made["links"], periods=[page("P1", "2027-01-05T17:00", *made["said"])]))
        rows = r.schedule.activities
        for link in r.book.links:
            pred, succ = rows[link.source], rows[link.target]
            if succ.state != "not_started":
                continue
            asked = shift(r.book.axis, pred.finish if link.type[0] == "F" else pred.start, link)
            self.assertGreaterEqual(succ.start if link.type[1] == "S" else succ.finish, asked, link)
        for code, row in rows.items():
            if row.state == "complete":
                continue
            axis = r.book.axes[code]
            if row.remaining and row.state == "not_started":
                self.assertEqual(axis.between(row.early_start, row.early_finish), row.remaining)
            assert row.total_float is not None and row.free_float is not None
            self.assertGreaterEqual(row.total_float, 0, code)
            self.assertLessEqual(row.free_float, row.total_float, code)
