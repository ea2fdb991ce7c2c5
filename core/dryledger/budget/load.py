"""The load of a resource over time: what is booked of it, against what is available, and what is booked beyond that.

Source: calculation contract, section 19. An assignment books its units wherever its activity and the resource both work (`booking`),
whatever its hours to go; available are the units of the resource over its own calendar, other units and leave counted. All in unit-minutes.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.book.plan import Resource
from dryledger.budget.booking import booked, over_allocated
from dryledger.calendar.axis import Axis
from dryledger.calendar.buckets import bucket_ends
from dryledger.calendar.calendar import DAY, WEEK, Instant, month_start
from dryledger.schedule.progress import AsOf
from dryledger.schedule.schedule import Schedule

__all__ = ["Load", "available_between", "buckets_of", "loads", "over_in"]

ZERO = Decimal(0)


def available_between(resource: Resource, axis: Axis, a: Instant, b: Instant) -> Decimal:
    """Unit-minutes of a resource between two instants: its units over its calendar, other units where it has them."""
    there = resource.units * axis.between(a, b)
    for e in resource.exceptions:
        low, high = max(a, e.since), min(b, e.until)
        if low < high:
            there += (e.units - resource.units) * axis.between(low, high)
    return there


@dataclass
class Load:
    """One resource: for each bucket the unit-minutes booked, available, and booked beyond what there is in any minute."""

    resource: str
    booked: list[Decimal]
    available: list[Decimal]
    over: list[Decimal]
    causes: list[dict[str, Decimal]] = field(default_factory=list)
    """By bucket, what each activity books."""

    @property
    def over_at(self) -> list[int]:
        """The buckets in some minute of which more is booked than there is, whatever their sums say."""
        return [i for i, minutes in enumerate(self.over) if minutes]


def loads(at: AsOf, schedule: Schedule, bucket: str = "week") -> tuple[list[Instant], list[Load]]:
    """The bucket ends and what is booked of every resource but materials, in the book's order: by minutes, whatever the hours to go.

    Source: calculation contract, section 19. The first bucket holds the first minute that is booked. Raises TooManyPoints.
    """
    book = at.book
    bookings, rows = booked(book, schedule, at.to_go)
    own = {x.code: book.calendar_by_code[x.calendar].axis for x in book.resources if x.kind != "material"}
    spans = [(own[code].last(x), own[code].first(y)) for code, found in rows.items() for x, y, _, _ in found]
    if not spans:
        return [], [Load(code, [], [], []) for code in own]
    starts, ends = buckets_of(bucket, min(a for a, _ in spans), max(b for _, b in spans))
    out = {code: Load(code, [ZERO] * len(ends), [], [ZERO] * len(ends), [{} for _ in ends]) for code in own}
    for code, load in out.items():
        edges = [own[code].pos(t) for t in (starts[0], *ends)]
        for x, y, activity, units in rows.get(code, ()):
            for i in range(bisect_right(edges, x) - 1, len(ends)):
                if edges[i] >= y:
                    break
                part = Decimal(units) / bookings.scale * (min(edges[i + 1], y) - max(edges[i], x))
                load.booked[i] += part
                load.causes[i][activity] = load.causes[i].get(activity, ZERO) + part
        row = book.resource_by_code[code]
        load.available = [available_between(row, own[code], a, b) for a, b in zip(starts, ends, strict=True)]
    for span in over_allocated(book, schedule, at.to_go):
        for i in over_in(starts, ends, [(span.start, span.end)]):
            inside = min(ends[i], span.end) - max(starts[i], span.start)
            out[span.resource].over[i] += (span.required - span.available) * inside
    return ends, list(out.values())


def over_in(starts: Sequence[Instant], ends: Sequence[Instant], spans: Iterable[tuple[Instant, Instant]]) -> list[int]:
    """The buckets that any of the spans reaches into, in order.

    >>> over_in([0, 1440, 2880], [1440, 2880, 4320], [(1500, 1560), (2800, 2900)])
    [1, 2]
    """
    found: set[int] = set()
    for a, b in spans:
        first, last = bisect_right(ends, a), bisect_left(starts, b)
        found.update(range(first, last))
    return sorted(found)


def buckets_of(bucket: str, first: Instant, last: Instant) -> tuple[list[Instant], list[Instant]]:
    """The starts and the ends of the buckets from one instant to another. Raises TooManyPoints."""
    ends = bucket_ends(bucket, first, last)
    opening = month_start(first) if bucket == "month" else ends[0] - (DAY if bucket == "day" else WEEK)
    return [opening, *ends[:-1]], ends
