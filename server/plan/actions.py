"""Changing a plan: one request is one step of the journal, refused whole or done whole, and answered with what moved."""

import json
from dataclasses import dataclass, field
from typing import Any

from django.db import transaction

from dryledger.book.plan import Book
from dryledger.calendar.calendar import to_text
from dryledger.errors import BookInvalid
from dryledger.posting.effects import moved
from server.accounts.models import Person, Role
from server.accounts.roles import require
from server.exchange.live import forget_plan
from server.journal import steps
from server.plan.changes import Draft, Verb, run
from server.plan.models import Choice, Project
from server.plan.sheet import PlanSheet, changed, forget_sheet, sheet_of
from server.plan.sheet_rows import PlanRow
from server.posting.models import Page
from server.posting.pages import find_project
from server.shared.problems import Refused
from server.value.results import forget_results

MOST_MOVED = 40
LETTER = {"activities": "a", "wbs": "w", "links": "l", "assignments": "s", "costs": "c", "resources": "r", "calendars": "k"}


@dataclass
class MovedRow:
    """An activity whose finish moved, in working days (positive: later)."""

    row: str
    code: str
    name: str
    before: str
    after: str
    days: float


@dataclass
class PlanEffect:
    """What a change did: the new revision, the rows it made, what looks different of the others, and what moved."""

    revision: int
    label: str
    rows: list[PlanRow]
    """The rows that are new, whole."""
    changes: dict[str, dict[str, Any]]
    """Of each row that looks different, the columns that do, as they are now."""
    removed: list[str]
    moved: list[MovedRow]
    moved_count: int
    finish: str
    finish_before: str
    cost: str
    cost_before: str
    made: dict[str, str] = field(default_factory=dict)
    """The rows that were made, by the names that the request gave them."""
    rest: bool = False
    """Whether more rows look different: so many that only those in sight are told here. A reading of the plan has all."""


@dataclass(frozen=True)
class Sight:
    """What whoever asks sees of the sheet: the rows in sight, if only those are wanted at once, and how much is known."""

    seen: frozenset[str] | None = None
    rest: bool = False
    """Whether the rest of an earlier answer is still to be read."""


ALL = Sight()


def change_plan(person: Person, code: str, revision: int, verbs: list[Verb], preview: bool = False, sight: Sight = ALL) -> PlanEffect:
    """Do verbs on a plan as one step. A preview is answered the same and leaves nothing behind.

    Raises Refused (with row and field where a cell is wrong) and Stale; nothing is half done.
    """
    require(person, Role.ANALYST, "change the plan")
    project = find_project(code)
    before = sheet_of(project)
    made: dict[str, str] = {}

    def do(s: steps.Changes) -> str:
        draft = Draft(project, before.plan, s, before.results.schedule.activities)
        label = run(draft, verbs)
        made.update(draft.named)
        return label

    return _done(person, project, revision, before, do, made, preview, sight)


def turn_plan(person: Person, code: str, revision: int, back: bool, sight: Sight = ALL) -> PlanEffect:
    """Undo or redo one step, answered as a change of the plan is."""
    require(person, Role.ANALYST, "undo")
    project = find_project(code)
    before = sheet_of(project)
    done = steps.undo(project, person, revision) if back else steps.redo(project, person, revision)
    project.refresh_from_db()
    return _effect(before, sheet_of(project, sight.seen), project, ("Undid: " if back else "Did again: ") + done.label, {}, sight)


class _Previewed(Exception):
    """Takes a preview back."""


def _done(
    person: Person, project: Project, revision: int, before: PlanSheet, do: Any, made: dict[str, str], preview: bool, sight: Sight
) -> PlanEffect:
    effect: PlanEffect | None = None
    try:
        with transaction.atomic():
            with steps.step(project, person, revision, "plan", "changed the plan") as s:
                s.label = do(s)
            effect = _effect(before, sheet_of(project, sight.seen), project, s.label, made, sight)
            if preview:
                raise _Previewed
    except _Previewed:
        _forget(project, before)
    except BookInvalid as wrong:
        _forget(project, before)
        raise refused(wrong, before.plan.book) from None
    except BaseException:
        _forget(project, before)
        raise
    assert effect is not None
    return effect


def _forget(project: Project, before: PlanSheet) -> None:
    """Drop what was worked out in a step that was taken back."""
    written = Project.objects.get(pk=project.pk)
    if written.revision != project.revision:
        forget_sheet(project)
        forget_plan(project)
        for page in Page.objects.filter(project=project).only("uid"):
            forget_results(project, page, before.results)


def refused(wrong: BookInvalid, book: Book) -> Refused:
    """The first fault of a plan that can't be, in words, beside its row and field."""
    fault = wrong.faults[0]
    if "→" in fault.message and fault.path == "links":
        chain = fault.message.split(": ", 1)[1].split(". ")[0].split(" → ")
        names = [f"{c} {book.activity_by_code[c].name}" if c in book.activity_by_code else c for c in chain]
        return Refused("loop", f"That would make a loop: {' → '.join(names)}. Nothing was changed.", 422, field="after")
    head, _, rest = fault.path.partition(":")
    key, _, column = rest.partition(".")
    row = f"{LETTER.get(head, 'g')}{key}" if rest else None
    said = fault.message[:1].upper() + fault.message[1:]
    return Refused("plan-invalid", f"{said}. Nothing was changed.", 422, row=row, field=column or None)


def _effect(before: PlanSheet, now: PlanSheet, project: Project, label: str, made: dict[str, str], sight: Sight) -> PlanEffect:
    different = changed(before, now, sight.rest)
    shifted = moved(before.results, now.results)
    key_of = now.plan.key_of
    return PlanEffect(
        project.revision,
        label,
        different.rows,
        different.changes,
        different.removed,
        [MovedRow(f"a{key_of[m.code]}", m.code, m.name, to_text(m.before), to_text(m.after), float(m.days)) for m in shifted[:MOST_MOVED]],
        len(shifted),
        to_text(now.results.schedule.finish),
        to_text(before.results.schedule.finish),
        f"{now.total:f}",
        f"{before.total:f}",
        made,
        different.rest,
    )


def keep_views(person: Person, code: str, views: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Keep the named views of the plan sheet. They are how people look, not what they say: no step of the journal."""
    require(person, Role.ANALYST, "keep a view")
    if len(json.dumps(views)) > 100_000:
        raise Refused("too-large", "That is more than all views together may hold.", 413)
    project = find_project(code)
    project.views = views
    project.save(update_fields=["views"])
    return views


def keep_states(person: Person, states: list[str]) -> list[str]:
    """Keep the organisation's list of life-cycle states."""
    require(person, Role.APPROVER, "change the organisation's lists")
    words = list(dict.fromkeys(w for s in states if (w := " ".join(s.split()))))
    with transaction.atomic():
        Choice.objects.filter(list="state").delete()
        Choice.objects.bulk_create([Choice(list="state", word=w, order=i) for i, w in enumerate(words)])
    return words
