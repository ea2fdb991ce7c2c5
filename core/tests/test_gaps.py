"""What screens read off Results: the time gap, the driving path, shares, and days of the project's own length."""

import unittest

from core.tests.books import FIVE, book, page
from core.tests.test_curve import at_work
from dryledger.calendar.calendar import to_text
from dryledger.compute import compute
from dryledger.marks.marks import project_mark
from dryledger.schedule.driving import driving_path, path_float
from dryledger.working.gaps import earned_on, gap_sentences, share_earned


class Gaps(unittest.TestCase):
    def test_when_the_plan_had_this_much(self) -> None:
        # 400 of 1000 over Monday to Friday: the plan had it on Tuesday's close, three days before the status date
        r = at_work()
        self.assertEqual(to_text(earned_on(r, r.valuation.codes, r.project) or 0), "2027-01-05T17:00")
        self.assertIn("Time: B0 had this much earned 3 working days before the status date.", gap_sentences(r, r.project))
        self.assertIn("SV: the work done by this date was budgeted at 600.00 EUR less than B0 planned.", gap_sentences(r, r.project)[0])

    def test_no_path_begins_at_work_that_is_only_moved_late(self) -> None:
        late = {"code": "L", "duration": "2d", "constraint": {"type": "as_late_as_possible"}}
        r = compute(book([{"code": "A", "duration": "10d"}, late]))
        self.assertEqual(r.schedule.activities["L"].finish, r.schedule.finish)
        self.assertEqual((driving_path(r.schedule), path_float(r.schedule)), ({"A"}, 0))
        r = compute(book([{"code": "A", "duration": "10d"}, late], project={"imposed_finish": "2027-01-13T17:00"}))
        self.assertEqual(path_float(r.schedule), -2 * 480)

    def test_the_driving_path_and_the_share_done(self) -> None:
        r = at_work()
        self.assertEqual(driving_path(r.schedule), {"A", "B"})
        self.assertEqual((share_earned(r.wbs["1"]), share_earned(r.wbs["2"])), (0.4, 0.0))

    def test_nothing_to_read_without_a_baseline(self) -> None:
        r = compute(book([{"code": "A"}], periods=[page("P1", "2027-01-08T17:00")]))
        self.assertIsNone(earned_on(r, r.valuation.codes, r.project))
        self.assertEqual(share_earned(r.project), 0.0)

    def test_a_missed_deadline_counts_the_days_of_the_calendar(self) -> None:
        four = FIVE | {"week": dict.fromkeys(("mon", "tue", "wed", "thu", "fri"), ("08:00-12:00",)), "hours_per_day": 4}
        four["week"] = {day: list(shifts) for day, shifts in four["week"].items()}
        b = book(
            [{"code": "A", "duration": "5d"}],
            calendars=[four],
            project={"deadline": "2027-01-06T12:00"},
            periods=[page("P1", "2027-01-04T08:00")],
        )
        self.assertIn("The finish misses the deadline by 2 days.", project_mark(compute(b)).reasons)
