"""The readings that made calculation 2, each in a case small enough to work by hand."""

import unittest
from decimal import Decimal

from core.tests.books import FIVE, SHIFTS, baseline, book, doc, line, page
from dryledger.budget.apportioning import apportion
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import compute
from dryledger.entry.grammar import type_date
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.schedule.rhythm import next_status

LABOUR = {"code": "F", "name": "Fitter", "rates": [{"from": "2027-01-01", "amount": "10.00", "per": "hour"}]}
WEEK: dict[str, list[str]] = FIVE["week"]  # type: ignore[assignment]
SIX = {
    "code": "six",
    "name": "Six-day week",
    "week": {**WEEK, "sat": SHIFTS},
}


class Readings(unittest.TestCase):
    def test_remaining_cost_goes_on_along_the_profile(self) -> None:
        """Ten days, front-loaded (F(x) = 1 − (1 − x)²), five days gone: of what is left, after two more days of five, F tells how much.

        F(0.5) = 0.75, F(0.7) = 0.91, F(1) = 1: (0.91 − 0.75) ÷ 0.25 = 64 % of 400.00 is 256.00 by Tuesday's close.
        """
        b = book(
            [{"code": "A", "duration": "10d", "profile": "front", "driver": "duration"}],
            resources=[LABOUR],
            assignments=[{"activity": "A", "resource": "F"}],
            periods=[page("P", "2027-01-08T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "5d"})],
        )
        r = compute(b)
        self.assertEqual(r.project.eac["bottom_up"], Decimal("400.00"))
        due = r.valuation.due(r.valuation.scope(), [from_text("2027-01-12T17:00"), from_text("2027-01-15T17:00")])
        self.assertEqual(due, [25600, 40000])

    def test_differences_count_pauses_as_working_time(self) -> None:
        """Baseline Monday to Tuesday; now paused all Tuesday, so it ends on Wednesday: one day later, the pause counted."""
        base = baseline({"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-05T17:00", "duration": "2d"})
        pause = [{"from": "2027-01-05T00:00", "to": "2027-01-06T00:00"}]
        b = book([{"code": "A", "duration": "2d", "pauses": pause}], baselines=[base], project={"measured_against": "B0"})
        r = compute(b)
        self.assertEqual(to_text(r.schedule.activities["A"].finish), "2027-01-06T17:00")
        self.assertEqual(r.differences["activity", "A"].finish, 480)

    def test_a_pinned_activity_keeps_its_duration_and_grants_no_more_than_its_start(self) -> None:
        """B is pinned to 18–19 January, two days: its predecessor A, two days from the 4th, may end by the 18th's opening."""
        pin = {"code": "B", "mode": "fixed", "start": "2027-01-18T08:00", "finish": "2027-01-19T17:00", "duration": "5d"}
        r = compute(book([{"code": "A", "duration": "2d"}, pin], [{"from": "A", "to": "B"}]))
        rows = r.schedule.activities
        self.assertEqual((rows["B"].duration, to_text(rows["B"].finish)), (960, "2027-01-19T17:00"))
        self.assertEqual(rows["A"].free_float, 8 * 480)
        self.assertLessEqual(rows["A"].late_finish or 0, from_text("2027-01-18T08:00"))
        begun = page("P", "2027-01-18T12:00", {"activity": "B", "actual_start": "2027-01-18T08:00", "percent": 25})
        r = compute(book([{"code": "A", "duration": "2d"}, pin], [{"from": "A", "to": "B"}], periods=[begun]))
        self.assertEqual(r.progress["B"].planned, 960)

    def test_hours_with_nothing_posted_and_nothing_to_go_have_earned_nothing(self) -> None:
        base = baseline(
            {
                "code": "A",
                "start": "2027-01-04T08:00",
                "finish": "2027-01-05T17:00",
                "duration": "2d",
                "value_method": {"type": "hours"},
                "cost_lines": [line("100.00")],
            }
        )
        b = book(
            [{"code": "A", "duration": "2d", "value_method": {"type": "hours"}}],
            baselines=[base],
            project={"measured_against": "B0"},
            periods=[page("P", "2027-01-05T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 50})],
        )
        self.assertEqual(compute(b).project.ev, Decimal("0.00"))

    def test_a_scope_without_budget_has_no_earned_schedule(self) -> None:
        base = baseline({"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-05T17:00", "duration": "2d"})
        b = book(
            [{"code": "A", "duration": "2d"}],
            baselines=[base],
            project={"measured_against": "B0"},
            periods=[page("P", "2027-01-05T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00"})],
        )
        m = compute(b).project
        self.assertEqual((m.earned_schedule, m.spi_t, m.sv_t), (None, None, None))

    def test_a_baseline_of_nothing_plans_nothing(self) -> None:
        b = book([{"code": "A"}], baselines=[baseline()], project={"measured_against": "B0"}, periods=[page("P", "2027-01-05T17:00")])
        r = compute(b)
        self.assertEqual((r.project.bac, r.project.spi_t, r.points[-1].pv), (0, None, 0))
        self.assertIn("spi_t", r.project.reasons)

    def test_ties_go_to_the_earlier(self) -> None:
        """0.03 by 5 and 1 is 0.025 and 0.005: both lack half a cent, and the earlier gets it."""
        b = book([{"code": "A", "weight": 5}, {"code": "B", "weight": 1}])
        shares = apportion(b, "E", Decimal("0.03"), Decimal("0.01")).shares
        self.assertEqual(shares, {("activity", "A"): Decimal("0.03"), ("activity", "B"): Decimal("0.00")})

    def test_days_back_are_dates_with_working_time(self) -> None:
        """From Friday 12 March 2027 a day back is Thursday; five back over a Monday off is the Friday before."""
        b = book([{"code": "A", "duration": "1d", "calendar": "six"}], calendars=[FIVE, SIX])
        friday, axis = from_text("2027-03-12T17:00"), b.axes["A"]
        self.assertEqual(to_text(type_date("-1d", "actual_start", friday, axis, False) or 0)[:10], "2027-03-11")
        off = SIX | {"exceptions": [{"from": "2027-03-08", "to": "2027-03-08", "shifts": []}]}
        axis = book([{"code": "A", "duration": "1d", "calendar": "six"}], calendars=[FIVE, off]).axes["A"]
        self.assertEqual(to_text(type_date("-5d", "actual_start", friday, axis, False) or 0)[:10], "2027-03-05")

    def test_a_date_of_a_milestone_is_the_instant_that_is_known_on_it(self) -> None:
        axis, friday = book([{"code": "A"}]).axis, from_text("2027-03-12T17:00")
        known = [from_text("2027-03-10T08:00")]
        self.assertEqual(to_text(type_date("10 mar", "actual_finish", friday, axis, True, known) or 0), "2027-03-10T08:00")
        self.assertEqual(to_text(type_date("11 mar", "actual_finish", friday, axis, True, known) or 0), "2027-03-11T17:00")
        with self.assertRaises(EntryRefused):
            type_date("³ mar", "actual_finish", friday, axis, True, known)

    def test_currencies_are_those_there_are(self) -> None:
        for code, digits in (("CLF", 4), ("UYW", 4), ("JPY", 0), ("BHD", 3)):
            self.assertEqual(-compute(book([{"code": "A"}], project={"currency": code})).valuation.unit.as_tuple().exponent, digits)
        with self.assertRaises(BookInvalid):
            book_from(doc([{"code": "A"}], project={"currency": "QQQ"}))

    def test_a_name_that_no_method_has_is_not_reached(self) -> None:
        with self.assertRaisesRegex(BookInvalid, "no weighted milestone"):
            book([{"code": "A"}], periods=[page("P", "2027-01-08T17:00", {"activity": "A", "milestones_reached": ["m"]})])

    def test_pages_fall_on_the_close_of_a_working_day(self) -> None:
        b = book([{"code": "A"}])
        start, pages = b.project.start, [b.project.start]
        for expected in ("2027-01-08T17:00", "2027-01-15T17:00", "2027-01-22T17:00"):
            pages.append(next_status(b.axis, start, pages))
            self.assertEqual(to_text(pages[-1]), expected)
