"""The load of a resource over time: what its activities still ask of it, against what is there.

Work to go is spread evenly over the working time left of each activity; what is there is the units of the resource
over its own calendar. All in minutes of work. A bucket is over-allocated where at any of its minutes more is booked than there is
(`booking`), whatever its sums say.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal, localcontext

from dryledger.book.plan import Resource
from dryledger.budget.booking import booked, over_allocated
from dryledger.budget.money import CONTEXT
from dryledger.budget.remaining import remaining_work
from dryledger.calendar.axis import Axis
from dryledger.calendar.buckets import bucket_ends
from dryledger.calendar.calendar import DAY, WEEK, Instant, month_start
from dryledger.schedule.progress import AsOf, Progress
from dryledger.schedule.schedule import Schedule

__all__ = ["BookedLoad", "Load", "booked_loads", "buckets_of", "loads", "over_in", "spread_over"]

ZERO = Decimal(0)


@dataclass
class Load:
    """One resource: for each bucket the minutes asked, those there, and what each activity asks of it."""

    resource: str
    asked: list[Decimal]
    there: list[Decimal]
    causes: list[dict[str, Decimal]] = field(default_factory=list)
    over: list[int] = field(default_factory=list)
    """The buckets in some minute of which more is booked than there is."""


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
            load.there = [there_between(resource_row, axis, p, q) for p, q in zip(starts, ends, strict=True)]
        spans: dict[str, list[tuple[Instant, Instant]]] = {}
        for x in over_allocated(book, schedule, at.to_go):
            spans.setdefault(x.resource, []).append((x.start, x.end))
        for code, load in out.items():
            load.over = over_in(starts, ends, spans.get(code, ()))
    return ends, list(out.values())


def there_between(resource: Resource, axis: Axis, a: Instant, b: Instant) -> Decimal:
    """Unit-minutes of a resource between two instants: its units over its calendar, other units where it has them."""
    there = resource.units * axis.between(a, b)
    for e in resource.exceptions:
        low, high = max(a, e.since), min(b, e.until)
        if low < high:
            there += (e.units - resource.units) * axis.between(low, high)
    return there


@dataclass
class BookedLoad:
    """One resource: for each bucket the unit-minutes booked, available, and booked beyond what there is in any minute."""

    resource: str
    booked: list[Decimal]
    available: list[Decimal]
    over: list[Decimal]


def booked_loads(at: AsOf, schedule: Schedule, bucket: str = "week") -> tuple[list[Instant], list[BookedLoad]]:
    """The bucket ends and what is booked of every resource but materials, in the book's order: by minutes, whatever the hours to go.

    Source: calculation contract, section 19. The first bucket holds the first minute that is booked. Raises TooManyPoints.
    """
    book = at.book
    bookings, rows = booked(book, schedule, at.to_go)
    own = {x.code: book.calendar_by_code[x.calendar].axis for x in book.resources if x.kind != "material"}
    spans = [(own[code].last(x), own[code].first(y)) for code, found in rows.items() for x, y, _, _ in found]
    if not spans:
        return [], [BookedLoad(code, [], [], []) for code in own]
    starts, ends = buckets_of(bucket, min(a for a, _ in spans), max(b for _, b in spans))
    out = {code: BookedLoad(code, [ZERO] * len(ends), [], [ZERO] * len(ends)) for code in own}
    for code, load in out.items():
        edges = [own[code].pos(t) for t in (starts[0], *ends)]
        for x, y, _, units in rows.get(code, ()):
            for i in range(bisect_right(edges, x) - 1, len(ends)):
                if edges[i] >= y:
                    break
                load.booked[i] += Decimal(units) / bookings.scale * (min(edges[i + 1], y) - max(edges[i], x))
        row = book.resource_by_code[code]
        load.available = [there_between(row, own[code], a, b) for a, b in zip(starts, ends, strict=True)]
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
