"""Over-allocated times as people tell them: those that follow each other with the same activities are one stretch.

Source: calculation contract, section 19 (booking). Nights and days off between them do not part them.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.budget.booking import Over
from dryledger.calendar.axis import Instant

__all__ = ["Stretch", "stretches"]


@dataclass
class Stretch:
    """A time in which the same activities ask for more of a resource than there is: the most units asked at once and the least there,
    the unit-minutes beyond what there is, and those that each activity books in it.
    """

    resource: str
    start: Instant
    end: Instant
    required: Decimal
    available: Decimal
    activities: tuple[str, ...]
    unit_minutes: Decimal = Decimal(0)
    booked: dict[str, Decimal] = field(default_factory=dict)


def stretches(book: Book, spans: Iterable[Over]) -> list[Stretch]:
    """Over-allocated times put together, in the order in which they come.

    >>> from dryledger.book.plan import Assignment, Project
    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 7)
    >>> both = ("A", "B")
    >>> book = Book(Project("P", "Pier", "EUR", 480, "five"), (five,), assignments=tuple(Assignment(c, "FIT") for c in both))
    >>> days = [Over("FIT", d * 1440 + 480, d * 1440 + 540, Decimal(2), Decimal(1), both) for d in (0, 1)]
    >>> [x] = stretches(book, days)
    >>> x.start, x.end, int(x.unit_minutes), {c: int(m) for c, m in x.booked.items()}
    (480, 1980, 120, {'A': 120, 'B': 120})
    """
    out: list[Stretch] = []
    for x in spans:
        last = out[-1] if out else None
        if last is None or (last.resource, last.activities) != (x.resource, x.activities):
            last = Stretch(x.resource, x.start, x.end, x.required, x.available, x.activities)
            out.append(last)
        last.end, last.required, last.available = x.end, max(last.required, x.required), min(last.available, x.available)
        last.unit_minutes += x.unit_minutes
        for code in x.activities:
            units = sum((a.units for a in book.assignments_of[code] if a.resource == x.resource), Decimal(0))
            last.booked[code] = last.booked.get(code, Decimal(0)) + units * (x.end - x.start)
    return out
