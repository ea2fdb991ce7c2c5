"""People across projects: what several projects still ask of a resource that the organisation keeps, against what there is of it.

Source: calculation contract, section 19. An assignment books its units wherever its activity and the resource, each on its calendar in the
project, work. *Load*: what is booked by bucket; what there is: the organisation's units over its own calendar, less the leave that projects
know of. *Over-allocated*: the minutes of the clock in which activities of all projects together book more units than there are; outside
the organisation's calendar there are none. Each project is as of its own page.
"""

import itertools
from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.book.shared import SharedResource
from dryledger.budget.booking import open_times
from dryledger.budget.load import buckets_of, over_in
from dryledger.calendar.axis import Axis, Instant
from dryledger.compute import Results

__all__ = ["Asking", "Leave", "OverShared", "SharedLoad", "asking", "leave_of", "load_of", "over_minutes", "over_of", "runs_of"]

ZERO = Decimal(0)
Who = tuple[str, str]
"""A project and the code of an activity in it."""


@dataclass(frozen=True)
class Asking:
    """What an unfinished activity asks of a shared resource: `units` from start (or resume) to finish."""

    project: str
    resource: str
    """The organisation's code of it."""
    activity: str
    name: str
    start: Instant
    finish: Instant
    units: Decimal
    axis: Axis
    """The activity's own."""
    own: Axis
    """That of the resource in the project."""


@dataclass(frozen=True)
class Leave:
    """A time for which a project knows a shared resource to have fewer units than usual by so many; below 0 more."""

    resource: str
    """The organisation's code of it."""
    since: Instant
    until: Instant
    fewer: Decimal


@dataclass
class SharedLoad:
    """The load of a resource over all projects: by bucket the unit-minutes there are, and those that each activity books."""

    ends: list[Instant]
    there: list[Decimal] = field(default_factory=list)
    asked: list[dict[Who, Decimal]] = field(default_factory=list)
    """For each bucket by project and activity."""
    short: list[Decimal] = field(default_factory=list)
    """By bucket what is booked beyond what there is in some minute."""

    @property
    def over(self) -> list[int]:
        """The buckets in some minute of which more is booked than there is."""
        return [i for i, minutes in enumerate(self.short) if minutes]

    @property
    def sums(self) -> list[Decimal]:
        """What all ask, by bucket."""
        return [sum(x.values(), ZERO) for x in self.asked]

    @property
    def total(self) -> Decimal:
        """What all ask."""
        return sum(self.sums, ZERO)

    @property
    def by_project(self) -> dict[str, list[Decimal]]:
        """What each project asks, by bucket."""
        out: dict[str, list[Decimal]] = {}
        for i, asked in enumerate(self.asked):
            for (project, _), minutes in asked.items():
                out.setdefault(project, [ZERO] * len(self.ends))[i] += minutes
        return out


@dataclass(frozen=True)
class OverShared:
    """A time in which the same activities, by project and code, book more than there is; unit-minutes beyond that."""

    start: Instant
    end: Instant
    required: Decimal
    available: Decimal
    who: tuple[Who, ...]
    unit_minutes: Decimal


def over_minutes(spans: Iterable[OverShared]) -> Decimal:
    """Unit-minutes booked beyond what there is, over all times."""
    return sum((x.unit_minutes for x in spans), ZERO)


def runs_of(spans: Iterable[OverShared], apart: bool = True) -> list[OverShared]:
    """Over-allocated times, those put together that follow each other with the same activities: also `apart`, or only on end.

    >>> who = (("PIER", "A1"), ("DOCK", "A1"))
    >>> days = [OverShared(d * 1440 + 480, d * 1440 + 540, Decimal(2), Decimal(1), who, Decimal(60)) for d in (0, 1)]
    >>> [(x.start, x.end, int(x.unit_minutes)) for x in runs_of(days)], len(runs_of(days, apart=False))
    ([(480, 1980, 120)], 2)
    """
    out: list[OverShared] = []
    for x in spans:
        last = out[-1] if out else None
        alike = last is not None and (last.required, last.available, last.who) == (x.required, x.available, x.who)
        if last is not None and alike and (apart or last.end == x.start):
            out[-1] = replace(last, end=x.end, unit_minutes=last.unit_minutes + x.unit_minutes)
        else:
            out.append(x)
    return out


def asking(r: Results) -> list[Asking]:
    """What a project still asks of the resources it shares, in the order of its activities.

    Material, and work with nothing to go, books nothing.
    """
    book = r.book
    shared = {x.code: x for x in book.resources if x.shared is not None and x.kind != "material"}
    if not shared:
        return []
    out = []
    for a in book.activities:
        row = r.schedule.activities[a.code]
        rows = book.assignments_of.get(a.code, ())
        mine = [x for x in rows if x.resource in shared and r.at.to_go.get((a.code, x.resource)) != 0]
        if row.state == "complete" or not mine:
            continue
        start = row.resume if row.resume is not None else row.start
        for x in mine:
            resource = shared[x.resource]
            own = book.calendar_by_code[resource.calendar].axis
            kept = str(resource.shared)
            out.append(Asking(book.project.code, kept, a.code, a.name, start, row.finish, x.units, book.axes[a.code], own))
    return out


def leave_of(book: Book) -> list[Leave]:
    """The leave and other units that a project knows of the resources it shares."""
    return [Leave(x.shared, e.since, e.until, x.units - e.units) for x in book.resources if x.shared is not None for e in x.exceptions]


def available_of(kept: SharedResource, leave: Iterable[Leave]) -> list[tuple[Instant, Instant, Decimal]]:
    """The times in which there are other units than usual, and how many; where projects differ, as the one says that lacks the most.

    >>> from dryledger.calendar.calendar import Calendar
    >>> five = SharedResource("ELE", "Electrician", Calendar("five", "Five", (((480, 960),),) * 7), units=Decimal(3))
    >>> away = [Leave("ELE", 0, 1440, Decimal(1)), Leave("ELE", 720, 2880, Decimal(2))]
    >>> [(a, b, int(units)) for a, b, units in available_of(five, away)]
    [(0, 720, 2), (720, 2880, 1)]
    """
    rows = list(leave)
    out: list[tuple[Instant, Instant, Decimal]] = []
    for a, b in itertools.pairwise(sorted({t for x in rows for t in (x.since, x.until)})):
        fewer = [x.fewer for x in rows if x.since <= a and b <= x.until]
        if not fewer:
            continue
        units = max(kept.units - max(fewer), ZERO)
        if out and out[-1][1:] == (a, units):
            a = out.pop()[0]
        out.append((a, b, units))
    return out


def load_of(kept: SharedResource, asked: Sequence[Asking], bucket: str = "week", leave: Sequence[Leave] = ()) -> SharedLoad:
    """The load of a resource by bucket (day, week, month), from the first minute that is booked on. Raises TooManyPoints.

    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 5 + ((),) * 2)
    >>> rows = [Asking(p, "ELE", "A1", "Wire", 480, 960, Decimal(1), five.axis, five.axis) for p in ("PIER", "DOCK")]
    >>> found = load_of(SharedResource("ELE", "Electrician", five), rows, "day")
    >>> found.sums, found.there, found.over
    ([Decimal('960')], [Decimal('480')], [0])
    """
    spans = [(x, span) for x in asked for span in _booked(x)]
    if not spans:
        return SharedLoad([])
    starts, ends = buckets_of(bucket, min(a for _, (a, _) in spans), max(b for _, (_, b) in spans))
    out = SharedLoad(ends, asked=[{} for _ in ends])
    for x, (a, b) in spans:
        who = (x.project, x.activity)
        for i in over_in(starts, ends, [(a, b)]):
            part = x.units * (min(b, ends[i]) - max(a, starts[i]))
            out.asked[i][who] = out.asked[i].get(who, ZERO) + part
    axis, other = kept.calendar.axis, available_of(kept, leave)
    out.short = [ZERO] * len(ends)
    for y in over_of(kept, asked, leave):
        for i in over_in(starts, ends, [(y.start, y.end)]):
            out.short[i] += (y.required - y.available) * (min(y.end, ends[i]) - max(y.start, starts[i]))
    for low, high in zip(starts, ends, strict=True):
        changes = ((units - kept.units) * axis.between(max(a, low), min(b, high)) for a, b, units in other if a < high and b > low)
        out.there.append(kept.units * axis.between(low, high) + sum(changes, ZERO))
    return out


def over_of(kept: SharedResource, asked: Iterable[Asking], leave: Iterable[Leave] = ()) -> list[OverShared]:
    """Where activities of all projects book more of a resource than there is, by time.

    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 5 + ((),) * 2)
    >>> spans = (("PIER", 480, 960), ("DOCK", 720, 2400))
    >>> rows = [Asking(p, "ELE", "A1", "Wire", a, b, Decimal(1), five.axis, five.axis) for p, a, b in spans]
    >>> [(x.start, x.end, int(x.required), x.who) for x in over_of(SharedResource("ELE", "Electrician", five), rows)]
    [(720, 960, 2, (('PIER', 'A1'), ('DOCK', 'A1')))]
    """
    rows = list(asked)
    turns: dict[Instant, list[int]] = {}
    for n, x in enumerate(rows):
        for span in _booked(x):
            for t in span:
                turns.setdefault(t, []).append(n)
    if not turns:
        return []
    first, last, other = min(turns), max(turns), available_of(kept, leave)
    for span in open_times(kept.calendar.axis, first, last) + [
        (max(a, first), min(b, last)) for a, b, _ in other if a < last and b > first
    ]:
        for t in span:
            turns.setdefault(t, [])
    return runs_of(_over(kept, rows, turns, other), apart=False)


def _over(
    kept: SharedResource, rows: list[Asking], turns: dict[Instant, list[int]], other: list[tuple[Instant, Instant, Decimal]]
) -> Iterator[OverShared]:
    """The times between two turns in which too much is booked; at each turn stand the rows that begin or cease to book."""
    there, who, required, axis = list[int](), list[Who](), ZERO, kept.calendar.axis
    for t, end in itertools.pairwise(sorted(turns)):
        for n in turns[t]:
            i = bisect_left(there, n)
            if i < len(there) and there[i] == n:
                del there[i], who[i]
                required -= rows[n].units
            else:
                there.insert(i, n)
                who.insert(i, (rows[n].project, rows[n].activity))
                required += rows[n].units
        while other and other[0][1] <= t:
            other = other[1:]
        units = other[0][2] if other and other[0][0] <= t else kept.units
        available = units if axis.pos(t) < axis.pos(end) else ZERO
        if required > available:
            yield OverShared(t, end, required, available, tuple(who), (required - available) * (end - t))


def _booked(x: Asking) -> list[tuple[Instant, Instant]]:
    """The times of the clock in which an activity books: those that it and the resource both work, apart from each other."""
    mine = open_times(x.axis, x.start, x.finish)
    if x.axis is x.own:
        return mine
    its = open_times(x.own, x.start, x.finish)
    out, i, j = [], 0, 0
    while i < len(mine) and j < len(its):
        a, b = max(mine[i][0], its[j][0]), min(mine[i][1], its[j][1])
        if a < b:
            out.append((a, b))
        if mine[i][1] < its[j][1]:
            i += 1
        else:
            j += 1
    return out
