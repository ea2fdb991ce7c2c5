"""Baselines: a frozen copy of the plan, and how far the present lies from one.

Source: calculation contract, sections 7 and 12. Differences are now − baseline: positive is later or more. Date,
duration and work differences are working minutes, cost an amount.
"""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.baselines import Baseline, BaselineActivity, BaselineAssignment, CostLine
from dryledger.book.durations import planned_duration, whole_minutes, work_of
from dryledger.book.plan import Book
from dryledger.budget.lines import priced_lines
from dryledger.budget.money import amount_of, minor_unit
from dryledger.calendar.calendar import Instant
from dryledger.schedule.schedule import Schedule

__all__ = ["Difference", "snapshot"]


@dataclass(frozen=True)
class Difference:
    """Now − baseline of one activity, WBS element or the project; dates are None where one side has none."""

    code: str
    start: int | None
    finish: int | None
    duration: int | None
    work: int
    cost: Decimal
    change: str = "both"


def snapshot(book: Book, schedule: Schedule, code: str, name: str, taken: Instant, approved_by: str, reason: str) -> Baseline:
    """A baseline of the plan as scheduled: all that planned value needs, with the calendars as they are now."""
    unit = minor_unit(book.project.currency)
    activities = []
    for a in book.activities:
        row = schedule.activities[a.code]
        duration = planned_duration(book, a)
        on = [(x, work_of(book, a, x, duration)) for x in book.assignments_of.get(a.code, ())]
        work = sum((minutes for x, minutes in on if book.resource_by_code[x.resource].kind == "labour"), Decimal(0))
        priced = priced_lines(book, a, row)
        lines = tuple(CostLine(x.name, amount_of(x.amount, unit), x.accrual, x.profile) for x in priced if x.in_budget)
        costs: dict[str, int] = {}
        for x in priced:
            if x.resource is not None:
                costs[x.resource] = costs.get(x.resource, 0) + x.amount
        kept = tuple(BaselineAssignment(x.resource, whole_minutes(minutes), amount_of(costs.get(x.resource, 0), unit)) for x, minutes in on)
        activities.append(
            BaselineActivity(
                a.code,
                a.name,
                a.wbs,
                a.calendar,
                row.start,
                row.finish,
                duration,
                whole_minutes(work),
                a.pauses,
                a.value_method,
                lines,
                kept,
            )
        )
    used = {a.calendar for a in activities} | {book.project.calendar}
    calendars = tuple(c for c in book.calendars if c.code in used)
    return Baseline(code, name, taken, book.project.calendar, calendars, tuple(activities), approved_by, reason)
