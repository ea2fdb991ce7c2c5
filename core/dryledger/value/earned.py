"""Earned value: the share of its budget that each activity has earned, by its method, now and between the pages.

Source: ISO 21508 and EIA-748 practice as set down in the calculation contract, sections 8 and 11. The method is the
baseline's. Shares are exact; EV is whole minor units, rounded half-even at the activity.
"""

from bisect import bisect_right
from collections.abc import Callable, Mapping, Sequence
from decimal import Decimal
from fractions import Fraction

from dryledger.budget.following import Following
from dryledger.budget.money import part
from dryledger.budget.planned import PlannedValue
from dryledger.budget.planned_columns import stepped_share
from dryledger.budget.remaining import remaining_work
from dryledger.budget.spread import Piece, within
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["Share", "earned", "earned_over_time", "earned_share"]

ZERO, ONE = Fraction(0), Fraction(1)
Share = tuple[int, int]
"""A share of a budget as numerator and denominator, the latter above 0."""
NOTHING, ALL = (0, 1), (1, 1)
STEPPING = ("zero_hundred", "fifty_fifty", "start_share")
Page = tuple[Instant, Callable[[str], Share | None]]
"""The status of a page, and what share each activity had earned by it; None where it had not started."""


def earned(at: AsOf, planned: PlannedValue, progress: Mapping[str, Progress], following: Following) -> dict[str, int]:
    """EV of every baseline activity that has earned anything at the page; the others have earned 0.

    `progress` needs no more than the activities that have a statement.
    """
    out: dict[str, int] = {}
    in_plan, by_others, budgets = at.book.activity_by_code, set(planned.following), planned.budget
    for code in {**dict.fromkeys(at.latest), **dict.fromkeys(planned.following)}:
        budget = budgets.get(code)
        if budget:
            p = progress.get(code)
            if p is not None and p.state == "complete" and code not in by_others:
                found = budget if code in in_plan else 0  # as most have it
            else:
                found = part(budget, *earned_share(at, planned, code, progress, following))
            if found:
                out[code] = found
    return out


def earned_share(at: AsOf, planned: PlannedValue, code: str, progress: Mapping[str, Progress], following: Following) -> Share:
    """EV ÷ BAC of one baseline activity at the page. Level of effort earns its PV; work no longer in the plan nothing."""
    method, status = planned.baseline.by_code[code].value_method, at.status
    if code not in at.book.activity_by_code or status is None:
        return NOTHING
    if method.type == "level_of_effort":
        budget = planned.budget[code]
        return share_of(planned.at(code, status), budget) if budget else NOTHING
    if method.type == "apportioned" and method.base is not None:
        return earned_share(at, planned, method.base, progress, following)
    p = progress.get(code)
    if p is None or p.state == "not_started":
        return NOTHING
    return ALL if p.state == "complete" else _in_progress_share(at, planned, code, p, following)


def share_of(n: int, d: int) -> Share:
    """n ÷ d with a denominator above 0; d not 0."""
    return (n, d) if d > 0 else (-n, -d)


def _in_progress_share(at: AsOf, planned: PlannedValue, code: str, p: Progress, following: Following) -> Share:
    method = planned.baseline.by_code[code].value_method
    s = p.statement
    if method.type in STEPPING:
        return stepped_share(method)
    if method.type == "milestones":
        reached = set(s.milestones_reached) if s else set()
        done = sum((w.weight for w in method.weights if w.name in reached), Decimal(0))
        return (Fraction(done) / Fraction(sum(w.weight for w in method.weights))).as_integer_ratio()
    if method.type == "units":
        return min(ONE, Fraction(s.units_done or 0) / Fraction(method.planned)).as_integer_ratio() if s else NOTHING
    if method.type == "hours":
        return _hours_share(at, code, p, following).as_integer_ratio()
    if method.type == "duration" or p.percent_from == "elapsed":
        whole = p.elapsed + p.remaining
        return (p.elapsed, whole) if whole else ALL
    return p.percent.as_integer_ratio()


def _hours_share(at: AsOf, code: str, p: Progress, following: Following) -> Fraction:
    """Labour hours worked ÷ (worked + to go); 0 while there are neither."""
    worked = Fraction(at.labour.get(code, 0) + following.labour(code))
    to_go = remaining_work(at, at.book.activity_by_code[code], p)
    left = sum((Fraction(m) for r, m in to_go.items() if at.book.resource_by_code[r].kind == "labour"), ZERO)
    return worked / (worked + left) if worked + left else ZERO


def earned_over_time(
    at: AsOf, planned: PlannedValue, progress: Mapping[str, Progress], ev: Mapping[str, int], pages: Sequence[Page], code: str
) -> Piece | None:
    """EV of an activity at any instant up to the page, as the page knows it; None where it never earned anything.

    `pages` are the earlier pages, oldest first.
    """
    budget, status = planned.budget.get(code, 0), at.status
    if not budget or status is None or code not in at.book.activity_by_code:
        return None
    by_code, now = planned.baseline.by_code, ev.get(code, 0)
    method = by_code[code].value_method
    if method.type == "level_of_effort":
        return Piece(by_code[code].start, status, now, lambda t: planned.at(code, t))
    base = method.base if method.type == "apportioned" else None
    if base is not None:
        method = by_code[base].value_method
        if method.type == "level_of_effort":
            whole = planned.budget.get(base, 0)
            return Piece(by_code[base].start, status, now, lambda t: part(budget, planned.at(base, t), whole) if whole else 0)
    p = progress.get(base or code)
    if p is None or p.actual_start is None:
        return None
    end = status if p.actual_finish is None else p.actual_finish
    if method.type in STEPPING:
        return Piece(p.actual_start, end, now, within(part(budget, *stepped_share(method))))
    if base is None and (not pages or end <= pages[0][0] or pages[-1][0] < p.actual_start):
        axis = at.book.axes[code]
        return Piece(p.actual_start, end, now, (axis, "uniform", axis.between(p.actual_start, end) or 1, 0))
    last = share_of(now, budget)
    if base is not None and planned.budget.get(base):
        last = share_of(ev.get(base, 0), planned.budget[base])
    return Piece(p.actual_start, end, now, _straight(at, base or code, budget, p.actual_start, end, last, pages))


def _straight(
    at: AsOf, code: str, budget: int, start: Instant, end: Instant, last: Share, pages: Sequence[Page]
) -> Callable[[Instant], int]:
    """Straight lines over the working minutes of an activity through what each page knew of it."""
    axis, known = at.book.axes[code], [(start, 0, 1)]
    known += [(t, *share) for t, known_share in pages if start <= t < end and (share := known_share(code)) is not None]
    known.append((end, *last))
    instants = [t for t, _, _ in known]

    def due(t: Instant) -> int:
        i = max(bisect_right(instants, t) - 1, 0)
        (a, x, of_x), (b, y, of_y) = known[i], known[min(i + 1, len(known) - 1)]
        whole = axis.between(a, b)
        if not whole:
            return part(budget, x, of_x)
        return part(budget, x * of_y * whole + (y * of_x - x * of_y) * axis.between(a, t), of_x * of_y * whole)

    return due
