"""Posting: one cell, to plan, undo. Each action asks who may, checks in the core, and is one step of the journal."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.plan import Statement as Said
from dryledger.calendar.calendar import date_of, to_text
from dryledger.entry.grammar import type_amount, type_date, type_duration, type_percent
from dryledger.errors import EntryRefused
from dryledger.posting.effects import Moved, balance, change, moved
from dryledger.posting.entries import Said as Entry
from dryledger.posting.entries import begin_statement, check_entry, describe, plan_statement, wants_word
from server.accounts.models import Person, Role
from server.accounts.roles import require
from server.journal import steps
from server.plan.models import Activity, Project
from server.posting.models import CostEntry, Page, Statement
from server.posting.pages import find_project, wet_page
from server.posting.sheet import SheetRow, before, sheet
from server.shared.problems import Refused
from server.value.results import View, view
from server.value.selectors import balance_of
from server.value.shapes import BalanceOut

FIELDS = ("actual_start", "actual_finish", "percent", "remaining", "cost", "note")
LONGEST_NOTE = 4000


@dataclass
class MovedOut:
    """An activity whose finish moved, in working days (positive: later)."""

    code: str
    name: str
    before: str
    after: str
    days: float


def _moved(m: Moved) -> MovedOut:
    return MovedOut(m.code, m.name, to_text(m.before), to_text(m.after), float(m.days))


@dataclass
class Effect:
    """What a write did: the new revision, the rows that look different now, what moved, and the totals before and after."""

    revision: int
    label: str
    subject: str
    """The activity that was written, where it was one."""
    rows: list[SheetRow]
    moved: list[MovedOut]
    balance: BalanceOut
    change: dict[str, str]
    """How far each total moved, as a decimal text."""
    to_go: int
    posted: int
    filled: list[str] = field(default_factory=list)


def _effect(old: View, label: str, subject: str = "", filled: tuple[str, ...] = ()) -> Effect:
    was = sheet(old)
    new = view(old.project.code, old.page.code)
    now = sheet(new)
    known = {row.code: row for row in was.rows}
    changed = [row for row in now.rows if known.get(row.code) != row]
    return Effect(
        new.project.revision,
        label,
        subject,
        changed,
        [_moved(m) for m in moved(old.results, new.results)],
        balance_of(new),
        {k: f"{v:f}" for k, v in change(balance(old.results), balance(new.results)).items()},
        now.to_go,
        now.posted,
        list(filled),
    )


def _activity(project: Project, code: str) -> Activity:
    found = Activity.objects.filter(project=project, code=code).first()
    if found is None:
        raise Refused("not-found", f"There is no activity “{code}” in {project.code}.", 404)
    return found


def post_entry(person: Person, project_code: str, page_code: str, code: str, revision: int, typed: Mapping[str, str]) -> Effect:
    """Write what was typed into cells of one activity on the wet page. An empty text clears a cell.

    Raises EntryRefused at the field, Stale for an old revision, Refused for a dry page.
    """
    require(person, Role.ANALYST, "post on a page")
    project = find_project(project_code)
    wet_page(project, page_code)
    activity = _activity(project, code)
    old = view(project_code, page_code)
    if old.project.revision != revision:
        raise steps.Stale(old.project.revision, steps.changes_since(old.project, revision))
    said, amount = _read(old, code, typed)
    label = (
        f"{activity.name}: {describe(said.statement)}" if said else f"{activity.name}: cost {amount if amount is not None else 'cleared'}"
    )
    with steps.step(project, person, revision, "post", label, code) as s:
        if said is not None:
            _write_statement(s, old.page, activity, said.statement)
        if "cost" in typed:
            _write_cost(s, old, activity, amount)
    return _effect(old, label, code, said.filled if said else ())


def _read(v: View, code: str, typed: Mapping[str, str]) -> tuple[Entry | None, Decimal | None]:
    """The statement and the cost that typed cells mean; None where the cells say nothing about it."""
    book, r = v.book, v.results
    activity = book.activity_by_code[code]
    calendar, axis = book.calendar_by_code[activity.calendar], book.axes[code]
    amount = type_amount(typed["cost"], r.valuation.unit) if "cost" in typed else None
    changed = {k for k in typed if k != "cost"}
    if not changed:
        return None, amount
    start = before(v)
    mine = {s.activity: s for s in r.at.periods[-1].statements}
    s = mine.get(code) or begin_statement(start, code)
    assert r.status is not None
    for name in changed:
        text = typed[name]
        if name == "note":
            if len(text) > LONGEST_NOTE:
                raise EntryRefused("note", f"A note has at most {LONGEST_NOTE} characters; this one has {len(text)}.")
            s = replace(s, note=text.strip() or None)
        elif name == "percent":
            s = replace(s, percent=type_percent(text))
        elif name == "remaining":
            read = type_duration(text, calendar)
            s = replace(s, remaining=None if read is None else read[0])
        else:
            s = replace(s, **{name: type_date(text, name, r.status, axis, name == "actual_finish")})
    return check_entry(r, start, s, changed), amount


def _write_statement(s: steps.Changes, page: Page, activity: Activity, said: Said) -> None:
    row = Statement.objects.filter(page=page, activity=activity).first()
    if row is None:
        row = Statement(project_id=page.project_id, page=page, activity=activity, order=Statement.objects.filter(page=page).count())
    row.actual_start = None if said.actual_start is None else to_text(said.actual_start)
    row.actual_finish = None if said.actual_finish is None else to_text(said.actual_finish)
    row.percent = None if said.percent is None else float(said.percent * 100)
    row.remaining = None if said.remaining is None else f"{said.remaining}min"
    row.carry_to = None if said.carry_to is None else to_text(said.carry_to)
    row.units_done = None if said.units_done is None else float(said.units_done)
    row.milestones_reached = list(said.milestones_reached) or None
    row.note = said.note
    s.save(row)


def _write_cost(s: steps.Changes, v: View, activity: Activity, amount: Decimal | None) -> None:
    """The posting sheet's own cost of an activity: one entry a page, dated on the status date, said by a person."""
    row = CostEntry.objects.filter(page=v.page, activity=activity, typed=True).first()
    if amount is None:
        if row is not None:
            s.delete(row)
        return
    assert v.results.status is not None
    if row is None:
        row = CostEntry(
            project_id=v.page.project_id,
            page=v.page,
            activity=activity,
            typed=True,
            source="invoice",
            order=CostEntry.objects.filter(page=v.page).count(),
            date=date_of(v.results.status - 1).isoformat(),
        )
    row.amount = f"{amount:f}"
    s.save(row)


def clear_entry(person: Person, project_code: str, page_code: str, code: str, revision: int) -> Effect:
    """Take the whole statement of an activity off the wet page: silence, as before it was posted."""
    require(person, Role.ANALYST, "post on a page")
    project = find_project(project_code)
    page = wet_page(project, page_code)
    activity = _activity(project, code)
    old = view(project_code, page_code)
    label = f"{activity.name}: statement taken off the page"
    with steps.step(project, person, revision, "clear", label, code) as s:
        for row in [
            *Statement.objects.filter(page=page, activity=activity),
            *CostEntry.objects.filter(page=page, activity=activity, typed=True),
        ]:
            s.delete(row)
    return _effect(old, label, code)


def post_to_plan(person: Person, project_code: str, page_code: str, revision: int, codes: list[str] | None) -> Effect:
    """Post the chosen activities (all that want a word, where none are named) as the page before forecast them.

    What already has a statement on this page stays as it is. One step, so one undo.
    """
    require(person, Role.ANALYST, "post on a page")
    project = find_project(project_code)
    page = wet_page(project, page_code)
    old = view(project_code, page_code)
    start, known = before(old), old.book.activity_by_code
    missing = [c for c in codes or () if c not in known]
    if missing:
        raise Refused("not-found", f"There is no activity “{missing[0]}” in {project.code}.", 404)
    done = {s.activity for s in old.results.at.periods[-1].statements}
    wanted = [c for c in known if (c in codes if codes is not None else wants_word(old.results, start, c)) and c not in done]
    said = [s for s in (plan_statement(old.results, start, c) for c in wanted) if s is not None]
    label = f"posted {len(said)} to plan"
    rows = {a.code: a for a in Activity.objects.filter(project=project)}
    with steps.step(project, person, revision, "plan", label) as s:
        for statement in said:
            _write_statement(s, page, rows[statement.activity], statement)
    return _effect(old, label if said else "nothing of it was planned to happen by this date")


def turn(person: Person, project_code: str, revision: int, back: bool) -> Effect:
    """Undo (back) or redo one step."""
    require(person, Role.ANALYST, "undo")
    project = find_project(project_code)
    old = view(project_code, "now")
    old.results.project  # noqa: B018  computed before the rows change under it
    done = steps.undo(project, person, revision) if back else steps.redo(project, person, revision)
    return _effect(old, ("Undid: " if back else "Did again: ") + done.label)
