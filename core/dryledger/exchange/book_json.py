"""Reading the open book format (JSON, version 1) into a `Book`, with every fault told at once.

`read_book(text)` for text, `book_from(document)` for JSON already parsed. Both raise `BookInvalid`.
What an absent key means is settled here, so that the rest of the core never meets a missing value.
"""

import itertools
import json
import math
from collections.abc import Iterator
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.book.reader import MOST_FAULTS, Reader
from dryledger.book.registers import REGISTERS, read_entry
from dryledger.book.rules import check_book
from dryledger.calendar.calendar import Calendar
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.page_records import read_period
from dryledger.exchange.records import (
    read_activity,
    read_assignment,
    read_baseline,
    read_calendar,
    read_direct_cost,
    read_estimate,
    read_link,
    read_project,
    read_resource,
    read_wbs,
)

__all__ = ["book_from", "parse_json", "read_book"]


MOST_LISTS, MOST_VALUES = 4_000_000, 10_000_000
"""Far more than a book of 100,000 activities has: what goes beyond is no book, and must not fill the memory."""
MOST_DIGITS = 40


class Doubled(dict[str, object]):
    """An object of the file in which keys stand twice; the last one counts until that is told as a fault."""

    def __init__(self, pairs: list[tuple[str, object]]) -> None:
        super().__init__(pairs)
        keys = [key for key, _ in pairs]
        self.twice = [key for key in dict.fromkeys(keys) if keys.count(key) > 1]


def parse_json(text: str | bytes) -> object:
    """JSON text to plain values. Raises BookInvalid where it is not JSON at all.

    A number that can't be read as one (too long, or NaN) comes out as its text, for the reader of its key to refuse.
    """

    def pairs(found: list[tuple[str, object]]) -> dict[str, object]:
        out = dict(found)
        return out if len(out) == len(found) else Doubled(found)

    def number(written: str) -> object:
        value = Decimal(written) if len(written) <= MOST_DIGITS else Decimal("Infinity")
        return value if math.isfinite(float(value)) else written

    def whole(written: str) -> object:
        return int(written) if len(written) <= MOST_DIGITS else written

    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        if text.count("[") + text.count("{") > MOST_LISTS or text.count(",") > MOST_VALUES:
            raise BookInvalid([Fault("", "the file holds more lists and values than any book")])
        return json.loads(text, object_pairs_hook=pairs, parse_float=number, parse_int=whole, parse_constant=str)
    except UnicodeDecodeError:
        raise BookInvalid([Fault("", "the file is not UTF-8 text")]) from None
    except RecursionError:
        raise BookInvalid([Fault("", "the file is nested too deeply to be a book")]) from None
    except ValueError as wrong:
        raise BookInvalid([Fault("", f"the file is not JSON: {wrong}")]) from None


class _Faults(list[Fault]):
    """The faults of a book, as many as anyone can read; what comes after is only known to be there."""

    def append(self, fault: Fault) -> None:
        if len(self) < MOST_FAULTS:
            super().append(fault)
        elif len(self) == MOST_FAULTS:
            super().append(Fault("", f"and more: only the first {MOST_FAULTS:,} faults are told"))


def _doubled(value: object, path: str) -> Iterator[Fault]:
    """A fault for every key that stands twice, wherever it is."""
    if isinstance(value, dict):
        if isinstance(value, Doubled):
            for key in value.twice:
                yield Fault(f"{path}.{key}" if path else key, f"the key “{key[:60]}” stands twice in the same object")
        for key, inner in value.items():
            if isinstance(inner, (dict, list)):
                yield from _doubled(inner, f"{path}.{key}" if path else key)
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            if isinstance(inner, (dict, list)):
                yield from _doubled(inner, f"{path}[{i}]")


def read_book(text: str | bytes) -> Book:
    """Read a book from JSON text. Raises BookInvalid with all faults found."""
    return book_from(parse_json(text))


def book_from(document: object) -> Book:
    """Read a book from parsed JSON. Raises BookInvalid with all faults found."""
    faults = _Faults(itertools.islice(_doubled(document, ""), MOST_FAULTS))
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
        **{key: tuple(read_entry(r, columns) for r in top.items(key)) for key, columns in REGISTERS.items()},
        estimates=tuple(read_estimate(r) for r in top.items("estimates")),
        extra=top.done(),
    )
    told = {f.path for f in faults}
    for fault in check_book(book):
        if fault.path not in told:
            faults.append(fault)
    if faults:
        raise BookInvalid(faults)
    return book
