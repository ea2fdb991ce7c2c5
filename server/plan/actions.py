"""Changing a plan: the core makes the changed book, and one step of the journal writes it; answered with what moved."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from django.db import transaction

from dryledger.budget.booking import over_allocated, over_by_resource
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import Changed, apply_keyed
from dryledger.changes.draft import Edit
from dryledger.changes.elsewhere import OutsideContext
from dryledger.changes.refusals import refused
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.posting.effects import moved
from server.book.access import Access, visible
from server.book.crossing import offered
from server.book.lookup import last_page
from server.book.models import Project
from server.book.organisation import kinds_by_name, shared_by_code
from server.book.workspace import NEWEST, Workspace, workspace_of
from server.journal.steps import ask, changes_since
from server.journal.writing import check_project, undo_or_redo, write
from server.plan.sheet import PlanSheet, changed, make_sheet, sheet_of
from server.plan.sheet_rows import PlanRow
from server.shared.json_values import hours
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

MOST_MOVED = 40
Verb = dict[str, Any]


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
class OverMore:
    """A resource that is over-allocated by more hours than before a change, and by how many in all."""

    name: str
    more_hours: float
    hours: float


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
    over: list[OverMore]
    """Who is asked for more than there is by what was assigned, the most first."""
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


def change_plan(access: Access, revision: int, verbs: list[Verb], preview: bool = False, sight: Sight = ALL) -> PlanEffect:
    """Do verbs on a plan as one step. A preview is computed and answered the same, and nothing of it is kept anywhere.

    Raises ChangeRefused (with row and field where a cell is wrong) and Stale; nothing is half done.
    """
    ask(access, "plan")
    w, page = workspace_of(access.project), last_page(access.project).code
    if w.revision != revision:
        raise Stale(w.revision, changes_since(access.project, revision))
    before = sheet_of(w, page)
    done = apply_keyed(w.keyed, verbs, before.results.schedule.activities, _beside(access, verbs))
    check_project(access.project, done.project)
    results = computed(w, done, page)
    if preview:
        now = make_sheet(done.after, results, before, sight.seen)
        return effect_of(before, now, revision, done.label, done.made, sight, done.edits)
    written = write(access, revision, "plan", done, w)
    after = written.workspace
    if after is not w:
        after.know(page, results)
    return effect_of(before, sheet_of(after, page, sight.seen), access.project.revision, done.label, written.made, sight, done.edits)


def _beside(access: Access, verbs: list[Verb]) -> OutsideContext:
    """What verbs call upon of other projects, as far as the person sees them, and of the organisation."""
    named = {key: {v[key] for v in verbs if isinstance(v, dict) and isinstance(v.get(key), str)} for key in ("shared", "kind")}
    externals = offered(access.project, access.person, typed_links(verbs))
    copied = {str(v.get("from")) for v in verbs if isinstance(v, dict) and v.get("do") == "copy"}
    others = visible(access.person).filter(code__in=copied).exclude(pk=access.project.pk) if copied else ()
    books = {other.code: workspace_of(other).book for other in others}
    return OutsideContext(externals, shared_by_code(named["shared"]), kinds_by_name(named["kind"]), books)


def typed_links(verbs: list[Verb]) -> list[str]:
    """What is typed as predecessors."""
    cells = (v.get("cells") for v in verbs if isinstance(v, dict))
    return [c["after"] for c in cells if isinstance(c, dict) and isinstance(c.get("after"), str)]


def computed(w: Workspace, done: Changed, page: str) -> Results:
    """The results of a changed book. Raises ChangeRefused where it can't be computed."""
    try:
        return compute(done.book, page, before=w.memo.peek(NEWEST))
    except BookInvalid as wrong:
        raise refused(done.after, wrong.faults, w.book) from None


def undo_or_redo_plan(access: Access, revision: int, back: bool, sight: Sight = ALL) -> PlanEffect:
    """Undo or redo one step, answered as a change of the plan is."""
    w, page = workspace_of(access.project), last_page(access.project).code
    before = sheet_of(w, page)
    label = undo_or_redo(access, revision, back)
    return effect_of(before, sheet_of(workspace_of(access.project), page, sight.seen), access.project.revision, label, {}, sight)


def effect_of(
    before: PlanSheet, now: PlanSheet, revision: int, label: str, made: Mapping[str, str], sight: Sight, edits: Sequence[Edit] = ()
) -> PlanEffect:
    """What a change did, for whoever saw the sheet before."""
    different = changed(before, now, sight.rest)
    shifted = moved(before.results, now.results)
    key_of = now.keyed.key_of("activities")
    return PlanEffect(
        revision,
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
        _over_more(before.results, now.results) if any(e.list in ("assignments", "resources") and not e.gone for e in edits) else [],
        dict(made),
        different.rest,
    )


def _over_more(before: Results, now: Results) -> list[OverMore]:
    had, has = (_over_by_resource(r) for r in (before, now))
    more = {code: minutes - had.get(code, 0) for code, minutes in has.items() if minutes > had.get(code, 0)}
    names = now.book.resource_by_code
    return [OverMore(names[c].name, hours(m), hours(has[c])) for c, m in sorted(more.items(), key=lambda x: (-x[1], x[0]))]


def _over_by_resource(r: Results) -> dict[str, Decimal]:
    return {x.resource: x.unit_minutes for x in over_by_resource(over_allocated(r.book, r.schedule, r.at.to_go))}


MOST_VIEWS = 100_000


def keep_views(access: Access, seen: int, views: list[dict[str, Any]]) -> tuple[int, list[dict[str, Any]]]:
    """Keep the named views of the plan sheet. They are how people look, not what they say: no step of the journal.

    Whoever saw other views than there are now is refused, so that nobody's are written over unseen.
    """
    if len(json.dumps(views)) > MOST_VIEWS:
        raise Refused("too-large", sentence("plan.more_all_views_together"), 413)
    with transaction.atomic():
        row = Project.objects.only("views", "views_revision").get(pk=access.project.pk)
        if seen != row.views_revision:
            raise Refused("stale", sentence("plan.somebody_saved_view_meanwhile"), 409)
        number = row.views_revision + 1
        Project.objects.filter(pk=row.pk).update(views=views, views_revision=number)
    return number, views
