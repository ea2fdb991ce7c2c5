"""Rows that a file says something about, put over those that are there: as one change of the book."""

from collections.abc import Mapping, Sequence
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.registers import REGISTERS
from dryledger.changes.apply import Changed, finished
from dryledger.changes.draft import Draft
from dryledger.changes.keyed import KeyedBook
from dryledger.words import sentence

__all__ = ["MERGED", "merge"]

MERGED = ("calendars", "resources", "wbs", "activities", "links", "assignments", "costs", *REGISTERS, "mark_rules")
"""The lists that a file can add to or change. Baselines and pages come only with a new project."""
Doc = dict[str, Any]


def merge(keyed: KeyedBook, current: Mapping[str, Any], document: Mapping[str, Any]) -> Changed:
    """The book with what differs between two documents of it: `current` as it stands, `document` as it is to be.

    In each list the rows of both stand in the same order, new ones last. Raises ChangeRefused.
    """
    draft = Draft(keyed, typed=False)
    for name in MERGED:
        keys = [row.key for row in keyed.in_order(name)]
        was: Sequence[Doc] = current.get(name, [])
        for i, doc in enumerate(document.get(name, [])):
            if i >= len(was):
                draft.add(name, doc, _after_all(draft, name))
            elif cells := _cells(was[i], doc):
                draft.put(name, keys[i], cells)
    if cells := _cells(current.get("project", {}), document.get("project", {})):
        cells.pop("code", None)
        if cells:
            draft.put_project(cells)
    draft.labels.append(sentence("merge.brought_file"))
    return finished(draft)


def _cells(was: Doc, now: Doc) -> Doc:
    """The cells that differ; None for one that is gone."""
    return {k: now.get(k) for k in {**was, **now} if was.get(k) != now.get(k)}


def _after_all(draft: Draft, name: str) -> float | None:
    """A place behind everything: elements and activities share one order."""
    if name not in ("activities", "wbs"):
        return None
    assert name in LISTS
    return max((x.order for part in ("activities", "wbs") for x in draft.rows_of(part).values()), default=-1.0) + 1
