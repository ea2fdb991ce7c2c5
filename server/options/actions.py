"""Making, changing and adopting options. Only adopting is a step of the journal; all else touches the option alone."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from django.db import transaction

from dryledger.book.lists_beside import CHANGES
from dryledger.book.options import Change
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import apply_keyed
from dryledger.changes.draft import Edit, refused
from dryledger.changes.keyed import KeyedBook
from dryledger.changes.option import changed_values, changes_of, with_keyed_changes
from dryledger.errors import BookInvalid, ChangeRefused, EntryRefused
from dryledger.exchange.write import row_document
from dryledger.options.board import results_of
from dryledger.options.proposals import levelled_changes
from server.accounts.models import Role
from server.book.access import Access
from server.book.kept_models import Option
from server.book.lookup import find_again
from server.journal.steps import ask, changes_since
from server.journal.writing import write
from server.options.computing import Present, Top, option_row, present_of
from server.options.models import Ask, Remark
from server.options.selectors import days
from server.plan.actions import PlanEffect, Sight, effect_of
from server.plan.sheet import PlanSheet, make_sheet, sheet_of
from server.shared.plain import floats
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

Verb = dict[str, Any]
MOST_OPTIONS, MOST_CHANGES, MOST_PAST = 60, 20_000, 50
LONGEST_NAME, LONGEST_TEXT = 200, 4_000
EDIT = "make an option"


@dataclass
class OptionMade:
    """The option that an action made or changed, and how often it was written."""

    id: int
    seen: int
    left_out: list[str]
    """What of the changes did not fit and was left out, in words."""


@dataclass
class Adopted:
    """The project after an option was adopted: its revision, what the change log says, and the reason for a baseline."""

    revision: int
    label: str
    effect: str
    reason: str


def _documents(changes: Sequence[Change]) -> list[dict[str, Any]]:
    return [floats(row_document(CHANGES, x)) for x in changes]


def _keys(keyed: KeyedBook) -> dict[str, dict[str, int]]:
    return {name: keyed.key_of(name) for name in ("activities", "resources")}


def _named(name: str) -> str:
    found = " ".join(name.split())
    if not found:
        raise EntryRefused("name", sentence("options.name"))
    if len(found) > LONGEST_NAME:
        raise EntryRefused("name", sentence("options.long", most=LONGEST_NAME))
    return found


def _text(text: str, field: str) -> str:
    if len(text) > LONGEST_TEXT:
        raise EntryRefused(field, sentence("options.long", most=LONGEST_TEXT))
    return text.strip()


def create(access: Access, name: str, notes: str, options: Sequence[int], proposals: Sequence[str]) -> OptionMade:
    """A new option: empty, or with the changes of other options and of proposals in that order; what does not fit is left out."""
    access.require(Role.ANALYST, EDIT)
    here = present_of(access.project)
    name, notes = _named(name), _text(notes, "notes")
    changes: list[Change] = []
    for pk in options:
        changes += here.option(option_row(access, pk)).changes
    for code in proposals:
        changes += _proposed(here, code)
    applied = with_keyed_changes(here.workspace.keyed, changes) if changes else None
    gone = {c.change: c.message for c in applied.conflicts} if applied else {}
    kept = [x for i, x in enumerate(changes) if i not in gone]
    with transaction.atomic():
        rows = Option.objects.filter(project=access.project)
        if rows.count() >= MOST_OPTIONS:
            raise Refused("too-many", sentence("options.too_many", most=MOST_OPTIONS), 422)
        _within(kept)
        codes, last = set(rows.values_list("code", flat=True)), rows.order_by("order").last()
        number = next(n for n in range(1, MOST_OPTIONS * 100) if f"O{n}" not in codes)
        row = Option(project=access.project, order=0 if last is None else last.order + 1, code=f"O{number}", name=name, notes=notes)
        row.changes, row.based_on = _documents(kept), access.project.plan_revision
        row.remember(_keys(here.workspace.keyed))
        row.save()
    return OptionMade(row.pk, row.seen, list(gone.values()))


def _proposed(here: Present, code: str) -> Sequence[Change]:
    """The changes of a proposal by its code. Raises Refused where there is none such now."""
    kind, _, mode = code.partition("/")
    if kind == "level" and mode in ("within_float", "beyond_float"):
        return levelled_changes(here.results.book, here.levelled(mode).dates)
    found = next((x for x in here.ideas(None) if x.code == code), None)
    if found is None:
        raise Refused("not-found", sentence("options.no_proposal", code=code[:80]), 409)
    return found.changes


def _within(changes: Sequence[Any]) -> None:
    if len(changes) > MOST_CHANGES:
        raise Refused("too-large", sentence("options.too_large", most=MOST_CHANGES), 413)


def _written(access: Access, pk: int, seen: int, change: Callable[[Option], None]) -> Option:
    """Change an option that nobody else changed meanwhile."""
    access.require(Role.ANALYST, EDIT)
    with transaction.atomic():
        row = option_row(access, pk)
        if row.state == "adopted":
            raise Refused("adopted", sentence("options.adopted"), 409)
        if row.seen != seen:
            raise Refused("stale", sentence("options.stale"), 409)
        change(row)
        row.seen += 1
        row.save()
    return row


def describe(access: Access, pk: int, seen: int, name: str | None, notes: str | None) -> OptionMade:
    """Give an option another name or other notes."""

    def change(row: Option) -> None:
        row.name = row.name if name is None else _named(name)
        row.notes = row.notes if notes is None else _text(notes, "notes")

    return OptionMade(pk, _written(access, pk, seen, change).seen, [])


def drop(access: Access, pk: int, seen: int) -> None:
    """Take an option away. One that was adopted stays: the change log speaks of it."""
    _written(access, pk, seen, lambda _: None)
    option_row(access, pk).delete()


def _replaced(row: Option, changes: list[dict[str, Any]], keyed: KeyedBook) -> None:
    """Give an option other changes; those it had can be had back."""
    _within(changes)
    row.past = [*row.past[-(MOST_PAST - 1) :], row.changes]
    row.changes, row.future = changes, []
    row.remember(_keys(keyed))


def without(access: Access, pk: int, seen: int, number: int) -> OptionMade:
    """Take one change out of an option."""
    here = present_of(access.project)

    def change(row: Option) -> None:
        found = _documents(here.option(row).changes)
        if not 0 <= number < len(found):
            raise Refused("not-found", sentence("options.no_change"), 404)
        _replaced(row, found[:number] + found[number + 1 :], here.workspace.keyed)

    return OptionMade(pk, _written(access, pk, seen, change).seen, [])


def rebase(access: Access, pk: int, seen: int, keep: Sequence[int]) -> OptionMade:
    """Make an option fit the plan that moved: conflicts are dropped but for those in `keep`, which take the present values as known."""
    here = present_of(access.project)
    gone: list[str] = []

    def change(row: Option) -> None:
        option, keyed = here.option(row), here.workspace.keyed
        conflicts = {c.change: c.message for c in here.top(row).applied.conflicts}
        kept: list[Change] = []
        for i, x in enumerate(option.changes):
            if i not in conflicts:
                kept.append(x)
            elif i in keep:
                try:
                    kept.append(changed_values(keyed, x))
                except ChangeRefused as no:
                    gone.append(no.message)
            else:
                gone.append(conflicts[i])
        _replaced(row, _documents(kept), keyed)
        row.based_on = access.project.plan_revision

    return OptionMade(pk, _written(access, pk, seen, change).seen, gone)


def turn(access: Access, pk: int, seen: int, back: bool) -> OptionMade:
    """Undo or redo what was done last in an option."""

    def change(row: Option) -> None:
        way = row.past if back else row.future
        if not way:
            raise Refused("nothing-to-undo", sentence("options.nothing_to_undo" if back else "options.nothing_to_redo"), 409)
        other, now = (row.future if back else row.past), row.changes
        row.changes = way.pop()
        other.append(now)
        row.remember(_keys(present_of(access.project).workspace.keyed))

    return OptionMade(pk, _written(access, pk, seen, change).seen, [])


# Adopting


def adopt(access: Access, pk: int, revision: int, seen: int, reason: str, approved_by: str) -> Adopted:
    """Make an option the plan, as one step with its entry in the change log. Its figures are those that the board showed."""
    ask(access, "option")
    reason, approved_by = _text(reason, "reason"), " ".join(approved_by.split())
    if not reason:
        raise EntryRefused("reason", sentence("options.reason"))
    if not approved_by:
        raise EntryRefused("approved_by", sentence("options.approver"))
    here, row = present_of(access.project), option_row(access, pk)
    if here.workspace.revision != revision:
        raise Stale(here.workspace.revision, changes_since(access.project, revision))
    if row.state == "adopted":
        raise Refused("adopted", sentence("options.adopted"), 409)
    if row.seen != seen:
        raise Refused("stale", sentence("options.stale"), 409)
    top, effect = here.top(row), effect_in_words(here, row)
    if top.applied.conflicts:
        raise Refused("conflicts", sentence("options.conflicts", count=len(top.applied.conflicts)), 409)
    if not top.option.changes:
        raise Refused("nothing-there", sentence("options.empty"), 422)
    register = {"name": row.name, "reason": reason, "state": "approved", "approved_by": approved_by, "note": effect}
    if here.results.status is not None:
        register |= {"raised": to_text(here.results.status)[:10], "decided": to_text(here.results.status)[:10]}
    cost = _cost(here, row)
    done = with_keyed_changes(here.workspace.keyed, top.option.changes, register | ({"cost": cost} if cost else {})).changed
    done = replace(done, edits=(*done.edits, Edit("options", row.pk, {"state": "adopted"})))
    label = sentence("options.adopted_label", code=row.code, name=row.name)
    written = write(access, revision, "option", done, here.workspace, label)
    Ask.objects.filter(project=access.project, closed=False).update(closed=True)
    return Adopted(written.workspace.revision, label, effect, f"{row.name}: {reason}")


def _cost(here: Present, row: Option) -> str:
    was, now = here.standing().eac, here.compared(row).standing.eac
    return "" if was is None or now is None else f"{now - was:f}"


def effect_in_words(here: Present, row: Option) -> str:
    """What an option does to finish and estimate, for the change log."""
    x, book = here.compared(row), here.results.book
    won = days(book, x.gained)
    moved = sentence("options.earlier", days=f"{won:g}") if won > 0 else sentence("options.later", days=f"{-won:g}")
    finish = to_text(x.standing.finish)[:10]
    parts = [sentence("options.finish", finish=finish, moved=moved if won else sentence("options.unmoved"))]
    was, now = here.standing().eac, x.standing.eac
    if was is not None and now is not None:
        parts.append(sentence("options.eac", was=f"{was:f}", now=f"{now:f}", currency=book.project.currency))
    return "; ".join(parts)


# The plan sheet of an option


def revision_of(access: Access, row: Option) -> int:
    """What whoever writes in an option must have seen: the state of the plan and of the option."""
    return access.project.revision * 1_000_000 + row.seen


def option_sheet(here: Present, top: Top, seen: Sight | None = None) -> PlanSheet:
    """The plan sheet with an option on top; rows that it leaves alone are those of the plan."""
    before = sheet_of(here.workspace, here.results.at.periods[-1].code)
    return make_sheet(top.keyed, top.results, before, None if seen is None else seen.seen)


def change_option(access: Access, pk: int, revision: int, verbs: list[Verb], sight: Sight, preview: bool = False) -> PlanEffect:
    """Do at the sheet of an option what would be done at the plan: it becomes changes of the option. Raises ChangeRefused, Stale."""
    access.require(Role.ANALYST, EDIT)
    here, row = present_of(access.project), option_row(access, pk)
    if revision != revision_of(access, row):
        raise Stale(revision_of(access, row), changes_since(access.project, revision // 1_000_000))
    top = here.top(row)
    done = apply_keyed(top.keyed, verbs, top.results.schedule.activities)
    more = changes_of(top.keyed, done)
    before = option_sheet(here, top)
    try:
        results = results_of(top.results, done.book)
    except BookInvalid as wrong:
        raise refused(done.after, wrong.faults, top.results.book) from None
    if preview:
        return effect_of(before, make_sheet(done.after, results, before, sight.seen), revision, done.label, {}, sight)

    def change(option: Option) -> None:
        _replaced(option, _documents([*top.option.changes, *more]), here.workspace.keyed)

    kept = _written(access, pk, row.seen, change)
    after = here.top(kept)
    return effect_of(before, option_sheet(here, after, sight), revision_of(access, kept), done.label, _made(done.made, after), sight)


def _made(made: Any, after: Top) -> dict[str, str]:
    """The rows that were made, by the names that the request gave them: they are numbered again with the option."""
    known = set(after.keyed.rows["activities"])
    return {alias: name for alias, name in made.items() if name[:1] == "a" and int(name[1:]) in known}


def turn_option(access: Access, pk: int, revision: int, back: bool, sight: Sight) -> PlanEffect:
    """Undo or redo in an option, answered as a change at its sheet is."""
    here, row = present_of(access.project), option_row(access, pk)
    if revision != revision_of(access, row):
        raise Stale(revision_of(access, row), changes_since(access.project, revision // 1_000_000))
    before = option_sheet(here, here.top(row))
    turn(access, pk, row.seen, back)
    kept = option_row(access, pk)
    label = sentence("options.undid" if back else "options.did_again")
    return effect_of(before, option_sheet(here, here.top(kept), sight), revision_of(access, kept), label, {}, sight)


# What people say


def ask_for_choice(access: Access, text: str) -> None:
    """Ask readers for a choice; an empty text takes the question back."""
    access.require(Role.ANALYST, "ask for a choice")
    find_again(access.project)
    text = _text(text, "text")
    with transaction.atomic():
        Ask.objects.filter(project=access.project, closed=False).update(closed=True)
        if text:
            Ask.objects.create(project=access.project, by=access.person, text=text)


def remark(access: Access, option: int | None, text: str, chosen: bool) -> None:
    """Say something of an option, or choose it; anybody who may read may. Choosing takes back one's earlier choice."""
    text = _text(text, "text")
    if not text and not chosen:
        raise EntryRefused("text", sentence("options.say_something"))
    row = None if option is None else option_row(access, option)
    with transaction.atomic():
        if chosen:
            Remark.objects.filter(project=access.project, by=access.person, chosen=True).update(chosen=False)
        Remark.objects.create(project=access.project, option=row, by=access.person, text=text, chosen=chosen)
