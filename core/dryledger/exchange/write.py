"""Writing a book in the open format, column by column as declared: what is written reads back as the same book.

Durations are written as they were read; those that were computed in minutes. What is absent or empty is left out.
"""

from collections.abc import Callable
from dataclasses import fields
from datetime import date
from decimal import Decimal
from functools import cache
from operator import attrgetter
from typing import Any

from dryledger.book.columns import Column, ListOf
from dryledger.book.lists import LISTS, PROJECT, WEEKDAYS
from dryledger.book.plan import Book
from dryledger.calendar.calendar import Shift, to_text
from dryledger.calendar.written import Assumed, Written

__all__ = ["book_document", "minutes_text", "row_document", "shortest_number"]

Doc = dict[str, Any]


def minutes_text(minutes: int) -> str:
    """Minutes as the format writes them: as they were read, else in minutes.

    >>> minutes_text(-480), minutes_text(Written(480, "1d"))
    ('-480min', '1d')
    """
    return minutes.text if isinstance(minutes, Written) and minutes.text else f"{int(minutes)}min"


def number(value: Decimal) -> Decimal | int:
    """A number as the format writes it: whole ones without a point."""
    return int(value) if value == value.to_integral_value() else value


def _clock(minute: int) -> str:
    return f"{minute // 60:02}:{minute % 60:02}"


def _shifts(shifts: tuple[Shift, ...]) -> list[str]:
    return [f"{_clock(a)}-{_clock(b)}" for a, b in shifts]


def _own_value(value: object) -> object:
    return number(value) if isinstance(value, Decimal) else value.isoformat() if isinstance(value, date) else value


def _doc(value: Any) -> Any:
    """JSON as it is written: numbers without a point where they are whole."""
    if isinstance(value, dict):
        return {k: _doc(v) for k, v in value.items()}
    return [_doc(v) for v in value] if isinstance(value, list) else _own_value(value)


_WRITERS: dict[str, Callable[[Any], Any]] = {
    "instant": to_text,
    "date": date.isoformat,
    "span": minutes_text,
    "lag": minutes_text,
    "number": number,
    "of_hundred": number,
    "percent": lambda share: number(share * 100),
    "amount": "{:f}".format,
    "texts": list,
    "scalar": lambda value: [_own_value(x) for x in value] if isinstance(value, tuple) else _own_value(value),
    "doc": _doc,
    "shifts": _shifts,
    "week": lambda week: {day: _shifts(shifts) for day, shifts in zip(WEEKDAYS, week, strict=True)},
    "values": lambda values: {code: _own_value(value) for code, value in values.items()},
}


def row_document(of: ListOf, record: Any) -> Doc:
    """A row as the format writes it."""
    values = dict(zip(_names(of.record), _getter(of.record)(record), strict=True))
    out: Doc = {}
    for c in of.columns:
        value = values[c.field]
        if value is None or (type(value) in (tuple, dict, str) and not value) or isinstance(value, Assumed):
            continue
        if c.default == "usual" and type(value) is Written and not value.text:
            continue
        out[c.key] = _written(c, value)
    return out


def _written(c: Column, value: Any) -> Any:
    if c.rows is not None:
        if c.kind == "object":
            return _object_document(c.rows, value)
        return [row_document(c.rows, x) for x in value]
    write = _WRITERS.get(c.kind)
    return value if write is None else write(value)


def _object_document(of: ListOf, value: Any) -> Doc:
    """An object inside a row: of a value method only what its type needs or what is not as usual."""
    return {
        k: v
        for k, v in row_document(of, value).items()
        if of.by_key[k].required or getattr(value, of.by_key[k].field) != of.by_key[k].default
    }


@cache
def _names(kind: type) -> tuple[str, ...]:
    return tuple(f.name for f in fields(kind))


@cache
def _getter(kind: type) -> Callable[[Any], tuple[Any, ...]]:
    names = _names(kind)
    get = attrgetter(*names)
    return get if len(names) > 1 else lambda x: (get(x),)


def book_document(book: Book) -> Doc:
    """The whole book; `dryledger.exchange.book_json.book_from` reads it back as the same."""
    lists: Doc = {}
    for key, of in LISTS.items():
        lists |= of.written([row_document(of, x) for x in getattr(book, key)])
    return {"format": "dry-ledger-book", "version": 1, "project": row_document(PROJECT, book.project), **lists, **book.extra}


def shortest_number(n: Decimal) -> int | float:
    """A number as JSON has it: whole ones without a point."""
    return int(n) if n == n.to_integral_value() else float(n)
