"""Cumulative PV, EV, AC and forecast at the end of each bucket.

Source: calculation contract, section 11. A bucket ends at the midnight that closes it; `period` buckets end at the
status instants, with one last point at the latest finish.
"""

from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal

from dryledger.calendar import DAY, WEEK, Instant, date_of, midnight
from dryledger.money import rounded
from dryledger.plan import Baseline
from dryledger.valuation import Scope, Valuation
from dryledger.value import planned_value

__all__ = ["BUCKETS", "Point", "curve"]

BUCKETS = ("day", "week", "month", "period")
ZERO = Decimal(0)


@dataclass
class Point:
    """The cumulative amounts at the end of one bucket; None where a line has not begun or has ended."""

    end: Instant
    pv: Decimal
    ev: Decimal | None
    ac: Decimal | None
    forecast: Decimal | None
    others: dict[str, Decimal] = field(default_factory=dict)


def bucket_end(bucket: str, t: Instant) -> Instant:
    """The midnight that closes the day, ISO week or month in which the instant t lies."""
    if bucket == "day":
        return t // DAY * DAY + DAY
    if bucket == "week":
        return t // WEEK * WEEK + WEEK
    day = date_of(t)
    return midnight(date(day.year + day.month // 12, day.month % 12 + 1, 1))


def curve(v: Valuation, bucket: str, scope: Scope | None = None, others: tuple[Baseline, ...] = ()) -> list[Point]:
    """The points of a scope (absent: the whole project), earliest first; `others` adds further baselines' PV."""
    scope = scope or v.scope()
    rows = [v.schedule.activities[c] for c in scope.activities if c in v.schedule.activities]
    based = [v.baseline.by_code[c] for c in scope.activities if c in v.baseline.by_code] if v.baseline else []
    starts = [r.start for r in rows] + [b.start for b in based]
    finishes = [r.finish for r in rows] + [b.finish for b in based]
    if not starts:
        return []
    status = v.at.status
    latest = max(finishes)
    ends = _ends(v, bucket, min(starts), max(latest, status) if status is not None else latest, latest)
    at_status = None if status is None else next((e for e in ends if e >= status), None)
    spreads = [(v.book.axes[c], s) for c in scope.activities for s in v.spreads.get(c, ())]
    actuals = [x for x in v.actuals if scope.holds(x.target)]
    pages = [(t, sum((e.get(c, ZERO) for c in scope.activities), ZERO)) for t, e in v.ev_by_page] if status is not None else []
    out = []
    for end in ends:
        known = status is not None and at_status is not None and end <= at_status
        t = end if status is None else min(end, status)
        ev = next((e for when, e in reversed(pages) if when <= t), ZERO) if known else None
        ac = sum((x.amount for x in actuals if x.counts(t)), ZERO)
        forecast = None
        if at_status is not None and end >= at_status:
            forecast = ac + sum((s.due(axis, end) for axis, s in spreads), ZERO)
        pv = sum((v.planned(c, end) for c in scope.activities), ZERO)
        more = {b.code: rounded(sum((planned_value(b, c, end) for c in scope.activities if c in b.by_code), ZERO), v.unit) for b in others}
        out.append(
            Point(
                end,
                rounded(pv, v.unit),
                None if ev is None else rounded(ev, v.unit),
                rounded(ac, v.unit) if known else None,
                None if forecast is None else rounded(forecast, v.unit),
                more,
            )
        )
    return out


def _ends(v: Valuation, bucket: str, start: Instant, end: Instant, latest: Instant) -> list[Instant]:
    if bucket == "period":
        ends = [p.status for p in v.at.periods]
        return ends + ([latest] if not ends or latest > ends[-1] else [])
    out, at = [], bucket_end(bucket, start)
    while True:
        out.append(at)
        if at >= end or len(out) > 20_000:
            return out
        at = bucket_end(bucket, at)
