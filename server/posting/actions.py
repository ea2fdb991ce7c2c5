"""Posting: cells, undo. Each action asks who may, checks in the core, and is one step of the journal."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.durations import planned_duration
from dryledger.book.plan import Statement as CoreStatement
from dryledger.calendar.calendar import Instant, date_of, to_text
from dryledger.compute import Results
from dryledger.entry.grammar import type_amount, type_date, type_duration, type_percent
from dryledger.entry.plan_cells import type_instant
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.effects import Moved, balance, change, moved
from dryledger.posting.entries import Checked, begin_statement, check_entry, describe, milestones_of, type_reached, type_units
from server.book.access import Access
from server.book.models import Activity, CostEntry, Page, Project, Statement
from server.book.results import View
from server.journal.steps import Changes, ask, step, turned, unchanged
from server.journal.writing import after_step
from server.posting.sheet import Sheet, SheetRow, before, sheet
from server.shared.problems import Refused
from server.shared.words import sentence
from server.value.selectors import balance_of
from server.value.shapes import BalanceOut

FIELDS = ("actual_start", "actual_finish", "percent", "remaining", "carry_to", "units_done", "milestones_reached", "cost", "note")
LONGEST_NOTE = 4000


@dataclass
class MovedOut:
    """An activity whose finish moved, in working days (positive: later)."""

    code: str
    name: str
    before: str
    after: str
    days: float


def moved_out(m: Moved) -> MovedOut:
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


def effect_of(access: Access, was: Sheet, old: View, label: str, subject: str = "", filled: tuple[str, ...] = ()) -> Effect:
    new = access.view(old.page.code)
    now = sheet(new)
    known = {row.code: row for row in was.rows}
    changed = [row for row in now.rows if known.get(row.code) is not row and known.get(row.code) != row]
    return Effect(
        new.project.revision,
        label,
        subject,
        changed,
        [moved_out(m) for m in moved(old.results, new.results)],
        balance_of(new),
        {k: f"{v:f}" for k, v in change(balance(old.results), balance(new.results)).items()},
        now.to_go,
        now.posted,
        list(filled),
    )


def _activity(project: Project, code: str) -> Activity:
    found = Activity.objects.filter(project=project, code=code).first()
    if found is None:
        raise Refused("not-found", sentence("posting.no_activity", code=code, code_2=project.code), 404)
    return found


def seen_page(access: Access, page_code: str, revision: int) -> tuple[View, Sheet]:
    """The wet page and its sheet as the writer saw them. Raises Stale where they are others by now."""
    access.wet(page_code)
    unchanged(access, revision)
    old = access.view(page_code)
    return old, sheet(old)


def post_entry(access: Access, page_code: str, code: str, revision: int, typed: Mapping[str, str]) -> Effect:
    """Write what was typed into cells of one activity on the wet page. An empty text clears a cell.

    Raises EntryRefused at the field, Stale for an old revision, Refused for a dry page.
    """
    return post_entries(access, page_code, revision, {code: typed})


def post_entries(access: Access, page_code: str, revision: int, entries: Mapping[str, Mapping[str, str]]) -> Effect:
    """The same for several activities by code, all of them or none, as one step.

    Of several, a refusal names its activity too: ChangeRefused.
    """
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    w = old.workspace
    rows = {a.code: a for a in Activity.objects.filter(project=access.project, code__in=list(entries))}
    read: list[tuple[Activity, Checked | None, Decimal | None, bool]] = []
    for code, typed in entries.items():
        if code not in rows:
            raise Refused("not-found", sentence("posting.no_activity", code=code, code_2=access.project.code), 404)
        try:
            read.append((rows[code], *_read(old, code, typed), "cost" in typed))
        except EntryRefused as no:
            if len(entries) == 1:
                raise
            raise ChangeRefused("entry-refused", no.message, code, no.field, no.nearest) from None
    label, subject = sentence("posting.posted_rows", count=len(read)), ""
    if len(read) == 1:
        (activity, checked, amount, _), *_ = read
        done = f"cost {amount if amount is not None else 'cleared'}" if checked is None else describe(checked.statement)
        label, subject = f"{activity.name}: {done}", activity.code
    with step(access, revision, "post", label, subject) as s:
        for activity, checked, amount, costs in read:
            if checked is not None:
                write_statement(s, old.page, activity, checked.statement)
            if costs:
                _write_cost(s, old, activity, amount)
    after_step(access, w, s.rows)
    return effect_of(access, was, old, label, subject, tuple(x for _, checked, _, _ in read if checked for x in checked.filled))


def _read(v: View, code: str, typed: Mapping[str, str]) -> tuple[Checked | None, Decimal | None]:
    """The statement and the cost that typed cells mean; None where the cells say nothing about it."""
    amount = type_amount(typed["cost"], v.results.valuation.unit) if "cost" in typed else None
    cells = {k: text for k, text in typed.items() if k != "cost"}
    if not cells:
        return None, amount
    mine = {s.activity: s for s in v.results.at.periods[-1].statements}
    start = before(v)
    return read_statement(v, start, mine.get(code) or begin_statement(start, code), cells), amount


def read_statement(v: View, start: Results, s: CoreStatement, typed: Mapping[str, str]) -> Checked:
    """What a statement becomes with typed cells; `start`: the results of the page before. Raises EntryRefused at the cell."""
    book, r, code = v.book, v.results, s.activity
    calendar = book.calendar_by_code[book.activity_by_code[code].calendar]
    for name, text in typed.items():
        if name == "note":
            if len(text) > LONGEST_NOTE:
                raise EntryRefused("note", sentence("posting.note_most_characters_one", longest_note=LONGEST_NOTE, count=len(text)))
            s = replace(s, note=text.strip() or None)
        elif name == "percent":
            s = replace(s, percent=type_percent(text))
        elif name == "remaining":
            read = type_duration(text, calendar)
            s = replace(s, remaining=None if read is None else read[0])
        elif name == "carry_to":
            s = replace(s, carry_to=type_instant(text, name, r.status or 0, book.axes[code]))
        elif name == "units_done":
            s = replace(s, units_done=type_units(text))
        elif name == "milestones_reached":
            s = replace(s, milestones_reached=type_reached(text, milestones_of(r, code)))
        else:
            at = _date(v, start, code, name, text)
            s = replace(s, actual_start=at) if name == "actual_start" else replace(s, actual_finish=at)
    return check_entry(r, start, s, set(typed))


def _date(v: View, start: Results, code: str, name: str, text: str) -> Instant | None:
    """An actual date; of a milestone a date without a time is the instant that its forecast, else its baseline, has on it."""
    r, book = v.results, v.book
    assert r.status is not None
    if planned_duration(book, book.activity_by_code[code]):
        return type_date(text, name, r.status, book.axes[code], name == "actual_finish")
    row, base = start.schedule.activities.get(code), r.baseline.by_code.get(code) if r.baseline else None
    known = [x.finish for x in (row, base) if x is not None]
    return type_date(text, name, r.status, book.axis, True, known)


def write_statement(s: Changes, page: Page, activity: Activity, said: CoreStatement) -> None:
    row = Statement.objects.filter(page=page, activity=activity).first()
    if row is None:
        row = Statement(project_id=page.project_id, page=page, activity=activity, order=Statement.objects.filter(page=page).count())
    _fill(row, said)
    s.save(row)


def write_statements(s: Changes, page: Page, said: Sequence[tuple[Activity, CoreStatement]]) -> None:
    """The same for many activities at once."""
    held = {row.activity_id: row for row in Statement.objects.filter(page=page)}
    changed, fresh = list[Statement](), list[Statement]()
    for activity, statement in said:
        row = held.get(activity.pk)
        (fresh if row is None else changed).append(
            row or Statement(project_id=page.project_id, page=page, activity=activity, order=len(held) + len(fresh))
        )
        _fill((changed if row else fresh)[-1], statement)
    s.update(changed)
    s.add(fresh)


def _fill(row: Statement, said: CoreStatement) -> None:
    row.actual_start = None if said.actual_start is None else to_text(said.actual_start)
    row.actual_finish = None if said.actual_finish is None else to_text(said.actual_finish)
    row.percent = None if said.percent is None else float(said.percent * 100)
    row.remaining = None if said.remaining is None else f"{said.remaining}min"
    row.carry_to = None if said.carry_to is None else to_text(said.carry_to)
    row.units_done = None if said.units_done is None else float(said.units_done)
    row.milestones_reached = list(said.milestones_reached) or None
    row.note, row.corrects, row.reason = said.note, said.corrects, said.reason


def _write_cost(s: Changes, v: View, activity: Activity, amount: Decimal | None) -> None:
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


def clear_entry(access: Access, page_code: str, code: str, revision: int) -> Effect:
    """Take the whole statement of an activity off the wet page: silence, as before it was posted."""
    ask(access, "clear")
    old, was = seen_page(access, page_code, revision)
    activity, w = _activity(access.project, code), old.workspace
    label = sentence("posting.statement_taken_off_page", name=activity.name)
    with step(access, revision, "clear", label, code) as s:
        for row in [
            *Statement.objects.filter(page=old.page, activity=activity),
            *CostEntry.objects.filter(page=old.page, activity=activity, typed=True),
        ]:
            s.delete(row)
    after_step(access, w, s.rows)
    return effect_of(access, was, old, label, code)


def turn(access: Access, revision: int, back: bool) -> Effect:
    """Undo (back) or redo one step."""
    old = access.view("now")
    was, w = sheet(old), old.workspace
    done = turned(access, revision, back)
    after_step(access, w, done.changes)
    return effect_of(access, was, old, ("Undid: " if back else "Did again: ") + done.label)
