"""When the next page is due: a proposal that always falls on a working day, by the project's rhythm where it has one."""

import calendar as months
from collections.abc import Iterator, Sequence
from datetime import date
from decimal import Decimal
from itertools import takewhile

from dryledger.book.lists import WEEKDAYS
from dryledger.book.pages import Rhythm
from dryledger.calendar.axis import DAY, WEEK, Axis, Instant

__all__ = ["close_of", "next_status", "rhythm_dates"]

FRIDAY = 4
LONGEST_GAP = 3660
LAST_YEAR = 9998


def close_of(axis: Axis, t: Instant) -> Instant:
    """The close of the date on which an instant falls: the end of its last shift, without working time the midnight after it.

    >>> from dryledger.calendar.axis import Stretch
    >>> five = Axis([Stretch(0, 10**9, 0, WEEK, tuple((d * DAY + 480, d * DAY + 1020) for d in range(5)))])
    >>> close_of(five, 600), close_of(five, 5 * DAY + 600) == 6 * DAY
    (1020, True)
    """
    opens = t // DAY * DAY
    return axis.first(axis.pos(opens + DAY)) if axis.between(opens, opens + DAY) else opens + DAY


def next_status(axis: Axis, start: Instant, pages: Sequence[Instant], rhythm: Rhythm | None = None) -> Instant:
    """The status that is proposed for the page after those that there are.

    By a rhythm it is the date of it nearest to one step after the page before, so that a page moved by a day or two does not
    move those after it. Without one the page after the opening one (as of the project's start) is due on the first Friday,
    each later one as many days on as the one before it lasted, the first of them a week. On a day off it is due on the
    working day before.
    """
    last = pages[-1] // DAY * DAY
    real = [t for t in pages if t > start]
    if rhythm is not None:
        due = next((d for d in _due(axis, last, rhythm, bool(real)) if _before_off(axis, d, last) > last), None)
        if due is not None:
            return _at(axis, _before_off(axis, due, last), rhythm.at)
    if not real:
        days = (FRIDAY - last // DAY) % 7
        wanted = last + days * DAY
        if close_of(axis, wanted) <= pages[-1]:
            wanted += WEEK
    else:
        before = real[-2] // DAY * DAY if len(real) > 1 else last - WEEK
        wanted = last + max(last - before, DAY)
    at = _before_off(axis, wanted, last)
    if at <= last and close_of(axis, at) <= pages[-1]:
        at = wanted
        for _ in range(LONGEST_GAP):
            if axis.between(at, at + DAY):
                break
            at += DAY
    return close_of(axis, at)


def rhythm_dates(axis: Axis, start: Instant, until: Instant, rhythm: Rhythm) -> list[Instant]:
    """The dates of a rhythm from a start up to an instant, each at its time or the close of its date; off days give the day before."""
    opens = start // DAY * DAY
    step = Rhythm(rhythm.every, Decimal(1), rhythm.on, rhythm.at)
    each = (_at(axis, _before_off(axis, d, opens), rhythm.at) for d in _due(axis, opens, step, False))
    return list(takewhile(lambda t: t <= until, (t for t in each if t >= start)))[:: int(rhythm.n)]


def _before_off(axis: Axis, wanted: Instant, last: Instant) -> Instant:
    """The date itself, or where it is off the working day before it, as far back as the last page."""
    at = wanted
    while at > last and not axis.between(at, at + DAY):
        at -= DAY
    return at


def _at(axis: Axis, day: Instant, time: str | None) -> Instant:
    if time is None:
        return close_of(axis, day)
    hours, minutes = time.split(":")
    return day + int(hours) * 60 + int(minutes)


def _due(axis: Axis, last: Instant, rhythm: Rhythm, real: bool) -> Iterator[Instant]:
    """The dates of a rhythm from the next one on, opened at midnight; the first after the opening page is the first there is."""
    n = int(rhythm.n) if real else 0
    if rhythm.every == "week":
        target = last + n * WEEK
        behind = (target // DAY - WEEKDAYS.index(rhythm.on or "fri")) % 7
        nearest = target - behind * DAY + (WEEK if behind > 3 else 0)
        for step in range(LONGEST_GAP):
            yield nearest + step * WEEK
        return
    day = date.fromordinal(last // DAY + 1)
    month = day.year * 12 + day.month - 1 + n
    target = last + (_in_month(axis, month, str(day.day)) - _in_month(axis, month - n, str(day.day)))
    context = [_in_month(axis, month + k, rhythm.on or "last") for k in (-1, 0, 1)]
    first = min((d for d in context if d > last), key=lambda d: abs(d - target), default=context[-1])
    begins = date.fromordinal(first // DAY + 1)
    month = begins.year * 12 + begins.month - 1
    while month // 12 < LAST_YEAR:
        yield _in_month(axis, month, rhythm.on or "last")
        month += 1


def _in_month(axis: Axis, month: int, on: str) -> Instant:
    """Midnight of a day in a month (12 × year + month − 1): of the last day where the month is shorter, of the last working day."""
    year, number = divmod(month, 12)
    length = months.monthrange(year, number + 1)[1]
    opens = (date(year, number + 1, 1).toordinal() - 1) * DAY
    if on != "last":
        return opens + (min(int(on), length) - 1) * DAY
    days = (opens + d * DAY for d in range(length - 1, -1, -1))
    return next((d for d in days if axis.between(d, d + DAY)), opens + (length - 1) * DAY)
