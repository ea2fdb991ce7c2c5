"""What keeps a baseline: it can be taken away only while nothing refers to it and no page was closed with it."""

from collections.abc import Iterable

from dryledger.book.plan import Book

__all__ = ["referring"]


def referring(book: Book, code: str, sealed: Iterable[str] = ()) -> list[tuple[str, str]]:
    """What refers to a baseline, as kind and code: "measured", "shown", "page", "sealed", "change", "baseline".

    `sealed` are the pages that were closed while it was there.

    >>> from dryledger.book.plan import Project
    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five", (((480, 720),),) * 7)
    >>> book = Book(Project("P", "Pier", "EUR", 0, "five", measured_against="B0"), (five,))
    >>> referring(book, "B0", ["P01"]), referring(book, "B1")
    ([('measured', 'P'), ('sealed', 'P01')], [])
    """
    project = book.project
    out = [("measured", project.code)] if project.measured_against == code else []
    out += [("shown", project.code)] if code in project.compared_with else []
    out += [("page", p.code) for p in book.periods if p.measured_against == code]
    out += [("sealed", page) for page in sealed]
    out += [("change", c.code) for c in book.changes if c.baseline == code]
    return out + [("baseline", b.code) for b in book.baselines if b.before == code]
