"""An option in the plan sheet: what is done at it becomes changes of the option."""

from typing import Any

from dryledger.changes.apply import apply_keyed
from dryledger.changes.option import changes_of
from dryledger.changes.refusals import refused
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.options.board import results_of
from server.accounts.models import Role
from server.book.access import Access
from server.book.crossing import offered
from server.book.kept_models import Option
from server.journal.steps import changes_since
from server.options.actions import EDIT, Verb, documents, replaced, undo_or_redo, written
from server.options.computing import Present, Top, option_row, present_of
from server.plan.actions import PlanEffect, Sight, effect_of, typed_links
from server.plan.sheet import PlanSheet, make_sheet, sheet_of
from server.shared.problems import Stale
from server.shared.words import sentence

PER_REVISION = 1_000_000
"""How many states of an option one revision of the plan has numbers for."""


def revision_of(access: Access, row: Option) -> int:
    """What whoever writes in an option must have seen: the state of the plan and of the option."""
    return access.project.revision * PER_REVISION + row.seen


def _as_seen(access: Access, pk: int, revision: int) -> Option:
    """An option whose plan and changes are as whoever writes in it saw them. Raises Stale."""
    row = option_row(access, pk)
    if revision != revision_of(access, row):
        raise Stale(revision_of(access, row), changes_since(access.project, revision // PER_REVISION))
    return row


def option_sheet(here: Present, top: Top, seen: Sight | None = None) -> PlanSheet:
    """The plan sheet with an option on top; rows that it leaves alone are those of the plan."""
    before = sheet_of(here.workspace, here.results.at.periods[-1].code)
    return make_sheet(top.keyed, top.results, before, None if seen is None else seen.seen)


def change_option(access: Access, pk: int, revision: int, verbs: list[Verb], sight: Sight, preview: bool = False) -> PlanEffect:
    """Do at the sheet of an option what would be done at the plan: it becomes changes of the option. Raises ChangeRefused, Stale."""
    access.require(Role.ANALYST, EDIT)
    here, row = present_of(access.project), _as_seen(access, pk, revision)
    top = here.top(row)
    _waits_as_the_plan_does(access, top, verbs)
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
        replaced(option, documents([*top.option.changes, *more]), here.workspace.keyed)

    kept = written(access, pk, row.seen, change)
    after = here.top(kept)
    return effect_of(before, option_sheet(here, after, sight), revision_of(access, kept), done.label, _made(done.made, after), sight)


def _waits_as_the_plan_does(access: Access, top: Top, verbs: list[Verb]) -> None:
    """Raises ChangeRefused where a link is typed to an activity of another project that the plan does not wait for."""
    there = top.keyed.book.external_by_code
    for verb in verbs:
        new = [x.code for x in offered(access.project, access.person, typed_links([verb])) if x.code not in there]
        if new:
            raise ChangeRefused("entry-refused", sentence("options.waits_as_the_plan", code=new[0]), str(verb.get("row") or ""), "after")


def _made(made: Any, after: Top) -> dict[str, str]:
    """The rows that were made, by the names that the request gave them: they are numbered again with the option."""
    known = set(after.keyed.rows["activities"])
    return {alias: name for alias, name in made.items() if name[:1] == "a" and int(name[1:]) in known}


def undo_or_redo_option(access: Access, pk: int, revision: int, back: bool, sight: Sight) -> PlanEffect:
    """Undo or redo in an option, answered as a change at its sheet is."""
    here, row = present_of(access.project), _as_seen(access, pk, revision)
    before = option_sheet(here, here.top(row))
    undo_or_redo(access, pk, row.seen, back)
    kept = option_row(access, pk)
    label = sentence("options.undid" if back else "options.did_again")
    return effect_of(before, option_sheet(here, here.top(kept), sight), revision_of(access, kept), label, {}, sight)
