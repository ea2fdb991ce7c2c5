"""Posting as planned, carrying forward, and the treatment of out-of-sequence work: each tried before it is done."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.lists import TREATMENTS
from dryledger.calendar.calendar import Calendar, from_text, to_text
from dryledger.changes.apply import apply_keyed
from dryledger.changes.draft import Draft
from dryledger.compute import Results
from dryledger.entry.plan_cells import type_instant
from dryledger.errors import EntryRefused
from dryledger.marks.marks import activity_marker
from dryledger.posting.assumed import stated_by_hours
from dryledger.posting.costs import page_cost
from dryledger.posting.effects import balance, change
from dryledger.posting.entries import describe
from dryledger.posting.planned import PARTS, WAYS, Filled, as_planned, carried, skipped, tried
from dryledger.posting.treatments import Treated, treated
from server.book.access import Access
from server.book.results import View
from server.journal.steps import ask
from server.journal.writing import write
from server.posting.actions import Effect, MovedOut, effect_of, enter, moved_out, put_on, seen_page
from server.posting.sheet import before
from server.shared.json_values import days
from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class Stated:
    """An activity that is stated, and what is said of it in a few words."""

    code: str
    name: str
    mark: str
    says: str
    finished: bool
    hours: str = ""
    """The hours that are posted on it, and the cost."""
    cost: str = ""
    reckoned: str = ""
    """What the page then did to its cost by progress alone."""


@dataclass
class LeftOut:
    """Something posted already that the plan would contradict: it stays."""

    code: str
    name: str
    part: str
    of: str
    posted: str
    planned: str


@dataclass
class TriedOut:
    """What stating many activities at once would do: each with what is said, what moves, how far the totals do.

    `left` is what stays because something is posted; `skipped` counts what carrying forward leaves, by why.
    """

    stated: list[Stated]
    left: list[LeftOut]
    skipped: dict[str, int]
    moved: list[MovedOut]
    critical: list[Stated]
    no_longer_critical: list[Stated]
    finish: str
    change: dict[str, str]


def _check(access: Access, v: View, codes: list[str] | None) -> None:
    known = v.book.activity_by_code
    missing = [c for c in codes or () if c not in known]
    if missing:
        raise Refused("not-found", sentence("posting.no_such_activity", value=missing[0][:60], code=access.project.code), 404)


def _planned(access: Access, v: View, way: str, codes: list[str] | None, parts: Sequence[str]) -> Filled:
    _check(access, v, codes)
    for name, given, options in (("way", [way], WAYS), ("parts", parts, PARTS)):
        if not set(given) <= set(options):
            raise Refused("bad-request", sentence("planned.way", options=", ".join(options)), 400, field=name)
    return as_planned(v.results, before(v), way, codes, parts)


def _carried(access: Access, v: View, typed: str, codes: list[str] | None) -> Filled:
    _check(access, v, codes)
    at = type_instant(typed, "to", from_text(v.page.status), v.book.axis)
    if at is None:
        raise EntryRefused("to", sentence("planned.carry_needed"))
    return Filled(carried(v.results, before(v), at, codes))


class _Namer:
    """Names activities with their marks."""

    def __init__(self, r: Results) -> None:
        self.names, self.marked = r.book.activity_by_code, activity_marker(r)

    def __call__(self, code: str, says: str = "", finished: bool = False) -> Stated:
        """An activity, what is said of it, and whether it is finished."""
        return Stated(code, self.names[code].name, self.marked(code).mark, says, finished)


def _rows(r: Results, filled: Filled) -> list[Stated]:
    """What goes onto each activity: what is said, hours and cost."""
    named, out = _Namer(r), dict[str, Stated]()
    for s in filled.statements:
        out[s.activity] = named(s.activity, describe(s), s.actual_finish is not None)
    minutes, money = dict[str, int](), dict[str, Decimal]()
    for h in filled.hours:
        minutes[h.activity] = minutes.get(h.activity, 0) + h.worked
    for c in filled.costs:
        assert c.activity is not None
        money[c.activity] = money.get(c.activity, Decimal(0)) + c.amount
    for code in (*minutes, *money):
        out.setdefault(code, named(code))
    spent = page_cost(r)
    for code, row in out.items():
        row.hours = f"{round(minutes[code] / 60, 2):g}" if minutes.get(code) else ""
        if code in minutes and not row.says and not row.hours:
            row.says = sentence("planned.nothing_left")
        row.cost = f"{money[code]:f}" if code in money else ""
        reckoned = spent.get(code, (Decimal(0), Decimal(0)))[1]
        row.reckoned = f"{reckoned:f}" if reckoned else ""
    return [out[a.code] for a in r.book.activities if a.code in out]


def tried_out(access: Access, page_code: str, make: Callable[[View], Filled], codes: list[str] | None = None) -> TriedOut:
    """What the open page would be with what is made for it."""
    access.wet(page_code)
    v = access.view(page_code)
    filled = make(v)
    t = tried(v.results, filled.statements, filled.hours, filled.costs)
    r, named = t.results, _Namer(t.results)
    people = {x.code: x.name for x in v.book.resources}
    return TriedOut(
        _rows(r, filled),
        [LeftOut(x.activity, named.names[x.activity].name, x.part, people.get(x.of, x.of), x.posted, x.planned) for x in filled.left],
        skipped(v.results, before(v), codes),
        [moved_out(m) for m in t.moved],
        [named(c) for c in t.critical],
        [named(c) for c in t.no_longer_critical],
        to_text(r.schedule.finish),
        {k: f"{x:f}" for k, x in change(balance(v.results), balance(r)).items()},
    )


def _state(access: Access, page_code: str, revision: int, kind: str, make: Callable[[View], Filled]) -> Effect:
    """Put it all on the page as one step, so one undo."""
    ask(access, kind)
    old, was = seen_page(access, page_code, revision)
    filled = make(old)
    codes = {x.code for x in _rows(old.results, filled)}
    label = sentence("posting.posted_planned" if kind == "as planned" else "planned.carried", count=len(codes))

    stated = {s.activity for s in filled.statements}
    begun = stated_by_hours(old.results, before(old), [h for h in filled.hours if h.activity not in stated])

    def fill(draft: Draft, page: int) -> None:
        put_on(old, draft, page, [*filled.statements, *begun], filled.hours)
        draft.enter(page, "costs", [(None, c) for c in filled.costs])

    enter(access, old, revision, kind, fill, label)
    return effect_of(access, was, old, label if codes else sentence("posting.nothing_planned_happen_date"))


def try_planned(access: Access, page_code: str, way: str, codes: list[str] | None, parts: Sequence[str]) -> TriedOut:
    """What posting the chosen activities as planned would do; nothing is written."""
    return tried_out(access, page_code, lambda v: _planned(access, v, way, codes, parts))


def post_planned(access: Access, page_code: str, revision: int, way: str, codes: list[str] | None, parts: Sequence[str]) -> Effect:
    """Post the chosen activities (all that need an entry, where none are named) as planned, as one step: of progress, hours and cost
    the `parts` that are named.

    What the page says already stays as it is.
    """
    return _state(access, page_code, revision, "as planned", lambda v: _planned(access, v, way, codes, parts))


def try_carry(access: Access, page_code: str, typed: str, codes: list[str] | None) -> TriedOut:
    """What carrying unfinished work to a date would do; nothing is written. Raises EntryRefused at `to`."""
    return tried_out(access, page_code, lambda v: _carried(access, v, typed, codes), codes)


def carry(access: Access, page_code: str, revision: int, typed: str, codes: list[str] | None) -> Effect:
    """Carry the unfinished work that needs an entry and has none, or what is named, to a date, as one step. Raises EntryRefused."""
    return _state(access, page_code, revision, "carry", lambda v: _carried(access, v, typed, codes))


@dataclass
class TreatedOut:
    """The project under one treatment: finish, drift in working days, the least total float on its driving path, in days."""

    treatment: str
    in_force: bool
    finish: str
    drift: float | None
    path_float: float | None


@dataclass
class DatesOut:
    """Dates of an activity's remaining work, and its total float in days, under one treatment."""

    begin: str
    finish: str
    total_float: float | None


@dataclass
class AffectedOut:
    """An activity that the treatments touch, with its dates in their order."""

    code: str
    name: str
    mark: str
    out_of_sequence: bool
    dates: list[DatesOut]


@dataclass
class TreatmentsOut:
    """The three treatments side by side at a page."""

    page: str
    revision: int
    ahead: int
    """How many activities are out of sequence."""
    treatments: list[TreatedOut]
    rows: list[AffectedOut]


def treatments(v: View) -> TreatmentsOut:
    """The three treatments at a page, each as a computation of its own gives it."""
    r, book = v.results, v.book
    found, touched = treated(r)
    marked = activity_marker(r)

    def own(code: str) -> Calendar:
        return book.calendar_by_code[book.activity_by_code[code].calendar]

    def out(t: Treated) -> TreatedOut:
        least = days(book.project_calendar, t.path_float)
        drift = None if t.drift is None else float(round(t.drift, 2))
        return TreatedOut(t.treatment, t.treatment == r.treatment, to_text(t.results.schedule.finish), drift, least)

    rows = [
        AffectedOut(
            x.code,
            book.activity_by_code[x.code].name,
            marked(x.code).mark,
            x.out_of_sequence,
            [DatesOut(to_text(d.begin), to_text(d.finish), days(own(x.code), d.total_float)) for d in x.dates],
        )
        for x in touched
    ]
    return TreatmentsOut(v.page.code, v.project.revision, sum(x.out_of_sequence for x in touched), [out(t) for t in found], rows)


def choose_treatment(access: Access, page_code: str, revision: int, treatment: str) -> Effect:
    """Choose the treatment that is in force from the open page on, as one step."""
    ask(access, "plan")
    if treatment not in TREATMENTS:
        raise Refused("bad-request", sentence("planned.way", options=", ".join(TREATMENTS)), 400, field="treatment")
    old, was = seen_page(access, page_code, revision)
    label = sentence("planned.treatment", treatment=treatment)
    w = old.workspace
    changed = apply_keyed(
        w.keyed, [{"do": "project", "cells": {"treatment": treatment}}] if treatment != w.book.project.treatment else [], {}
    )
    write(access, revision, "plan", changed, w, label)
    return effect_of(access, was, old, label)
