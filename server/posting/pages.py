"""Pages: their status date and note, closing one and opening the next, and taking back one that says nothing."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from dryledger.calendar.calendar import Instant, date_of, from_text, to_text
from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from dryledger.changes.pages import close_page as close
from dryledger.changes.pages import next_page, open_next
from dryledger.changes.pages import take_back as take_page_back
from dryledger.checks.answers import impossible
from dryledger.entry.grammar import format_day
from dryledger.entry.plan_cells import type_instant
from dryledger.errors import EntryRefused
from dryledger.posting.effects import balance, change
from dryledger.posting.status import StatusMove, status_move
from dryledger.posting.typed import LONGEST_NOTE
from server.book.access import Access
from server.book.lookup import last_page
from server.book.models import CostEntry, Page, Project
from server.book.outside import current_externals
from server.book.results import View
from server.book.sealing import prepared, seal
from server.book.workspace import Workspace, workspace_of
from server.journal.steps import Changes, ask, unchanged
from server.journal.writing import write
from server.posting.actions import MovedOut, enter, moved_out
from server.posting.sheet import before
from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class ActivityName:
    """An activity by its code and name."""

    code: str
    name: str


@dataclass
class Later:
    """A dated cost of the page: on which activity or element."""

    on: str
    amount: str
    date: str


@dataclass
class StatusOut:
    """What a page is with another status date: what comes due or ceases to be, what moves, and how far the totals do."""

    revision: int
    page: str
    status: str
    label: str
    comes_due: list[ActivityName]
    no_longer_due: list[ActivityName]
    after: list[Later]
    """Costs of the page that count only from a date after it."""
    moved: list[MovedOut]
    finish: str
    change: dict[str, str]


@dataclass
class PageState:
    """The pages after one was noted, opened or taken back: the project's revision and the latest page."""

    revision: int
    page: str


def _typed_status(access: Access, typed: str, near: Instant, field: str) -> Instant:
    """A status date as typed; a date without a time is its close."""
    at = type_instant(typed, field, near, workspace_of(access.project).book.axis, closing=True)
    if at is None:
        raise EntryRefused(field, sentence("pages.status_needed"))
    return at


def _move(access: Access, v: View, typed: str) -> tuple[StatusMove, list[int]]:
    """What a typed status date would do, and the places of the posting sheet's own costs, which are dated on it."""
    t = _typed_status(access, typed, from_text(v.page.status), "status")
    own = [i for i, typed in enumerate(CostEntry.objects.filter(page=v.page).values_list("typed", flat=True)) if typed]
    return status_move(v.results, before(v), v.page.code, t, set(own)), own


def _status_out(access: Access, v: View, m: StatusMove, label: str) -> StatusOut:
    names = {a.code: a.name for a in v.book.activities}
    assert m.results.status is not None
    return StatusOut(
        access.project.revision,
        v.page.code,
        to_text(m.results.status),
        label,
        [ActivityName(c, names[c]) for c in m.comes_due],
        [ActivityName(c, names[c]) for c in m.no_longer_due],
        [Later(c.activity or c.wbs or "", f"{c.amount:f}", c.date.isoformat()) for c in m.after],
        [moved_out(x) for x in m.moved],
        to_text(m.results.schedule.finish),
        {k: f"{x:f}" for k, x in change(balance(v.results), balance(m.results)).items()},
    )


def try_status(access: Access, page_code: str, typed: str) -> StatusOut:
    """What moving the status date of the open page would do. Nothing is written. Raises EntryRefused at `status`."""
    access.wet(page_code)
    v = access.view(page_code)
    move, _ = _move(access, v, typed)
    return _status_out(access, v, move, "")


def set_status(access: Access, page_code: str, revision: int, typed: str) -> StatusOut:
    """Move the status date of the open page, as one step. Raises EntryRefused at `status`, Stale, Refused for a dry page."""
    ask(access, "status")
    access.wet(page_code)
    unchanged(access, revision)
    v = access.view(page_code)
    move, own = _move(access, v, typed)
    assert move.results.status is not None
    t = move.results.status
    label = sentence("pages.moved_status", page=page_code if page_code != "now" else v.page.code, day=format_day(t, True))

    def changes(draft: Draft, page: int) -> None:
        if from_text(v.page.status) != t:
            draft.put_page(page, status=t)
            there = draft.entered(page, "costs")
            draft.enter(page, "costs", [(place, replace(there[place], date=date_of(t - 1))) for place in own])
            draft.own.update((page, place) for place in own)

    enter(access, v, revision, "status", changes, label)
    return _status_out(access, v, move, label)


def set_note(access: Access, page_code: str, revision: int, note: str) -> PageState:
    """Write the note of the open page, as one step."""
    ask(access, "note")
    access.wet(page_code)
    unchanged(access, revision)
    if len(note) > LONGEST_NOTE:
        raise EntryRefused("note", sentence("posting.note_most_characters_one", longest_note=LONGEST_NOTE, count=len(note)))
    v = access.view(page_code)

    def changes(draft: Draft, page: int) -> None:
        if (v.page.note or "") != note.strip():
            draft.put_page(page, note=note.strip() or None)

    enter(access, v, revision, "note", changes, sentence("pages.noted", page=v.page.code))
    return PageState(access.project.revision, v.page.code)


def close_page(access: Access, code: str, revision: int, following: str | None = None) -> PageState:
    """Seal the open page and open the next, as of the date that was typed or the one proposed. It is not undone.

    Raises EntryRefused at `next` for a date that the next page can't have.
    """
    ask(access, "close")
    page = Page.objects.get(pk=access.wet(code).pk)
    unchanged(access, revision)
    v = access.view(code)
    draft = Draft(v.workspace.keyed)
    close(draft, page.pk)
    made = open_next(draft, _typed_next(access, following, v.page.status))
    _believable(v)
    measured = draft.record("periods", page.pk).measured_against
    ready = prepared(access.project, page, current_externals(access.project), measured)

    def sealing(s: Changes) -> None:
        s.undoable = False
        seal(Project.objects.get(pk=page.project_id), Page.objects.get(pk=page.pk), access.person, ready)

    changed = finished(draft)
    write(access, revision, "close", changed, v.workspace, draft.labels[0], beside=sealing)
    return PageState(access.project.revision, changed.after.rows["periods"][made].record.code)


def _typed_next(access: Access, typed: str | None, near: str) -> Instant | None:
    return _typed_status(access, typed, from_text(near), "next") if typed and typed.strip() else None


def _believable(v: View) -> None:
    """Raises Refused where something on the page cannot be true and nobody has answered it."""
    found = impossible(v.results)
    names = {a.code: a.name for a in v.book.activities}
    rows = [f"{names.get(x.row, x.row)} ({x.row}) {w.check.says}" for w in found for x in w.rows]
    if len(rows) == 1:
        raise Refused("cannot-be-true", sentence("pages.cannot_be_true_one", what=rows[0]), 409)
    if rows:
        raise Refused("cannot-be-true", sentence("pages.cannot_be_true", count=len(rows), what="; ".join(rows[:3])), 409)


def open_page(access: Access, revision: int, typed: str | None) -> PageState:
    """Open the next page after a dry one, where there is no open one. Raises EntryRefused at `next`."""
    w, last = workspace_of(access.project), last_page(access.project)
    draft = Draft(w.keyed)
    return _paged(access, revision, w, draft, lambda: open_next(draft, _typed_next(access, typed, last.status)))


def take_back(access: Access, page_code: str, revision: int) -> PageState:
    """Take back the latest page, which was opened and says nothing yet; the dry one before it stays dry. It is not undone."""
    w, page = workspace_of(access.project), access.wet(page_code)
    draft = Draft(w.keyed)
    return _paged(access, revision, w, draft, lambda: take_page_back(draft, page.pk))


def _paged(access: Access, revision: int, w: Workspace, draft: Draft, change: Callable[[], object]) -> PageState:
    """A change of which pages there are, as a step that is not undone."""
    ask(access, "close")
    unchanged(access, revision)
    change()
    changed = finished(draft)
    write(access, revision, "close", changed, w, beside=_lasting)
    return PageState(access.project.revision, last_page(access.project).code)


def _lasting(s: Changes) -> None:
    s.undoable = False


def next_proposed(access: Access) -> str:
    """The status date proposed for the page after the latest."""
    book = workspace_of(access.project).book
    return to_text(next_page(book, book.periods).status)
