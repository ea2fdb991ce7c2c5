"""The cost curve of several projects of one currency: the sums of their cumulative PV, EV, AC and forecast.

Source: calculation contract, sections 11 and 22. At the end of a bucket each project counts with its last point up to there: nothing
before its first, its last one for ever after. What is earned and spent is known up to the earliest status date only; what is forecast
begins where that of every project has begun.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from dryledger.calendar.calendar import Instant
from dryledger.value.curve import Point

__all__ = ["CurvePart", "portfolio_curve"]


@dataclass(frozen=True)
class CurvePart:
    """One project's curve with its status date."""

    code: str
    status: Instant
    points: tuple[Point, ...]


def portfolio_curve(parts: Sequence[CurvePart]) -> list[Point]:
    """The points of the sum, earliest first; empty without any.

    >>> a = CurvePart("A", 10, (Point(10, Decimal(4), Decimal(3), Decimal(5), Decimal(5)), Point(20, Decimal(9), None, None, Decimal(11))))
    >>> b = CurvePart("B", 20, (Point(20, Decimal(2), Decimal(2), Decimal(1), Decimal(1)),))
    >>> [(p.end, int(p.pv), p.ev, p.forecast) for p in portfolio_curve([a, b])]
    [(10, 4, Decimal('3'), None), (20, 11, None, Decimal('12'))]
    """
    ends = sorted({p.end for part in parts for p in part.points})
    known = min((part.status for part in parts), default=0)
    latest = max((part.status for part in parts), default=0)
    out, at = [], [-1] * len(parts)
    told = False
    for end in ends:
        total: dict[str, Decimal] = dict.fromkeys(("pv", "ev", "ac", "forecast"), Decimal(0))
        for i, part in enumerate(parts):
            while at[i] + 1 < len(part.points) and part.points[at[i] + 1].end <= end:
                at[i] += 1
            if at[i] >= 0:
                for key, amount in _standing(part.points, at[i]).items():
                    total[key] += amount
        reached, begun = not told, end >= latest
        told = told or end >= known
        ev, ac = (total[key] if reached else None for key in ("ev", "ac"))
        out.append(Point(end, total["pv"], ev, ac, total["forecast"] if begun else None))
    return out


def _standing(points: Sequence[Point], at: int) -> dict[str, Decimal]:
    """What a project has come to at one of its points; what it is not told there stands as last told, a forecast not begun at AC."""
    p = points[at]
    last = next((x for x in reversed(points[: at + 1]) if x.ev is not None), None)
    ev, ac = (Decimal(0), Decimal(0)) if last is None else (last.ev or Decimal(0), last.ac or Decimal(0))
    return {"pv": p.pv, "ev": ev, "ac": ac, "forecast": ac if p.forecast is None else p.forecast}
