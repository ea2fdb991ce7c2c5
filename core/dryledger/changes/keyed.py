"""A book whose rows have keys: who a row is stays the same while its code, name and place change."""

from collections.abc import Iterator, Mapping, Set
from dataclasses import dataclass
from functools import cached_property
from typing import Any, NamedTuple

from dryledger.book.lists import LISTS
from dryledger.book.memo import changed
from dryledger.book.plan import Book, External
from dryledger.book.registers import REGISTERS

__all__ = ["LETTERS", "KeyedBook", "Row", "age_of", "name_of", "place_of", "with_externals"]

LETTERS: dict[str, tuple[str, ...]] = {
    "a": ("activities",),
    "w": ("wbs",),
    "x": ("externals",),
    "l": ("links",),
    "s": ("assignments",),
    "c": ("costs",),
    "r": ("resources",),
    "k": ("calendars",),
    "g": tuple(REGISTERS),
    "e": ("estimates",),
    "b": ("baselines",),
    "d": ("orders",),
    "v": ("reserves",),
    "m": ("mark_rules",),
    "o": ("options",),
    "q": ("promises",),
}
"""The letter that a row's name begins with, and the lists it may stand in."""
_LETTER_OF = {name: letter for letter, names in LETTERS.items() for name in names}


def name_of(list_name: str, key: int) -> str:
    """How a row is named outside: a letter and its key.

    >>> name_of("activities", 12)
    'a12'
    """
    return f"{_LETTER_OF[list_name]}{key}"


NEWEST = 2**62


class Row(NamedTuple):
    """A row: its place in the list, its key and its record."""

    order: float
    key: int
    record: Any


def place_of(row: Row) -> tuple[float, int]:
    """Where a row stands in its list. A new one, whose key is below 0 until it is given another, comes after its equals."""
    return row.order, age_of(row.key)


def age_of(key: int) -> int:
    """Keys in the order in which rows were made.

    >>> sorted([-1, 7, -2, 3], key=age_of)
    [3, 7, -1, -2]
    """
    return key if key >= 0 else NEWEST - key


@dataclass(frozen=True)
class KeyedBook:
    """A book with the key and place of every row, by list. The lists of the book stand in the order of place, then key."""

    book: Book
    rows: Mapping[str, Mapping[int, Row]]

    @classmethod
    def of(cls, book: Book) -> "KeyedBook":
        """A book whose rows have no keys yet: they are numbered. An element stands after its parent's own activities."""
        first = {"wbs": len(book.activities)}
        return cls(
            book,
            {name: {i: Row(float(first.get(name, 0) + i), i, x) for i, x in enumerate(getattr(book, name))} for name in LISTS},
        )

    @cached_property
    def _key_of(self) -> dict[str, dict[str, int]]:
        return {}

    def key_of(self, list_name: str) -> dict[str, int]:
        """The key of each row of a list by its code."""
        found = self._key_of.get(list_name)
        if found is None:
            found = self._key_of[list_name] = {x.record.code: key for key, x in self.rows[list_name].items()}
        return found

    def code_of(self, list_name: str, name: str) -> str | None:
        """The code of a row by its name outside; None where there is none."""
        letter, number = _LETTER_OF[list_name], name[1:]
        row = self.rows[list_name].get(int(number)) if name[:1] == letter and number.isdecimal() and len(number) < 19 else None
        return None if row is None else str(row.record.code)

    def after(self, book: Book, rows: Mapping[str, Mapping[int, Row]], codes: Set[str]) -> "KeyedBook":
        """The book after a change of some lists; `codes` names those in which rows came, went or were renamed."""
        out = KeyedBook(book, {**self.rows, **rows})
        out._key_of.update((name, found) for name, found in self._key_of.items() if name not in codes)
        return out

    def in_order(self, list_name: str) -> Iterator[Row]:
        """The rows of a list in the order of the book."""
        return iter(sorted(self.rows[list_name].values(), key=place_of))

    def rekeyed(self, keys: Mapping[str, Mapping[int, int]]) -> "KeyedBook":
        """The same book with other keys for some rows, by list."""
        if not any(keys.values()):
            return self
        rows = dict(self.rows)
        for name, new in keys.items():
            if new:
                rows[name] = {k: x._replace(key=k) for old, x in rows[name].items() for k in [new.get(old, old)]}
        return KeyedBook(self.book, rows)


def with_externals(keyed: KeyedBook, externals: tuple[External, ...]) -> KeyedBook:
    """The same book with other dates of activities of other projects, which are the same ones in the same order."""
    book = changed(keyed.book, externals=externals)
    rows = {x.key: x._replace(record=now) for x, now in zip(keyed.in_order("externals"), externals, strict=True)}
    return keyed.after(book, {"externals": rows}, frozenset())
