"""What work and direct costs come to, each case worked by hand."""

import unittest
from decimal import Decimal as D
from fractions import Fraction as F
from typing import Any

from core.tests.books import Doc, book, page
from dryledger.baseline.snapshot import snapshot
from dryledger.book.baselines import BaselineActivity
from dryledger.budget.lines import posted_cost, use_of
from dryledger.budget.money import amount_of
from dryledger.budget.spread import grown
from dryledger.calendar.calendar import midnight
from dryledger.compute import Results, compute

WEEK_OF_WORK = {"code": "A", "duration": "5d"}


def rates(*rows: tuple[str, str, str]) -> Doc:
    """A resource with rate rows (from, amount, per)."""
    return {"code": "R", "name": "Crew", "rates": [{"from": f, "amount": a, "per": p} for f, a, p in rows]}


def planned(activity: Doc, resource: Doc, **assignment: Any) -> BaselineActivity:
    """The baseline of one activity with one assignment."""
    b = book([activity], resources=[resource], assignments=[{"activity": "A", "resource": "R", **assignment}])
    return snapshot(b, compute(b).schedule, "B", "B", 0, "", "").activities[0]


class Planned(unittest.TestCase):
    def test_units_times_duration(self) -> None:
        a = planned(WEEK_OF_WORK, rates(("2026-01-01", "50.00", "hour")), units=2)
        self.assertEqual((a.budget, a.work), (D("4000.00"), 80 * 60))

    def test_a_rate_that_changes_on_the_way(self) -> None:
        # Monday and Tuesday at 50, Wednesday to Friday at 60
        a = planned(WEEK_OF_WORK, rates(("2026-01-01", "50.00", "hour"), ("2027-01-06", "60.00", "hour")))
        self.assertEqual(a.budget, D(16 * 50 + 24 * 60))

    def test_nothing_before_the_first_row(self) -> None:
        self.assertEqual(planned(WEEK_OF_WORK, rates(("2027-01-07", "60.00", "hour"))).budget, D(16 * 60))
        self.assertEqual(planned(WEEK_OF_WORK, rates(("2028-01-01", "60.00", "hour"))).cost_lines, ())

    def test_kinds_add_up(self) -> None:
        a = planned(WEEK_OF_WORK, rates(("2026-01-01", "10.00", "hour"), ("2026-01-01", "100.00", "day"), ("2026-01-01", "25.00", "use")))
        self.assertEqual(a.budget, D(400 + 500 + 25))

    def test_started_hours_and_weeks(self) -> None:
        short = {"code": "A", "duration": "90min"}
        self.assertEqual(planned(short, rates(("2026-01-01", "40.00", "started_hour"))).budget, D(80))
        self.assertEqual(planned(WEEK_OF_WORK, rates(("2026-01-01", "900.00", "week"))).budget, D(900))

    def test_a_month_is_paid_by_its_working_time(self) -> None:
        # 20 working days from 4 January: all in January, which has 21
        a = planned({"code": "A", "duration": "20d"}, rates(("2026-01-01", "2100.00", "month")))
        self.assertEqual(a.budget, D(2000))
        # 30 days reach 10 into February, which has 20
        a = planned({"code": "A", "duration": "30d"}, rates(("2026-01-01", "2100.00", "month")))
        self.assertEqual(a.budget, D(2000) + D(1050))

    def test_material_by_the_unit(self) -> None:
        self.assertEqual(
            planned(WEEK_OF_WORK, rates(("2026-01-01", "41.50", "unit")) | {"kind": "material"}, quantity=12.5).budget, D("518.75")
        )

    def test_work_drives_the_duration(self) -> None:
        a = planned({"code": "A", "driver": "work"}, rates(("2026-01-01", "50.00", "hour")), work="80h", units=2)
        self.assertEqual((a.duration, a.work, a.budget), (40 * 60, 80 * 60, D(4000)))
        self.assertEqual(
            planned({"code": "A", "driver": "work"}, rates(("2026-01-01", "50.00", "hour")), work="80h", units=4).duration, 20 * 60
        )

    def test_direct_costs(self) -> None:
        costs = [
            {"activity": "A", "name": "Hire", "kind": "per_day", "amount": "120.00"},
            {"activity": "A", "name": "Fee", "kind": "fixed", "amount": "75.00"},
            {"activity": "A", "name": "Margin", "kind": "fixed", "amount": "999.00", "in_budget": False},
        ]
        b = book([WEEK_OF_WORK], costs=costs)
        lines = snapshot(b, compute(b).schedule, "B", "B", 0, "", "").activities[0].cost_lines
        self.assertEqual({x.name: x.amount for x in lines}, {"Hire": D("600.00"), "Fee": D("75.00")})

    def test_profiles_begin_at_nothing_and_end_at_all(self) -> None:
        for profile in ("uniform", "front", "back", "bell"):
            self.assertEqual([F(*grown(profile, n, 7)) for n in (0, 7)], [0, 1], profile)
        quarter = [F(*grown(p, 1, 4)) for p in ("uniform", "front", "back", "bell")]
        self.assertEqual(quarter, [F(1, 4), F(7, 16), F(1, 16), F(5, 32)])


class Posted(unittest.TestCase):
    def cost(self, resource: Doc, worked: int, overtime: int = 0, first: bool = False) -> D:
        b = book([WEEK_OF_WORK], resources=[resource])
        from datetime import date

        t = midnight(date(2027, 1, 8))
        found = posted_cost(b, "R", worked, False, t) + posted_cost(b, "R", overtime, True, t)
        return amount_of(found + (use_of(b, "R", t) if first else 0), D("0.01"))

    def test_overtime_comes_on_top_at_its_own_amount(self) -> None:
        row = {"code": "R", "name": "R", "rates": [{"from": "2026-01-01", "amount": "50.00", "per": "hour", "overtime": "80.00"}]}
        self.assertEqual(self.cost(row, 600, 120), D(500 + 160))
        self.assertEqual(self.cost(rates(("2026-01-01", "50.00", "hour")), 600, 120), D(600))

    def test_posted_days_months_and_started_hours(self) -> None:
        self.assertEqual(self.cost(rates(("2026-01-01", "480.00", "day")), 600), D(600))
        self.assertEqual(self.cost(rates(("2026-01-01", "1600.00", "month")), 960), D(160))
        self.assertEqual(self.cost(rates(("2026-01-01", "40.00", "started_hour")), 61), D(80))

    def test_a_use_is_due_once(self) -> None:
        use = rates(("2026-01-01", "30.00", "use"))
        self.assertEqual((self.cost(use, 60, first=True), self.cost(use, 60)), (D(30), D(0)))
        hours = [{"activity": "A", "resource": "R", "worked": "1h"}]
        b = book(
            [WEEK_OF_WORK],
            resources=[use],
            assignments=[{"activity": "A", "resource": "R"}],
            periods=[page("P1", "2027-01-05T17:00", hours=hours), page("P2", "2027-01-06T17:00", hours=hours)],
        )
        self.assertEqual((compute(b).project.ac, compute(b).project.eac["bottom_up"]), (D("30.00"), D("30.00")))

    def test_rates_of_the_status_date_count(self) -> None:
        resource = rates(("2026-01-01", "50.00", "hour"), ("2027-01-06", "60.00", "hour"))
        hours = [{"activity": "A", "resource": "R", "worked": "10h"}]
        b = book(
            [WEEK_OF_WORK],
            resources=[resource],
            periods=[page("P1", "2027-01-05T17:00", hours=hours), page("P2", "2027-01-08T17:00", hours=hours)],
        )
        self.assertEqual(compute(b, "P1").project.ac, D("500.00"))
        self.assertEqual(compute(b).project.ac, D("1100.00"))


class Remaining(unittest.TestCase):
    def left(self, cost: Doc, *statements: Doc) -> D | None:
        b = book([WEEK_OF_WORK], costs=[{"activity": "A", "name": "c", **cost}], periods=[page("P1", "2027-01-05T17:00", *statements)])
        r: Results = compute(b)
        return r.project.eac["bottom_up"]

    def test_unspent_direct_cost_by_accrual(self) -> None:
        begun = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "3d"}
        done = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-05T17:00"}
        fixed = {"kind": "fixed", "amount": "500.00"}
        for accrual in ("start", "uniform", "finish"):  # waiting and finishing lose nothing of what nobody has invoiced
            cost = fixed | {"accrual": accrual}
            self.assertEqual([self.left(cost, *stated) for stated in ((), (begun,), (done,))], [D(500)] * 3, accrual)

    def test_a_cost_by_the_day_grows_with_the_duration(self) -> None:
        # two days done, six to go: eight days at 100, none of them invoiced
        begun = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "6d"}
        self.assertEqual(self.left({"kind": "per_day", "amount": "100.00"}, begun), D("800.00"))

    def test_the_latest_to_go_counts(self) -> None:
        hours = [{"activity": "A", "resource": "R", "worked": "8h", "to_go": "50h"}]
        begun = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "3d"}
        made: dict[str, Any] = {"resources": [rates(("2026-01-01", "10.00", "hour"))], "assignments": [{"activity": "A", "resource": "R"}]}
        with_hours = book([WEEK_OF_WORK], **made, periods=[page("P1", "2027-01-05T17:00", begun, hours=hours)])
        without = book([WEEK_OF_WORK], **made, periods=[page("P1", "2027-01-05T17:00", begun)])
        self.assertEqual(compute(with_hours).project.eac["bottom_up"], D(80 + 500))
        self.assertEqual(compute(without).project.eac["bottom_up"], D(240))
