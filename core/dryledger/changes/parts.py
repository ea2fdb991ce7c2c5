"""Cells of an activity that stand for rows of other lists: its links, the people on it, its direct cost, its dates."""

import re
from collections.abc import Callable, Iterable
from typing import Any

from dryledger.book.plan import Resource
from dryledger.book.reader import duration_text
from dryledger.calendar.calendar import to_text
from dryledger.changes.draft import Doc, Draft
from dryledger.entry.cells import CELLS
from dryledger.entry.grammar import format_day
from dryledger.entry.plan_cells import type_instant, type_links
from dryledger.entry.value_cells import CellContext
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["LIST_CELLS", "resources_by_word"]

_PERSON = re.compile(r"(?P<who>.+?)(?:\s+(?P<amount>\d+(?:[.,]\d+)?)\s*(?P<unit>h|hours|units|%)?)?")


def _context(draft: Draft, record: Any) -> CellContext:
    return CellContext(draft.book, draft.calendar_of(record), draft.near(record))


def write_links(draft: Draft, key: int, value: Any) -> None:
    """All links into an activity, as its cell says them."""
    target = draft.record("activities", key).code
    typed = type_links(str(value or ""), draft.calendar_of(None), draft.sources())
    if any(t.code == target for t in typed):
        raise EntryRefused("after", sentence("parts.activity_cant_come_after"))
    there = {(x.source, x.type): k for k, x in draft.records("links") if x.target == target}
    for t in typed:
        cells: Doc = {
            "type": None if t.type == "FS" else t.type,
            "lag": None if t.lag == "0d" else t.lag,
            "lag_basis": None if t.basis == "working" else t.basis,
        }
        known = there.pop((t.code, t.type), None)
        if known is None:
            draft.list_source(t.code)
            draft.add("links", {"from": t.code, "to": target} | cells)
        else:
            draft.put("links", known, cells)
    for gone in there.values():
        draft.drop("links", gone)


def resources_by_word(resources: Iterable[Resource]) -> dict[str, Resource]:
    """Resources by their codes and names in small letters, as people type them; a code before the name of another."""
    codes, names = {}, {}
    for x in resources:
        codes[x.code.lower()], names[x.name.lower()] = x, x
    return codes | {name: x for name, x in names.items() if name not in codes}


def write_people(draft: Draft, key: int, value: Any) -> None:
    """All resources on an activity, such as "FIT 2; NAV 50 %" or, of a material, "CAB 300"; without a number it is one."""
    activity = draft.record("activities", key)
    known = resources_by_word(x for _, x in draft.records("resources"))
    there = {x.resource: k for k, x in draft.records("assignments") if x.activity == activity.code}
    seen: set[str] = set()
    for part in (p.strip() for p in re.split(r"[;\n]|,(?!\d)", str(value or ""))):
        if not part:
            continue
        resource, amount, unit = known.get(part.lower()), None, ""
        if resource is None and (found := _PERSON.fullmatch(part)):
            resource, amount, unit = known.get(found["who"].strip().lower()), found["amount"], (found["unit"] or "").lower()
        if resource is None:
            like = next(iter(known), "FIT").upper()
            raise EntryRefused("people", sentence("parts.no_resource_code_how", value=part[:60], like=like))
        if resource.code in seen:
            raise EntryRefused("people", sentence("parts.stands_twice_keep_one", code=resource.code))
        seen.add(resource.code)
        material = resource.kind == "material"
        if unit in ("h", "hours") or (unit == "%" and material):
            example = f"{resource.code} 300" if material else sentence("parts.or", code=resource.code)
            raise EntryRefused("people", sentence("parts.cant_read_here_type", value=part[:60], example=example))
        number = CELLS["assignments"]["units"](amount + unit, "people", _context(draft, activity)) if amount else None
        cells: Doc = {"quantity": number} if material else {"units": None if number == 1 else number}
        row = there.pop(resource.code, None)
        if row is None:
            draft.add("assignments", {"activity": activity.code, "resource": resource.code} | cells)
        else:
            draft.put("assignments", row, cells)
    for gone in there.values():
        draft.drop("assignments", gone)


def write_cost(draft: Draft, key: int, value: Any) -> None:
    """The direct cost of an activity that has one line or none."""
    activity = draft.record("activities", key)
    lines = [k for k, x in draft.records("costs") if x.activity == activity.code]
    if len(lines) > 1:
        raise EntryRefused("direct_cost", sentence("parts.direct_costs_change_them", name=activity.name, count=len(lines)))
    amount = CELLS["costs"]["amount"](value, "direct_cost", _context(draft, activity))
    if amount is None:
        for k in lines:
            draft.drop("costs", k)
    elif lines:
        draft.put("costs", lines[0], {"amount": amount})
    else:
        draft.add("costs", {"activity": activity.code, "name": "Direct cost", "amount": amount})


def write_begin(draft: Draft, key: int, value: Any) -> None:
    """A start typed into the plan: not before that date. Empty lets the links and the project's start say it."""
    at = _context(draft, draft.record("activities", key))
    t = type_instant(str(value or ""), "begin", at.near, at.calendar.axis)
    draft.put("activities", key, {"constraint": None if t is None else {"type": "start_on_or_after", "at": to_text(t)}})


def write_end(draft: Draft, key: int, value: Any) -> None:
    """A finish typed into the plan: the duration that brings it there from the present start."""
    activity = draft.record("activities", key)
    at, now = _context(draft, activity), draft.dates.get(activity.code)
    start = None if now is None else now.start
    t = type_instant(str(value or ""), "end", start or at.near, at.calendar.axis, True)
    if t is None or start is None:
        raise EntryRefused("end", sentence("parts.date_which_should_finish"))
    if t <= start:
        raise EntryRefused("end", sentence("parts.starts_later_date", format_day=format_day(start)))
    axis = draft.book.axes.get(activity.code, at.calendar.axis)
    draft.put("activities", key, {"duration": duration_text(axis.between(start, t), at.calendar, ("d", "h", "min")), "kind": None})


LIST_CELLS: dict[str, Callable[[Draft, int, Any], None]] = {
    "after": write_links,
    "people": write_people,
    "direct_cost": write_cost,
    "begin": write_begin,
    "end": write_end,
}
"""By the name of the cell."""
