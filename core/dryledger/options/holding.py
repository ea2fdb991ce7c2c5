"""A plan driven again that is to have the dates of another: what its links let begin earlier is held, what they make later is pinned.

Source: calculation contract, sections 3 (constraints on the start, pinned activities) and 7 (a baseline's dates).
"""

from collections.abc import Callable, Mapping
from dataclasses import replace

from dryledger.book.memo import changed
from dryledger.book.plan import Activity, Book, Constraint
from dryledger.calendar.axis import Instant
from dryledger.compute import compute

__all__ = ["with_dates"]

Span = tuple[Instant, Instant]
ROUNDS = 40
"""How often it is looked at anew what of it is right by its links."""


def with_dates(book: Book, dates: Mapping[str, Span]) -> Book:
    """The plan without progress with these starts and finishes, by code; driven by its links wherever these give them.

    >>> from dryledger.book.plan import Link, Project
    >>> from dryledger.calendar.calendar import Calendar
    >>> day = Calendar("day", "Every day", (((480, 960),),) * 7)
    >>> rows = tuple(Activity(c, c, calendar="day", duration=480) for c in "AB")
    >>> book = Book(Project("P", "Pier", "EUR", 480, "day"), (day,), activities=rows, links=(Link("A", "B"),))
    >>> made = with_dates(book, {"A": (1920, 2400), "B": (3360, 3840)})
    >>> [(a.mode, a.constraint and a.constraint.type) for a in made.activities]
    [('driven', 'start_on_or_after'), ('driven', None)]
    """

    def hold(a: Activity, at: Span) -> Activity:
        return a if a.constraint is not None else replace(a, constraint=Constraint("start_on_or_after", at[0]))

    def pin(a: Activity, at: Span) -> Activity:
        return replace(a, mode="fixed", start=at[0], finish=at[1])

    return _put(_put(book, dates, hold), dates, pin)


def _put(book: Book, dates: Mapping[str, Span], say: Callable[[Activity, Span], Activity]) -> Book:
    """The plan with something more of each activity that starts or finishes otherwise than it should.

    What comes after one of these waits for the next round: it may be right then. After many rounds all that are left are mended at once.
    """
    before: dict[str, list[str]] = {}
    for k in book.links:
        before.setdefault(k.target, []).append(k.source)
    for rounds in range(ROUNDS + 1):
        rows = compute(book).schedule.activities
        wrong = {c for c, at in dates.items() if c in rows and (rows[c].start, rows[c].finish) != at}
        first = wrong if rounds == ROUNDS else {c for c in wrong if wrong.isdisjoint(before.get(c, ()))}
        told = tuple(say(a, dates[a.code]) if a.code in first else a for a in book.activities)
        if told == book.activities:
            return book
        book = changed(book, activities=told)
    return book
