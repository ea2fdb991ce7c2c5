"""The own fields that reports show beside an activity, and how they say a value."""

from datetime import date
from decimal import Decimal

from dryledger.book.plan import Book, Entry

__all__ = ["report_fields", "said_value"]


def report_fields(book: Book) -> list[Entry]:
    """The fields that reports show beside an activity, in their order."""
    return [d for d in book.fields if d.get("in_reports") == "yes"]


def said_value(value: object, kind: str = "text") -> str:
    """A value of a field of some kind as a report says it.

    >>> said_value(Decimal("12.50")), said_value(True), said_value(None), said_value("2027-01-28", "date")
    ('12.5', 'yes', '', '28 January 2027')
    """
    if value is None:
        return ""
    if kind == "date":
        day = date.fromisoformat(str(value))
        return f"{day.day} {day:%B} {day.year}"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value.normalize():f}" if isinstance(value, Decimal) else str(value)
