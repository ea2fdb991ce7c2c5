"""The progress line: at an instant, one point for each activity, joined from row to row.

Source: calculation contract, section 13. A point left of the instant is behind, right of it ahead.
"""

from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal

from dryledger.calendar.axis import Axis
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results

__all__ = ["LinePoint", "progress_line"]


@dataclass(frozen=True)
class LinePoint:
    """Where the line passes through the row of one activity."""

    code: str
    at: Instant


def progress_line(r: Results, at: Instant | None = None, reference: str = "baseline") -> list[LinePoint]:
    """The points of the line drawn at an instant (absent: the status date), in the book's order.

    `reference` is the bar that progress is put on: "baseline" or "current" dates. The point is the instant itself where
    the activity is complete and its reference finish is not after it, or not started and its reference start not before
    it; else first(pos(start) + percent × length) on the bar. An activity without a reference bar has no point. Without
    a status date, and with no instant given, there is no line.
    """
    when = r.status if at is None else at
    if when is None:
        return []
    out = []
    for code in r.schedule.activities:
        bar = _bar(r, code, reference)
        if bar is not None:
            out.append(LinePoint(code, _point(bar, r.progress[code].state, r.progress[code].percent, when)))
    return out


def _bar(r: Results, code: str, reference: str) -> tuple[Instant, Instant, Axis] | None:
    if reference == "current":
        row = r.schedule.activities[code]
        return row.start, row.finish, r.book.axes[code]
    if r.baseline is None or code not in r.baseline.by_code:
        return None
    base = r.baseline.by_code[code]
    return base.start, base.finish, r.baseline.axes[code]


def _point(bar: tuple[Instant, Instant, Axis], state: str, percent: Decimal, when: Instant) -> Instant:
    start, finish, axis = bar
    if (state == "complete" and finish <= when) or (state == "not_started" and start >= when):
        return when
    done = (percent * axis.between(start, finish)).to_integral_value(ROUND_HALF_EVEN)
    return axis.first(axis.pos(start) + int(done))
