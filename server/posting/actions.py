"""Posting: cells, undo. Each action asks who may, checks in the core, and is one step of the journal."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.pages import CostEntry as CoreCost
from dryledger.book.pages import HoursEntry, Statement
from dryledger.calendar.calendar import date_of, to_text
from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from dryledger.changes.entering import set_hours, state
from dryledger.posting.assumed import nothing_left
from dryledger.posting.effects import Moved, balance, change, moved
from dryledger.posting.typed import read_entries
from server.book.access import Access
from server.book.models import CostEntry
from server.book.results import View
from server.journal.steps import Changes, ask, unchanged
from server.journal.writing import undo_or_redo, write
from server.posting.sheet import Sheet, SheetRow, before, sheet
from server.shared.problems import Refused
from server.shared.words import sentence
from server.value.selectors import balance_of
from server.value.shapes import BalanceOut

FIELDS = ("actual_start", "actual_finish", "percent", "remaining", "carry_to", "units_done", "milestones_reached", "cost", "note")


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


def seen_page(access: Access, page_code: str, revision: int) -> tuple[View, Sheet]:
    """The wet page and its sheet as the writer saw them. Raises Stale where they are others by now."""
    access.wet(page_code)
    unchanged(access, revision)
    old = access.view(page_code)
    return old, sheet(old)


def post_entries(
    access: Access, page_code: str, revision: int, entries: Mapping[str, Mapping[str, str]], clear: Sequence[str] = ()
) -> Effect:
    """Write what was typed into cells of activities on the wet page, all of it or none, as one step. An empty text clears a cell.

    Of the activities in `clear` the page says nothing then, as before they were posted. Raises EntryRefused at the field, of
    several ChangeRefused, which names the activity too; Stale for an old revision, Refused for a dry page.
    """
    kind = "post" if entries else "clear"
    ask(access, kind)
    old, was = seen_page(access, page_code, revision)
    known = old.book.activity_by_code
    for code in (*entries, *clear):
        if code not in known:
            raise Refused("not-found", sentence("posting.no_activity", code=code, code_2=access.project.code), 404)
    read = read_entries(old.results, before(old), entries)
    says = {x.activity: f"{known[x.activity].name}: {x.says}" for x in read}
    says |= {code: sentence("posting.statement_taken_off_page", name=known[code].name) for code in clear}
    subject, label = next(iter(says.items())) if len(says) == 1 else ("", sentence("posting.posted_rows", count=len(says)))

    def changes(draft: Draft, page: int) -> None:
        put_on(old, draft, page, [*(x.checked.statement for x in read if x.checked is not None), *clear])
        for code, cost in [*((x.activity, x.cost) for x in read if x.has_cost), *((code, None) for code in clear)]:
            _own_cost(draft, old, code, cost)

    enter(access, old, revision, kind, changes, label, subject)
    return effect_of(access, was, old, label, subject, tuple(text for x in read if x.checked for text in x.checked.filled))


def put_on(old: View, draft: Draft, page: int, statements: Sequence[Statement | str], hours: Sequence[HoursEntry] = ()) -> None:
    """Put statements and hours on the open page; 0 remaining hours come with a finish."""
    done = {s.activity for s in statements if isinstance(s, Statement) and s.actual_finish is not None}
    own = {(h.activity, h.resource) for h in hours}
    for h in (*(x for x in nothing_left(old.results, done) if (x.activity, x.resource) not in own), *hours):
        set_hours(draft, page, h)
    state(draft, page, statements)


def enter(
    access: Access,
    old: View,
    revision: int,
    kind: str,
    change: Callable[[Draft, int], None],
    label: str,
    subject: str = "",
    beside: Callable[[Changes], None] | None = None,
) -> None:
    """Do a change of the open page, a function of the draft and the page's key, as one step."""
    w = old.workspace
    draft = Draft(w.keyed)
    change(draft, old.page.pk)
    write(access, revision, kind, finished(draft), w, label, subject, beside)


def _own_cost(draft: Draft, v: View, activity: str, amount: Decimal | None) -> None:
    """The posting sheet's own cost of an activity: one entry a page, dated on the status date, said by a person."""
    page = v.page.pk
    typed = list(CostEntry.objects.filter(page=page).values_list("typed", flat=True))
    costs = draft.entered(page, "costs")
    place = next((p for p, x in costs.items() if x.activity == activity and 0 <= p < len(typed) and typed[p]), None)
    if amount is None:
        if place is not None:
            draft.enter(page, "costs", [(place, None)])
        return
    assert v.results.status is not None
    known = CoreCost(date_of(v.results.status - 1), amount, "invoice", activity) if place is None else replace(costs[place], amount=amount)
    (place,) = draft.enter(page, "costs", [(place, known)])
    draft.own.add((page, place))


def undo_or_redo_entry(access: Access, revision: int, back: bool) -> Effect:
    """Undo (back) or redo one step."""
    old = access.view("now")
    was = sheet(old)
    label = undo_or_redo(access, revision, back)
    return effect_of(access, was, old, label)
