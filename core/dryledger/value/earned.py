"""Earned value: the share of its budget that each activity has earned, by its method.

Source: ISO 21508 and EIA-748 practice as set down in the calculation contract, section 8. The method is the
baseline's; amounts are exact decimals and nothing is rounded here.
"""

from collections.abc import Mapping
from decimal import Decimal

from dryledger.budget.planned import PlannedValue
from dryledger.budget.remaining import remaining_work
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["earned", "earned_share"]

ZERO, ONE, HALF = Decimal(0), Decimal(1), Decimal("0.5")


def earned(at: AsOf, planned: PlannedValue, progress: Mapping[str, Progress]) -> dict[str, Decimal]:
    """EV of every baseline activity that has earned anything at the page; the others have earned 0.

    `progress` needs no more than the activities that have a statement.
    """
    out: dict[str, Decimal] = {}
    in_plan, following = at.book.activity_by_code, set(planned.following)
    for code in {**dict.fromkeys(at.latest), **dict.fromkeys(planned.following)}:
        budget = planned.budget.get(code)
        if budget:
            p = progress.get(code)
            if p is not None and p.state == "complete" and code not in following:
                share = ONE if code in in_plan else ZERO  # as most have it
            else:
                share = earned_share(at, planned, code, progress)
            if share:
                out[code] = budget * share
    return out


def earned_share(at: AsOf, planned: PlannedValue, code: str, progress: Mapping[str, Progress]) -> Decimal:
    """EV ÷ BAC of one baseline activity at the page. Level of effort earns its PV; work no longer in the plan nothing."""
    method = planned.baseline.by_code[code].value_method
    if code not in at.book.activity_by_code or at.status is None:
        return ZERO
    if method.type == "level_of_effort":
        budget = planned.budget[code]
        return planned.at(code, at.status) / budget if budget else ZERO
    if method.type == "apportioned" and method.base is not None:
        return earned_share(at, planned, method.base, progress)
    p = progress.get(code)
    if p is None or p.state == "not_started":
        return ZERO
    return ONE if p.state == "complete" else _in_progress_share(at, planned, code, p)


def _in_progress_share(at: AsOf, planned: PlannedValue, code: str, p: Progress) -> Decimal:
    method = planned.baseline.by_code[code].value_method
    s = p.statement
    if method.type == "zero_hundred":
        return ZERO
    if method.type == "fifty_fifty":
        return HALF
    if method.type == "start_share":
        return method.share
    if method.type == "milestones":
        reached = set(s.milestones_reached) if s else set()
        return sum((w.weight for w in method.weights if w.name in reached), ZERO) / sum(w.weight for w in method.weights)
    if method.type == "units":
        return min(ONE, (s.units_done or ZERO) / method.planned) if s else ZERO
    if method.type == "duration":
        whole = p.elapsed + p.remaining
        return Decimal(p.elapsed) / whole if whole else ONE
    if method.type == "hours":
        return _hours_share(at, code, p)
    return p.percent


def _hours_share(at: AsOf, code: str, p: Progress) -> Decimal:
    """Labour hours posted ÷ (posted + to go); 0 while there are neither."""
    posted = Decimal(at.labour.get(code, 0))
    to_go = remaining_work(at, at.book.activity_by_code[code], p)
    left = sum((m for r, m in to_go.items() if at.book.resource_by_code[r].kind == "labour"), ZERO)
    return posted / (posted + left) if posted + left else ZERO
