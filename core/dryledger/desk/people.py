"""People across projects: what several projects still ask of a resource that the organisation keeps, against what there is of it.

Source: calculation contract, sections 10 and 19. *Load*: the work to go of each activity, evenly over its working time left, by bucket;
what there is: the organisation's units over its own calendar. *Over-allocated*: the minutes of the clock in which activities of all
projects together book more units than there are; an assignment books its units wherever its activity and the resource, each on its
calendar in the project, work. Outside the organisation's calendar there are none. Each project is as of its own page.
"""

import itertools
from bisect import bisect_left
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from decimal import Decimal, localcontext

from dryledger.book.shared import SharedResource
from dryledger.budget.load import SLACK, opening
from dryledger.budget.money import CONTEXT
from dryledger.budget.remaining import remaining_work
from dryledger.calendar.axis import Axis, Instant
from dryledger.calendar.buckets import bucket_ends
from dryledger.compute import Results
from dryledger.options.booking import open_times

__all__ = ["Asking", "OverRun", "OverShared", "SharedLoad", "asking", "load_of", "over_of", "runs_of"]

ZERO = Decimal(0)


@dataclass(frozen=True)
class Asking:
    """What an unfinished activity asks of a shared resource: `units` from start (or resume) to finish, `minutes` of work to go."""

    project: str
    resource: str
    """The organisation's code of it."""
    activity: str
    name: str
    start: Instant
    finish: Instant
    units: Decimal
    minutes: Decimal
    axis: Axis
    """The activity's own."""
    own: Axis
    """That of the resource in the project."""


@dataclass
class SharedLoad:
    """The load of a resource over all projects: by bucket the minutes there are, and those that each activity asks for."""

    ends: list[Instant]
    there: list[Decimal] = field(default_factory=list)
    asked: list[dict[tuple[str, str], Decimal]] = field(default_factory=list)
    """For each bucket by project and activity."""

    @property
    def sums(self) -> list[Decimal]:
        """What all ask, by bucket."""
        return [sum(x.values(), ZERO) for x in self.asked]

    @property
    def over(self) -> list[int]:
        """The buckets in which more is asked than there is."""
        return [i for i, (a, b) in enumerate(zip(self.sums, self.there, strict=True)) if a > b + SLACK]


@dataclass(frozen=True)
class OverShared:
    """A time on end in which the same activities, by project and code, book more than there is."""

    start: Instant
    end: Instant
    required: Decimal
    available: Decimal
    who: tuple[tuple[str, str], ...]

    @property
    def unit_minutes(self) -> Decimal:
        """What is booked beyond what there is."""
        return (self.required - self.available) * (self.end - self.start)


@dataclass(frozen=True)
class OverRun:
    """Times one after the other, working or not between, in which the same activities book as much more than there is."""

    start: Instant
    end: Instant
    required: Decimal
    available: Decimal
    who: tuple[tuple[str, str], ...]
    unit_minutes: Decimal


def runs_of(spans: Iterable[OverShared]) -> list[OverRun]:
    """Over-allocated times, those put together that follow each other with the same activities.

    >>> who = (("PIER", "A1"), ("DOCK", "A1"))
    >>> days = [OverShared(d * 1440 + 480, d * 1440 + 540, Decimal(2), Decimal(1), who) for d in (0, 1)]
    >>> [(x.start, x.end, int(x.unit_minutes)) for x in runs_of(days)]
    [(480, 1980, 120)]
    """
    out: list[OverRun] = []
    for x in spans:
        last = out[-1] if out else None
        if last is not None and (last.required, last.available, last.who) == (x.required, x.available, x.who):
            out[-1] = OverRun(last.start, x.end, x.required, x.available, x.who, last.unit_minutes + x.unit_minutes)
        else:
            out.append(OverRun(x.start, x.end, x.required, x.available, x.who, x.unit_minutes))
    return out


def asking(r: Results) -> list[Asking]:
    """What a project still asks of the resources it shares, in the order of its activities; material books nothing."""
    book = r.book
    shared = {x.code: x for x in book.resources if x.shared is not None and x.kind != "material"}
    if not shared:
        return []
    out = []
    for a in book.activities:
        row = r.schedule.activities[a.code]
        mine = [x for x in book.assignments_of.get(a.code, ()) if x.resource in shared]
        if row.state == "complete" or not mine:
            continue
        start = row.resume if row.resume is not None else row.start
        to_go = remaining_work(r.at, a, r.progress[a.code])
        for x in mine:
            resource = shared[x.resource]
            own = book.calendar_by_code[resource.calendar].axis
            minutes = to_go.get(x.resource, ZERO)
            kept = str(resource.shared)
            out.append(Asking(book.project.code, kept, a.code, a.name, start, row.finish, x.units, minutes, book.axes[a.code], own))
    return out


def load_of(kept: SharedResource, asked: Sequence[Asking], bucket: str = "week") -> SharedLoad:
    """The load of a resource by bucket (day, week, month), from the earliest work to go on. Raises TooManyPoints.

    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 5 + ((),) * 2)
    >>> rows = [Asking(p, "ELE", "A1", "Wire", 480, 960, Decimal(1), Decimal(480), five.axis, five.axis) for p in ("PIER", "DOCK")]
    >>> found = load_of(SharedResource("ELE", "Electrician", five), rows, "day")
    >>> found.sums, found.there, found.over
    ([Decimal('960')], [Decimal('480')], [0])
    """
    work = [x for x in asked if x.minutes]
    if not work:
        return SharedLoad([])
    first, last = min(x.start for x in work), max(x.finish for x in work)
    ends = bucket_ends(bucket, first, last)
    starts = [opening(bucket, ends, first), *ends[:-1]]
    out = SharedLoad(ends, asked=[{} for _ in ends])
    with localcontext(CONTEXT):
        for x in work:
            whole, who = x.axis.between(x.start, x.finish), (x.project, x.activity)
            for i, (a, b) in enumerate(zip(starts, ends, strict=True)):
                if b <= x.start or a >= x.finish > x.start or (x.finish == x.start and a > x.start):
                    continue
                part = x.minutes * x.axis.between(max(a, x.start), min(b, x.finish)) / whole if whole else x.minutes
                if part:
                    out.asked[i][who] = out.asked[i].get(who, ZERO) + part
                if not whole:
                    break
        axis = kept.calendar.axis
        out.there = [Decimal(kept.units) * axis.between(a, b) for a, b in zip(starts, ends, strict=True)]
    return out


def over_of(kept: SharedResource, asked: Iterable[Asking]) -> list[OverShared]:
    """Where activities of all projects book more of a resource than there is, by time.

    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 5 + ((),) * 2)
    >>> spans = (("PIER", 480, 960), ("DOCK", 720, 2400))
    >>> rows = [Asking(p, "ELE", "A1", "Wire", a, b, Decimal(1), Decimal(0), five.axis, five.axis) for p, a, b in spans]
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
    available, axis = Decimal(kept.units), kept.calendar.axis
    for span in open_times(axis, min(turns), max(turns)):
        for t in span:
            turns.setdefault(t, [])
    out: list[OverShared] = []
    there, who, required = list[int](), list[tuple[str, str]](), ZERO
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
        if required:
            _note(out, OverShared(t, end, required, available if axis.pos(t) < axis.pos(end) else ZERO, tuple(who)))
    return out


def _note(out: list[OverShared], x: OverShared) -> None:
    """Add a time to those that are over-allocated, or to the last of them where it goes on."""
    if x.required <= x.available:
        return
    last = out[-1] if out else None
    if last is not None and (last.end, last.required, last.available, last.who) == (x.start, x.required, x.available, x.who):
        out[-1] = OverShared(last.start, x.end, x.required, x.available, x.who)
    else:
        out.append(x)


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
