"""Costing: what planned, remaining and posted work costs at the rates in force, and direct costs.

Source: calculation contract, section 6. Work is costed evenly over its working minutes; a change of rate or, for
monthly rates, a new month cuts the span into pieces. Costs are exact decimals in the project's currency until they make a
line, which is a whole number of minor units.
"""

import itertools
import math
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal, localcontext
from fractions import Fraction
from functools import partial

from dryledger.book.durations import planned_duration, work_of
from dryledger.book.plan import Activity, Assignment, Book, DirectCost
from dryledger.budget.money import CONTEXT, amount_of, cells, minor_unit, part
from dryledger.budget.rates import Tariff, tariffs
from dryledger.budget.spread import SHAPES, Piece, growth
from dryledger.calendar.axis import Axis
from dryledger.calendar.calendar import DAY, Instant, month_end, month_start
from dryledger.errors import BookInvalid, Fault
from dryledger.schedule.schedule import Scheduled
from dryledger.words import sentence

__all__ = [
    "PricedLine",
    "costs_alike",
    "direct_amount",
    "left_of_work",
    "minutes_cost",
    "planned_cost",
    "planned_work",
    "posted_cost",
    "priced_by_calendar",
    "priced_lines",
    "unit_price",
    "use_of",
]

ZERO, ONE, SIXTY = Decimal(0), Decimal(1), Decimal(60)
LONGEST = 100 * 366 * DAY
Between = Callable[[Instant, Instant], int]
"""Working minutes from one instant to another."""


@dataclass(frozen=True)
class Charge:
    """What one stretch of work costs for each kind of rate that it has, exact; no rate changes within it."""

    start: Instant
    finish: Instant
    inside: int
    each: tuple[Decimal, ...]


def minutes_cost(
    book: Book, activity: Activity, a: Assignment, minutes: Decimal, quantity: Decimal, start: Instant, finish: Instant, between: Between
) -> tuple[Decimal, list[Charge]]:
    """What work of `minutes` and `quantity` of material cost over [start, finish) by all their rates but `use`, exact.

    The working minutes of the span are counted by `between`. In pieces where a rate changes within, else without any.
    """
    tariff = tariffs(book)[a.resource]
    rate = tariff.rate_through(start, finish) if finish > start else None
    if rate is not None:
        return (rate * minutes / SIXTY if tariff.counts == "hours" else rate * quantity), []
    total, kinds = between(start, finish), [per for per in tariff.series if per != "use"]
    if not kinds:
        return ZERO, []
    spans = _pieces(start, finish, tariff) if total else [(start, start)]
    found = []
    for x, y in spans:
        inside = between(x, y) if len(spans) > 1 else total
        if inside or not total:
            each = (_piece(book, activity, a, tariff, per, minutes, quantity, x, inside, total) for per in kinds)
            found.append(Charge(x, y, inside, tuple(each)))
    return sum((sum(x.each, ZERO) for x in found), ZERO), found if len(found) > 1 else []


def use_of(book: Book, resource: str, t: Instant) -> int:
    """What a resource costs once for its use, in minor units: at the rate in force at an instant."""
    tariff = tariffs(book)[resource]
    return cells(tariff.amount("use", t), minor_unit(book.project.currency)) if "use" in tariff.series else 0


def left_of_work(
    book: Book, activity: Activity, a: Assignment, minutes: Decimal, start: Instant, finish: Instant, left: int, gone: int
) -> Piece | None:
    """What is left of an assignment's work: `minutes` of it from start to finish, `left` working minutes; None where it costs nothing.

    It falls due by the activity's profile, which goes on from gone ÷ (gone + left); where a rate changes within, in proportion to rate ×
    growth of the profile.
    """
    axis, profile = book.axes[activity.code], activity.profile
    exact, charges = minutes_cost(book, activity, a, minutes, ZERO, start, finish, axis.between)
    amount = cells(exact, minor_unit(book.project.currency))
    if not amount:
        return None
    end = finish if left else start
    if not charges:
        return Piece(start, end, amount, (axis, profile, left, gone))
    return Piece(start, end, amount, _by_growth(charges, amount, axis, profile, left, gone))


def _by_growth(charges: list[Charge], amount: int, axis: Axis, profile: str, left: int, gone: int) -> Callable[[Instant], int]:
    """What of an amount is due by an instant: each kind of rate in proportion to rate × growth of the profile."""
    whole = gone + left
    marks = [gone, *itertools.accumulate((x.inside for x in charges), initial=gone)][1:]
    grew = [growth(SHAPES[profile], n, whole)[0] for n in marks]  # over one denominator, which falls out of every proportion
    kinds = [_weights(kind, charges, grew) for kind in zip(*(x.each for x in charges), strict=True)]
    weighs, begun = kinds[0], axis.pos(charges[0].start)
    if len(kinds) > 1:
        parts = [Fraction(0)] * len(charges)
        for weights, kind in zip(kinds, zip(*(x.each for x in charges), strict=True), strict=True):
            if of := sum(weights):
                cost = sum(map(Fraction, kind), Fraction(0))
                parts = [p + cost * w / of for p, w in zip(parts, weights, strict=True)]
        common = math.lcm(*(p.denominator for p in parts))
        weighs = [p.numerator * (common // p.denominator) for p in parts]
    if sum(weighs) < 0:
        weighs = [-x for x in weighs]
    all_of_it = sum(weighs)

    def due(t: Instant) -> int:
        at = gone + axis.pos(t) - begun
        k = bisect_right(marks, at, 1) - 1
        full = sum(weighs[:k])
        if k == len(weighs) or at <= marks[k]:
            return part(amount, full, all_of_it)
        low, high = grew[k], grew[k + 1]
        if high <= low:
            return part(amount, full + weighs[k], all_of_it)
        return part(amount, full * (high - low) + weighs[k] * (growth(SHAPES[profile], at, whole)[0] - low), all_of_it * (high - low))

    return due


def _weights(kind: Sequence[Decimal], charges: Sequence[Charge], grew: Sequence[int]) -> list[int]:
    """Rate × growth of one kind of rate in each charge, in whole numbers of one size."""
    exact = [x.as_integer_ratio() for x in kind]
    over = [d * c.inside for (_, d), c in zip(exact, charges, strict=True)]
    common = math.lcm(*over)
    return [n * (high - low) * (common // of) for (n, _), of, (low, high) in zip(exact, over, itertools.pairwise(grew), strict=True)]


def unit_price(book: Book, activity: Activity, a: Assignment, start: Instant, finish: Instant) -> Decimal:
    """The price of one unit of a material: its rates per unit averaged over the working minutes from start to finish."""
    return minutes_cost(book, activity, a, ZERO, ONE, start, finish, book.axes[activity.code].between)[0]


def _piece(
    book: Book,
    activity: Activity,
    assignment: Assignment,
    tariff: Tariff,
    per: str,
    minutes: Decimal,
    quantity: Decimal,
    a: Instant,
    inside: int,
    total: int,
) -> Decimal:
    """What one kind of rate costs for `inside` of `total` working minutes from the instant a on."""
    if per == "month":
        return _monthly(book, activity, assignment, tariff.amount(per, a), a, inside)
    whole = tariff.amount(per, a) * _units(tariff, per, minutes, quantity)
    return whole if inside == total else whole * inside / total


def _units(tariff: Tariff, per: str, minutes: Decimal, quantity: Decimal) -> Decimal:
    """How many times a rate of one kind is due for so much work."""
    if per == "unit":
        return quantity
    hours = minutes / SIXTY
    if per == "started_hour":
        return Decimal(math.ceil(hours))
    return hours if per == "hour" else hours / tariff.divisors[per]


def _monthly(book: Book, activity: Activity, assignment: Assignment, amount: Decimal, a: Instant, inside: int) -> Decimal:
    """A monthly rate for `inside` working minutes in the month of the instant a, by the calendar's minutes in it."""
    month = book.calendar_by_code[activity.calendar].axis.between(month_start(a), month_end(a))
    return amount * assignment.units * inside / month if inside else ZERO


def _pieces(start: Instant, finish: Instant, tariff: Tariff) -> list[tuple[Instant, Instant]]:
    """[start, finish) cut where a rate changes and, for monthly rates, where a month begins."""
    if finish <= start:
        return [(start, start)]
    i, j = bisect_right(tariff.cuts, start), bisect_left(tariff.cuts, finish)
    if i == j and "month" not in tariff.series:
        return [(start, finish)]
    cuts = tariff.cuts[i:j]
    if "month" in tariff.series:
        if finish - start > LONGEST:
            raise BookInvalid([Fault("", sentence("lines.activity_monthly_rate_takes"))])
        months = set(cuts)
        at = month_end(start)
        while at < finish:
            months.add(at)
            at = month_end(at)
        cuts = sorted(months)
    return list(itertools.pairwise([start, *cuts, finish]))


def posted_cost(book: Book, resource: str, minutes: int, overtime: bool, t: Instant) -> int:
    """What a posted figure costs in minor units, at the rates of an instant's date; overtime at its own amount where the row has one."""
    if not minutes:
        return 0
    tariff, unit = tariffs(book)[resource], minor_unit(book.project.currency)
    if tariff.counts == "hours" and not overtime:
        return cells(tariff.each[bisect_right(tariff.cuts, t)] * minutes / SIXTY, unit)
    total = ZERO
    for per in tariff.series:
        row = tariff.row(per, t)
        if row is not None and per not in ("unit", "use"):
            rate = row.overtime if overtime and row.overtime is not None else row.amount
            total += rate * _units(tariff, per, Decimal(minutes), ZERO)
    return cells(total, unit)


def direct_amount(book: Book, cost: DirectCost, duration: int) -> Decimal:
    """A direct cost in money: fixed, or its amount for each working day of the duration (minutes)."""
    if cost.kind == "fixed":
        return cost.amount
    activity = book.activity_by_code[cost.activity]
    hours = book.calendar_by_code[activity.calendar].hours_per_day
    return cost.amount * duration / SIXTY / hours


@dataclass(frozen=True)
class PricedLine:
    """A cost line as planned, in minor units, and of which kind it is: what an assignment costs, its use, or a direct cost."""

    name: str
    kind: str
    amount: int
    accrual: str
    profile: str
    in_budget: bool = True
    resource: str | None = None
    cost: DirectCost | None = None


def priced_lines(book: Book, activity: Activity, row: Scheduled) -> list[PricedLine]:
    """The cost lines of an activity; `kind` is labour, equipment, material or direct."""
    out: list[PricedLine] = []
    for x, amount, use in _priced(book, activity, row):
        if isinstance(x, DirectCost):
            out.append(PricedLine(x.name, "direct", amount, x.accrual, activity.profile, x.in_budget, cost=x))
            continue
        resource = book.resource_by_code[x.resource]
        made = partial(PricedLine, resource.name, resource.kind, profile=activity.profile, resource=resource.code)
        if amount:
            out.append(made(amount, "uniform"))
        if use:
            out.append(made(use, "start"))
    return out


def _priced(book: Book, activity: Activity, row: Scheduled) -> Iterator[tuple[Assignment | DirectCost, int, int]]:
    """What each assignment and direct cost of an activity comes to as planned, and each assignment for its use; in minor units."""
    duration, unit = row.remaining if row.state == "not_started" else planned_duration(book, activity), minor_unit(book.project.currency)
    between = book.axes[activity.code].between
    for a in book.assignments_of.get(activity.code, ()):
        minutes = work_of(book, activity, a, duration)
        exact, _ = minutes_cost(book, activity, a, minutes, a.quantity or ZERO, row.start, row.finish, between)
        yield a, cells(exact, unit), use_of(book, a.resource, row.start)
    for c in book.costs_of.get(activity.code, ()):
        yield c, cells(direct_amount(book, c, duration), unit), 0


def planned_cost(book: Book, activity: Activity, row: Scheduled) -> Decimal:
    """The budget of one activity as planned: the sum of its lines."""
    with localcontext(CONTEXT):
        lines = (amount + use for x, amount, use in _priced(book, activity, row) if not isinstance(x, DirectCost) or x.in_budget)
        return amount_of(sum(lines), minor_unit(book.project.currency))


def costs_alike(book: Book, activity: Activity, a: Scheduled, b: Scheduled) -> bool:
    """Whether the activity surely costs the same on two schedules: of one length, and no rate changes between them."""
    if a.duration != b.duration or a.remaining != b.remaining or a.state != b.state:
        return False
    if a.start == b.start and a.finish == b.finish:
        return True
    first, last = min(a.start, b.start), max(a.finish, b.finish)
    for x in book.assignments_of.get(activity.code, ()):
        tariff = tariffs(book)[x.resource]
        if "month" in tariff.series or bisect_right(tariff.cuts, first) != bisect_left(tariff.cuts, last + 1):
            return False
    return True


def priced_by_calendar(book: Book) -> set[str]:
    """The activities whose cost rests on more than their length: on months, or on when a rate changes."""
    uneven = {r.code for r in book.resources if len({x.start for x in r.rates}) > 1 or any(x.per == "month" for x in r.rates)}
    return {a.activity for a in book.assignments if a.resource in uneven}


def planned_work(book: Book, activity: Activity, row: Scheduled) -> Decimal:
    """The planned labour of one activity in minutes."""
    duration = row.remaining if row.state == "not_started" else planned_duration(book, activity)
    labour = (a for a in book.assignments_of.get(activity.code, ()) if book.resource_by_code[a.resource].kind == "labour")
    return sum((work_of(book, activity, a, duration) for a in labour), ZERO)
