"""Adopting an option: the one thing of the options room that is a step of the journal."""

from dataclasses import dataclass, replace
from typing import Any

from dryledger.book.options import PLAN_DOS
from dryledger.calendar.calendar import to_text
from dryledger.changes.draft import Edit
from dryledger.changes.option import with_keyed_changes
from dryledger.entry.grammar import format_day
from dryledger.errors import EntryRefused
from dryledger.formats import format_number
from dryledger.options.board import budget_lines
from server.book.access import Access
from server.book.kept_models import Option
from server.journal.steps import ask, changes_since
from server.journal.writing import write
from server.options.actions import text_of, unwritten
from server.options.computing import Present, option_row, present_of
from server.options.models import Ask
from server.shared.json_values import days
from server.shared.problems import Refused, Stale
from server.shared.words import sentence


@dataclass
class Adopted:
    """The project after an option was adopted: its revision, what the change log says, and the reason for a baseline."""

    revision: int
    label: str
    effect: str
    reason: str


def adopt(access: Access, pk: int, revision: int, seen: int, reason: str) -> Adopted:
    """Make an option the plan, as one step that raises its change: what it does to the budget of each element, to EAC and to the finish.

    It does not approve it. Its figures are those that the board showed.
    """
    ask(access, "option")
    reason = text_of(reason, "reason")
    if not reason:
        raise EntryRefused("reason", sentence("options.reason"))
    here, row = present_of(access.project), option_row(access, pk)
    if here.workspace.revision != revision:
        raise Stale(here.workspace.revision, changes_since(access.project, revision))
    unwritten(row, seen)
    top, effect = here.top(row), effect_in_words(here, row)
    if top.applied.conflicts:
        raise Refused("conflicts", sentence("options.conflicts", count=len(top.applied.conflicts)), 409)
    elsewhere = [x.do for x in top.option.changes if x.do not in PLAN_DOS]
    if elsewhere:
        raise Refused("own-room", sentence("options.own_room", what=", ".join(dict.fromkeys(elsewhere))), 422)
    if not top.option.changes:
        raise Refused("nothing-there", sentence("options.empty"), 422)
    register: dict[str, Any] = {"name": row.name, "reason": reason, "state": "raised", "note": effect}
    if here.results.status is not None:
        register["raised"] = to_text(here.results.status)[:10]
    x = here.compared(row)
    register["days"] = round(-days(here.results.book.project_calendar, x.gained), 2)
    lines = budget_lines(here.results, x.results)
    register |= {"lines": lines} if lines else {}
    done = with_keyed_changes(here.workspace.keyed, top.option.changes, register).changed
    done = replace(done, edits=(*done.edits, Edit("options", row.pk, {"state": "adopted"})))
    label = sentence("options.adopted_label", code=row.code, name=row.name)
    made = write(access, revision, "option", done, here.workspace, label)
    Ask.objects.filter(project=access.project, closed=False).update(closed=True)
    return Adopted(made.workspace.revision, label, effect, f"{row.name}: {reason}")


def effect_in_words(here: Present, row: Option) -> str:
    """What an option does to finish and estimate, for the change log."""
    x, book = here.compared(row), here.results.book
    won = days(book.project_calendar, x.gained)
    moved = sentence("options.earlier" if won > 0 else "options.later", days=format_number(abs(won), "g"))
    finish = format_day(x.standing.finish)
    parts = [sentence("options.finish", finish=finish, moved=moved if won else sentence("options.unmoved"))]
    was, now = here.standing().eac, x.standing.eac
    if was is not None and now is not None:
        parts.append(sentence("options.eac", was=was, now=now, currency=book.project.currency))
    return "; ".join(parts)
