"""Statistics of the project, a WBS element or a selection: start, finish, duration, work and cost, each in the baseline,
now, actual, remaining, and how far now lies from the baseline.

Source: calculation contract, section 22. Dates are instants, durations and work whole minutes (dates and durations in
working time of the project calendar), cost in minor units; a difference is taken before rounding.
"""

from dataclasses import dataclass, field
from decimal import Decimal
from typing import Generic, TypeVar

from dryledger.book.baselines import Baseline, BaselineActivity
from dryledger.budget.money import amount_of
from dryledger.calendar.axis import Axis
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import Progress
from dryledger.schedule.schedule import Scheduled
from dryledger.value.measures import NO_STATUS, Sums
from dryledger.value.sums import Scope
from dryledger.value.valuation import Valuation, planned_of
from dryledger.value.work import work_done, work_now
from dryledger.words import sentence

__all__ = ["COLUMNS", "ROWS", "Statistic", "Statistics", "statistics"]

COLUMNS = ("baseline", "now", "actual", "remaining", "variance")
ROWS = ("start", "finish", "duration", "work", "cost")
T = TypeVar("T", int, Decimal)


@dataclass(frozen=True)
class Statistic(Generic[T]):
    """One row: what the baseline has, what is now, what has come about by the status date, what remains, now − baseline."""

    baseline: T | None
    now: T | None
    actual: T | None
    remaining: T | None
    variance: int | Decimal | None


@dataclass(frozen=True)
class Statistics:
    """The five rows of a scope; `reasons` says why each that is None is so, by "start.actual" and the like."""

    start: Statistic[Instant]
    finish: Statistic[Instant]
    duration: Statistic[int]
    work: Statistic[int]
    cost: Statistic[Decimal]
    reasons: dict[str, str] = field(default_factory=dict)


def statistics(v: Valuation, scope: Scope | None = None, against: Baseline | None = None) -> Statistics:
    """The statistics of a scope, absent: of the whole project; against another baseline than the measured one where one is given."""
    baseline = against or v.baseline
    inside = v.scope() if scope is None else scope
    rows = [v.schedule.activities[c] for c in inside.activities if c in v.schedule.activities]
    done = [v.progress[x.code] for x in rows]
    known = baseline.by_code if baseline is not None else {}
    base = [known[c] for c in (known if scope is None else inside.activities) if c in known]
    budget = None if baseline is None else sum(planned_of(v.book, baseline).budget[b.code] for b in base)
    sums = v.total() if scope is None else v.total(scope)
    start, finish = _starts(v, rows, done, base), _finishes(v, rows, done, base)
    out = Statistics(start, finish, _durations(v, start, finish), _work(v, rows, base), _cost(v, sums, budget, bool(base)))
    for name in ROWS:
        row = getattr(out, name)
        for column in COLUMNS:
            if getattr(row, column) is None:
                out.reasons[f"{name}.{column}"] = _reason(v, column, rows, done, base)
    return out


def _apart(axis: Axis, now: Instant | None, then: Instant | None) -> int | None:
    return None if now is None or then is None else axis.between(then, now)


def _starts(v: Valuation, rows: list[Scheduled], done: list[Progress], base: list[BaselineActivity]) -> Statistic[Instant]:
    then, now = min((b.start for b in base), default=None), min((x.start for x in rows), default=None)
    actual = min((p.actual_start for p in done if p.actual_start is not None), default=None)
    left = min((x.start if x.resume is None else x.resume for x in rows if x.state != "complete"), default=None)
    return Statistic(then, now, actual, left, _apart(v.book.axis, now, then))


def _finishes(v: Valuation, rows: list[Scheduled], done: list[Progress], base: list[BaselineActivity]) -> Statistic[Instant]:
    then, now = max((b.finish for b in base), default=None), max((x.finish for x in rows), default=None)
    ends = [p.actual_finish for p in done if p.state == "complete"]
    actual = max((t for t in ends if t is not None), default=None) if len(ends) == len(done) else None
    left = max((x.finish for x in rows if x.state != "complete"), default=None)
    return Statistic(then, now, actual, left, _apart(v.book.axis, now, then))


def _durations(v: Valuation, start: Statistic[Instant], finish: Statistic[Instant]) -> Statistic[int]:
    axis = v.book.axis
    then, now = _apart(axis, finish.baseline, start.baseline), _apart(axis, finish.now, start.now)
    until = v.at.status if finish.actual is None else finish.actual
    actual = 0 if start.actual is None or until is None else axis.between(start.actual, until)
    left = None if now is None else 0 if finish.actual is not None else now - actual
    return Statistic(then, now, actual, left, _whole(v, now, then))


def _work(v: Valuation, rows: list[Scheduled], base: list[BaselineActivity]) -> Statistic[int]:
    then = sum(b.work for b in base) if base else None
    now = sum(work_now(v, x.code) for x in rows) if rows else None
    actual = sum(work_done(v, x.code) for x in rows)
    return Statistic(then, now, actual, None if now is None else now - actual, _whole(v, now, then))


def _whole(v: Valuation, now: int | None, then: int | None) -> int | None:
    """Now − baseline, by whole figures where one side has none of it; None without a baseline."""
    return None if v.baseline is None else (now or 0) - (then or 0)


def _cost(v: Valuation, sums: Sums, budget: int | None, there: bool) -> Statistic[Decimal]:
    def shown(found: int) -> Decimal:
        return amount_of(found, v.unit)

    now, spent = sums.forecast, sums.ac_total
    variance = None if budget is None else shown(now - budget)
    return Statistic(shown(budget) if budget is not None and there else None, shown(now), shown(spent), shown(now - spent), variance)


def _reason(v: Valuation, column: str, rows: list[Scheduled], done: list[Progress], base: list[BaselineActivity]) -> str:
    if column in ("baseline", "variance") and v.baseline is None:
        return sentence("statistics.no_baseline")
    if column in ("baseline", "variance") and not base:
        return sentence("statistics.not_in_baseline")
    if not rows:
        return sentence("statistics.not_in_plan")
    if column == "remaining":
        return sentence("statistics.complete")
    if v.at.status is None:
        return NO_STATUS
    return sentence("statistics.not_started" if all(p.state == "not_started" for p in done) else "statistics.not_complete")
