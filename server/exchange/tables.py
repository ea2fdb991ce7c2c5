"""The tables of a book in CSV and XLSX: one table a list, columns named in words, all as the lists are declared.

A nested list is a table of its own whose first columns name the row it belongs to. A column `kind` says how its cells
are read: text, code, number, percent, amount, span, lag, instant, day, flag, shifts, texts, json.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from dryledger.book import lists
from dryledger.book.columns import Column, ListOf

Doc = dict[str, Any]


@dataclass(frozen=True)
class Col:
    """A column: its title, the key it fills (dotted for keys of an object inside), how it is read, other titles."""

    title: str
    key: str
    kind: str = "text"
    also: tuple[str, ...] = ()


@dataclass(frozen=True)
class FileTable:
    """A table: its title, the list it is, and for a nested list the table above it."""

    title: str
    key: str
    columns: tuple[Col, ...]
    under: str | None = None
    """The table whose rows these belong to; its first columns name that row."""
    owner: int = 1
    """How many of the first columns name the row above."""


_KINDS = {"long": "text", "name": "text", "choice": "text", "currency": "text", "date": "day", "of_hundred": "percent"}
_OWNERS = {
    "calendars": Col("Calendar", "calendar", "code"),
    "resources": Col("Resource code", "resource", "code", ("resource",)),
    "activities": Col("Activity code", "activity", "code", ("activity",)),
    "orders": Col("Order", "order", "code"),
    "baselines": Col("Baseline", "baseline", "code"),
    "periods": Col("Page", "period", "code"),
    "estimates": Col("Estimate", "estimate", "code"),
    "mark_rules": Col("Mark rule", "rule", "code"),
    "options": Col("Option", "option", "code"),
    "promises": Col("Promise", "promise", "code"),
}
"""The column that names the row which nested rows belong to."""
_PREFIX = {
    "resources": "resource.",
    "orders": "order.",
    "baselines": "baseline.",
    "periods": "period.",
    "options": "option.",
    "promises": "promise.",
}


def _cols(of: ListOf, prefix: str = "") -> Iterator[Col]:
    """The columns of a list; an object's own stand among them."""
    for c in of.in_sheets:
        key = f"{prefix}{c.key}"
        if c.kind == "object":
            assert c.rows is not None
            yield from _cols(c.rows, f"{key}.")
        elif c.kind == "week":
            yield from (Col(day.capitalize(), f"{key}.{day}", "shifts") for day in lists.WEEKDAYS)
        elif c.inline:
            yield Col(c.title, key, "json")
        elif c.kind not in ("rows", "values"):
            yield Col(c.title, key, _kind(c), c.also)
        if of is lists.ACTIVITIES and c.key == "duration":
            yield Col("Predecessors", "-after", "text")


def _kind(c: Column) -> str:
    if c.kind == "texts":
        return "texts" if c.names else "json"
    return "json" if c.kind == "doc" else _KINDS.get(c.kind, c.kind)


def _nested(of: ListOf, way: str = "") -> Iterator[tuple[str, ListOf]]:
    """The lists inside the rows of a list, with the keys on the way to each."""
    for c in of.columns:
        if c.inline:
            continue
        if c.rows is not None and c.kind == "rows":
            yield f"{way}{c.key}", c.rows
        elif c.rows is not None:
            yield from _nested(c.rows, f"{way}{c.key}.")


def _tables(of: ListOf, top: str, under: str | None = None, key: str = "", owners: tuple[Col, ...] = ()) -> Iterator[FileTable]:
    """A list and all that is nested in it, as tables."""
    prefix = _PREFIX.get(top, "")
    key = key or of.key
    title = of.title
    if under is not None and top == "baselines" and not title.startswith("Baseline"):
        title = f"Baseline {title[:1].lower()}{title[1:]}" if title != "WBS" else title
    yield FileTable(title, key, (*owners, *_cols(of)), under, max(len(owners), 1))
    for way, inside in _nested(of):
        yield from _tables(inside, top, key, f"{prefix}{way}", (*owners, _OWNERS[of.key]))


PROJECT = tuple(_cols(lists.PROJECT))
TABLES: tuple[FileTable, ...] = tuple(table for of in lists.LISTS.values() for table in _tables(of, of.key))
BY_KEY = {t.key: t for t in TABLES}
OTHER = Col("Other keys", "x-", "json")
"""Keys of a row that begin with x-, as JSON: they come back untouched."""
OWN_FIELD = "Field "
HAVE_FIELDS = {"activities": "activity", "resources": "resource"}
"""The tables whose rows have own fields, and the scope of these."""
"""Columns of activities and of resources that hold the project's own fields begin with this, followed by the field's code."""


def inner(key: str) -> list[str]:
    """The keys on the way to a nested list, below the row it belongs to: "baseline.cost_lines" → cost_lines."""
    for prefix in _PREFIX.values():
        key = key.removeprefix(prefix)
    return key.split(".")


def get(doc: Doc, key: str) -> Any:
    """The value of a dotted key, None where it is absent."""
    at: Any = doc
    for part in key.split("."):
        at = at.get(part) if isinstance(at, dict) else None
    return at


def put(doc: Doc, key: str, value: Any) -> None:
    """Set the value of a dotted key."""
    *way, last = key.split(".")
    for part in way:
        doc = doc.setdefault(part, {})
    doc[last] = value


@dataclass
class Grid:
    """A table as read or to be written: its titles, and rows of cells with their row numbers (1 is the titles)."""

    title: str
    titles: list[str]
    rows: list[tuple[int, list[Any]]] = field(default_factory=list)
