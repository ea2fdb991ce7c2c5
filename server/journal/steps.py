"""Steps: the only way in which rows change. A step holds the project's revision, the rows before and after, and undo.

    with step(project, person, revision, "post", "A340 done 40 %", subject="A340") as s:
        s.save(row)

The whole step is one transaction: an error inside leaves nothing behind.
"""

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from django.apps import apps
from django.db import models, transaction

from dryledger.errors import BookInvalid
from server.accounts.models import Person
from server.exchange.live import forget_plan, live_book, note_touched, touched_by
from server.journal.models import Step
from server.plan.models import Project
from server.posting.models import Page
from server.shared.problems import Refused, Stale

Row = dict[str, Any]


def _values(row: models.Model) -> Row:
    """The columns of a row that a step keeps: all, but of a project or page only those that people write."""
    names = [f.attname for f in row._meta.concrete_fields]
    if isinstance(row, Project | Page):
        names = list(row.BOOK.values())
    return {name: getattr(row, name) for name in names}


def _name(row: models.Model) -> str:
    return f"{row._meta.app_label}.{row._meta.object_name}"


class Changes:
    """What one step did, gathered as it is done."""

    def __init__(self) -> None:
        self.rows: list[Row] = []
        self.undoable = True
        self.label = ""
        """What was done, where that is only known in the end."""

    def save(self, row: models.Model) -> None:
        """Write a row, new or changed."""
        before = None if row._state.adding else type(row)._default_manager.filter(pk=row.pk).first()
        row.save()
        self.rows.append({"model": _name(row), "pk": row.pk, "before": _values(before) if before else None, "after": _values(row)})

    def add(self, rows: Sequence[models.Model]) -> None:
        """Write many new rows at once."""
        for model in {type(row) for row in rows}:
            model._default_manager.bulk_create([row for row in rows if type(row) is model])
        self.rows += [{"model": _name(row), "pk": row.pk, "before": None, "after": _values(row)} for row in rows]

    def delete(self, row: models.Model) -> None:
        """Take a row away."""
        self.rows.append({"model": _name(row), "pk": row.pk, "before": _values(row), "after": None})
        row.delete()


def locked(project: Project, revision: int) -> Project:
    """The project as it is now, inside the transaction. Raises Stale where it has moved on from `revision`."""
    now = Project.objects.get(pk=project.pk)
    if now.revision != revision:
        raise Stale(now.revision, changes_since(now, revision))
    return now


@contextmanager
def step(project: Project, person: Person, revision: int, kind: str, label: str, subject: str = "") -> Iterator[Changes]:
    """One action on a project. Raises Stale for an old revision."""
    with transaction.atomic():
        now = locked(project, revision)
        changes = Changes()
        yield changes
        if not changes.rows:
            return
        _turn_revisions(now, changes.rows)
        project.revision, project.plan_revision = now.revision, now.plan_revision
        _touch_pages(changes.rows)
        Step.objects.filter(project=now, undone=True).delete()
        Step.objects.create(
            project=now,
            revision=now.revision,
            by=person,
            kind=kind,
            label=(changes.label or label)[:500],
            subject=subject,
            changes=changes.rows if changes.undoable else [],
            undoable=changes.undoable,
        )


def _turn_revisions(project: Project, rows: list[Row]) -> None:
    """Count the project up, and its plan where that changed; a plan that can't be is refused in words."""
    project.revision += 1
    touched = touched_by(rows)
    if touched:
        project.plan_revision += 1
    project.save(update_fields=["revision", "plan_revision"])
    if touched:
        note_touched(project, touched)
        project.refresh_from_db()  # the step may have written the project itself
        try:
            live_book(project)
        except BookInvalid:
            forget_plan(project)
            raise


def _touch_pages(rows: list[Row]) -> None:
    """Count up the pages that the rows stand on, so that what was read of them is read again."""
    pages = {values["page_id"] for r in rows for values in (r["before"], r["after"]) if values and "page_id" in values}
    pages |= {r["pk"] for r in rows if r["model"] == "posting.Page"}
    Page.objects.filter(pk__in=pages).update(revision=models.F("revision") + 1)


def changes_since(project: Project, revision: int) -> list[Row]:
    """What happened after a revision, oldest first, for somebody whose write came too late."""
    steps = Step.objects.filter(project=project, revision__gt=revision).select_related("by")
    return [{"by": s.by.full_name, "label": s.label, "subject": s.subject, "subjects": _subjects(s)} for s in steps]


def _subjects(s: Step) -> list[str]:
    """The codes of all activities that a step wrote."""
    ids = {v["activity_id"] for c in s.changes for v in (c["before"], c["after"]) if v and v.get("activity_id")}
    ids |= {c["pk"] for c in s.changes if c["model"] == "plan.Activity"}
    model = apps.get_model("plan.Activity")
    return list(model.objects.filter(pk__in=ids).values_list("code", flat=True)) if ids else []


def undo(project: Project, person: Person, revision: int) -> Step:
    """Take back the latest step. Raises Refused where there is none or it can't be taken back."""
    with transaction.atomic():
        now = locked(project, revision)
        last = Step.objects.filter(project=now, undone=False).order_by("-id").first()
        if last is None:
            raise Refused("nothing-to-undo", "There is nothing to undo.", 409)
        if not last.undoable:
            raise Refused(
                "not-undoable",
                f"The last thing done was “{last.label}”, and that is not undone. "
                "Put a mistake on a closed page right with a correction on the open one.",
                409,
            )
        _apply(last, "before", reversed(last.changes))
        _turned(now, last, True)
        return last


def redo(project: Project, person: Person, revision: int) -> Step:
    """Do again the step that was undone last. Raises Refused where there is none."""
    with transaction.atomic():
        now = locked(project, revision)
        first = Step.objects.filter(project=now, undone=True).order_by("id").first()
        if first is None:
            raise Refused("nothing-to-redo", "There is nothing to do again.", 409)
        _apply(first, "after", iter(first.changes))
        _turned(now, first, False)
        return first


def _apply(s: Step, side: str, changes: Iterator[Row]) -> None:
    pages = {v["page_id"] for c in s.changes for v in (c["before"], c["after"]) if v and "page_id" in v}
    if Page.objects.filter(pk__in=pages, state="dry").exists():
        raise Refused("page-dry", "That was on a page that is dry now. A dry page is not changed.", 409)
    for change in changes:
        model = apps.get_model(change["model"])
        values = change[side]
        if values is None:
            model._default_manager.filter(pk=change["pk"]).delete()
        elif not model._default_manager.filter(pk=change["pk"]).update(**values):
            model(**values).save(force_insert=True)
    _touch_pages(s.changes)


def _turned(project: Project, s: Step, undone: bool) -> None:
    project.refresh_from_db()
    _turn_revisions(project, s.changes)
    s.undone = undone
    s.revision = project.revision
    s.save(update_fields=["undone", "revision"])
