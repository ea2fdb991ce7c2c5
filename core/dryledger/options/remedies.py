"""Putting an over-allocation right at its spot: somebody else, later within float, more units, levelling of the one resource.

Source: calculation contract, section 19 (booking, levelling). Each way is changes of the plan, computed as the book would be; none is told
that leaves as much over-allocated as there was.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, timedelta
from decimal import Decimal, localcontext

from dryledger.book.lists import LISTS
from dryledger.book.options import Change
from dryledger.book.plan import Assignment, Resource, UnitsException
from dryledger.budget.booking import Over, over_allocated
from dryledger.budget.free import Free
from dryledger.budget.money import CONTEXT, amount_of
from dryledger.calendar.calendar import Instant, date_of, to_text
from dryledger.changes.option import with_changes
from dryledger.compute import Results
from dryledger.exchange.write import row_document
from dryledger.options.board import results_of, until_page
from dryledger.options.levelling import MODES, level
from dryledger.options.proposals import levelled_changes

__all__ = ["REMEDY_KINDS", "Remedy", "can_stand_in", "remedies"]

REMEDY_KINDS = ("other", "later", "units", "level")
MOST_OTHERS = 12
"""How many others are tried for one activity, those with the most free time first."""


@dataclass(frozen=True)
class Remedy:
    """A way to put it right, with what comes of it.

    `later` is by how many working minutes of the project calendar the finish moves, `own_later` the activity's own; `cost` the change
    of EAC bottom_up; `left` the unit-minutes of the resource still over-allocated, `left_in_all` those of all resources. `free` are the
    unit-minutes that somebody else has in the time of the activity.
    """

    kind: str
    changes: tuple[Change, ...]
    activity: str | None = None
    other: str | None = None
    mode: str = ""
    later: int = 0
    own_later: int = 0
    cost: Decimal = Decimal(0)
    left: Decimal = Decimal(0)
    left_in_all: Decimal = Decimal(0)
    free: Decimal = Decimal(0)
    units: Decimal | None = None


def remedies(r: Results, resource: str, start: Instant, end: Instant) -> list[Remedy]:
    """The ways to put right what is over-allocated of a resource from start to end, the least harm first.

    That is what moves no finish, leaves least over-allocated, costs least. Raises KeyError for an unknown resource.
    """
    row, all_over = r.book.resource_by_code[resource], over_allocated(r.book, r.schedule, r.at.to_go)
    spans = [x for x in all_over if x.resource == resource and x.start < end and x.end > start]
    if not spans:
        return []
    codes = list(dict.fromkeys(c for x in spans for c in x.activities))
    free = Free(r.book, r.schedule, r.at.to_go)
    ways = (*_others(r, free, row, codes), *_later(r, free, row, codes), *_units(row, spans), *_levelled(r, row))
    found = [x for way in ways if (x := _tried(r, resource, spans, way)) is not None]
    return sorted(found, key=lambda x: (x.later > 0, x.left, x.later, x.cost, REMEDY_KINDS.index(x.kind), x.activity or "", x.other or ""))


def _tried(r: Results, resource: str, spans: list[Over], x: Remedy) -> Remedy | None:
    """A way with what comes of it; None where it does not fit or helps nothing in these times."""
    applied = with_changes(until_page(r), x.changes)
    if applied.conflicts or not x.changes:
        return None
    now = results_of(r, applied.book)
    over = over_allocated(applied.book, now.schedule, now.at.to_go)
    mine = [y for y in over if y.resource == resource]
    if _within(mine, spans) >= sum((y.unit_minutes for y in spans), Decimal(0)):
        return None
    with localcontext(CONTEXT):
        cost = amount_of(now.valuation.total().forecast, now.valuation.unit) - amount_of(r.valuation.total().forecast, r.valuation.unit)
    later = r.book.axis.between(r.schedule.finish, now.schedule.finish)
    own = 0
    if x.activity is not None:
        own = r.book.axes[x.activity].between(r.schedule.activities[x.activity].finish, now.schedule.activities[x.activity].finish)
    left, in_all = (sum((y.unit_minutes for y in some), Decimal(0)) for some in (mine, over))
    return replace(x, later=later, own_later=own, cost=cost, left=left, left_in_all=in_all)


def _within(over: list[Over], spans: list[Over]) -> Decimal:
    """What of some over-allocation falls into times."""
    out = Decimal(0)
    for x in over:
        for y in spans:
            low, high = max(x.start, y.start), min(x.end, y.end)
            if low < high:
                out += (x.required - x.available) * (high - low)
    return out


def _row(r: Results, code: str, resource: str) -> Assignment:
    return next(x for x in r.book.assignments_of[code] if x.resource == resource)


def _others(r: Results, free: Free, row: Resource, codes: list[str]) -> Iterator[Remedy]:
    """Each activity by each other of the same kind who has the skill, or fills the role, and is free for all of its time."""
    posted = {(h.activity, h.resource) for page in r.at.periods for h in page.hours}
    for code in codes:
        there = {x.resource for x in r.book.assignments_of[code]}
        if (code, row.code) in posted:
            continue  # what was worked stays theirs
        own = _row(r, code, row.code)
        able = [x for x in r.book.resources if x.code not in there and x.kind == row.kind and can_stand_in(x, row)]
        found = [(free.minutes(x.code, code), x) for x in able if free.fits(x.code, code, own.units)]
        for minutes, x in sorted(found, key=lambda f: (-f[0], f[1].code))[:MOST_OTHERS]:
            cells = row_document(LISTS["assignments"], own)
            cells = {k: v for k, v in cells.items() if k in ("units", "work", "quantity")}
            out = Change("unassign", activity=code, resource=row.code)
            changes = (out, Change("assign", activity=code, resource=x.code, cells=cells))
            yield Remedy("other", changes, code, x.code, free=minutes)


def can_stand_in(x: Resource, row: Resource) -> bool:
    """Whether somebody can do another's work: they fill the role, or share a skill; where neither says one, roles and people are apart.

    >>> one = Resource("A", "Ada", skills=("welding",))
    >>> can_stand_in(Resource("B", "Ben", skills=("Welding", "rigging")), one), can_stand_in(Resource("C", "Cy"), one)
    (True, False)
    """
    if row.code in x.roles:
        return True
    if x.role:
        return False
    wanted = {s.lower() for s in row.skills}
    return bool(wanted & {s.lower() for s in x.skills})


def _later(r: Results, free: Free, row: Resource, codes: list[str]) -> Iterator[Remedy]:
    """Each activity that has not begun at the first place within its float at which the resource is free for it."""
    for code in codes:
        a, plan = r.book.activity_by_code[code], r.schedule.activities[code]
        if plan.state != "not_started" or a.mode == "fixed" or plan.late_start is None:
            continue
        at = free.place(row.code, code, _row(r, code, row.code).units, plan.late_start)
        if at is not None:
            was = None if a.levelled is None else to_text(a.levelled)
            yield Remedy("later", (Change("set", code, cells={"levelled": to_text(at)}, was={"levelled": was}),), code)


def _units(row: Resource, spans: list[Over]) -> Iterator[Remedy]:
    """As many units as are asked for at once, on the dates on which they are."""
    first, last, units = date_of(spans[0].start), date_of(spans[-1].end - 1), max(x.required for x in spans)
    rows = tuple(_with_units(row.exceptions, UnitsException(first, last, "", units)))
    cells = row_document(LISTS["resources"], replace(row, exceptions=rows)).get("exceptions")
    yield Remedy("units", (Change("resource", row.code, cells={"exceptions": cells}),), units=units)


def _with_units(had: tuple[UnitsException, ...], new: UnitsException) -> Iterator[UnitsException]:
    """Other units on some dates: what was said of them there gives way, but for leave, which stays."""
    day = timedelta(days=1)
    away = sorted((x for x in had if not x.units and x.start <= new.end and x.end >= new.start), key=lambda x: x.start)
    for x in had:
        if not x.units or x.end < new.start or x.start > new.end:
            yield x
            continue
        if x.start < new.start:
            yield replace(x, end=new.start - day)
        if x.end > new.end:
            yield replace(x, start=new.end + day)
    at: date = new.start
    for x in away:
        if at < x.start:
            yield replace(new, start=at, end=x.start - day)
        at = max(at, x.end + day)
    if at <= new.end:
        yield replace(new, start=at)


def _levelled(r: Results, row: Resource) -> Iterator[Remedy]:
    """The work of this resource one after the other, within its float, and beyond it."""
    for mode in MODES:
        dates = level(r, mode, only=row.code).dates
        yield Remedy("level", levelled_changes(r.book, dates), mode=mode)
