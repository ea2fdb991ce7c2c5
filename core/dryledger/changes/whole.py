"""Lists that are written whole: other rows in the place of all that are there, each where it is the same row as before its own."""

from collections.abc import Sequence

from dryledger.book.lists import LISTS
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import place_of

__all__ = ["whole_list"]


def whole_list(draft: Draft, list_name: str, rows: Sequence[Doc]) -> None:
    """Write all rows of a list as the book writes them. A row is the one of its code, in a list without codes the one in its place."""
    of = LISTS[list_name]
    coded = "code" in of.by_key
    there = [x.key for x in sorted(draft.rows_of(list_name).values(), key=place_of)]
    known = {draft.record(list_name, key).code if coded else i: key for i, key in enumerate(there)}
    for i, row in enumerate(rows):
        key = known.pop(row.get("code") if coded else i, None)
        if key is None:
            draft.add(list_name, row, float(i))
        else:
            draft.put(list_name, key, {c.key: row.get(c.key) for c in of.columns if c.key != "code"})
            draft.place(list_name, key, float(i))
    for key in known.values():
        draft.drop(list_name, key)
