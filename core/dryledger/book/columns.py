"""What a list of a book is declared with: its columns, and how a row of it is called."""

from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from decimal import Decimal
from typing import Any

__all__ = ["CODE", "NAME", "Column", "ListOf", "choice", "number"]


@dataclass(frozen=True)
class Column:
    """One column of a list.

    `kind` is what its cells hold: text, code, long, choice, flag, number, percent, amount, instant, date, span,
    lag, texts, scalar (a text, a number, true or false, or a list of them), week, shifts, of_hundred (a number from 0 to
    100), currency, values (own fields), doc (an object of JSON), object (one `rows` inside) or rows (a list inside).
    """

    key: str
    kind: str = "text"
    word: str = ""
    """Its title in spreadsheets; absent: from the key."""
    attr: str = ""
    """The attribute of the record; absent: the key."""
    required: bool = False
    default: Any = None
    options: tuple[str, ...] = ()
    least: Decimal | None = None
    above: Decimal | None = None
    most: Decimal | None = None
    signed: bool = False
    names: str = ""
    """The list whose code stands here."""
    on: str = ""
    """Whose calendar a span is counted on: project, row, activity."""
    rows: "ListOf | None" = None
    inline: bool = False
    """Whether the rows inside stand in one cell of a spreadsheet, as JSON."""
    also: tuple[str, ...] = ()
    """Other titles by which spreadsheets name it."""

    @property
    def field(self) -> str:
        """The attribute of the record."""
        return self.attr or self.key

    @property
    def title(self) -> str:
        """Its title in spreadsheets."""
        return self.word or self.key.replace("_", " ").capitalize()


@dataclass(frozen=True)
class ListOf:
    """A list of a book: its key, its title, the record of a row and its columns."""

    key: str
    title: str
    record: type
    columns: tuple[Column, ...]
    sheet: tuple[str, ...] = ()
    """Keys in the order of spreadsheets, where it is another; what is not named comes last."""
    single: bool = False
    """Whether the book has at most one row, and writes it as an object."""
    by_key: dict[str, Column] = field(init=False, compare=False, repr=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "by_key", {c.key: c for c in self.columns})

    def rows_in(self, document: Mapping[str, Any]) -> Any:
        """The rows of the list in a book's document, a single one in a list."""
        found = document.get(self.key)
        return found if not self.single else [] if found is None else [found]

    def written(self, rows: list[Any]) -> dict[str, Any]:
        """The rows as they stand in a book's document, by the list's key; nothing where a single one is not there."""
        return {self.key: rows} if not self.single else {self.key: rows[0]} if rows else {}

    @property
    def in_sheets(self) -> tuple[Column, ...]:
        """The columns in the order of spreadsheets."""
        place = {key: i for i, key in enumerate(self.sheet)}
        return tuple(sorted(self.columns, key=lambda c: place.get(c.key, len(place))))

    @property
    def in_record(self) -> tuple[Column, ...]:
        """The columns in the order of the record's attributes."""
        place = {f.name: i for i, f in enumerate(fields(self.record))}
        return tuple(sorted(self.columns, key=lambda c: place[c.field]))


def number(key: str, default: Decimal | None = None, **more: Any) -> Column:
    """A column of numbers."""
    return Column(key, "number", default=default, **more)


def choice(key: str, options: tuple[str, ...], default: str | None = None, **more: Any) -> Column:
    """A column of one of a few words, the first where none is given."""
    return Column(key, "choice", options=options, default=options[0] if default is None else default, **more)


CODE, NAME = Column("code", "code", required=True, also=("id",)), Column("name", "name", required=True)
