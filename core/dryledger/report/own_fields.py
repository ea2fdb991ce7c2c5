"""The project's own fields of an activity, formulas worked out over its figures, and those that reports show."""

from datetime import date
from decimal import Decimal

from dryledger.book.formulas import values_of
from dryledger.book.plan import Book, Entry
from dryledger.budget.lines import planned_cost, planned_work
from dryledger.compute import Results

__all__ = ["own_values", "report_fields", "said_value"]


def own_values(r: Results, code: str, cost: Decimal | None = None) -> dict[str, object]:
    """The values of all own fields of an activity by the field's code; `cost` is its planned cost where that is known.

    Formulas see the figures of `dryledger.book.formulas.FIGURES`: duration and total float in days, work in hours, done in %.
    """
    book = r.book
    a, x = book.activity_by_code[code], r.schedule.activities[code]
    calendar = book.calendar_by_code[a.calendar]
    figures: dict[str, object] = {
        "days": calendar.days(a.duration),
        "cost": planned_cost(book, a, x) if cost is None else cost,
        "hours": planned_work(book, a, x) / 60,
        "float_days": round(calendar.days(x.total_float or 0), 2),
        "percent": r.progress[code].percent * 100,
        "name": a.name,
        "code": a.code,
        "wbs": a.wbs or "",
    }
    return values_of(book.fields, a.fields, figures)


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
