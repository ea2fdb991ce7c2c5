"""Cells of an activity that stand for rows of other lists: its links, the people on it, its direct cost, its dates."""

import re
from collections.abc import Callable
from typing import Any

from dryledger.book.reader import duration_text
from dryledger.calendar.calendar import to_text
from dryledger.entry.grammar import said_day
from dryledger.entry.plan_cells import type_instant, type_links
from dryledger.errors import EntryRefused
from server.plan import cells
from server.plan.models import Activity, Assignment, DirectCost, Link, Resource

_PERSON = re.compile(r"(?P<who>.+?)(?:\s+(?P<amount>\d+(?:[.,]\d+)?)\s*(?P<unit>h|hours|units|%)?)?")


def write_links(draft: Any, name: str, row: Activity, value: Any) -> None:
    """All links into an activity, as its cell says them."""
    project, book = draft.project, draft.book
    on = book.calendar_by_code[project.calendar]
    by_code = {code: pk for pk, code in draft.plan.codes["Activity"].items()}
    by_code |= {r.code: r.pk for r in draft.rows.values() if isinstance(r, Activity) and r.pk}
    typed = type_links(str(value or ""), on, by_code)
    if any(t.code == row.code for t in typed):
        raise EntryRefused("after", "An activity can't come after itself.")
    there = {(k.source_id, k.type or "FS"): k for k in Link.objects.filter(target=row)}
    for t in typed:
        link = there.pop((by_code[t.code], t.type), None) or Link(
            project=project, source_id=by_code[t.code], target=row, order=last_place(Link, project)
        )
        link.type = None if t.type == "FS" else t.type
        link.lag = None if t.lag == "0d" else t.lag
        link.lag_basis = None if t.basis == "working" else t.basis
        draft.keep(f"l{link.pk}" if link.pk else "", link)
    for gone in there.values():
        draft.step.delete(gone)


def write_people(draft: Any, name: str, row: Activity, value: Any) -> None:
    """All resources on an activity, such as "FIT 2; NAV 0.5" or, of a material, "CAB 300"."""
    project = draft.project
    known = {r.code.lower(): r for r in Resource.objects.filter(project=project)}
    known |= {r.name.lower(): r for r in list(known.values())}
    there = {a.resource_id: a for a in Assignment.objects.filter(activity=row)}
    seen: set[int] = set()
    for part in (p.strip() for p in re.split(r"[;\n]|,(?!\d)", str(value or ""))):
        if not part:
            continue
        resource, amount = known.get(part.lower()), None
        if resource is None and (found := _PERSON.fullmatch(part)):
            resource, amount = known.get(found["who"].strip().lower()), found["amount"]
        if resource is None:
            raise EntryRefused(
                "people",
                f"There is no resource “{part[:60]}”. Give a code such as {next(iter(known), 'FIT').upper()}, with how many: FIT 2.",
            )
        if resource.pk in seen:
            raise EntryRefused("people", f"“{resource.code}” stands twice. Keep one of the two.")
        seen.add(resource.pk)
        a = there.pop(resource.pk, None) or Assignment(
            project=project, activity=row, resource=resource, order=last_place(Assignment, project)
        )
        number = cells.number(above=True)(amount.replace(",", "."), "people", draft.around()) if amount else None
        if resource.kind == "material":
            a.quantity = number if number is not None else a.quantity
        else:
            a.units = None if number == 1 else number if number is not None else a.units
        draft.keep(f"s{a.pk}" if a.pk else "", a)
    for gone in there.values():
        draft.step.delete(gone)


def write_cost(draft: Any, name: str, row: Activity, value: Any) -> None:
    """The direct cost of an activity that has one line or none."""
    lines = list(DirectCost.objects.filter(activity=row))
    if len(lines) > 1:
        raise EntryRefused("direct_cost", f"“{row.name}” has {len(lines)} direct costs. Change them one by one in the margin.")
    amount = cells.amount()(value, "direct_cost", draft.around())
    if amount is None:
        for x in lines:
            draft.step.delete(x)
        return
    cost = (
        lines[0]
        if lines
        else DirectCost(project=draft.project, activity=row, name="Direct cost", order=last_place(DirectCost, draft.project))
    )
    cost.amount = amount
    draft.keep(f"c{cost.pk}" if cost.pk else "", cost)


def write_begin(draft: Any, name: str, row: Activity, value: Any) -> None:
    """A start typed into the plan: not before that date. Empty lets the links and the project's start say it."""
    around = draft.around(row)
    at = type_instant(str(value or ""), "begin", around.near, around.calendar.axis)
    row.constraint = None if at is None else {"type": "start_on_or_after", "at": to_text(at)}
    draft.keep(name, row)


def write_end(draft: Any, name: str, row: Activity, value: Any) -> None:
    """A finish typed into the plan: the duration that brings it there from the present start."""
    around = draft.around(row)
    now = draft.dates.get(row.code)
    start = None if now is None else now.start
    at = type_instant(str(value or ""), "end", start or around.near, around.calendar.axis, True)
    if at is None or start is None:
        raise EntryRefused("end", "Give the date on which it should finish, such as 12 feb.")
    if at <= start:
        raise EntryRefused("end", f"It starts on {said_day(start)}. Give a later date.")
    axis = draft.book.axes.get(row.code, around.calendar.axis)
    minutes = axis.between(start, at)
    row.duration, row.kind = duration_text(minutes, around.calendar, ("d", "h", "min")), None
    draft.keep(name, row)


LIST_CELLS: dict[str, Callable[..., None]] = {
    "after": write_links,
    "people": write_people,
    "direct_cost": write_cost,
    "begin": write_begin,
    "end": write_end,
}


def last_place(model: Any, project: Any) -> float:
    """The place after all rows of a list."""
    last = model.objects.filter(project=project).order_by("-order").values_list("order", flat=True).first()
    return 0.0 if last is None else last + 1
