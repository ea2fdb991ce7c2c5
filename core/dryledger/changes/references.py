"""What names a row by its code, as the lists are declared: found and renamed everywhere at once."""

from dataclasses import replace
from functools import cache
from typing import Any

from dryledger.book.columns import Column, ListOf

__all__ = ["renamed"]

_SHARE_KINDS = {"wbs": "wbs", "activities": "activity"}


@cache
def _naming(of: ListOf, list_name: str) -> tuple[Column, ...]:
    """The columns of a list that may name a row of another one, nested ones included."""
    return tuple(
        c
        for c in of.columns
        if list_name in c.names.split("|") or (c.names == "kind" and list_name in _SHARE_KINDS) or (c.rows and _naming(c.rows, list_name))
    )


def renamed(of: ListOf, record: Any, list_name: str, old: str, new: str) -> Any:
    """The record with one code in place of another wherever it names a row of that list; the same object where it doesn't."""
    changes = {}
    for c in _naming(of, list_name):
        was = getattr(record, c.field)
        now = _value(c, record, was, list_name, old, new)
        if now is not was:
            changes[c.field] = now
    return replace(record, **changes) if changes else record


def _value(c: Column, record: Any, was: Any, list_name: str, old: str, new: str) -> Any:
    if c.rows is not None:
        if c.kind == "object":
            return was if was is None else renamed(c.rows, was, list_name, old, new)
        now = tuple([renamed(c.rows, x, list_name, old, new) for x in was])
        return now if any(a is not b for a, b in zip(was, now, strict=True)) else was
    if c.names == "kind":
        return new if was == old and record.kind == _SHARE_KINDS[list_name] else was
    if isinstance(was, tuple):
        return tuple(new if x == old else x for x in was) if old in was else was
    return new if was == old else was
