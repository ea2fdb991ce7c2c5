"""Steps: the only way in which rows change. A step holds the project's revision, the rows before and after, and undo.

    with step(access, revision, "post", "A340 done 40 %", subject="A340") as s:
        s.save(row)

The whole step is one transaction: an error inside leaves nothing behind. What is computed is computed before it, so that
nobody waits for it; the workspace after it is published once it is committed.
"""

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from itertools import groupby
from typing import Any

from django.apps import apps
from django.db import models, transaction
from django.dispatch import Signal

from dryledger.book.rules import check_book
from dryledger.errors import BookInvalid
from dryledger.exchange.by_columns import NotQuick
from server.accounts.models import Role
from server.book.access import Access
from server.book.crossing import written
from server.book.lookup import find_again
from server.book.models import Page, Project, Standing
from server.book.read import read_again
from server.book.sealing import add_seal
from server.book.workspace import Workspace, workspace_of
from server.journal.kinds import FOLLOWED, KINDS, role_of
from server.journal.models import Step
from server.journal.sealed import sealed_subject, step_content
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

Row = dict[str, Any]
stepped = Signal()
"""Sent by a project after a step of it was done, undone or done again, with the `rows` and the `person`: others may follow."""
OWN_COLUMNS: tuple[str, ...] = (
    "id",
    "uid",
    "revision",
    "inputs",
    "results",
    "digest",
    "previous",
    "calculation",
    "keys",
    "closed_as",
    "mark",
    "closed_by_id",
    "closed_at",
)
OWN_COLUMNS += (
    "plan_revision",
    "views",
    "views_revision",
    "extra",
    "book_extra",
    "sealed",
    "sealed_count",
    "members_only",
    "brought_in",
    "order",
)
OWN_COLUMNS += ("project_id",)
"""What of a project or page is kept by the program itself: no step writes it."""


def values_of(row: models.Model) -> Row:
    """The columns of a row that a step keeps: all, but of a project or page only those that people write."""
    names = [f.attname for f in row._meta.concrete_fields]
    if isinstance(row, Project | Page):
        names = [n for n in names if n not in OWN_COLUMNS]
    return {name: getattr(row, name) for name in names}


def model_name(model: type[models.Model] | models.Model) -> str:
    """How the journal names a model."""
    return f"{model._meta.app_label}.{model._meta.object_name}"


class Changes:
    """What one step did, gathered as it is done."""

    def __init__(self) -> None:
        self.rows: list[Row] = []
        self.undoable = True

    def note(self, row: models.Model, before: Row | None, after: Row | None) -> None:
        """Note what became of a row."""
        self.rows.append({"model": model_name(row), "pk": row.pk, "before": before, "after": after})

    def save(self, row: models.Model) -> None:
        """Write a row, new or changed."""
        before = None if row._state.adding else type(row)._default_manager.filter(pk=row.pk).first()
        row.save()
        self.note(row, values_of(before) if before else None, values_of(row))

    def add(self, rows: Sequence[models.Model]) -> None:
        """Write many new rows of one model at once."""
        if rows:
            type(rows[0])._default_manager.bulk_create(rows)
            for row in rows:
                self.note(row, None, values_of(row))

    def update(self, rows: Sequence[models.Model]) -> None:
        """Write many changed rows of one model at once."""
        if rows:
            kind = type(rows[0])
            before = kind._default_manager.in_bulk([row.pk for row in rows])
            names = [f.name for f in kind._meta.concrete_fields if not f.primary_key]
            kind._default_manager.bulk_update(rows, names, batch_size=100)
            for row in rows:
                self.note(row, values_of(before[row.pk]), values_of(row))

    def delete(self, row: models.Model) -> None:
        """Take a row away."""
        self.note(row, values_of(row), None)
        row.delete()

    def clear(self, rows: Sequence[models.Model]) -> None:
        """Take many rows of one model away at once; nothing may refer to them."""
        for row in rows:
            self.note(row, values_of(row), None)
        for i in range(0, len(rows), 500):
            gone = type(rows[0])._default_manager.filter(pk__in=[row.pk for row in rows[i : i + 500]])
            gone._raw_delete(gone.db)


def as_it_is(project: Project, revision: int) -> Project:
    """The project as it is now; inside a transaction, which nobody else writes in. Raises Stale where it has moved on from
    `revision`, Refused where it is retired."""
    now = find_again(project)
    if now.standing == Standing.RETIRED:
        raise Refused("retired", sentence("journal.retired", code=now.code), 409)
    if now.revision != revision:
        raise Stale(now.revision, changes_since(now, revision))
    return now


def unchanged(access: Access, revision: int) -> None:
    """Raises Stale where the project is at another revision than the writer saw."""
    if access.project.revision != revision:
        raise Stale(access.project.revision, changes_since(access.project, revision))


def ask(access: Access, kind: str) -> None:
    """Raises NotAllowed where a kind of step is not for this person."""
    access.require(*KINDS[kind])


@contextmanager
def step(access: Access, revision: int, kind: str, label: str, subject: str = "") -> Iterator[Changes]:
    """One action on a project. Raises NotAllowed for whom it is not, Stale for an old revision."""
    ask(access, kind)
    project = access.project
    with transaction.atomic():
        now = as_it_is(project, revision)
        changes = Changes()
        yield changes
        if not changes.rows:
            return
        role, to_do = role_of(kind, changes.rows)
        access.require(role, to_do)
        written(now, changes.rows, access.person)
        _count_up(now, changes.rows)
        Step.objects.filter(project=now, by=access.person, undone=True, dropped=False).update(dropped=True)
        made = Step.objects.create(
            project=now,
            revision=now.revision,
            by=access.person,
            kind=kind,
            role=role.value,
            label=label[:500],
            subject=subject,
            changes=changes.rows if changes.undoable else [],
            undoable=changes.undoable,
        )
        made.refresh_from_db()
        add_seal(now, "step", sealed_subject(made), step_content(made))
        project.refresh_from_db()  # still inside: as this step leaves it, not as the next one does
    stepped.send(project, project=project, rows=changes.rows, person=access.person)


def _count_up(project: Project, rows: list[Row]) -> None:
    """Count the project up, its plan where that changed, and the pages that the rows stand on."""
    fresh = Project.objects.only("sealed", "sealed_count").get(pk=project.pk)
    project.sealed, project.sealed_count = fresh.sealed, fresh.sealed_count
    project.revision += 1
    if any(_of_plan(r) for r in rows):
        project.plan_revision += 1
    Project.objects.filter(pk=project.pk).update(revision=project.revision, plan_revision=project.plan_revision)
    Page.objects.filter(pk__in=pages_of(rows)).update(revision=models.F("revision") + 1)


def _of_plan(row: Row) -> bool:
    return row["model"].startswith("book.") and row["model"].removeprefix("book.") not in (
        "Page",
        "Statement",
        "HoursEntry",
        "CostEntry",
        "Answer",
    )


def pages_of(rows: list[Row]) -> set[int]:
    """The keys of the pages that changed rows stand on."""
    found = {values["page_id"] for r in rows for values in (r["before"], r["after"]) if values and "page_id" in values}
    return found | {r["pk"] for r in rows if r["model"] == "book.Page"}


def changes_since(project: Project, revision: int) -> list[Row]:
    """What happened after a revision, oldest first, for somebody whose write came too late."""
    steps = Step.objects.filter(project=project, revision__gt=revision, dropped=False).select_related("by")
    return [{"by": s.by.full_name, "label": s.label, "subject": s.subject, "subjects": _subjects(s)} for s in steps]


def _subjects(s: Step) -> list[str]:
    """The codes of all activities that a step wrote."""
    ids = {v["activity_id"] for c in s.changes for v in (c["before"], c["after"]) if v and v.get("activity_id")}
    ids |= {c["pk"] for c in s.changes if c["model"] == "book.Activity"}
    model = apps.get_model("book.Activity")
    return list(model._default_manager.filter(pk__in=ids).values_list("code", flat=True)) if ids else []


def undo_or_redo_step(access: Access, revision: int, back: bool) -> Step:
    """Undo (back) or redo one's own latest step.

    Raises Refused where there is none, where it can't be, or where somebody else's later step rests on it; NotAllowed above one's role.
    """
    w = workspace_of(access.project)
    with transaction.atomic():
        now = as_it_is(access.project, revision)
        own = Step.objects.filter(project=now, by=access.person, sealed_as__isnull=True).exclude(kind__in=FOLLOWED)
        s = _last(own) if back else _last_undone(own)
        access.require(Role(s.role), f"{'undo' if back else 'do again'} “{s.label}”")
        later = Step.objects.filter(project=now, revision__gt=s.revision, undone=False)
        later = later.exclude(models.Q(by=access.person) & ~models.Q(kind__in=FOLLOWED))
        since = list(later.select_related("by"))
        _stand_aside(s, since, back)
        _put_back(s, "before" if back else "after", list(reversed(s.changes)) if back else s.changes)
        if since:
            _still_a_book(w, now, s, since, back)
        written(now, s.changes, access.person)
        _count_up(now, s.changes)
        Step.objects.filter(pk=s.pk).update(undone=back, revision=now.revision)
        s.undone, s.revision = back, now.revision
        add_seal(now, "undo" if back else "redo", sealed_subject(s), "")
        access.project.refresh_from_db()
    stepped.send(now, project=now, rows=s.changes, person=access.person)
    return s


def _last(own: models.QuerySet[Step]) -> Step:
    last = own.filter(undone=False).order_by("-revision", "-id").first()
    if last is None:
        raise Refused("nothing-to-undo", sentence("steps.nothing_yours_undo"), 409)
    if not last.undoable:
        raise Refused(
            "not-undoable",
            sentence("steps.last_thing_you_did", label=last.label),
            409,
        )
    return last


def _last_undone(own: models.QuerySet[Step]) -> Step:
    last = own.filter(undone=True, dropped=False).order_by("-revision", "-id").first()
    if last is None:
        raise Refused("nothing-to-redo", sentence("steps.nothing_yours_do_again"), 409)
    return last


def _stand_aside(s: Step, since: list[Step], back: bool) -> None:
    """Raises Refused where a step done since wrote the same rows, or rows that hang on those that would go."""
    mine = {(c["model"], c["pk"]) for c in s.changes}
    going = {c["pk"] for c in s.changes if c["before" if back else "after"] is None}
    for other in reversed(since):
        if not other.undoable or any((c["model"], c["pk"]) in mine or _hangs_on(c, going) for c in other.changes):
            raise _in_the_way(s, other, back)


def _hangs_on(change: Row, going: set[int]) -> bool:
    return any(value in going for key, value in (change["after"] or {}).items() if key.endswith("_id") and key != "project_id")


def _still_a_book(before: Workspace, project: Project, s: Step, since: list[Step], back: bool) -> None:
    """Raises Refused where the rows no longer make a book, now that one step among later ones was taken out or put in.

    Only the rows that were written are read: everybody else waits as long as this takes.
    """
    try:
        now = read_again(project, before.keyed, s.changes).book
        broken = bool(check_book(now, before.book))
    except (BookInvalid, NotQuick, KeyError):  # a row names one that is not there any more
        broken = True
    if broken:
        raise _in_the_way(s, since[-1], back) from None


def _in_the_way(s: Step, other: Step, back: bool) -> Refused:
    do, who = "Undoing" if back else "Doing again", other.by.full_name
    return Refused("in-the-way", sentence("steps.would_break_what_did", do=do, label=s.label, who=who, label_2=other.label), 409)


def _put_back(s: Step, side: str, changes: list[Row]) -> None:
    pages = {v["page_id"] for c in s.changes for v in (c["before"], c["after"]) if v and "page_id" in v}
    if Page.objects.filter(pk__in=pages, state="dry").exists():
        raise Refused("page-dry", sentence("steps.page_dry_now_dry"), 409)
    other = "after" if side == "before" else "before"
    moved = [c for c in changes if (c["before"] or {}).get("code") != (c["after"] or {}).get("code")]
    wanted = {(c["model"], c[side].get("code")) for c in moved if c[side]}
    for change in moved:
        if change[other] and (change["model"], change[other].get("code")) in wanted:
            _free_code(change)
    for (name, gone, back), run in groupby(changes, lambda c: (c["model"], c[side] is None, c[other] is None)):
        rows, found = apps.get_model(name)._default_manager, list(run)
        if gone:
            for i in range(0, len(found), 500):
                taken = rows.filter(pk__in=[c["pk"] for c in found[i : i + 500]])
                taken._raw_delete(taken.db)  # what hangs on it is in the step itself
        elif back:
            rows.bulk_create([rows.model(**(c[side] or {})) for c in found])
        else:
            for c in found:
                if not rows.filter(pk=c["pk"]).update(**(c[side] or {})):
                    rows.create(**(c[side] or {}))


def _free_code(change: Row) -> None:
    """Let a row that leaves its code step aside first, so that another of the step may have it."""
    model = apps.get_model(change["model"])
    model._default_manager.filter(pk=change["pk"]).update(code=f"\x00{change['pk']}")
