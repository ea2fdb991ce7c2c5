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
from dryledger.budget.remaining import remaining_work
from dryledger.budget.spread import Piece
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["earned", "earned_over_time", "earned_share"]

ZERO, ONE, HALF = Fraction(0), Fraction(1), Fraction(1, 2)
STEPPING = ("zero_hundred", "fifty_fifty", "start_share")
Page = tuple[Instant, Callable[[str], Fraction | None]]
"""The status of a page, and what share each activity had earned by it; None where it had not started."""


def earned(at: AsOf, planned: PlannedValue, progress: Mapping[str, Progress], following: Following) -> dict[str, int]:
    """EV of every baseline activity that has earned anything at the page; the others have earned 0.

    `progress` needs no more than the activities that have a statement.
    """
    out: dict[str, int] = {}
    in_plan, by_others = at.book.activity_by_code, set(planned.following)
    for code in {**dict.fromkeys(at.latest), **dict.fromkeys(planned.following)}:
        budget = planned.budget.get(code)
        if budget:
            p = progress.get(code)
            if p is not None and p.state == "complete" and code not in by_others:
                found = budget if code in in_plan else 0  # as most have it
            else:
                share = earned_share(at, planned, code, progress, following)
                found = part(budget, share.numerator, share.denominator)
            if found:
                out[code] = found
    return out


def earned_share(at: AsOf, planned: PlannedValue, code: str, progress: Mapping[str, Progress], following: Following) -> Fraction:
    """EV ÷ BAC of one baseline activity at the page. Level of effort earns its PV; work no longer in the plan nothing."""
    method = planned.baseline.by_code[code].value_method
    if code not in at.book.activity_by_code or at.status is None:
        return ZERO
    if method.type == "level_of_effort":
        budget = planned.budget[code]
        return Fraction(planned.at(code, at.status), budget) if budget else ZERO
    if method.type == "apportioned" and method.base is not None:
        return earned_share(at, planned, method.base, progress, following)
    p = progress.get(code)
    if p is None or p.state == "not_started":
        return ZERO
    return ONE if p.state == "complete" else _in_progress_share(at, planned, code, p, following)


def _in_progress_share(at: AsOf, planned: PlannedValue, code: str, p: Progress, following: Following) -> Fraction:
    method = planned.baseline.by_code[code].value_method
    s = p.statement
    if method.type in STEPPING:
        return _at_start(planned, code)
    if method.type == "milestones":
        reached = set(s.milestones_reached) if s else set()
        return Fraction(sum((w.weight for w in method.weights if w.name in reached), Decimal(0))) / Fraction(
            sum(w.weight for w in method.weights)
        )
    if method.type == "units":
        return min(ONE, Fraction(s.units_done or 0) / Fraction(method.planned)) if s else ZERO
    if method.type == "duration":
        whole = p.elapsed + p.remaining
        return Fraction(p.elapsed, whole) if whole else ONE
    if method.type == "hours":
        return _hours_share(at, code, p, following)
    if p.percent_from == "elapsed":
        whole = p.elapsed + p.remaining
        return Fraction(p.elapsed, whole) if whole else ONE
    return Fraction(p.percent)


def _at_start(planned: PlannedValue, code: str) -> Fraction:
    """What a method that steps earns at the actual start; the others earn nothing there."""
    method = planned.baseline.by_code[code].value_method
    return Fraction(method.share) if method.type == "start_share" else HALF if method.type == "fifty_fifty" else ZERO


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
    method, now = planned.baseline.by_code[code].value_method, ev.get(code, 0)
    if method.type == "level_of_effort":
        return Piece(planned.baseline.by_code[code].start, status, now, lambda t: planned.at(code, t))
    base = method.base if method.type == "apportioned" else None
    p = progress.get(base or code)
    if base is not None and planned.baseline.by_code[base].value_method.type == "level_of_effort":
        whole = planned.budget.get(base, 0)
        return Piece(planned.baseline.by_code[base].start, status, now, lambda t: part(budget, planned.at(base, t), whole) if whole else 0)
    if p is None or p.actual_start is None:
        return None
    end = status if p.actual_finish is None else p.actual_finish
    if planned.baseline.by_code[base or code].value_method.type in STEPPING:
        first = _at_start(planned, base or code)
        begun = part(budget, first.numerator, first.denominator)
        return Piece(p.actual_start, end, now, lambda _: begun)
    last = ONE if now == budget else Fraction(now, budget)
    if base is not None and planned.budget.get(base):
        last = Fraction(ev.get(base, 0), planned.budget[base])
    return Piece(p.actual_start, end, now, _straight(at, base or code, budget, p.actual_start, end, last, pages))


def _straight(
    at: AsOf, code: str, budget: int, start: Instant, end: Instant, last: Fraction, pages: Sequence[Page]
) -> Callable[[Instant], int]:
    """Straight lines over the working minutes of an activity through what each page knew of it."""
    axis, known = at.book.axes[code], [(start, 0, 1)]
    known += [(t, *share.as_integer_ratio()) for t, share_of in pages if start <= t < end and (share := share_of(code)) is not None]
    known.append((end, last.numerator, last.denominator))
    instants = [t for t, _, _ in known]

    def due(t: Instant) -> int:
        i = max(bisect_right(instants, t) - 1, 0)
        (a, x, of_x), (b, y, of_y) = known[i], known[min(i + 1, len(known) - 1)]
        whole = axis.between(a, b)
        if not whole:
            return part(budget, x, of_x)
        return part(budget, x * of_y * whole + (y * of_x - x * of_y) * axis.between(a, t), of_x * of_y * whole)

    return due
