"""Buckets of time: days, ISO weeks or months, each closed by the midnight after it."""

from dryledger.calendar.calendar import DAY, WEEK, Instant, month_end
from dryledger.errors import TooManyPoints

__all__ = ["BUCKETS", "MOST_POINTS", "bucket_end", "bucket_ends"]

BUCKETS = ("day", "week", "month")
MOST_POINTS = 10_000
"""More points than this no one can read, and a book with dates centuries apart must not take for ever."""


def bucket_end(bucket: str, t: Instant) -> Instant:
    """The midnight that closes the day, ISO week or month in which the instant t lies."""
    if bucket == "month":
        return month_end(t)
    size = DAY if bucket == "day" else WEEK
    return t // size * size + size


def bucket_ends(bucket: str, start: Instant, end: Instant) -> list[Instant]:
    """The ends of the buckets from the one in which `start` lies to the one that closes at `end` or later.

    Raises TooManyPoints where there would be more than MOST_POINTS.
    """
    out, at = [], bucket_end(bucket, start)
    while True:
        out.append(at)
        if at >= end:
            return out
        if len(out) >= MOST_POINTS:
            raise TooManyPoints(bucket, MOST_POINTS)
        at = bucket_end(bucket, at)
