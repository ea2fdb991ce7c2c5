"""Who answers for what: the activity's own, else that of the nearest element above it, else the project's.

Source: calculation contract, section 24: who is asked for progress.
"""

from dryledger.book.memory import Slot
from dryledger.book.plan import Book

__all__ = ["all_responsible", "responsible_for", "responsible_in"]


def responsible_for(book: Book, code: str) -> str:
    """The name of who is responsible for an activity; empty where nobody is."""
    return all_responsible(book).get(code, "")


def responsible_in(book: Book, element: str | None) -> str:
    """The name of who is responsible for an element; without one, for the project."""
    elements, known = book.memo.once(ELEMENTS, lambda: _elements(book)), book.project.responsible
    return known if element is None else elements.get(element, known)


def all_responsible(book: Book) -> dict[str, str]:
    """The name of who is responsible for each activity, by its code; those for whom somebody is."""
    return book.memo.once(ANSWERS, lambda: _activities(book))


def _elements(book: Book) -> dict[str, str]:
    own = {w.code: w.responsible for w in book.wbs if w.responsible}
    return {w.code: found for w in book.wbs if (found := next((own[up] for up in book.wbs_above[w.code] if up in own), None))}


def _activities(book: Book) -> dict[str, str]:
    out = {a.code: a.responsible or responsible_in(book, a.wbs) for a in book.activities}
    return {code: name for code, name in out.items() if name}


ELEMENTS: Slot[dict[str, str]] = Slot("who is responsible for elements", ("project", "wbs"))
ANSWERS: Slot[dict[str, str]] = Slot("who is responsible for activities", ("project", "wbs", "activities"))
