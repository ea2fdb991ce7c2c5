"""Costing: what planned, remaining and posted work costs at the rates in force, and direct costs.

Source: calculation contract, section 6. Work is costed evenly over its working minutes; a change of rate or, for
monthly rates, a new month cuts the span into pieces. All amounts are exact decimals in the project's currency.
"""

import itertools
import math
from bisect import bisect_right
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from dryledger.calendar import Axis, Instant, date_of, midnight
from dryledger.plan import Activity, Assignment, Book, DirectCost, Rate, Resource
from dryledger.posting import planned_duration, work_of
from dryledger.schedule import Scheduled

__all__ = ["Spread", "direct_amount", "planned_lines", "posted_cost", "profile_share", "rate_on", "work_cost"]

ZERO, ONE, SIXTY = Decimal(0), Decimal(1), Decimal(60)


@dataclass(frozen=True)
class Spread:
    """An amount due over [start, finish): evenly over the working minutes there, all at start where there are none."""

    amount: Decimal
    start: Instant
    finish: Instant

    def due(self, axis: Axis, t: Instant) -> Decimal:
        """The part of the amount due by the instant t."""
        if t >= self.finish:
            return self.amount
        if t <= self.start:
            return ZERO
        return self.amount * axis.between(self.start, t) / axis.between(self.start, self.finish)


def profile_share(profile: str, x: Decimal) -> Decimal:
    """F(x): the share of an amount spent when the share x of the working time is over.

    >>> profile_share("front", Decimal("0.5")), profile_share("bell", Decimal("0.5"))
    (Decimal('0.75'), Decimal('0.500'))
    """
    if profile == "front":
        return 1 - (1 - x) * (1 - x)
    if profile == "back":
        return x * x
    return 3 * x * x - 2 * x * x * x if profile == "bell" else x


def rate_on(series: list[Rate], day: date) -> Rate | None:
    """The row in force on a date; None before the first."""
    i = bisect_right([r.start for r in series], day) - 1
    return series[i] if i >= 0 else None


def _amount(series: list[Rate], day: date) -> Decimal:
    row = rate_on(series, day)
    return row.amount if row else ZERO


def _month_start(day: date) -> date:
    return day.replace(day=1)


def _next_month(day: date) -> date:
    return date(day.year + day.month // 12, day.month % 12 + 1, 1)


def work_cost(
    book: Book,
    activity: Activity,
    assignment: Assignment,
    minutes: Decimal,
    quantity: Decimal,
    start: Instant,
    finish: Instant,
    first_use: bool,
) -> list[Spread]:
    """The cost of `minutes` of work and `quantity` of material, evenly over [start, finish), as spreads.

    `first_use` says whether a rate per use is still due (at the start).
    """
    resource = book.resource_by_code[assignment.resource]
    axis = book.axes[activity.code]
    calendar = book.calendar_by_code[resource.calendar]
    series = {per: resource.series(per) for per in {r.per for r in resource.rates}}
    out: list[Spread] = []
    if first_use and "use" in series:
        out.append(Spread(_amount(series["use"], date_of(start)), start, start))
    total = axis.between(start, finish)
    hours = minutes / SIXTY
    per_hour = {
        "hour": hours,
        "started_hour": Decimal(math.ceil(hours)),
        "day": hours / Decimal(str(calendar.hours_per_day)),
        "week": hours / Decimal(str(calendar.hours_per_week)),
        "unit": quantity,
    }
    for a, b in _pieces(start, finish, series):
        inside = axis.between(a, b)
        if total and not inside:
            continue
        day = date_of(a)
        amount = sum(
            (
                _amount(series[per], day) * units * inside / total if total else _amount(series[per], day) * units
                for per, units in per_hour.items()
                if per in series
            ),
            ZERO,
        )
        if "month" in series and total:
            first = _month_start(day)
            month = book.calendar_by_code[activity.calendar].axis.between(midnight(first), midnight(_next_month(first)))
            amount += _amount(series["month"], day) * assignment.units * inside / month
        if amount:
            out.append(Spread(amount, a, b))
    return out


def _pieces(start: Instant, finish: Instant, series: dict[str, list[Rate]]) -> list[tuple[Instant, Instant]]:
    if finish <= start:
        return [(start, start)]
    cuts = {midnight(r.start) for rows in series.values() for r in rows}
    if "month" in series:
        at = _next_month(date_of(start))
        while midnight(at) < finish:
            cuts.add(midnight(at))
            at = _next_month(at)
    edges = [start, *sorted(c for c in cuts if start < c < finish), finish]
    return list(itertools.pairwise(edges))


def posted_cost(book: Book, resource: Resource, worked: int, overtime: int, day: date, first_use: bool) -> Decimal:
    """The cost of posted minutes at the rates of a date; overtime at its own amount where the row has one."""
    calendar = book.calendar_by_code[resource.calendar]
    total = ZERO
    for per in sorted({r.per for r in resource.rates}):
        row = rate_on(resource.series(per), day)
        if row is None or per == "unit":
            continue
        if per == "use":
            total += row.amount if first_use else ZERO
            continue
        extra = row.amount if row.overtime is None else row.overtime
        for minutes, amount in ((worked, row.amount), (overtime, extra)):
            hours = Decimal(minutes) / SIXTY
            if per == "started_hour":
                hours = Decimal(math.ceil(hours))
            each = {"day": calendar.hours_per_day, "week": calendar.hours_per_week, "month": calendar.hours_per_month}.get(per, 1)
            total += amount * hours / Decimal(str(each))
    return total


def direct_amount(book: Book, cost: DirectCost, duration: int) -> Decimal:
    """A direct cost in money: fixed, or its amount for each working day of the duration (minutes)."""
    if cost.kind == "fixed":
        return cost.amount
    activity = book.activity_by_code[cost.activity]
    hours = Decimal(str(book.calendar_by_code[activity.calendar].hours_per_day))
    return cost.amount * duration / SIXTY / hours


def planned_lines(book: Book, activity: Activity, row: Scheduled) -> list[tuple[str, Decimal, str, str]]:
    """The budget of one activity as planned: (name, amount, accrual, profile) for each assignment and direct cost.

    Costs that are not in the budget are left out, and so is what costs nothing.
    """
    duration = planned_duration(book, activity)
    out: list[tuple[str, Decimal, str, str]] = []
    for a in book.assignments_of.get(activity.code, ()):
        minutes = work_of(book, activity, a, duration)
        cost = sum((s.amount for s in work_cost(book, activity, a, minutes, a.quantity or ZERO, row.start, row.finish, True)), ZERO)
        if cost:
            out.append((book.resource_by_code[a.resource].name, cost, "uniform", activity.profile))
    for c in book.costs_of.get(activity.code, ()):
        if c.in_budget:
            out.append((c.name, direct_amount(book, c, duration), c.accrual, activity.profile))
    return out
