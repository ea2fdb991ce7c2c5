"""Levelling: every activity placed as early as its links and the resources allow, one after the other.

Source: serial schedule generation as set down in the calculation contract, section 17. Priority goes to the least late
start, then the least float, then the code; no resource is booked above its units. A booking lasts from start to
finish on the clock. Progress plays no part: it is the plan that is levelled.
"""

from dataclasses import dataclass
from decimal import Decimal
from heapq import heapify, heappop, heappush

from dryledger.book.plan import Activity, Assignment, Book
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import as_of, progress
from dryledger.schedule.schedule import Schedule, schedule, shift

__all__ = ["Levelled", "Placed", "level"]


@dataclass(frozen=True)
class Placed:
    """Where levelling put an activity; `length` is D in working minutes."""

    code: str
    start: Instant
    finish: Instant
    length: int


@dataclass(frozen=True)
class Levelled:
    """Every activity where levelling put it, and the assignments that ask for more units than there are at all."""

    rows: dict[str, Placed]
    too_many: list[Assignment]


@dataclass(frozen=True)
class _Booking:
    start: Instant
    finish: Instant
    units: Decimal


def level(book: Book) -> Levelled:
    """Place every activity. An assignment of more units than its resource has is booked without a limit, and told."""
    bare = as_of(book.with_periods(()))
    return _Levelling(book, schedule(bare, progress(bare), "retained")).run()


class _Levelling:
    def __init__(self, book: Book, plan: Schedule) -> None:
        self.book, self.plan = book, plan
        self.rows: dict[str, Placed] = {}
        self.booked: dict[str, list[_Booking]] = {}
        self.too_many: list[Assignment] = []
        self.into = book.links_into

    def run(self) -> Levelled:
        waits = {code: len(self.into.get(code, ())) for code in self.plan.activities}
        after: dict[str, list[str]] = {}
        for link in self.book.links:
            after.setdefault(link.source, []).append(link.target)
        ready = [self._priority(code) for code, n in waits.items() if not n]
        heapify(ready)
        while ready:
            code = heappop(ready)[-1]
            self._place(self.book.activity_by_code[code])
            for target in after.get(code, ()):
                waits[target] -= 1
                if not waits[target]:
                    heappush(ready, self._priority(target))
        return Levelled({c: self.rows[c] for c in self.plan.activities}, self.too_many)

    def _priority(self, code: str) -> tuple[Instant, int, str]:
        row = self.plan.activities[code]
        return row.late_start or 0, row.total_float or 0, code

    def _place(self, a: Activity) -> None:
        row, axis = self.plan.activities[a.code], self.book.axes[a.code]
        d = row.remaining
        wanted = [x for x in self.book.assignments_of.get(a.code, ()) if self._limited(x)]
        if a.mode == "fixed":
            self._keep(Placed(a.code, row.start, row.finish, d), wanted)
            return
        p, earliest, least = self._needed(a, d)
        if not d:
            t = max(axis.first(p), earliest) if a.code in self.into else axis.last(p)
            self._keep(Placed(a.code, t, t, 0), wanted)
            return
        # The work may begin where its links let it, or where some booking that is in its way ends.
        ends = {axis.pos(b.finish) for x in wanted for b in self.booked.get(x.resource, ())}
        for q in [p, *sorted(e for e in ends if e > p)]:
            start, finish = axis.last(q), max(axis.first(q + d), least)
            if all(self._free(x, start, finish) for x in wanted):
                self._keep(Placed(a.code, start, finish, d), wanted)
                return
        raise AssertionError("behind the last booking there is always room")

    def _limited(self, x: Assignment) -> bool:
        """Whether an assignment is held to the units of its resource."""
        resource = self.book.resource_by_code[x.resource]
        if resource.kind == "material":
            return False
        if x.units > resource.units:
            self.too_many.append(x)
            return False
        return True

    def _needed(self, a: Activity, d: int) -> tuple[int, Instant, Instant]:
        """The least position that links and dates allow, the latest instant asked for, and the latest for the finish."""
        axis = self.book.axes[a.code]
        p, latest, finish = axis.pos(self.book.project.start), self.book.project.start, 0
        asked = []
        for link in self.into.get(a.code, ()):
            before = self.rows[link.source]
            asked.append((shift(self.book.axis, before.finish if link.type[0] == "F" else before.start, link), link.type[1] == "F"))
        c = a.constraint
        if c is not None and c.at is not None and c.type in ("start_on_or_after", "must_start_on", "finish_on_or_after", "must_finish_on"):
            asked.append((c.at, "finish" in c.type))
        for t, on_finish in asked:
            p = max(p, axis.pos(t) - (d if on_finish else 0))
            latest = max(latest, t)
            finish = max(finish, t) if on_finish else finish
        return p, latest, finish

    def _free(self, x: Assignment, start: Instant, finish: Instant) -> bool:
        """Whether the resource has the units all the time from start to finish."""
        there = [b for b in self.booked.get(x.resource, ()) if b.start < finish and b.finish > start]
        limit = self.book.resource_by_code[x.resource].units - x.units
        moments = [start, *(b.start for b in there if b.start > start)]
        return all(sum((b.units for b in there if b.start <= t < b.finish), Decimal(0)) <= limit for t in moments)

    def _keep(self, row: Placed, wanted: list[Assignment]) -> None:
        self.rows[row.code] = row
        for x in wanted:
            if row.finish > row.start:
                self.booked.setdefault(x.resource, []).append(_Booking(row.start, row.finish, x.units))
