"""The door for books in JSON: the open format, version 1, into a `Book`, with every fault told at once.

`read_book(text)` for text, `book_from(document)` for JSON already parsed. Both raise `BookInvalid`. A good text is read
the quick way; only where that finds anything odd is it read again row by row, to say all that is wrong.
"""

import itertools
import json
import math
import re
from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from dryledger.book.lists import LISTS, PROJECT
from dryledger.book.plan import Book, Project
from dryledger.book.reader import MOST_FAULTS, Reader
from dryledger.book.rules import check_book
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.by_columns import NotQuick
from dryledger.exchange.quick import quick_lists
from dryledger.exchange.read import NO_CALENDAR, RowContext, read_row
from dryledger.words import sentence

__all__ = ["MOST_LISTS", "book_from", "half_characters", "nested_too_deeply", "parse_json", "read_book"]


MOST_LISTS, MOST_VALUES = 4_000_000, 10_000_000
"""Far more than a book of 100,000 activities has: what goes beyond is no book, and must not fill the memory."""
MOST_DIGITS = 40
MOST_DEPTH = 60
"""Lists and objects inside each other: a book needs 6, keys that begin with x- may have more."""
_HALF = re.compile(r"\\u[dD][89a-fA-F]")
"""An escape that may be half of a character."""


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
        _within_bounds(text)
        out = json.loads(text, object_pairs_hook=pairs, parse_float=number, parse_int=whole, parse_constant=str)
    except UnicodeDecodeError:
        raise BookInvalid([Fault("", sentence("book_json.file_utf_text"))]) from None
    except RecursionError:
        raise BookInvalid([Fault("", sentence("book_json.file_nested_too_deeply"))]) from None
    except ValueError as wrong:
        raise BookInvalid([Fault("", sentence("book_json.file_json", wrong=wrong))]) from None
    if nested_too_deeply(out):
        raise BookInvalid([Fault("", sentence("book_json.file_nested_too_deeply"))])
    halves = half_characters(text, out)
    if halves:
        raise BookInvalid(halves)
    return out


def nested_too_deeply(value: object) -> bool:
    """Whether lists and objects stand inside each other more than MOST_DEPTH deep, so that writing them could fail."""
    level = [value]
    for _ in range(MOST_DEPTH + 1):
        level = [y for x in level if isinstance(x, (dict, list)) for y in (x.values() if isinstance(x, dict) else x)]
        level = [x for x in level if isinstance(x, (dict, list))]
        if not level:
            return False
    return True


def half_characters(text: str, value: object) -> list[Fault]:
    """A fault for every text or key of parsed JSON that holds half of a character."""
    return list(itertools.islice(_halves(value, ""), MOST_FAULTS)) if _HALF.search(text) else []


def _within_bounds(text: str) -> None:
    if text.count("[") + text.count("{") > MOST_LISTS or text.count(",") > MOST_VALUES:
        raise BookInvalid([Fault("", sentence("book_json.file_holds_more_lists"))])


class _Faults(list[Fault]):
    """The faults of a book, as many as anyone can read; what comes after is only known to be there."""

    def append(self, fault: Fault) -> None:
        if len(self) < MOST_FAULTS:
            super().append(fault)
        elif len(self) == MOST_FAULTS:
            super().append(Fault("", sentence("book_json.more_only_first_faults", most_faults=MOST_FAULTS)))


def _inner(value: object, path: str) -> Iterator[tuple[str, object]]:
    """What stands inside an object or list, with its path."""
    if isinstance(value, dict):
        for key, inner in value.items():
            yield f"{path}.{key}" if path else key, inner
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield f"{path}[{i}]", inner


def _halves(value: object, path: str) -> Iterator[Fault]:
    """A fault for every text or key that holds half of a character: no file, database or screen can keep it."""
    for at, inner in _inner(value, path):
        if any(isinstance(x, str) and not _whole(x) for x in (at.removeprefix(path), inner)):
            yield Fault(at.encode("utf-8", "replace").decode(), sentence("book_json.holds_half_character_which"))
        if isinstance(inner, (dict, list)):
            yield from _halves(inner, at)


def _whole(text: str) -> bool:
    try:
        text.encode()
    except UnicodeEncodeError:
        return False
    return True


def _doubled(value: object, path: str) -> Iterator[Fault]:
    """A fault for every key that stands twice, wherever it is."""
    if isinstance(value, Doubled):
        for key in value.twice:
            yield Fault(f"{path}.{key}" if path else key, sentence("book_json.key_stands_twice_same", value=key[:60]))
    for at, inner in _inner(value, path):
        if isinstance(inner, (dict, list)):
            yield from _doubled(inner, at)


def read_book(text: str | bytes) -> Book:
    """Read a book from JSON text. Raises BookInvalid with all faults found."""
    data = text.encode("utf-8", "surrogatepass") if isinstance(text, str) else text
    try:
        book = Book(**quick_lists(data))
    except NotQuick:
        return book_from(parse_json(text))
    return book if not check_book(book) else book_from(parse_json(text))


def book_from(document: object) -> Book:
    """Read a book from parsed JSON. Raises BookInvalid with all faults found."""
    faults = _Faults(itertools.islice(_doubled(document, ""), MOST_FAULTS))
    top = Reader(document, "", faults)
    if not top.is_object():
        raise BookInvalid(faults)
    if top.raw("format") != "dry-ledger-book":
        top.fault(sentence("book_json.expected_dry_ledger_book"), "format")
    if top.raw("version") != 1:
        top.fault(sentence("book_json.expected_only_version"), "version")
    lists: dict[str, Any] = {"calendars": tuple([read_row(r, LISTS["calendars"], RowContext({})) for r in top.items("calendars")])}
    by_code = {c.code: c for c in lists["calendars"]}
    project = _project(top, by_code)
    usual = by_code.get(project.calendar) or next(iter(lists["calendars"]), None) or NO_CALENDAR
    scope = RowContext(by_code, usual)
    for key, of in LISTS.items():
        if key != "calendars":
            lists[key] = tuple([read_row(r, of, scope) for r in (_single(top, key) if of.single else top.items(key))])
        if key == "activities":
            scope = RowContext(by_code, usual, {a.code: by_code.get(a.calendar, usual) for a in lists[key]})
    book = Book(project=project, **lists, extra=top.done())
    told = {path for f in faults for path in _up(f.path)}  # what is wrong in a row is not told again of the whole row
    for fault in check_book(book):
        if fault.path not in told:
            faults.append(fault)
    if faults:
        raise BookInvalid(faults)
    return book


def _up(path: str) -> list[str]:
    """A path and those that it lies in, as far as they are of one row.

    >>> _up("mark_rules[0].conditions[1].value")
    ['mark_rules[0].conditions[1].value', 'mark_rules[0].conditions[1]', 'mark_rules[0]']
    """
    parts = path.split(".")
    return [".".join(parts[:n]) for n in range(len(parts), 0, -1)]


def _single(top: Reader, key: str) -> list[Reader]:
    """The one row of a list that the book writes as an object."""
    found = top.child(key)
    return [] if found is None else [found]


def _project(top: Reader, calendars: dict[str, Any]) -> Project:
    r = top.child("project")
    if r is None:
        if "project" not in {f.path for f in top.faults}:
            top.fault("is required", "project")
        return Project("", "", "", 0, "")
    code = r.raw("calendar")
    usual = calendars.get(code) if isinstance(code, str) else None
    found: Project = read_row(r, PROJECT, RowContext(calendars, usual or NO_CALENDAR))
    return found
