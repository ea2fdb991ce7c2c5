"""Reading rows of the book format into records, column by column as declared, with every fault told at its path.

What an absent key means is settled here, so that the rest of the core never meets a missing value. `quick` does the
same for many good rows at once.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import Any

from dryledger.book.columns import Column, ListOf
from dryledger.book.lists import WEEKDAYS
from dryledger.book.reader import MISSING, Reader
from dryledger.book.registers import read_values
from dryledger.calendar.calendar import Calendar
from dryledger.calendar.written import Assumed, Written
from dryledger.words import sentence

__all__ = ["NO_CALENDAR", "RowContext", "read_row", "usual_duration"]

NO_CALENDAR = Calendar("", "", ())


@dataclass(frozen=True)
class RowContext:
    """What the rows of a list are read against: calendars by code, the usual one, and the one of each activity."""

    calendars: Mapping[str, Calendar]
    usual: Calendar = NO_CALENDAR
    activities: Mapping[str, Calendar] = field(default_factory=dict)

    def of_baseline(self, row: Mapping[str, Any]) -> "RowContext":
        """The scope inside a baseline, which has calendars of its own."""
        own = {c.code: c for c in row["calendars"]}
        code = row["calendar"]
        return RowContext(own, own.get(code) or Calendar(code, "", ()))


Cell = Callable[[Reader, Column, RowContext, Calendar], Any]


def read_row(r: Reader, of: ListOf, scope: RowContext) -> Any:
    """One row: its record."""
    values: dict[str, Any] = {}
    own = scope.usual
    if "calendar" in of.by_key:
        code = r.raw("calendar")
        own = scope.calendars.get(code, scope.usual) if isinstance(code, str) else scope.usual
    elif "activity" in of.by_key:
        code = r.raw("activity")
        own = scope.activities.get(code, scope.usual) if isinstance(code, str) else scope.usual
    for c in of.columns:
        if c.kind == "rows" and of.key == "baselines" and c.key == "activities":
            scope = scope.of_baseline(values)
        values[c.field] = _CELLS[c.kind](r, c, scope, own)
    r.done()
    if "duration" in of.by_key and values["duration"] is None:
        values["duration"] = usual_duration(values["kind"], own)
    return of.record(**values)


def usual_duration(kind: str, calendar: Calendar) -> Written:
    """The duration of an activity that has none written: a day, of a milestone nothing."""
    return Written(0 if kind == "milestone" else calendar.minutes_per_day)


def _text(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    if c.default == "project":
        got = r.text(c.key)
        return got or Assumed(scope.usual.code)
    default = c.default if c.default is not None else ""
    got = r.text(c.key, default, required=c.required)
    if c.most is not None and len(got) > c.most:
        r.fault(sentence("read.characters_most_kept", count=len(got), most=c.most), c.key)
    return got if got or c.required or c.default is not None else None


def _choice(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.choice(c.key, c.options, c.default if c.default is not None else "", required=c.required)


def _flag(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.flag(c.key, c.default)


def _number(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.number(c.key, c.default, least=c.least, above=c.above, most=c.most, required=c.required)


def _percent(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    got = r.number(c.key, least=c.least, most=c.most)
    return None if got is None else got / 100


def _of_hundred(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.number(c.key, least=Decimal(0), most=Decimal(100))


def _amount(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    got = r.amount(c.key, required=c.required, negative=c.signed)
    return Decimal(0) if got is None and c.required else got


def _instant(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    got = r.instant(c.key, required=c.required)
    return 0 if got is None and c.required else got


def _date(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    got = r.date(c.key, required=c.required)
    return date.min if got is None and c.required else got


def _span(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    got = r.duration(c.key, scope.usual if c.on == "project" else own, negative=c.signed)
    if got is None and c.required:
        if r.raw(c.key) is MISSING or r.raw(c.key) is None:
            r.fault("is required", c.key)
        return 0
    return None if c.default == "usual" and got is None else got if got is not None else c.default


def _lag(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    elapsed = r.raw("lag_basis") == "elapsed"
    got = r.duration(c.key, scope.usual, negative=True, elapsed=elapsed)
    return 0 if got is None else got


def _texts(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.texts(c.key)


def _scalar(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    got = r.scalar(c.key)
    return c.default if got is None else got


def _doc(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.doc(c.key)


def _shifts(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return r.shifts(c.key)


def _week(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    child = r.child(c.key)
    if child is None:
        if r.raw(c.key) is MISSING or r.raw(c.key) is None:
            r.fault("is required", c.key)
        return ((),) * 7
    week = tuple(child.shifts(day) for day in WEEKDAYS)
    child.done()
    return week


def _values(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    return read_values(r)


def _object(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    child = r.child(c.key)
    assert c.rows is not None
    if child is None and c.required and r.value and (r.raw(c.key) is MISSING or r.raw(c.key) is None):
        r.fault("is required", c.key)
    return read_row(child or Reader({}, "", []), c.rows, scope) if child is not None or c.required else c.default


def _rows(r: Reader, c: Column, scope: RowContext, own: Calendar) -> Any:
    assert c.rows is not None
    if c.rows.columns[0].key == "resource":  # the assignments of a baseline activity count on its calendar
        scope = RowContext(scope.calendars, own)
    if c.required and r.raw(c.key) is MISSING:
        r.fault("is required", c.key)
    return tuple([read_row(x, c.rows, scope) for x in r.items(c.key)])


_CELLS: dict[str, Cell] = {
    **dict.fromkeys(("text", "code", "name", "long"), _text),
    "currency": lambda r, c, scope, own: r.currency(c.key),
    "choice": _choice,
    "flag": _flag,
    "number": _number,
    "percent": _percent,
    "of_hundred": _of_hundred,
    "amount": _amount,
    "instant": _instant,
    "date": _date,
    "span": _span,
    "lag": _lag,
    "texts": _texts,
    "scalar": _scalar,
    "doc": _doc,
    "shifts": _shifts,
    "week": _week,
    "values": _values,
    "object": _object,
    "rows": _rows,
}
