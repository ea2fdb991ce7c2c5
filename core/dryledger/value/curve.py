"""Cumulative PV, EV, AC and forecast at the end of each bucket.

Source: calculation contract, section 11. A bucket ends at the midnight that closes it; `period` buckets end at the
status instants, with one last point at the latest finish.
"""

from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.book.baselines import Baseline
from dryledger.budget.money import amount_of
from dryledger.budget.spread import cumulative
from dryledger.calendar.buckets import BUCKETS, bucket_ends
from dryledger.calendar.calendar import Instant
from dryledger.value.sums import Scope
from dryledger.value.valuation import Valuation, planned_of

__all__ = ["CURVE_BUCKETS", "Point", "bucket_ends_of", "curve"]

CURVE_BUCKETS = (*BUCKETS, "period")


@dataclass
class Point:
    """The cumulative amounts at the end of one bucket; None where a line has not begun or has ended."""

    end: Instant
    pv: Decimal
    ev: Decimal | None
    ac: Decimal | None
    forecast: Decimal | None
    others: dict[str, Decimal] = field(default_factory=dict)


def curve(v: Valuation, bucket: str, scope: Scope | None = None, others: tuple[Baseline, ...] = ()) -> list[Point]:
    """The points of a scope (absent: the whole project), earliest first; `others` adds further baselines' PV.

    Raises TooManyPoints where the curve would have more than MOST_POINTS points.
    """
    scope = scope or v.scope()
    ends = bucket_ends_of(v, bucket, scope)
    if not ends:
        return []
    status = v.at.status
    at_status = len(ends) if status is None else next((i for i, e in enumerate(ends) if e >= status), len(ends))
    pv = v.planned.curve(scope.activities, ends) if v.planned else [0] * len(ends)
    known = set(v.codes) if others else set()
    more = {b.code: planned_of(v.book, b).curve(scope.within(b, known), ends) for b in others}
    ev, ac = _known(v, scope, ends[: at_status + 1], status)
    forecast = _forecast(v, scope, ends, at_status, ac[-1] if ac else 0)
    out = []
    for i, end in enumerate(ends):
        reached = i <= at_status and status is not None
        out.append(
            Point(
                end,
                amount_of(pv[i], v.unit),
                amount_of(ev[i], v.unit) if reached else None,
                amount_of(ac[i], v.unit) if reached else None,
                amount_of(forecast[i], v.unit) if i >= at_status else None,
                {code: amount_of(line[i], v.unit) for code, line in more.items()},
            )
        )
    return out


def _known(v: Valuation, scope: Scope, ends: list[Instant], status: Instant | None) -> tuple[list[int], list[int]]:
    """EV and AC at each end up to the first one not before the status date, where they are those of the status date."""
    if status is None:
        return [], []
    at = [min(e, status) for e in ends]
    ev = cumulative(at, (piece for _, piece in v.earned_pieces(v.codes if scope.whole else scope.activities)))
    return ev, cumulative(at, v.actual_pieces(scope))


def _forecast(v: Valuation, scope: Scope, ends: list[Instant], first: int, spent: int) -> list[int]:
    """AC at the status date and the remaining cost due by each end from the index `first` on."""
    return [0] * first + [spent + x for x in v.due(scope, ends[first:])]


def bucket_ends_of(v: Valuation, bucket: str, scope: Scope | None = None, until: Instant | None = None) -> list[Instant]:
    """The ends of the buckets of a scope (absent: the project): from the earliest of current and baseline start, first cost and status to
    the latest of current finish, baseline finish, status and `until`; none where there is nothing. Raises TooManyPoints.
    """
    scope = scope or v.scope()
    spans, base = v.schedule.spans, v.baseline.by_code if v.baseline else {}
    now = list(spans.values() if scope.whole else filter(None, map(spans.get, scope.activities)))
    then = list(base.values() if scope.whole else filter(None, map(base.get, scope.activities)))
    if not now and not then:
        return []
    latest, status = max([f for _, _, f in now] + [b.finish for b in then]), v.at.status
    spent = [x.at for x in v.actuals if scope.whole or scope.holds(x.target)] + ([] if status is None else [status])
    start = min([s for s, _, _ in now] + [b.start for b in then] + spent)
    if until is not None:
        latest = max(latest, until)
    if bucket != "period":
        return bucket_ends(bucket, start, latest if status is None else max(latest, status))
    ends = [p.status for p in v.at.periods]
    return ends + ([latest] if not ends or latest > ends[-1] else [])
