"""Pages: corrections of what is dry, the rhythm of status dates, and moving one."""

import unittest
from decimal import Decimal as D
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from core.tests.books import baseline, book, doc, line, page
from dryledger.book.pages import Rhythm
from dryledger.budget.actual import Target
from dryledger.calendar.calendar import date_of, from_text, to_text
from dryledger.changes.apply import apply
from dryledger.changes.pages import next_page
from dryledger.compute import compute
from dryledger.entry.rhythms import rhythm_text, type_rhythm
from dryledger.errors import BookInvalid, ChangeRefused, EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import book_document
from dryledger.posting.corrections import corrections
from dryledger.posting.costs import source_totals
from dryledger.posting.status import at_status, status_move
from dryledger.schedule.rhythm import next_status, rhythm_dates

A = {"code": "A", "duration": "10d"}
FIRST, SECOND = "2027-01-08T17:00", "2027-01-15T17:00"


def posted(*later: dict[str, Any], rates: Any = None, **more: Any) -> Any:
    """Eight and a half hours and two of overtime on the first page, and what is said of them on the second."""
    each = rates or [
        {"from": "2027-01-01", "amount": "50.00", "per": "hour", "overtime": "75.00"},
        {"from": "2027-01-11", "amount": "60.00", "per": "hour", "overtime": "90.00"},
    ]
    hours = {"activity": "A", "resource": "F", "worked": "510min", "overtime": "2h"}
    return {
        "resources": [{"code": "F", "name": "F", "rates": each}],
        "periods": [page("P1", FIRST, hours=[hours], state="dry"), page("P2", SECOND, hours=list(later), **more)],
    }


def correction(worked: str, overtime: str = "0h", **more: Any) -> dict[str, Any]:
    return {"activity": "A", "resource": "F", "worked": worked, "overtime": overtime, "corrects": "P1", "reason": "booked twice"} | more


STATED = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 30, "corrects": "P1", "reason": "misread"}


class Corrections(unittest.TestCase):
    def ac(self, **more: Any) -> D:
        ac = compute(book([A], **more)).project.ac
        assert ac is not None
        return ac

    def test_hours_are_taken_back_at_the_rates_of_their_page(self) -> None:
        # 8.5 × 50 + 2 × 75 = 575; taken back 2.5 × 50 + 1 × 75 = 200, not at the rate of 11 January.
        self.assertEqual(self.ac(**posted()), D("575.00"))
        self.assertEqual(self.ac(**posted(correction("-150min", "-1h"))), D("375.00"))
        self.assertEqual(self.ac(**posted(correction("2h"))), D("675.00"))

    def test_a_started_hour_comes_back_whole(self) -> None:
        rates = [{"from": "2027-01-01", "amount": "10.00", "per": "started_hour"}]
        # ⌈8.5⌉ + ⌈2⌉ = 11 hours; less 30 minutes ⌈8⌉ − ⌈8.5⌉ = −1; then ⌈7.75⌉ − ⌈8⌉ = 0; all of it: nothing is left.
        self.assertEqual(self.ac(**posted(rates=rates)), D("110.00"))
        self.assertEqual(self.ac(**posted(correction("-30min"), rates=rates)), D("100.00"))
        self.assertEqual(self.ac(**posted(correction("-30min"), correction("-15min"), rates=rates)), D("100.00"))
        self.assertEqual(self.ac(**posted(correction("-510min", "-2h"), rates=rates)), D("0.00"))

    def test_they_count_from_their_own_page_and_use_is_due_once(self) -> None:
        rates = [{"from": "2027-01-01", "amount": "30.00", "per": "use"}]
        self.assertEqual(self.ac(**posted(correction("-510min", "-2h"), rates=rates)), D("30.00"))
        b = book([A], **posted(correction("-8h")))
        self.assertEqual((compute(b, "P1").project.ac, compute(b, "P2").project.ac), (D("575.00"), D("175.00")))

    def test_a_cost_is_corrected_with_its_reason(self) -> None:
        cost = {"activity": "A", "date": "2027-01-12", "amount": "-100.00", "source": "correction", "corrects": "P1", "reason": "not ours"}
        m = compute(book([A], **posted(costs=[cost]))).project
        self.assertEqual((m.ac, m.ac_by_source), (D("475.00"), {"hours": D("575.00"), "correction": D("-100.00")}))

    def test_what_is_not_valid_is_told_at_its_place(self) -> None:
        bare = {"activity": "A", "resource": "F", "worked": "-1h"}
        cost = {"activity": "A", "date": "2027-01-12", "amount": "1.00", "source": "invoice", "corrects": "P1", "reason": "why"}
        for path, given_ in (
            ("periods[1].hours[0].worked", posted(bare)),
            ("periods[1].hours[0].overtime", posted(bare | {"worked": "1h", "overtime": "-1h"})),
            ("periods[1].hours[0].corrects", posted(correction("-1h", corrects="P2"))),
            ("periods[1].hours[0].reason", posted(correction("-1h", reason=" "))),
            ("periods[1].hours[0].worked", posted(correction("-9h"))),
            ("periods[1].hours[1].overtime", posted(correction("1h"), correction("0h", "-3h"))),
            ("periods[1].costs[0].corrects", posted(costs=[cost])),
            ("periods[1].statements[0].corrects", posted(statements=[STATED | {"corrects": "P2"}])),
            ("periods[1].statements[0].reason", posted(statements=[STATED | {"reason": ""}])),
        ):
            with self.assertRaises(BookInvalid) as caught:
                book_from(doc([A], **given_))
            self.assertEqual([f.path for f in caught.exception.faults], [path])

    def test_they_are_written_as_they_were_read(self) -> None:
        cost = {"activity": "A", "date": "2027-01-12", "amount": "1.00", "source": "invoice", "text": "Paint, two tins"}
        d = doc([A], **posted(correction("-8h", ref="R7"), costs=[cost], statements=[STATED]))
        page = book_document(book_from(d))["periods"][1]
        self.assertEqual((page["hours"], page["costs"], page["statements"]), ([correction("-8h", ref="R7")], [cost], [STATED]))

    def test_a_statement_is_corrected_and_counts_from_its_own_page(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 50}
        d = doc([A], **posted(statements=[STATED]))
        d["periods"][0]["statements"] = [stated]
        b = book_from(d)
        (found,) = corrections(b)
        self.assertEqual((found.kind, found.page, found.corrects, found.reason), ("statement", "P2", "P1", "misread"))
        self.assertEqual((found.was and found.was.percent, found.now and found.now.percent), (D("0.5"), D("0.3")))
        self.assertEqual([compute(b.with_periods(b.periods[:n])).progress["A"].percent for n in (1, 2)], [D("0.5"), D("0.3")])


class Totals(unittest.TestCase):
    def test_actual_cost_by_source_of_any_part(self) -> None:
        wbs = [{"code": "1", "name": "Hull"}, {"code": "1.1", "name": "Bow", "parent": "1"}, {"code": "2", "name": "Yard"}]
        costs = [
            {"activity": "A", "date": "2027-01-12", "amount": "10.00", "source": "invoice"},
            {"wbs": "1", "date": "2027-01-12", "amount": "4.00", "source": "invoice"},
            {"wbs": "2", "date": "2027-01-12", "amount": "1.00", "source": "accrual"},
        ]
        r = compute(book([A | {"wbs": "1.1"}], wbs=wbs, **posted(costs=costs)))
        parts: dict[str, Target | None] = {"all": None, "A": ("activity", "A"), "1": ("wbs", "1"), "2": ("wbs", "2")}
        sums = {name: {t.source: (t.page, t.to_date) for t in source_totals(r, of)} for name, of in parts.items()}
        hours, invoice = (D(0), D("575.00")), (D("10.00"), D("10.00"))
        self.assertEqual(sums["A"], {"hours": hours, "invoice": invoice})
        self.assertEqual(sums["1"], {"hours": hours, "invoice": (D("14.00"), D("14.00"))})
        self.assertEqual(sums["2"], {"accrual": (D("1.00"), D("1.00"))})
        self.assertEqual(sums["all"], sums["1"] | sums["2"])


class Rhythms(unittest.TestCase):
    def dates(self, rhythm: str, *pages: str, n: int = 4) -> list[str]:
        b = book([A], calendars=[CALENDAR])
        got = [from_text(f"{p}T17:00") for p in pages] or [b.project.start]
        out = []
        for _ in range(n):
            got.append(next_status(b.axis, b.project.start, got, type_rhythm(rhythm)))
            out.append(to_text(got[-1]))
        return out

    def test_dates_of_a_rhythm_up_to_an_instant(self) -> None:
        b = book([{"code": "A"}])
        start, until = from_text("2027-01-04T08:00"), from_text("2027-02-26T17:00")

        def dates(rhythm: str) -> list[str]:
            found = type_rhythm(rhythm)
            assert found is not None
            return [to_text(t)[5:10] for t in rhythm_dates(b.axis, start, until, found)]

        self.assertEqual(dates("every second Friday"), ["01-08", "01-22", "02-05", "02-19"])
        self.assertEqual(dates("every month on the last working day"), ["01-29", "02-26"])
        self.assertEqual(dates("every monday")[:2], ["01-04", "01-11"])

    def test_each_kind(self) -> None:
        friday = ["2027-01-08T17:00", "2027-01-15T17:00", "2027-01-22T17:00", "2027-01-28T17:00"]
        self.assertEqual(self.dates("every week on Friday"), friday)  # the 29th is off: the day before
        self.assertEqual(self.dates("every 2 weeks on fri at 12:30", n=2), ["2027-01-08T12:30", "2027-01-22T12:30"])
        self.assertEqual(self.dates("every month on the last working day", n=2), ["2027-01-28T17:00", "2027-02-26T17:00"])
        self.assertEqual(
            self.dates("monthly on the 31st", n=3), ["2027-01-29T17:00"[:8] + "28T17:00", "2027-02-26T17:00", "2027-03-31T17:00"]
        )

    def test_a_page_moved_by_a_day_moves_none_after_it(self) -> None:
        self.assertEqual(self.dates("every week on Friday", "2027-01-08", "2027-01-14", n=1), ["2027-01-22T17:00"])
        self.assertEqual(self.dates("every week on Friday", "2027-01-08", "2027-01-18", n=1), ["2027-01-22T17:00"])

    def test_words_are_read_as_they_are_shown(self) -> None:
        for text in (
            "every week on Friday",
            "every 3 weeks on Monday at 09:05",
            "every month on the 22nd",
            "every 2 months on the last working day",
        ):
            self.assertEqual(rhythm_text(type_rhythm(text)), text)
        for wrong in ("sometimes", "every week on noday", "every month on the 40th", "every week on fri at 25:00", "every 0 weeks on fri"):
            with self.assertRaises(EntryRefused):
                type_rhythm(wrong)

    @given(st.sampled_from(["week", "month"]), st.integers(1, 5), st.integers(1, 31), st.integers(1, 300))
    def test_the_next_lies_after_the_last_on_a_working_day(self, every: str, n: int, on: int, days: int) -> None:
        b = book([A], calendars=[CALENDAR])
        rhythm = Rhythm(every, D(n), str(on) if every == "month" else ("mon", "wed", "sun")[on % 3])
        last = b.project.start + days * 1440
        t = next_status(b.axis, b.project.start, [b.project.start, last], rhythm)
        self.assertGreater(t, last)
        self.assertTrue(b.axis.between(t // 1440 * 1440, t))

    def test_a_rhythm_is_checked_in_a_book(self) -> None:
        for rhythm, path in (
            ({"every": "week", "on": "day"}, "on"),
            ({"every": "month", "on": "0"}, "on"),
            ({"every": "week", "n": 1.5, "on": "fri"}, "n"),
        ):
            with self.assertRaises(BookInvalid) as caught:
                book_from(doc([A], project={"rhythm": rhythm}))
            self.assertEqual([f.path for f in caught.exception.faults], [f"project.rhythm.{path}"])


CALENDAR = {
    "code": "five",
    "name": "Five",
    "week": {key: ["08:00-12:00", "13:00-17:00"] for key in ("mon", "tue", "wed", "thu", "fri")},
    "exceptions": [{"from": "2027-01-29", "to": "2027-01-29", "shifts": [], "name": "Off"}],
}


class Moving(unittest.TestCase):
    def test_what_it_does_is_said_and_back_restores(self) -> None:
        a = {"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-15T17:00", "duration": "10d", "cost_lines": [line("100")]}
        base = baseline(a, {"code": "B", "start": "2027-01-13T08:00", "finish": "2027-01-14T17:00", "duration": "2d"})
        cost = {"activity": "A", "date": "2027-01-12", "amount": "10.00", "source": "invoice"}
        start = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "5d"}
        b = book([A, {"code": "B", "duration": "2d", "constraint": {"type": "start_on_or_after", "at": "2027-01-13T08:00"}}],
                 project={"measured_against": "B0"}, baselines=[base], periods=[page("P1", FIRST, start, costs=[cost])])  # fmt: skip
        r, before = compute(b), compute(b.with_periods(()))
        move = status_move(r, before, "P1", from_text("2027-01-14T17:00"))
        self.assertEqual((move.comes_due, move.after), (("B",), ()))
        self.assertIn("A", {m.code for m in move.moved})
        self.assertEqual(len(status_move(r, before, "P1", from_text("2027-01-07T17:00")).after), 1)
        back = at_status(at_status(b, "P1", from_text("2027-01-14T17:00")), "P1", from_text(FIRST))
        self.assertEqual(book_document(back), book_document(b))

    def test_where_it_can_not_lie(self) -> None:
        start = {"activity": "A", "actual_start": "2027-01-12T08:00"}
        b = book([A], periods=[page("P1", FIRST, state="dry"), page("P2", SECOND, start)])
        r = compute(b)
        for when, saying in (
            ("2027-01-08T17:00", "page P1"),
            ("2027-01-11T17:00", r"A \(A\) has its actual start"),
            ("2130-01-01T08:00", "year"),
        ):
            with self.assertRaisesRegex(EntryRefused, saying):
                status_move(r, r, "P2", from_text(when))
        with self.assertRaisesRegex(EntryRefused, "page P2"):
            next_page(b, b.periods, from_text(SECOND))
        self.assertEqual(date_of(from_text(SECOND)).isoformat(), "2027-01-15")


class Following(unittest.TestCase):
    """Closing a page, opening the next, taking it back."""

    def test_a_page_is_closed_the_next_opened_and_taken_back(self) -> None:
        b = book([A], periods=[page("P1", FIRST, state="dry"), page("P3", SECOND)])
        after = apply(b, [{"do": "close"}, {"do": "open"}]).book  # two pages and P03 not among them: as far on as the one before
        self.assertEqual(
            [(p.code, p.state, to_text(p.status)) for p in after.periods[1:]],
            [
                ("P3", "dry", SECOND),
                ("P03", "wet", "2027-01-22T17:00"),
            ],
        )
        self.assertEqual(
            apply(after, [{"do": "take_back"}, {"do": "open", "status": "2027-01-18T12:00"}]).book.periods[-1].status,
            from_text("2027-01-18T12:00"),
        )
        later = apply(after, [{"do": "page", "cells": {"note": "seen"}}]).book
        for verbs, saying in (
            ([{"do": "open"}], "P03 is open"),
            ([{"do": "close"}, {"do": "open", "status": SECOND}], "doesn't lie after"),
            ([{"do": "close"}, {"do": "open", "status": "2227-01-15T17:00"}], "hundred years"),
            ([{"do": "take_back"}], "says something"),
            ([{"do": "close"}, {"do": "state", "row": "A", "cells": {"percent": 5}}], "is dry"),
        ):
            with self.assertRaisesRegex(ChangeRefused, saying):
                apply(later, verbs)
        with self.assertRaisesRegex(ChangeRefused, "is the first"):
            apply(book([A], periods=[page("P1", FIRST)]), [{"do": "take_back"}])

    def test_what_is_waited_for_is_remembered_as_it_is(self) -> None:
        pile = {"code": "PIER/P", "name": "Pile", "start": "2027-01-04T08:00", "finish": "2027-01-08T17:00", "state": "not_started"}
        b = book([A], [{"from": "PIER/P", "to": "A"}], periods=[page("P1", FIRST)], externals=[pile])
        self.assertEqual(b.externals[0].last_finish, None)
        (x,) = apply(b, [{"do": "close"}]).book.externals
        self.assertEqual((x.last_start, x.last_finish), (x.start, x.finish))
