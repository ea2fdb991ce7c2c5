"""Making and changing options: each touches the option alone, and is no step of the journal."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from dryledger.book.lists_beside import CHANGES
from dryledger.book.options import Change
from dryledger.changes.keyed import KeyedBook
from dryledger.changes.option import changed_values, with_keyed_changes
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.exchange.write import row_document
from dryledger.options.proposals import levelled_changes
from server.accounts.models import Role
from server.book.access import Access
from server.book.kept_models import Option
from server.options.computing import Present, option_row, present_of
from server.shared.problems import Refused
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


def documents(changes: Sequence[Change]) -> list[dict[str, Any]]:
    return [row_document(CHANGES, x) for x in changes]


def _keys(keyed: KeyedBook) -> dict[str, dict[str, int]]:
    return {name: keyed.key_of(name) for name in ("activities", "resources")}


def _named(name: str) -> str:
    found = " ".join(name.split())
    if not found:
        raise EntryRefused("name", sentence("options.name"))
    if len(found) > LONGEST_NAME:
        raise EntryRefused("name", sentence("options.long", most=LONGEST_NAME))
    return found


def text_of(text: str, field: str) -> str:
    if len(text) > LONGEST_TEXT:
        raise EntryRefused(field, sentence("options.long", most=LONGEST_TEXT))
    return text.strip()


def create(access: Access, name: str, notes: str, options: Sequence[int], proposals: Sequence[str]) -> OptionMade:
    """A new option: empty, or with the changes of other options and of proposals in that order; what does not fit is left out."""
    access.require(Role.ANALYST, EDIT)
    here = present_of(access.project)
    name, notes = _named(name), text_of(notes, "notes")
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
        row.changes, row.based_on = documents(kept), access.project.plan_revision
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


def unwritten(row: Option, seen: int) -> None:
    """Raises Refused for an option that was adopted, or that somebody wrote since it was seen."""
    if row.state == "adopted":
        raise Refused("adopted", sentence("options.adopted"), 409)
    if row.seen != seen:
        raise Refused("stale", sentence("options.stale"), 409)


def written(access: Access, pk: int, seen: int, change: Callable[[Option], None]) -> Option:
    """Change an option that nobody else changed meanwhile."""
    access.require(Role.ANALYST, EDIT)
    with transaction.atomic():
        row = option_row(access, pk)
        unwritten(row, seen)
        change(row)
        row.seen += 1
        row.save()
    return row


def describe(access: Access, pk: int, seen: int, name: str | None, notes: str | None) -> OptionMade:
    """Give an option another name or other notes."""

    def change(row: Option) -> None:
        row.name = row.name if name is None else _named(name)
        row.notes = row.notes if notes is None else text_of(notes, "notes")

    return OptionMade(pk, written(access, pk, seen, change).seen, [])


def drop(access: Access, pk: int, seen: int) -> None:
    """Take an option away. One that was adopted stays: the change log speaks of it."""
    written(access, pk, seen, lambda _: None)
    option_row(access, pk).delete()


def replaced(row: Option, changes: list[dict[str, Any]], keyed: KeyedBook) -> None:
    """Give an option other changes; those it had can be had back."""
    _within(changes)
    row.past = [*row.past[-(MOST_PAST - 1) :], row.changes]
    row.changes, row.future = changes, []
    row.remember(_keys(keyed))


def without(access: Access, pk: int, seen: int, number: int) -> OptionMade:
    """Take one change out of an option."""
    here = present_of(access.project)

    def change(row: Option) -> None:
        found = documents(here.option(row).changes)
        if not 0 <= number < len(found):
            raise Refused("not-found", sentence("options.no_change"), 404)
        replaced(row, found[:number] + found[number + 1 :], here.workspace.keyed)

    return OptionMade(pk, written(access, pk, seen, change).seen, [])


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
        replaced(row, documents(kept), keyed)
        row.based_on = access.project.plan_revision

    return OptionMade(pk, written(access, pk, seen, change).seen, gone)


def undo_or_redo(access: Access, pk: int, seen: int, back: bool) -> OptionMade:
    """Undo or redo what was done last in an option."""

    def change(row: Option) -> None:
        way = row.past if back else row.future
        if not way:
            raise Refused("nothing-to-undo", sentence("options.nothing_to_undo" if back else "options.nothing_to_redo"), 409)
        other, now = (row.future if back else row.past), row.changes
        row.changes = way.pop()
        other.append(now)
        row.remember(_keys(present_of(access.project).workspace.keyed))

    return OptionMade(pk, written(access, pk, seen, change).seen, [])
