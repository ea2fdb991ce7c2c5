"""What is free of a resource: in the time of an activity, beside what other work books of it; and where something fits.

Source: calculation contract, section 19, the booking that all over-allocation is reckoned from.
"""

import itertools
from collections.abc import Container, Iterable, Iterator, Sequence
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.budget.booking import Booked, Range, ToGo, booked
from dryledger.calendar.axis import Axis, Instant
from dryledger.calendar.calendar import END_OF_TIME
from dryledger.schedule.schedule import Schedule

__all__ = ["Free"]


class Free:
    """What is free of every resource of a plan; lengths in unit-minutes of the resource."""

    def __init__(self, book: Book, plan: Schedule, to_go: ToGo) -> None:
        self.book, self.plan = book, plan
        self.bookings, self.rows = booked(book, plan, to_go)

    def _spans(self, resource: str, code: str) -> list[Range]:
        """The minutes of a resource in which an activity, as it stands, would book it."""
        _, resume, finish = self.plan.spans[code]
        return self.bookings.shared(code, resource).ranges(resume, finish)

    def minutes(self, resource: str, code: str) -> Decimal:
        """What is free of a resource in the time of an activity, what the activity itself books of it aside."""
        left = sum(max(there - taken, 0) * (y - x) for x, y, there, taken in self._pieces(resource, {code}, self._spans(resource, code)))
        return Decimal(left) / self.bookings.scale

    def fits(self, resource: str, code: str, units: Decimal) -> bool:
        """Whether so many units are free all through the time of an activity, and the resource works in some of it."""
        spans = self._spans(resource, code)
        wanted = self.bookings.parts(units)
        return bool(spans) and all(taken + wanted <= there for _, _, there, taken in self._pieces(resource, {code}, spans))

    def in_all(self, resource: str, codes: Iterable[str]) -> Decimal:
        """What is free of a resource in the time of some activities, the same minute once; what these book of it aside."""
        wanted = set(codes)
        spans = _joined(span for code in wanted for span in self._spans(resource, code))
        left = sum(max(there - taken, 0) * (y - x) for x, y, there, taken in self._pieces(resource, wanted, spans))
        return Decimal(left) / self.bookings.scale

    def booking(self, resource: str, codes: Iterable[str], units: Decimal) -> Decimal:
        """What so many units on each of some activities would book."""
        return units * sum(y - x for code in codes for x, y in self._spans(resource, code))

    def too_much(self, resource: str, codes: Iterable[str], units: Decimal) -> Decimal:
        """By how many unit-minutes more than now a resource would be over-allocated with so many units on each of some activities."""
        wanted, parts = list(dict.fromkeys(codes)), self.bookings.parts(units)
        new = [(x, y, code, parts) for code in wanted for x, y in self._spans(resource, code)]
        spans = _joined((x, y) for x, y, _, _ in new)
        then = self._pieces(resource, set(wanted), spans, new)
        now = self._pieces(resource, set(), spans)
        more, had = (sum(max(taken - there, 0) * (y - x) for x, y, there, taken in pieces) for pieces in (then, now))
        return Decimal(more - had) / self.bookings.scale

    def place(self, resource: str, code: str, units: Decimal, latest: Instant) -> Instant | None:
        """The first start later than the present one, no later than `latest`, at which so many units are free all through the work."""
        row, axis = self.plan.activities[code], self.book.axes[code]
        shared, own = self.bookings.shared(code, resource), self.book.calendar_by_code[self.book.resource_by_code[resource].calendar].axis
        wanted, length = self.bookings.parts(units), axis.between(row.start, row.finish)
        for t in self._edges(resource, code, own, axis, row.start):
            start, finish = axis.last(axis.pos(t)), axis.first(axis.pos(t) + length)
            if start > latest or finish >= END_OF_TIME:
                return None
            spans = shared.ranges(start, finish)
            if spans and all(taken + wanted <= there for _, _, there, taken in self._pieces(resource, {code}, spans)):
                return start
        return None

    def _edges(self, resource: str, code: str, own: Axis, axis: Axis, after: Instant) -> list[Instant]:
        """The instants at which less may be booked, or more may be there, than before."""
        ends = {own.first(y) for _, y, who, _ in self.rows.get(resource, ()) if who != code}
        ends |= {own.last(y) for _, y, _ in self.bookings.other.get(resource, ())}
        return sorted(t for t in ends if axis.pos(t) > axis.pos(after))

    def _pieces(
        self, resource: str, but: Container[str], spans: Iterable[Range], more: Sequence[Booked] = ()
    ) -> Iterator[tuple[int, int, int, int]]:
        """Minutes cut where anything changes: from, to, what is there, and what is booked, in whole parts of a unit; what some activities
        book now is left out (`but`), and something else counted with it (`more`)."""
        usual, rows = self.bookings.available.get(resource, 0), [x for x in self.rows.get(resource, ()) if x[2] not in but] + list(more)
        for low, high in spans:
            for a, b, there in self.bookings.pieces(resource, low, high):
                here = [x for x in rows if x[0] < b and x[1] > a]
                cuts = sorted({a, b, *(max(x[0], a) for x in here), *(min(x[1], b) for x in here)})
                for x, y in itertools.pairwise(cuts):
                    yield x, y, usual if there is None else there, _taken(here, x, y)


def _joined(spans: Iterable[Range]) -> list[Range]:
    out: list[Range] = []
    for x, y in sorted(spans):
        if out and x <= out[-1][1]:
            out[-1] = (out[-1][0], max(out[-1][1], y))
        else:
            out.append((x, y))
    return out


def _taken(rows: list[Booked], x: int, y: int) -> int:
    return sum(units for a, b, _, units in rows if a <= x and b >= y)
