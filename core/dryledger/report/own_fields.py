"""The own fields that reports show beside an activity, and how they say a value."""

from datetime import date
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.book.registers import FieldDefinition, fields_of
from dryledger.entry.grammar import format_date
from dryledger.formats import format_number

__all__ = ["field_words", "format_value", "project_fields", "report_fields"]


def report_fields(book: Book) -> list[FieldDefinition]:
    """The fields that reports show beside an activity, in their order."""
    return [d for d in fields_of(book.fields, "activity") if d.in_reports == "yes"]


def project_fields(book: Book) -> list[tuple[str, str]]:
    """What reports say of the project itself in its own fields: the name of each and its value in words."""
    shown = {d.name for d in fields_of(book.fields, "project") if d.in_reports == "yes"}
    return [(name, value) for name, value in field_words(book) if name in shown]


def field_words(book: Book) -> list[tuple[str, str]]:
    """The name of each of the project's own fields of the project itself and its value in words, those without one left out."""
    in_words = [(d.name, format_value(book.project.fields.get(d.code), d.holds)) for d in fields_of(book.fields, "project")]
    return [(name, value) for name, value in in_words if value]


def format_value(value: object, kind: str = "text") -> str:
    """A value of a field of some kind as a report says it.

    >>> format_value(Decimal("12.50")), format_value(True), format_value(None), format_value("2027-01-28", "date")
    ('12.5', 'yes', '', '28 January 2027')
    """
    if value is None:
        return ""
    if kind == "date":
        return format_date(date.fromisoformat(str(value)))
    if isinstance(value, bool):
        return "yes" if value else "no"
    return format_number(value.normalize()) if isinstance(value, Decimal) else str(value)
