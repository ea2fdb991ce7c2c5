"""The load of a resource over time: what its activities still ask of it, against what is there.

Work to go is spread evenly over the working time left of each activity; what is there is the units of the resource
over its own calendar. All in minutes of work. A bucket in which more is asked than is there is over-booked.
"""

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal, localcontext

from dryledger.budget.money import CONTEXT
from dryledger.budget.remaining import remaining_work
from dryledger.calendar.axis import Axis
from dryledger.calendar.buckets import bucket_ends
from dryledger.calendar.calendar import DAY, WEEK, Instant, month_start
from dryledger.schedule.progress import AsOf, Progress
from dryledger.schedule.schedule import Schedule

__all__ = ["Load", "buckets_of", "loads", "over_booked", "spread_over"]

ZERO = Decimal(0)
SLACK = Decimal("0.5")
"""Half a minute: less than anyone can book."""


@dataclass
class Load:
    """One resource: for each bucket the minutes asked, those there, and what each activity asks of it."""

    resource: str
    asked: list[Decimal]
    there: list[Decimal]
    causes: list[dict[str, Decimal]] = field(default_factory=list)

    @property
    def over(self) -> list[int]:
        """The buckets in which more is asked than is there."""
        return over_booked(self.asked, self.there)


def loads(at: AsOf, progress: Mapping[str, Progress], schedule: Schedule, bucket: str = "week") -> tuple[list[Instant], list[Load]]:
    """The bucket ends and the load of every resource but materials, in the book's order. `bucket`: day, week or month.

    The first bucket holds the earliest work to go. Raises TooManyPoints where there would be too many buckets.
    """
    asked, book = _asked(at, progress, schedule), at.book
    if not asked:
        return [], [Load(x.code, [], []) for x in book.resources if x.kind != "material"]
    first, last = min(a for _, _, a, _, _ in asked), max(b for _, _, _, b, _ in asked)
    starts, ends = buckets_of(bucket, first, last)
    out = {x.code: Load(x.code, [ZERO] * len(ends), [], [{} for _ in ends]) for x in book.resources if x.kind != "material"}
    with localcontext(CONTEXT):
        for resource, code, a, b, minutes in asked:
            for i, part in spread_over(book.axes[code], (a, b), minutes, starts, ends):
                out[resource].asked[i] += part
                out[resource].causes[i][code] = out[resource].causes[i].get(code, ZERO) + part
        for load in out.values():
            resource_row = book.resource_by_code[load.resource]
            axis = book.calendar_by_code[resource_row.calendar].axis
            load.there = [resource_row.units * axis.between(p, q) for p, q in zip(starts, ends, strict=True)]
    return ends, list(out.values())


def over_booked(asked: Sequence[Decimal], there: Sequence[Decimal]) -> list[int]:
    """The buckets in which more minutes are asked than are there, by more than anyone can book.

    >>> over_booked([Decimal(480), Decimal("480.4"), Decimal(481)], [Decimal(480)] * 3)
    [2]
    """
    return [i for i, (a, b) in enumerate(zip(asked, there, strict=True)) if a > b + SLACK]


def buckets_of(bucket: str, first: Instant, last: Instant) -> tuple[list[Instant], list[Instant]]:
    """The starts and the ends of the buckets from one instant to another. Raises TooManyPoints."""
    ends = bucket_ends(bucket, first, last)
    opening = month_start(first) if bucket == "month" else ends[0] - (DAY if bucket == "day" else WEEK)
    return [opening, *ends[:-1]], ends


def spread_over(
    axis: Axis, span: tuple[Instant, Instant], minutes: Decimal, starts: Sequence[Instant], ends: Sequence[Instant]
) -> Iterator[tuple[int, Decimal]]:
    """The minutes of work that fall into each bucket, evenly over the working time of a span; where it has none, all in the first.

    >>> from dryledger.calendar.axis import Stretch
    >>> day = Axis([Stretch(0, 10**7, 0, DAY, ((480, 960),))])
    >>> list(spread_over(day, (480, 2400), Decimal(100), [0, 1440], [1440, 2880]))
    [(0, Decimal('50')), (1, Decimal('50'))]
    >>> list(spread_over(day, (1440, 1440), Decimal(100), [0, 1440], [1440, 2880]))
    [(1, Decimal('100'))]
    """
    start, finish = span
    whole, first = axis.between(start, finish), min(bisect_right(ends, start), len(ends) - 1)
    if not whole:
        yield first, minutes
        return
    for i in range(first, len(ends)):
        if starts[i] >= finish:
            return
        part = minutes * axis.between(max(starts[i], start), min(ends[i], finish)) / whole
        if part:
            yield i, part


def _asked(at: AsOf, progress: Mapping[str, Progress], schedule: Schedule) -> list[tuple[str, str, Instant, Instant, Decimal]]:
    """(resource, activity, from, to, minutes) of all work to go; a material books nothing."""
    out, book = [], at.book
    for a in book.activities:
        row = schedule.activities[a.code]
        if row.state == "complete" or not book.assignments_of.get(a.code):
            continue
        start = row.resume if row.resume is not None else row.start
        for resource, minutes in remaining_work(at, a, progress[a.code]).items():
            if minutes and book.resource_by_code[resource].kind != "material":
                out.append((resource, a.code, start, row.finish, minutes))
    return out
