"""Work by time: hours and cost of every assignment in days, weeks, months or periods, planned, worked and remaining.

Source: calculation contract, section 22. Hours are whole minutes with the overtime in, costs whole minor units; the first
bucket has all that is before its end. A cell is what is due by its end less what is due by the end before, both rounded.
"""

from dataclasses import dataclass, field
from decimal import Decimal, localcontext

from dryledger.book.baselines import BaselineAssignment
from dryledger.book.durations import whole_minutes
from dryledger.book.pages import HoursEntry, Period
from dryledger.book.plan import Assignment
from dryledger.budget.money import CONTEXT, amount_of, cells
from dryledger.budget.remaining import remaining_work
from dryledger.budget.spread import Piece
from dryledger.budget.time_phased import cells_by_time
from dryledger.calendar.calendar import Instant
from dryledger.value.curve import bucket_ends_of
from dryledger.value.valuation import Valuation
from dryledger.words import sentence

__all__ = ["Amounts", "WorkByTime", "WorkRow", "work_by_time"]

ZERO = Decimal(0)
Pair = tuple[str, str]


@dataclass(frozen=True)
class Amounts:
    """Minutes and cost of a row in each bucket, and in all; cost is None where the baseline keeps none."""

    minutes: list[int]
    cost: list[Decimal] | None

    @property
    def total_minutes(self) -> int:
        """All its minutes."""
        return sum(self.minutes)

    @property
    def total_cost(self) -> Decimal | None:
        """All its cost."""
        return None if self.cost is None else sum(self.cost[1:], self.cost[0]) if self.cost else ZERO


@dataclass(frozen=True)
class WorkRow:
    """One activity and resource. `planned` is None where the baseline keeps nothing of it; `reasons` say why."""

    activity: str
    resource: str
    planned: Amounts | None
    worked: Amounts
    remaining: Amounts
    reasons: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class WorkByTime:
    """The ends of the buckets, and a row for each assignment, then for each pair posted to, then for each of the baseline."""

    bucket: str
    ends: list[Instant]
    rows: list[WorkRow]


def work_by_time(v: Valuation, bucket: str) -> WorkByTime:
    """The work of the project by time. Raises TooManyPoints where there would be too many buckets."""
    ends = bucket_ends_of(v, bucket)
    with localcontext(CONTEXT):
        kept = _kept(v)
        worked = _worked(v)
        assigned = [(a.activity, a.resource) for a in v.book.assignments]
        remaining = _remaining(v)
        rows = []
        for pair in dict.fromkeys([*assigned, *worked, *kept]):
            planned, reasons = _planned(v, pair, kept.get(pair), ends)
            done = _amounts(v, ends, *worked.get(pair, ([], [])))
            rows.append(WorkRow(*pair, planned, done, _amounts(v, ends, *remaining.get(pair, ([], [])), v.at.status), reasons))
    return WorkByTime(bucket, ends, rows)


def _amounts(v: Valuation, ends: list[Instant], minutes: list[Piece], cost: list[Piece], since: Instant | None = None) -> Amounts:
    return Amounts(cells_by_time(ends, minutes), [amount_of(x, v.unit) for x in cells_by_time(ends, cost, since)])


# Planned


def _kept(v: Valuation) -> dict[Pair, BaselineAssignment]:
    """What the measured baseline keeps of assignments."""
    base = v.baseline.activities if v.baseline is not None else ()
    return {(a.code, x.resource): x for a in base for x in a.assignments}


def _planned(v: Valuation, pair: Pair, kept: BaselineAssignment | None, ends: list[Instant]) -> tuple[Amounts | None, dict[str, str]]:
    if v.baseline is None:
        return None, {"planned": sentence("statistics.no_baseline")}
    if kept is None:
        return None, {"planned": sentence("work.not_kept", baseline=v.baseline.code)}
    a = v.baseline.by_code[pair[0]]
    along = (v.baseline.axes[a.code], "uniform", -1, 0)
    minutes = cells_by_time(ends, [Piece(a.start, a.finish, kept.work, along)])
    if kept.cost is None:
        return Amounts(minutes, None), {"planned.cost": sentence("work.cost_not_kept", baseline=v.baseline.code)}
    cost = cells_by_time(ends, [Piece(a.start, a.finish, cells(kept.cost, v.unit), along)])
    return Amounts(minutes, [amount_of(x, v.unit) for x in cost]), {}


# Worked


def _worked(v: Valuation) -> dict[Pair, tuple[list[Piece], list[Piece]]]:
    """What is reckoned, by date; every posted figure and its cost over the time in which it was worked."""
    out: dict[Pair, tuple[list[Piece], list[Piece]]] = {}
    pages = {p.code: p for p in v.at.periods}
    for x in v.actuals:
        if x.hours is None:
            continue
        h = x.hours
        over = _span(v, pages[x.page], h)
        minutes, money = out.setdefault((h.activity, h.resource), ([], []))
        along = (v.book.axes[h.activity], "uniform", -1, 0)
        minutes.append(Piece(*over, h.worked + h.overtime, along))
        money.append(Piece(*over, x.amount, along))
    for code in v.progress if not v.following.nothing else ():
        for r in v.following.of(code):
            minutes, money = out.setdefault((code, r.resource), ([], []))
            minutes.append(r.minutes)
            money.append(r.cost)
    for code, paid, piece in v.payments.reckoned():
        if isinstance(paid.of, Assignment):
            out.setdefault((code, paid.of.resource), ([], []))[1].append(piece)
    return out


def _span(v: Valuation, page: Period, h: HoursEntry) -> tuple[Instant, Instant]:
    """From the later of the page before and the actual start to the earlier of the page and the actual finish."""
    place = v.at.periods.index(page)
    p, status = v.progress[h.activity], page.status
    if place:
        begin = v.at.periods[place - 1].status
        begin = begin if p.actual_start is None else max(begin, p.actual_start)
    else:
        begin = v.book.project.start if p.actual_start is None else p.actual_start
    end = status if p.actual_finish is None else min(status, p.actual_finish)
    if begin >= end or not v.book.axes[h.activity].between(begin, end):
        return status, status
    return begin, end


# Remaining


def _remaining(v: Valuation) -> dict[Pair, tuple[list[Piece], list[Piece]]]:
    """Minutes to go evenly over resume (or start) to finish, cost as the forecast has it; a material books no time."""
    out: dict[Pair, tuple[list[Piece], list[Piece]]] = {}
    for a in v.book.activities:
        p, on = v.progress[a.code], v.book.assignments_of.get(a.code, ())
        if not on:
            continue
        _, start, finish = v.schedule.spans[a.code]
        along = (v.book.axes[a.code], "uniform", -1, 0)
        left = remaining_work(v.at, a, p)
        for x in on:
            material = v.book.resource_by_code[x.resource].kind == "material"
            minutes = 0 if material else whole_minutes(left[x.resource])
            hours = [Piece(start, finish, minutes, along)] if minutes else []
            of = x.code if material else x.resource
            cost = [y.piece for y in v.remains.get(a.code, ()) if y.of == of and (y.kind == "material") == material]
            if hours or cost:
                out[a.code, x.resource] = hours, cost
    return out
