"""When the next page is due: a proposal that always falls on the close of a working day."""

from collections.abc import Sequence

from dryledger.calendar.axis import DAY, WEEK, Axis, Instant

__all__ = ["close_of", "next_status"]

FRIDAY = 4
LONGEST_GAP = 3660


def close_of(axis: Axis, t: Instant) -> Instant:
    """The close of the date on which an instant falls: the end of its last shift, without working time the midnight after it.

    >>> from dryledger.calendar.axis import Stretch
    >>> five = Axis([Stretch(0, 10**9, 0, WEEK, tuple((d * DAY + 480, d * DAY + 1020) for d in range(5)))])
    >>> close_of(five, 600), close_of(five, 5 * DAY + 600) == 6 * DAY
    (1020, True)
    """
    opens = t // DAY * DAY
    return axis.first(axis.pos(opens + DAY)) if axis.between(opens, opens + DAY) else opens + DAY


def next_status(axis: Axis, start: Instant, pages: Sequence[Instant]) -> Instant:
    """The status that is proposed for the page after those that there are.

    The page after the opening one (as of the project's start) is due on the first Friday, each later one as many days on
    as the one before it lasted, the first of them a week. On a day off it is due on the working day before.
    """
    last = pages[-1] // DAY * DAY
    real = [t for t in pages if t > start]
    if not real:
        days = (FRIDAY - last // DAY) % 7
        wanted = last + days * DAY
        if close_of(axis, wanted) <= pages[-1]:
            wanted += WEEK
    else:
        before = real[-2] // DAY * DAY if len(real) > 1 else last - WEEK
        wanted = last + max(last - before, DAY)
    at = wanted
    while at > last and not axis.between(at, at + DAY):
        at -= DAY
    if at <= last and close_of(axis, at) <= pages[-1]:
        at = wanted
        for _ in range(LONGEST_GAP):
            if axis.between(at, at + DAY):
                break
            at += DAY
    return close_of(axis, at)
