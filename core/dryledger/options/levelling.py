"""Levelling: unfinished work placed one after the other so that nobody is booked above what there is.

Source: serial schedule generation as set down in the calculation contract, section 19. Work that has started and waits for
nothing that may move, and pinned work, stay and book first; then those whose predecessors all have their place, by least late
start, least total float, code.
"""

from dataclasses import dataclass, replace
from heapq import heapify, heappop, heappush

from dryledger.book.memo import changed
from dryledger.book.plan import Book
from dryledger.budget.booking import Bookings, Over, Profile, ToGo, over_allocated
from dryledger.calendar.axis import Axis, Instant
from dryledger.calendar.calendar import END_OF_TIME
from dryledger.compute import Results
from dryledger.network import passes
from dryledger.network.passes import NONE
from dryledger.schedule.schedule import TREATMENTS, Schedule, schedule, uncompiled_arrays
from dryledger.schedule.ties import Ties

__all__ = ["MODES", "Levelled", "level", "with_levelled_dates"]

MODES = ("within_float", "beyond_float")


@dataclass(frozen=True)
class Levelled:
    """What levelling does to the plan of a page.

    `dates` are the dates that it gives, by code; `waits_for` the resources that hold an activity back, `held_by` who holds
    them in the working minute just before it begins and has finished by then (activity, resource), and `led_by` the predecessors that
    set the earliest position of what waits for a resource that nobody books. `plan` is computed with the dates; `over` what stays
    over-allocated.
    """

    mode: str
    book: Book
    present: Schedule
    plan: Schedule
    dates: dict[str, Instant]
    waits_for: dict[str, tuple[str, ...]]
    held_by: dict[str, tuple[tuple[str, str], ...]]
    led_by: dict[str, tuple[str, ...]]
    to_go: ToGo

    @property
    def over(self) -> list[Over]:
        """What stays over-allocated."""
        return over_allocated(self.book, self.plan, self.to_go)

    @property
    def moved(self) -> list[str]:
        """Unfinished activities whose dates differ from the present plan's, or that have a levelled date, in the book's order."""
        was, now = self.present.spans, self.plan.spans
        rows = self.plan.activities
        return [c for c in rows if rows[c].state != "complete" and (was[c] != now[c] or c in self.dates)]

    @property
    def finish_later(self) -> int:
        """Working minutes of the project calendar by which the whole ends later."""
        return self.book.axis.between(self.present.finish, self.plan.finish)

    def later(self, code: str) -> int:
        """Working minutes of the project calendar by which an activity ends later."""
        return self.book.axis.between(self.present.activities[code].finish, self.plan.activities[code].finish)


def with_levelled_dates(book: Book, dates: dict[str, Instant]) -> Book:
    """The book with these levelled dates and no others."""
    rows = tuple(a if a.levelled == dates.get(a.code) else replace(a, levelled=dates.get(a.code)) for a in book.activities)
    return changed(book, activities=rows)


def level(r: Results, mode: str = "beyond_float", ties: Ties | None = None, only: str | None = None) -> Levelled:
    """Level the plan of a page, within float or beyond it. Earlier levelled dates are dropped first; ties in force bind, or those given.

    `only` one resource: nothing else is looked at, and work that does not ask for it keeps the levelled dates that it has.
    """
    on = (
        None
        if only is None
        else {a.code for a in r.book.activities if any(x.resource == only for x in r.book.assignments_of.get(a.code, ()))}
    )
    kept = {} if on is None else {a.code: a.levelled for a in r.book.activities if a.levelled is not None and a.code not in on}
    bare = with_levelled_dates(r.book, kept)
    run = _Levelling(r, bare, mode == "within_float", ties, only)
    run.run()
    dates = kept | {code: run.dates[code] for code in run.codes if code in run.dates}
    book = with_levelled_dates(r.book, dates)
    plan = schedule(replace(r.at, book=book), r.progress, r.treatment, ties=ties)
    return Levelled(mode, book, r.schedule, plan, dates, run.waits_for, run.held_by, run.led_by, r.at.to_go)


class _Levelling:
    """One run: rows of activities by index, filled in as each gets its place."""

    def __init__(self, r: Results, bare: Book, within: bool, ties: Ties | None, only: str | None) -> None:
        self.book, self.within, self.only = bare, within, only
        free = changed(bare, project=replace(bare.project, imposed_finish=None))
        self.base = schedule(replace(r.at, book=free), r.progress, r.treatment, ties=ties)
        self.axes, self.net, self.work, self.rows = uncompiled_arrays(replace(r.at, book=bare), r.progress, ties)
        self.treatment = TREATMENTS[r.treatment]
        self.start, self.status = bare.project.start, NONE if r.status is None else r.status
        passes.forward(self.axes, self.net, self.work, self.rows, self.start, self.status, self.treatment)
        self.codes = bare.network_index.codes
        self._index = {code: i for i, code in enumerate(self.codes)}
        since = min([*(x for x, w in zip(self.rows.early_start, self.work.state, strict=False) if w != passes.COMPLETE), self.start])
        self.bookings = Bookings(bare, since, r.at.to_go)
        self.profiles: dict[str, Profile] = {}
        self.booked: dict[str, list[tuple[int, int, int]]] = {}
        self.dates: dict[str, Instant] = {}
        self.waits_for: dict[str, tuple[str, ...]] = {}
        self.held_by: dict[str, tuple[tuple[str, str], ...]] = {}
        self.led_by: dict[str, tuple[str, ...]] = {}

    def run(self) -> None:
        """Find the levelled dates, what each waits for, and who holds it."""
        net, n = self.net, len(self.codes)
        moving = self._moving()
        for i in range(n):
            if not moving[i] and self.work.state[i] != passes.COMPLETE:
                self._book(i)
        waits = [0] * n
        for i in range(n):
            if moving[i]:
                waits[i] = sum(moving[net.source[net.in_links[at]]] for at in range(net.in_first[i], net.in_first[i + 1]))
        ready = [self._priority(i) for i in range(n) if moving[i] and not waits[i]]
        heapify(ready)
        while ready:
            i = heappop(ready)[-1]
            self._place(i)
            for at in range(net.out_first[i], net.out_first[i + 1]):
                j = net.target[net.out_links[at]]
                waits[j] -= 1
                if moving[j] and not waits[j]:
                    heappush(ready, self._priority(j))

    def _moving(self) -> list[bool]:
        """Of each activity whether it gets its place here: unstarted work that is not pinned, and started work that waits for such."""
        net, work = self.net, self.work
        moving = [False] * len(self.rows.start)  # activities of other projects, which come last, never move
        for i in net.order:
            if work.state[i] == passes.NEW:
                moving[i] = work.pinned_start[i] == NONE
            elif work.state[i] == passes.STARTED and work.length[i] and self.treatment != passes.OVERRIDE:
                moving[i] = any(moving[net.source[net.in_links[at]]] for at in range(net.in_first[i], net.in_first[i + 1]))
        return moving

    def _priority(self, i: int) -> tuple[Instant, int, str, int]:
        row = self.base.activities[self.codes[i]]
        return row.late_start or 0, row.total_float or 0, row.code, i

    def _put(self, i: int) -> None:
        passes.place(self.axes, self.net, self.work, self.rows, i, self.start, self.status, self.treatment)

    def _asked(self, code: str) -> list[tuple[str, int]]:
        return [x for x in self.bookings.asked(code) if self.only is None or x[0] == self.only]

    def _place(self, i: int) -> None:
        """Give an activity the earliest place at which what it asks for is there."""
        code, d, axis = self.codes[i], self.work.length[i], self.book.axes[self.codes[i]]
        self._put(i)
        asked = self._asked(code) if d else []
        if not asked:
            return
        late = self.work.constraint[i] == passes.AS_LATE and self.work.state[i] == passes.NEW
        earliest = p = axis.pos(self.rows.early_start[i])
        led = tuple(self.codes[self.net.source[k]] for k in self._links_into(i) if self.rows.drives[k])
        if late:
            p = max(p, axis.pos(self.base.activities[code].start))
        q = self._room(axis, asked, p, d, self._most(code, axis, p))
        if q > p or late:
            self.dates[code] = self.work.levelled[i] = axis.last(q)
            self._put(i)
        if q > p:
            self._held(code, axis, asked, p, q)
            if code not in self.held_by:
                self.held_by[code], self.led_by[code] = (), led if p == earliest else ()
        self._book(i)

    def _links_into(self, i: int) -> list[int]:
        """The links from activities of the book into one."""
        found = self.net.in_links[self.net.in_first[i] : self.net.in_first[i + 1]]
        return [k for k in found if self.net.source[k] < len(self.codes)]

    def _most(self, code: str, axis: Axis, p: int) -> int | None:
        """The last position within float, None beyond it."""
        if not self.within:
            return None
        late = self.base.activities[code].late_start
        return p if late is None else max(p, axis.pos(late))

    def _room(self, axis: Axis, asked: list[tuple[str, int]], p: int, d: int, most: int | None) -> int:
        """The earliest position from p on at which all that is asked for is there; p where there is none up to `most`."""
        q = p
        while True:
            start, finish = axis.last(q), axis.first(q + d)
            if finish >= END_OF_TIME:
                return p
            after = q
            for resource, units in asked:
                found = self._in_the_way(axis, resource, units, start, finish, d)
                if found is not None:
                    after = max(after, found)
            if after == q:
                return q
            q = after
            if most is not None and q > most:
                return p

    def _limit(self, resource: str, units: int, other: int | None) -> int:
        """How much may be booked of a resource where so many units are to be there; more than there is counts as all of it.

        `other` is what is there where that is another than usual. An ask above what is left then is measured against the usual units:
        what is missing by that alone delays nothing.
        """
        there = self.bookings.available[resource]
        if other is None:
            return there - min(units, there)
        wanted = min(units, max(there, other))
        return there - wanted if wanted > other else other - wanted

    def _in_the_way(self, axis: Axis, resource: str, units: int, start: Instant, finish: Instant, d: int) -> int | None:
        """The first position that may be free of what is in the way of work from start to finish; None where nothing is."""
        profile = self.profiles.get(resource)
        other = resource in self.bookings.other
        if profile is None and not other:
            return None
        shared, after = self.bookings.between(axis, resource), None
        for low, high in reversed(shared.ranges(start, finish)) if profile is not None else ():
            for x, y, there in reversed(self.bookings.pieces(resource, low, high)):
                found = profile.last_above(x, y, self._limit(resource, units, there)) if profile is not None else None
                if found is not None:
                    end, ends = found
                    # Work longer than any time in which the resource is off can't begin before all of this run has ended.
                    whole = shared.last_before(ends)  # the gaps are known that far then
                    after = axis.pos(shared.own.last(whole if shared.gap < d and not other else end - 1)) + 1
                    break
            if after is not None:
                break
        if other and (after is None or after <= axis.pos(start)) and self._none_left(shared.own, resource, start):
            return axis.pos(start) + 1
        return after

    def _none_left(self, own: Axis, resource: str, t: Instant) -> bool:
        """Whether a resource with other units than usual has none left in a minute in which it works."""
        if not own.between(t, t + 1):
            return False
        x = own.pos(t)
        ((_, _, there),) = self.bookings.pieces(resource, x, x + 1)
        return there is not None and there <= self._booked_at(resource, x)

    def _booked_at(self, resource: str, x: int) -> int:
        profile = self.profiles.get(resource)
        return 0 if profile is None else profile.there(x)

    def _held(self, code: str, axis: Axis, asked: list[tuple[str, int]], p: int, q: int) -> None:
        """Note what is short in the last working minute before a place in which anybody books it, no further back than the earliest
        position, and who books it then and has finished by the place."""
        start = axis.last(q)
        for k in range(q - 1, p - 1, -1):
            minute = axis.last(k)
            short = [resource for resource, units in asked if self._short(axis, resource, units, minute)]
            if k == q - 1:
                self.waits_for[code] = tuple(short)
            by = [(self.codes[j], resource) for resource in short for j in self._bookers(axis, resource, minute)]
            if by:
                self.waits_for[code] = tuple(short)
                self.held_by[code] = tuple((c, x) for c, x in by if self.rows.finish[self._index[c]] <= start)
                return

    def _short(self, axis: Axis, resource: str, units: int, minute: Instant) -> bool:
        own = self.bookings.between(axis, resource).own
        if not own.between(minute, minute + 1):
            return False
        x = own.pos(minute)
        ((_, _, there),) = self.bookings.pieces(resource, x, x + 1)
        return self._booked_at(resource, x) > self._limit(resource, units, there) or self._none_left(own, resource, minute)

    def _bookers(self, axis: Axis, resource: str, minute: Instant) -> list[int]:
        x = self.bookings.between(axis, resource).own.pos(minute)
        return sorted({j for a, b, j in self.booked.get(resource, ()) if a <= x < b})

    def _book(self, i: int) -> None:
        code = self.codes[i]
        start, finish = self.rows.early_start[i], self.rows.finish[i]
        for resource, units in self._asked(code):
            profile, booked = self.profiles.setdefault(resource, Profile()), self.booked.setdefault(resource, [])
            for x, y in self.bookings.shared(code, resource).ranges(start, finish):
                profile.add(x, y, units)
                booked.append((x, y, i))
