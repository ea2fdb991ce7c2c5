"""A book with some lists changed, taking over what was worked out of those that are the same.

An edit of a large plan changes a row or two; the network, the axes and the lists by activity mostly stay as they were.
"""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from dryledger.book.plan import Activity, Book

__all__ = ["changed"]

LISTS = ("project", "calendars", "resources", "wbs", "activities", "externals", "links", "assignments", "costs", "baselines")
RESTS_ON = {
    "calendar_by_code": ("calendars",),
    "axis": ("calendars", "project calendar"),
    "activity_by_code": ("activities",),
    "resource_by_code": ("resources",),
    "axes": ("calendars", "places"),
    "layout": ("calendars", "project calendar", "places", "externals", "links"),
    "assignments_of": ("assignments",),
    "activities_on": ("assignments",),
    "external_by_code": ("externals",),
    "links_into": ("links",),
    "costs_of": ("costs",),
    "wbs_above": ("wbs",),
    "baseline_by_code": ("baselines",),
}
"""For each thing that a book works out, the lists it rests on; "places" are the codes, calendars and pauses of activities."""
KEPT_ON = {"planned": ("baselines",), "tariffs": ("resources", "calendars"), "held": ("holds",)}
"""The same for what later steps keep with the book; "holds" are the pinned dates, constraints and levelled dates of activities."""


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
    for key, value in list(book.kept.items()):
        name = str(key[0] if isinstance(key, tuple) else key)
        if name in KEPT_ON and same.issuperset(KEPT_ON[name]):
            out.kept[key] = value
    if same.issuperset(("calendars", "resources", "assignments", "places")):
        _progress(book, out)
    return out


def _progress(book: Book, out: Book) -> None:
    """Take over what was said of the activities whose records are the same; `dryledger.schedule.progress` does the rest."""
    was = book.activity_by_code
    fresh = {a.code for a in out.activities if was[a.code] is not a}
    for key, value in list(book.kept.items()):
        if key == "unstarted":
            out.kept["unstarted before"] = (fresh, value)
        elif isinstance(key, tuple) and key[0] == "progress" and isinstance(value, dict):
            out.kept[key] = {i: p for i, p in value.items() if p.statement.activity not in fresh}


def _alike(a: Book, b: Book, look: Callable[[Activity], object]) -> bool:
    """Whether the activities of both look the same, one by one."""
    if a.activities is b.activities:
        return True
    if len(a.activities) != len(b.activities):
        return False
    return all(x is y or look(x) == look(y) for x, y in zip(a.activities, b.activities, strict=True))
