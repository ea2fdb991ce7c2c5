"""What a change may call upon beside its own book, and what of a book is kept elsewhere and so not written here."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from dryledger.book.plan import Book, External, Resource
from dryledger.book.registers import FieldDefinition
from dryledger.book.shared import SharedResource, drawn
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["NOTHING", "OutsideContext", "kept_elsewhere"]


@dataclass(frozen=True)
class OutsideContext:
    """Activities of other projects that links may name, resources of the organisation that may be drawn on, and its kinds of projects:
    by their names the own fields that each gives, as the register of fields has them. And the books of other projects that are copied from.
    """

    externals: Sequence[External] = ()
    shared: Sequence[SharedResource] = ()
    kinds: Mapping[str, Sequence[Mapping[str, object]]] = field(default_factory=dict)
    books: Mapping[str, Book] = field(default_factory=dict)


NOTHING = OutsideContext()


def kept_elsewhere(record: Any, given: Mapping[str, Any]) -> None:
    """Refuses cells of a row that are the organisation's to write. Raises EntryRefused at the first.

    >>> kept_elsewhere(FieldDefinition("berth", "Berth", given_by="kind"), {"name": "Quay"})
    Traceback (most recent call last):
    dryledger.errors.EntryRefused: The kind of project gives “Berth”; the organisation keeps it for all projects of that kind.
    """
    for key in given:
        if isinstance(record, Resource) and drawn(record, "rates" if key.startswith("rate.") else key):
            raise EntryRefused(key, sentence("shared.kept_by_organisation", name=record.name, code=record.shared))
        if isinstance(record, FieldDefinition) and record.given_by == "kind":
            raise EntryRefused(key, sentence("kinds.given_by_kind", name=record.name))
