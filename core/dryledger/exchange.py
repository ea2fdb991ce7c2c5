"""Reading the open book format (JSON, version 1) into a `Book`, with every fault told at once.

`read_book(text)` for text, `book_from(document)` for JSON already parsed. Both raise `BookInvalid`.
What an absent key means is settled here, so that the rest of the core never meets a missing value.
"""

import json
import math
from decimal import Decimal

from dryledger.book_rules import check_book
from dryledger.calendar import Calendar
from dryledger.errors import BookInvalid, Fault
from dryledger.fields import Reader
from dryledger.page_records import read_period
from dryledger.plan import Book
from dryledger.records import (
    read_activity,
    read_assignment,
    read_baseline,
    read_calendar,
    read_direct_cost,
    read_link,
    read_project,
    read_resource,
    read_wbs,
)

__all__ = ["book_from", "parse_json", "read_book"]


class _Duplicate(Exception):
    def __init__(self, key: str) -> None:
        self.key = key


def parse_json(text: str | bytes) -> object:
    """JSON text to plain values. Raises BookInvalid for bad JSON, a key given twice, or NaN."""

    def pairs(found: list[tuple[str, object]]) -> dict[str, object]:
        out: dict[str, object] = {}
        for key, value in found:
            if key in out:
                raise _Duplicate(key)
            out[key] = value
        return out

    def number(written: str) -> Decimal:
        if len(written) > 40:
            raise ValueError(f"the number {written[:20]}… is too long")
        value = Decimal(written)
        if not math.isfinite(float(value)):
            raise ValueError(f"the number {written[:20]} is too large")
        return value

    def whole(written: str) -> int:
        if len(written) > 40:
            raise ValueError(f"the number {written[:20]}… is too long")
        return int(written)

    def constant(word: str) -> object:
        raise ValueError(f"{word} is not a number of JSON")

    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        return json.loads(text, object_pairs_hook=pairs, parse_float=number, parse_int=whole, parse_constant=constant)
    except _Duplicate as twice:
        raise BookInvalid([Fault("", f"the key “{twice.key[:60]}” stands twice in the same object")]) from None
    except UnicodeDecodeError:
        raise BookInvalid([Fault("", "the file is not UTF-8 text")]) from None
    except RecursionError:
        raise BookInvalid([Fault("", "the file is nested too deeply to be a book")]) from None
    except ValueError as wrong:
        raise BookInvalid([Fault("", f"the file is not JSON: {wrong}")]) from None


def read_book(text: str | bytes) -> Book:
    """Read a book from JSON text. Raises BookInvalid with all faults found."""
    return book_from(parse_json(text))


def book_from(document: object) -> Book:
    """Read a book from parsed JSON. Raises BookInvalid with all faults found."""
    faults: list[Fault] = []
    top = Reader(document, "", faults)
    if not top.is_object():
        raise BookInvalid(faults)
    if top.raw("format") != "dry-ledger-book":
        top.fault("expected “dry-ledger-book”: this is not a book", "format")
    if top.raw("version") != 1:
        top.fault("expected 1, the only version there is", "version")
    calendars = tuple(read_calendar(r) for r in top.items("calendars"))
    by_code = {c.code: c for c in calendars}
    project = read_project(top, by_code)
    fallback = by_code.get(project.calendar) or next(iter(calendars), None) or Calendar("", "", ())
    wbs = tuple(read_wbs(r) for r in top.items("wbs"))
    resources = tuple(read_resource(r, fallback.code) for r in top.items("resources"))
    activities = tuple(read_activity(r, by_code, fallback) for r in top.items("activities"))
    on = {a.code: by_code.get(a.calendar, fallback) for a in activities}
    book = Book(
        project=project,
        calendars=calendars,
        resources=resources,
        wbs=wbs,
        activities=activities,
        links=tuple(read_link(r, fallback) for r in top.items("links")),
        assignments=tuple(read_assignment(r, on, fallback) for r in top.items("assignments")),
        costs=tuple(read_direct_cost(r) for r in top.items("costs")),
        baselines=tuple(read_baseline(r) for r in top.items("baselines")),
        periods=tuple(read_period(r, on, fallback) for r in top.items("periods")),
        extra=top.done(),
    )
    if not faults:
        faults.extend(check_book(book))
    if faults:
        raise BookInvalid(faults)
    return book
