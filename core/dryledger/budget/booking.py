"""Booking: in which minutes an activity asks for its resources, and where more is asked than there is.

Source: calculation contract, section 19. An assignment of an unfinished activity books its units in every minute between
resume (or start) and finish that is working time both of the activity's axis and of the resource's calendar. Minutes of a
resource are counted on its own calendar, so that the same minute is the same number for everybody who asks for it.
"""

import itertools
from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.plan import Book, Resource
from dryledger.calendar.axis import DAY, Axis, Instant
from dryledger.schedule.schedule import Schedule

__all__ = [
    *("Booked", "Bookings", "Over", "OverSum", "Profile", "Shared", "ToGo", "booked", "over_allocated", "over_by_resource", "over_minutes"),
]

Range = tuple[int, int]
CHUNK = 200 * DAY
"""So much time is gone through at once when more is asked for."""


def open_times(axis: Axis, a: Instant, b: Instant) -> list[Range]:
    """The times [from, to) between two instants that an axis works, each as long as it is on end.

    >>> from dryledger.calendar.axis import Stretch
    >>> open_times(Axis([Stretch(0, 10**7, 0, DAY, ((480, 720), (720, 1020)))]), 500, 2000)
    [(500, 1020), (1920, 2000)]
    """
    out: list[Range] = []
    for s in axis.stretches:
        low, high = max(a, s.start), min(b, s.end)
        if low >= high or not s.shifts:
            continue
        at = s.anchor + (low - s.anchor) // s.period * s.period
        while at < high:
            for x, y in s.shifts:
                p, q = max(at + x, low), min(at + y, high)
                if p < q:
                    if out and out[-1][1] == p:
                        out[-1] = (out[-1][0], q)
                    else:
                        out.append((p, q))
            at += s.period
    return out


class Shared:
    """The minutes that an activity's axis and a resource's calendar have in common, as ranges of the resource's own minutes."""

    def __init__(self, axis: Axis, own: Axis, since: Instant) -> None:
        self.axis, self.own = axis, own
        self.same = axis is own
        self.until = since
        self.opens: list[int] = []
        self.closes: list[int] = []
        self.gap = 0
        """The longest run of the activity's minutes in which the resource does not work, before any that both do, as far as was asked."""
        self._left = axis.pos(since)

    def _reach(self, t: Instant) -> None:
        while self.until <= t:
            since, self.until = self.until, self.until + CHUNK
            mine, its = open_times(self.axis, since, self.until), open_times(self.own, since, self.until)
            i = j = 0
            while i < len(mine) and j < len(its):
                a, b = max(mine[i][0], its[j][0]), min(mine[i][1], its[j][1])
                if a < b:
                    self._add(a, b)
                if mine[i][1] < its[j][1]:
                    i += 1
                else:
                    j += 1

    def _add(self, a: Instant, b: Instant) -> None:
        p = self.axis.pos(a)
        self.gap = max(self.gap, p - self._left)
        self._left = self.axis.pos(b)
        x, y = self.own.pos(a), self.own.pos(b)
        if self.closes and self.closes[-1] == x:
            self.closes[-1] = y
        else:
            self.opens.append(x)
            self.closes.append(y)

    def ranges(self, start: Instant, finish: Instant) -> list[Range]:
        """The minutes that are booked from start to finish."""
        x, y = self.own.pos(start), self.own.pos(finish)
        if x >= y:
            return []
        if self.same:
            return [(x, y)]
        self._reach(finish)
        i = bisect_right(self.closes, x)
        out = []
        while i < len(self.opens) and self.opens[i] < y:
            out.append((max(self.opens[i], x), min(self.closes[i], y)))
            i += 1
        return out

    def last_before(self, x: int) -> int:
        """The last minute of the resource before x that both work."""
        if self.same:
            return x - 1
        self._reach(self.own.first(x))
        i = bisect_left(self.opens, x) - 1
        return min(self.closes[i], x) - 1


class Profile:
    """The units booked of a resource along its minutes: `load[i]` from `at[i]` on."""

    def __init__(self) -> None:
        self.at: list[int] = [-1]
        self.load: list[int] = [0]

    def add(self, x: int, y: int, units: int) -> None:
        """Book units from minute x until y."""
        i, j = self._split(x), self._split(y)
        for k in range(i, j):
            self.load[k] += units
        for k in (j, i):
            if self.load[k] == self.load[k - 1]:
                del self.at[k], self.load[k]

    def _split(self, x: int) -> int:
        i = bisect_right(self.at, x) - 1
        if self.at[i] == x:
            return i
        self.at.insert(i + 1, x)
        self.load.insert(i + 1, self.load[i])
        return i + 1

    def there(self, x: int) -> int:
        """The units booked in minute x."""
        return self.load[bisect_right(self.at, x) - 1]

    def last_above(self, x: int, y: int, limit: int) -> Range | None:
        """Of the last minute from x until y in which more than a limit is booked: the minute after it, and where that ends."""
        i = bisect_left(self.at, y) - 1
        end = y
        while i >= 0:
            if self.load[i] > limit:
                k = i
                while self.load[k] > limit:
                    k += 1
                return end, self.at[k]
            if self.at[i] <= x:
                return None
            end = self.at[i]
            i -= 1
        return None


ToGo = Mapping[tuple[str, str], int]
"""The latest hours to go of assignments, in minutes, by activity and resource."""


class Bookings:
    """What the activities of a book ask of its resources; units are counted in whole parts, `scale` of them to one.

    `other` holds where a resource has other units than usual: ranges of its own minutes, and the parts that are there.
    """

    def __init__(self, book: Book, since: Instant, to_go: ToGo) -> None:
        self.book, self.since, self.to_go = book, since, to_go
        units = [r.units for r in book.resources] + [a.units for a in book.assignments]
        units += [e.units for r in book.resources for e in r.exceptions]
        self.scale: int = 10 ** max((-int(u.as_tuple().exponent) for u in units), default=0)
        self.available = {r.code: self.parts(r.units) for r in book.resources if r.kind != "material"}
        self._own = {r.code: book.calendar_by_code[r.calendar].axis for r in book.resources}
        self._shared: dict[tuple[int, int], Shared] = {}
        self.other = {r.code: list(self._exceptions(r)) for r in book.resources if r.exceptions}

    def _exceptions(self, r: Resource) -> Iterator[tuple[int, int, int]]:
        own = self._own[r.code]
        for e in sorted(r.exceptions, key=lambda e: e.start):
            x, y = own.pos(e.since), own.pos(e.until)
            if x < y:
                yield x, y, self.parts(e.units)

    def pieces(self, resource: str, x: int, y: int) -> list[tuple[int, int, int | None]]:
        """A range of a resource's minutes cut where its units change, with the parts that are there; None: as usual.

        In order of time.
        """
        out: list[tuple[int, int, int | None]] = []
        for a, b, units in self.other.get(resource, ()):
            if b > x and a < y:
                if a > x:
                    out.append((x, a, None))
                out.append((max(a, x), min(b, y), units))
                x = min(b, y)
        return [*out, (x, y, None)] if x < y else out

    def parts(self, units: Decimal) -> int:
        """Units in whole parts."""
        return int(units * self.scale)

    def asked(self, code: str) -> list[tuple[str, int]]:
        """The resources that an activity asks for, and how much of each; material, and work with nothing to go, books nothing."""
        rows = self.book.assignments_of.get(code, ())
        return [(x.resource, self.parts(x.units)) for x in rows if x.resource in self.available and self.to_go.get((code, x.resource)) != 0]

    def shared(self, code: str, resource: str) -> Shared:
        """The minutes that an activity and a resource have in common."""
        return self.between(self.book.axes[code], resource)

    def between(self, axis: Axis, resource: str) -> Shared:
        """The minutes that an axis and a resource have in common."""
        own = self._own[resource]
        key = (id(axis), id(own))
        found = self._shared.get(key)
        if found is None:
            found = self._shared[key] = Shared(axis, own, self.since)
        return found


@dataclass(frozen=True)
class Over:
    """A time on end in which the same activities ask for more of a resource than there is; units, instants."""

    resource: str
    start: Instant
    end: Instant
    required: Decimal
    available: Decimal
    activities: tuple[str, ...]

    @property
    def unit_minutes(self) -> Decimal:
        """What is asked beyond what there is."""
        return (self.required - self.available) * (self.end - self.start)


@dataclass(frozen=True)
class OverSum:
    """All of a resource's over-allocation: unit-minutes, the first and the last of it, the most units asked at once, who asks."""

    resource: str
    unit_minutes: Decimal
    start: Instant
    end: Instant
    spans: int
    required: Decimal
    available: Decimal
    activities: tuple[str, ...]


def over_by_resource(spans: Iterable[Over]) -> list[OverSum]:
    """Over-allocation summed by resource, in the order in which they come.

    >>> one = Over("FIT", 480, 600, Decimal(2), Decimal(1), ("A", "B"))
    >>> [x] = over_by_resource([one, Over("FIT", 1920, 1980, Decimal(3), Decimal(1), ("B", "C"))])
    >>> x.unit_minutes, x.start, x.end, x.required, x.activities
    (Decimal('240'), 480, 1980, Decimal('3'), ('A', 'B', 'C'))
    """
    by: dict[str, list[Over]] = {}
    for s in spans:
        by.setdefault(s.resource, []).append(s)
    return [
        OverSum(
            resource,
            over_minutes(found),
            found[0].start,
            found[-1].end,
            len(found),
            max(s.required for s in found),
            found[0].available,
            tuple(dict.fromkeys(c for s in found for c in s.activities)),
        )
        for resource, found in by.items()
    ]


def over_minutes(spans: Iterable[Over]) -> Decimal:
    """Unit-minutes asked beyond what there is, over all resources."""
    return sum((x.unit_minutes for x in spans), Decimal(0))


def over_allocated(book: Book, plan: Schedule, to_go: ToGo) -> list[Over]:
    """Where unfinished work asks for more than there is, by resource in the book's order, then by time.

    >>> from dataclasses import replace
    >>> from dryledger.book.plan import Activity, Assignment, Book, Project, Resource
    >>> from dryledger.calendar.calendar import Calendar
    >>> from dryledger.compute import compute
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 7)
    >>> rows = tuple(Activity(c, c, calendar="five", duration=d) for c, d in (("A", 480), ("B", 240)))
    >>> asked = tuple(Assignment(c, "FIT") for c in "AB")
    >>> book = Book(Project("P", "Pier", "EUR", 480, "five"), (five,), (Resource("FIT", "Fitter", calendar="five"),))
    >>> book = replace(book, activities=rows, assignments=asked)
    >>> [(x.resource, x.end - x.start, x.activities) for x in over_allocated(book, compute(book).schedule, {})]
    [('FIT', 240, ('A', 'B'))]
    """
    bookings, by_resource = booked(book, plan, to_go)
    out: list[Over] = []
    for r in book.resources:
        rows = by_resource.get(r.code)
        if rows:
            own = book.calendar_by_code[r.calendar].axis
            for x, y, codes, there in _above(rows, bookings.available[r.code], bookings.other.get(r.code, [])):
                required = sum((u.units for c in codes for u in book.assignments_of[c] if u.resource == r.code), Decimal(0))
                available = r.units if there is None else Decimal(there) / bookings.scale
                for a_, b_ in open_times(own, own.last(x), own.first(y)):
                    last = out[-1] if out else None
                    if last is not None and (last.resource, last.end, last.activities, last.available) == (r.code, a_, codes, available):
                        out[-1] = Over(r.code, last.start, b_, required, available, codes)
                    else:
                        out.append(Over(r.code, a_, b_, required, available, codes))
    return out


Booked = tuple[int, int, str, int]
"""A range of a resource's own minutes that an activity books, and how many parts of it."""


def booked(book: Book, plan: Schedule, to_go: ToGo) -> tuple[Bookings, dict[str, list[Booked]]]:
    """What unfinished work books, by resource, in the book's order."""
    spans = plan.spans
    bookings = Bookings(book, min((resume for _, resume, _ in spans.values()), default=book.project.start), to_go)
    by_resource: dict[str, list[Booked]] = {}
    for a in book.activities:
        if plan.activities[a.code].state != "complete":
            _, resume, finish = spans[a.code]
            for resource, units in bookings.asked(a.code):
                ranges = bookings.shared(a.code, resource).ranges(resume, finish)
                by_resource.setdefault(resource, []).extend((x, y, a.code, units) for x, y in ranges)
    return bookings, by_resource


def _above(rows: list[Booked], available: int, other: list[tuple[int, int, int]]) -> Iterator[tuple[int, int, tuple[str, ...], int | None]]:
    """The minutes in which more is booked than there is: who books them, in the book's order, and what is there (None: as usual)."""
    if sum(units for _, _, _, units in rows) <= min(available, *(units for _, _, units in other), available):
        return
    place = {code: i for i, code in enumerate(dict.fromkeys(code for _, _, code, _ in rows))}
    turns = sorted({t for x, y, _, _ in rows for t in (x, y)} | {t for x, y, _ in other for t in (x, y)})
    change: dict[int, int] = dict.fromkeys(turns, 0)
    comes: dict[int, list[str]] = {}
    goes: dict[int, list[str]] = {}
    for x, y, code, units in rows:
        change[x] += units
        change[y] -= units
        comes.setdefault(x, []).append(code)
        goes.setdefault(y, []).append(code)
    begins, ends = {x: units for x, _, units in other}, {y for _, y, _ in other}
    load, there, now = 0, set[str](), None
    for x, y in itertools.pairwise(turns):
        load += change[x]
        there.difference_update(goes.get(x, ()))
        there.update(comes.get(x, ()))
        now = begins.get(x, None if x in ends else now)
        if load > (available if now is None else now):
            yield x, y, tuple(sorted(there, key=place.__getitem__)), now
