"""A book with some lists changed, taking over what was worked out of those that are the same.

An edit of a large plan changes a row or two; the network, the axes and the lists by activity mostly stay as they were.
"""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from dryledger.book.memory import BookChange
from dryledger.book.plan import Activity, Book

__all__ = ["changed"]

LISTS = ("project", "calendars", "resources", "wbs", "activities", "externals", "links", "assignments", "costs", "baselines")
RESTS_ON = {
    "calendar_by_code": ("calendars",),
    "axis": ("calendars", "project calendar"),
    "activity_by_code": ("activities",),
    "resource_by_code": ("resources",),
    "axes": ("calendars", "places"),
    "network_index": ("calendars", "project calendar", "places", "externals", "links"),
    "assignments_of": ("assignments",),
    "activities_on": ("assignments",),
    "external_by_code": ("externals",),
    "links_into": ("links",),
    "costs_of": ("costs",),
    "wbs_above": ("wbs",),
    "baseline_by_code": ("baselines",),
}
"""For each thing that a book works out, the lists it rests on; "places" are the codes, calendars and pauses of activities."""


def changed(book: Book, **lists: Any) -> Book:
    """The book with other lists, equal in every figure to one made afresh.

    >>> from dryledger.book.plan import Project
    >>> from dryledger.calendar.calendar import Calendar
    >>> book = Book(Project("P", "Pier", "EUR", 0, "five"), (Calendar("five", "Five", (((480, 720),),) * 7),))
    >>> axis = book.axis
    >>> changed(book, activities=()).axis is axis
    True
    """
    out = replace(book, **lists)
    same = {name for name in LISTS if getattr(book, name) is getattr(out, name)}
    if book.project.calendar == out.project.calendar:
        same.add("project calendar")
    if _alike(book, out, lambda a: (a.code, a.calendar, a.pauses)):
        same.add("places")
    if _alike(book, out, lambda a: (a.mode == "fixed", a.mode == "fixed" and (a.start, a.finish), a.constraint, a.levelled)):
        same.add("holds")
    known = dict(book.__dict__)  # a copy at once: another thread may be working something out
    out.__dict__.update({k: known[k] for k, inputs in RESTS_ON.items() if k in known and same.issuperset(inputs)})
    was = book.activity_by_code if "places" in same else {}
    fresh = frozenset(a.code for a in out.activities if was[a.code] is not a) if was else frozenset()
    out.__dict__["memo"] = book.memo.after(BookChange(frozenset(same), fresh))
    return out


def _alike(a: Book, b: Book, look: Callable[[Activity], object]) -> bool:
    """Whether the activities of both look the same, one by one."""
    if a.activities is b.activities:
        return True
    if len(a.activities) != len(b.activities):
        return False
    return all(x is y or look(x) == look(y) for x, y in zip(a.activities, b.activities, strict=True))
