"""Progress lines: at an instant, one point for each activity, joined from row to row.

Source: calculation contract, section 13. A point left of the instant is behind, right of it ahead.
"""

from calendar import monthrange
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import ROUND_HALF_EVEN, Decimal, localcontext

from dryledger.budget.money import CONTEXT
from dryledger.calendar.axis import Axis
from dryledger.calendar.calendar import Instant, date_of, midnight
from dryledger.compute import Results
from dryledger.schedule.progress import AsOf, Progress, progress, unstarted
from dryledger.schedule.rhythm import close_of

__all__ = ["AGAINST", "STEPS", "Line", "LinePoint", "front_days", "interval_dates", "page_dates", "progress_line", "progress_lines"]

AGAINST = ("baseline", "present")
STEPS = ("day", "week", "month")
MOST_DATES = 4000
Bar = tuple[Instant, Instant, Axis]


@dataclass(frozen=True)
class LinePoint:
    """Where a line passes through the row of one activity."""

    code: str
    at: Instant


@dataclass(frozen=True)
class Line:
    """A line at an instant, by what is known on a page: the last one not after it, None before the first."""

    at: Instant
    page: str | None
    points: tuple[LinePoint, ...]


def progress_line(r: Results, at: Instant | None = None, against: str = "baseline") -> Line | None:
    """The line at an instant (absent: the status date; None where there is none), its points in the book's order.

    State and percent are those of the last page, up to the chosen one, whose status is not after the instant. `against` is
    the bar that progress is put on: the "baseline" or the "present" dates. The point is the instant itself where the
    activity is complete and its reference finish is not after it, or not started and its reference start not before it;
    else first(pos(start) + percent × length) on the bar. An activity without a reference bar has no point.
    """
    when = r.status if at is None else at
    return None if when is None else next(iter(progress_lines(r, [when], against)))


def progress_lines(r: Results, dates: Iterable[Instant], against: str = "baseline") -> list[Line]:
    """Lines at several instants, in their order. Raises ValueError for another `against`."""
    if against not in AGAINST:
        raise ValueError(against)
    bars = {code: bar for code in r.schedule.activities if (bar := _bar(r, code, against)) is not None}
    known: dict[str | None, dict[str, Progress]] = {}
    out = []
    for at in dates:
        then = _known_at(r.at, at)
        page = None if then is None else then.periods[-1].code
        if page not in known:
            with localcontext(CONTEXT):
                known[page] = unstarted(r.book) if then is None else r.progress if then is r.at else progress(then)
        here = known[page]
        out.append(Line(at, page, tuple(LinePoint(c, _point(bar, here[c].state, here[c].percent, at)) for c, bar in bars.items())))
    return out


def front_days(r: Results, line: Line) -> dict[str, Decimal]:
    """How far the work of each activity stands from the date of a line, in working days of the project: behind below zero.

    Only activities whose point is not at the date itself. Source: calculation contract, section 13.
    """
    axis, calendar = r.book.axis, r.book.project_calendar
    found = {p.code: calendar.days(axis.pos(p.at) - axis.pos(line.at)) for p in line.points if p.at != line.at}
    return {code: d for code, d in found.items() if d}


def page_dates(r: Results) -> list[Instant]:
    """The status dates of the pages up to the chosen one."""
    return [p.status for p in r.at.periods]


def interval_dates(r: Results, start: Instant, step: str) -> list[Instant]:
    """The close of a date and of every "day", "week" or "month" after it, up to the status date; none without one.

    A month goes to the same day of the next, or to its last. Raises ValueError for another step.
    """
    if step not in STEPS:
        raise ValueError(step)
    out: list[Instant] = []
    first, n = date_of(start), 0
    while r.status is not None and n <= MOST_DATES:
        at = close_of(r.book.axis, midnight(_after(first, step, n)))
        if at > r.status:
            break
        out.append(at)
        n += 1
    return out


def _after(first: date, step: str, n: int) -> date:
    """The date n steps after another."""
    if step != "month":
        return first + timedelta(days=n * (7 if step == "week" else 1))
    month = first.month - 1 + n
    year, month = first.year + month // 12, month % 12 + 1
    return date(year, month, min(first.day, monthrange(year, month)[1]))


def _known_at(at: AsOf, t: Instant) -> AsOf | None:
    """The book as of the last page whose status is not after an instant; None before the first."""
    then: AsOf | None = at
    while then is not None and (not then.periods or then.periods[-1].status > t):
        then = then.earlier(1) if len(then.periods) > 1 else None
    return then


def _bar(r: Results, code: str, against: str) -> Bar | None:
    if against == "present":
        row = r.schedule.activities[code]
        return row.start, row.finish, r.book.axes[code]
    if r.baseline is None or code not in r.baseline.by_code:
        return None
    base = r.baseline.by_code[code]
    return base.start, base.finish, r.baseline.axes[code]


def _point(bar: Bar, state: str, percent: Decimal, when: Instant) -> Instant:
    start, finish, axis = bar
    if (state == "complete" and finish <= when) or (state == "not_started" and start >= when):
        return when
    if not percent or percent == 1:
        return finish if percent else start
    done = (percent * axis.between(start, finish)).to_integral_value(ROUND_HALF_EVEN)
    return axis.first(axis.pos(start) + int(done))
