"""`apply(book, verbs)`: a changed book, with what became of each row. Nothing is kept, and nothing is half done.

>>> from dryledger.book.plan import Activity, Project
>>> from dryledger.calendar.calendar import Calendar
>>> five = Calendar("five", "Five", (((480, 720),),) * 7)
>>> book = Book(Project("P", "Pier", "EUR", 0, "five"), (five,), activities=(Activity("A", "Dig", calendar="five", duration=240),))
>>> changed = apply(book, [{"do": "set", "row": "A", "cells": {"duration": "3d"}}])
>>> changed.book.activities[0].duration, book.activities[0].duration, changed.label
(1440, 240, 'Dig: duration')
"""

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass, field
from typing import Any

from dryledger.book.plan import Book
from dryledger.changes.draft import Draft, Edit
from dryledger.changes.elsewhere import NOTHING, OutsideContext
from dryledger.changes.keyed import KeyedBook
from dryledger.changes.shapes import SHAPES, check_shape
from dryledger.changes.verbs import NOT_TYPED, VERBS
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.schedule.schedule import Scheduled
from dryledger.words import sentence

__all__ = ["MOST_VERBS", "Changed", "apply", "apply_keyed", "finished", "one", "run"]

MOST_VERBS = 20_000
Verb = dict[str, Any]


@dataclass(frozen=True)
class Changed:
    """What verbs made of a book: the rows with their keys, what became of each, cells of the project, and a label.

    New rows have keys below 0 until somebody gives them others. `made` holds the names of rows by what verbs call them.
    """

    after: KeyedBook
    edits: tuple[Edit, ...]
    project: Mapping[str, Any]
    label: str
    made: Mapping[str, str]
    entries: Mapping[tuple[int, str, int], Any] = field(default_factory=dict)
    """What became of rows of pages, by the page's key, list and place there (new ones below 0): the record, None where it is gone."""
    own: Set[tuple[int, int]] = frozenset()
    """The costs, by page and place, that are what the posting sheet's own cell says."""

    @property
    def book(self) -> Book:
        """The changed book."""
        return self.after.book


def apply(book: Book, verbs: Sequence[Verb]) -> Changed:
    """Do verbs on a book, in order; rows are named by their codes, cells are as the book writes them.

    Raises ChangeRefused at the first that can't be done; its `row` is the number of the verb (verbs[2]).
    """
    return run(Draft(KeyedBook.of(book), typed=False, by_name=False), verbs, numbered=True)


def apply_keyed(keyed: KeyedBook, verbs: Sequence[Verb], dates: Mapping[str, Scheduled], beside: OutsideContext = NOTHING) -> Changed:
    """Do verbs as people type them: rows are named by letter and key, cells are typed texts. Raises ChangeRefused.

    `beside` is what of other projects and of the organisation verbs may call upon: the book lists those activities that some link names.
    """
    return run(Draft(keyed, dates=dates, beside=beside), verbs)


def run(draft: Draft, verbs: Sequence[Verb], numbered: bool = False) -> Changed:
    """Do verbs on a draft, all of them or none. Raises ChangeRefused at the first that can't be done."""
    if len(verbs) > MOST_VERBS:
        raise ChangeRefused("too-many", sentence("apply.most_changes_made_once", most_verbs=MOST_VERBS))
    for i, verb in enumerate(verbs):
        named = f"verbs[{i}]" if numbered else None
        try:
            _do(draft, verb)
        except EntryRefused as wrong:
            row = named or str(verb.get("row") or verb.get("as") or "")
            raise ChangeRefused("entry-refused", wrong.message, row, wrong.field, wrong.nearest) from None
        except ChangeRefused as refused:
            refused.row = named or refused.row
            raise
    return finished(draft)


def one(draft: Draft, verb: Any) -> None:
    """Do one verb on a draft. Raises ChangeRefused."""
    try:
        _do(draft, verb)
    except EntryRefused as wrong:
        raise ChangeRefused("entry-refused", wrong.message, None, wrong.field, wrong.nearest) from None


def _do(draft: Draft, verb: Any) -> None:
    name = verb.get("do") if isinstance(verb, dict) else None
    if not isinstance(name, str) or name not in VERBS or (draft.typed and name in NOT_TYPED):
        raise ChangeRefused("bad-request", sentence("apply.nothing_done_plan", value=str(name)[:60]))
    assert name in SHAPES
    check_shape(draft, verb)
    try:
        VERBS[name](draft, verb)
    except KeyError as gone:
        raise ChangeRefused("bad-request", sentence("apply.change_lacks", name=name, gone=gone)) from None


def finished(draft: Draft) -> Changed:
    """The changed book of a draft. Raises ChangeRefused where it can't be."""
    draft.drop_unlinked()
    labels = list(dict.fromkeys(draft.labels))
    label = (
        labels[0] if len(labels) == 1 else sentence("apply.more", value=labels[0], value_2=len(draft.labels) - 1) if labels else "nothing"
    )
    after = draft.done()
    edits = tuple(e for e in draft.edits.values() if e.new or e.gone or e.cells or e.order is not None)
    return Changed(after, edits, draft.project_cells, label, dict(draft.named), dict(draft.entries), frozenset(draft.own))
