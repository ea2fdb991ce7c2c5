"""Costing: what planned, remaining and posted work costs at the rates in force, and direct costs.

Source: calculation contract, section 6. Work is costed evenly over its working minutes; a change of rate or, for
monthly rates, a new month cuts the span into pieces. All amounts are exact decimals in the project's currency.
"""

import itertools
import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal, localcontext

from dryledger.book.durations import planned_duration, work_of
from dryledger.book.plan import Activity, Assignment, Book, DirectCost
from dryledger.budget.money import CONTEXT, minor_unit, rounded
from dryledger.budget.rates import Tariff, tariffs
from dryledger.budget.spread import Spread, profile_share
from dryledger.calendar.calendar import DAY, Instant, month_end, month_start
from dryledger.errors import BookInvalid, Fault
from dryledger.schedule.schedule import Scheduled
from dryledger.words import sentence

__all__ = [
    "PricedLine",
    "costs_alike",
    "direct_amount",
    "planned_cost",
    "planned_work",
    "posted_cost",
    "priced_by_calendar",
    "priced_lines",
    "work_cost",
]

ZERO, ONE, SIXTY = Decimal(0), Decimal(1), Decimal(60)
LONGEST = 100 * 366 * DAY


def work_cost(
    book: Book,
    activity: Activity,
    assignment: Assignment,
    minutes: Decimal,
    quantity: Decimal,
    start: Instant,
    finish: Instant,
    total: int,
    first_use: bool,
    elapsed: int = 0,
) -> list[Spread]:
    """The cost of `minutes` of work and `quantity` of material over [start, finish), as spreads.

    `total` is the working minutes from start to finish; `first_use` says whether a rate per use is still due (at the
    start). How much it costs is reckoned evenly over its working minutes; it falls due by the activity's profile, which
    goes on from `elapsed` ÷ (elapsed + total), and where a rate changes in proportion to rate × growth of the profile.
    """
    tariff = tariffs(book)[assignment.resource]
    axis, shape = book.axes[activity.code], activity.profile
    out: list[Spread] = []
    if not tariff.series:
        return out
    if first_use and "use" in tariff.series:
        out.append(Spread(start, start, tariff.amount("use", start), (axis, shape, 0, ZERO, ONE)))
    kinds = [per for per in tariff.series if per != "use"]
    pieces = _pieces(start, finish, tariff) if total else [(start, start)]
    done = Decimal(elapsed) / (elapsed + total) if elapsed else ZERO
    if len(pieces) == 1:
        amount = sum((_piece(book, activity, assignment, tariff, per, minutes, quantity, start, total, total) for per in kinds), ZERO)
        return [*out, Spread(start, finish if total else start, amount, (axis, shape, total, done, ONE))] if amount else out
    inside = [axis.between(a, b) for a, b in pieces]
    at = [ZERO] * len(pieces)
    ends = [done]
    for n in itertools.accumulate(inside):
        ends.append((elapsed + Decimal(n)) / (elapsed + total))
    growth = [profile_share(shape, y) - profile_share(shape, x) for x, y in itertools.pairwise(ends)]
    for per in kinds:
        even = [
            _piece(book, activity, assignment, tariff, per, minutes, quantity, a, n, total)
            for (a, _), n in zip(pieces, inside, strict=True)
        ]
        if shape == "uniform":
            at = [x + y for x, y in zip(at, even, strict=True)]
            continue
        weights = [x / n * g if n else ZERO for x, n, g in zip(even, inside, growth, strict=True)]
        whole, amount = sum(weights), sum(even, ZERO)
        if whole:
            at = [x + amount * w / whole for x, w in zip(at, weights, strict=True)]
    for (a, b), n, amount, x, y in zip(pieces, inside, at, ends, ends[1:], strict=False):
        if n and amount:
            out.append(Spread(a, b, amount, (axis, shape, n, x, y)))
    return out


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


def posted_cost(
    book: Book, resource: str, worked: int, overtime: int, t: Instant, first_use: bool, after: tuple[int, int] = (0, 0)
) -> Decimal:
    """The cost of posted minutes at the rates of an instant's date; overtime at its own amount where the row has one.

    Of a correction `after` are the minutes, plain and overtime, of the page that it corrects as corrected so far: of what
    is due by the started hour it costs what then is due more, or less.
    """
    tariff = tariffs(book)[resource]
    if tariff.counts == "hours" and not overtime:
        return tariff.each[bisect_right(tariff.cuts, t)] * worked / SIXTY
    total = ZERO
    for per in tariff.series:
        row = tariff.row(per, t)
        if row is None or per == "unit":
            continue
        if per == "use":
            total += row.amount if first_use else ZERO
            continue
        extra = row.amount if row.overtime is None else row.overtime
        for minutes, amount, before in ((worked, row.amount, after[0]), (overtime, extra, after[1])):
            if minutes:
                due = _units(tariff, per, Decimal(before + minutes), ZERO) - _units(tariff, per, Decimal(before), ZERO)
                total += amount * due
    return total


def direct_amount(book: Book, cost: DirectCost, duration: int) -> Decimal:
    """A direct cost in money: fixed, or its amount for each working day of the duration (minutes)."""
    if cost.kind == "fixed":
        return cost.amount
    activity = book.activity_by_code[cost.activity]
    hours = book.calendar_by_code[activity.calendar].hours_per_day
    return cost.amount * duration / SIXTY / hours


@dataclass(frozen=True)
class PricedLine:
    """What one assignment or direct cost of an activity costs as planned, unrounded, and of which kind it is."""

    name: str
    kind: str
    amount: Decimal
    accrual: str
    profile: str
    in_budget: bool = True
    resource: str | None = None


def priced_lines(book: Book, activity: Activity, row: Scheduled) -> list[PricedLine]:
    """Each assignment and direct cost of an activity; `kind` is labour, equipment, material or direct."""
    out: list[PricedLine] = []
    for x, cost in _priced(book, activity, row):
        if isinstance(x, DirectCost):
            out.append(PricedLine(x.name, "direct", cost, x.accrual, activity.profile, x.in_budget))
        elif cost:
            resource = book.resource_by_code[x.resource]
            out.append(PricedLine(resource.name, resource.kind, cost, "uniform", activity.profile, resource=resource.code))
    return out


def _priced(book: Book, activity: Activity, row: Scheduled) -> Iterator[tuple[Assignment | DirectCost, Decimal]]:
    """What each assignment and direct cost of an activity comes to as planned."""
    duration = row.remaining if row.state == "not_started" else planned_duration(book, activity)
    for a in book.assignments_of.get(activity.code, ()):
        minutes, tariff = work_of(book, activity, a, duration), tariffs(book)[a.resource]
        rate = tariff.rate_through(row.start, row.finish) if row.finish > row.start else None
        if rate is not None:
            yield a, rate * minutes / SIXTY if tariff.counts == "hours" else rate * (a.quantity or ZERO)
        else:
            total = book.axes[activity.code].between(row.start, row.finish)
            spreads = work_cost(book, activity, a, minutes, a.quantity or ZERO, row.start, row.finish, total, True)
            yield a, sum((s.amount for s in spreads), ZERO)
    for c in book.costs_of.get(activity.code, ()):
        yield c, direct_amount(book, c, duration)


def planned_cost(book: Book, activity: Activity, row: Scheduled) -> Decimal:
    """The budget of one activity as planned, in the currency's minor unit: the sum of its rounded lines."""
    unit = minor_unit(book.project.currency)
    with localcontext(CONTEXT):
        lines = [cost for x, cost in _priced(book, activity, row) if not isinstance(x, DirectCost) or x.in_budget]
        return sum([rounded(cost, unit) for cost in lines], ZERO)


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
