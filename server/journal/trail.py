"""The journal as a trail: filtered by who, what kind, which activity and words; page by page, and whole as CSV."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from django.db.models import Q, QuerySet

from server.book.models import Project
from server.journal.kinds import KINDS
from server.journal.models import Step
from server.shared.files import csv_text

PART = 200


@dataclass
class StepOut:
    """One step of the journal."""

    id: int
    revision: int
    at: str
    by: str
    kind: str
    label: str
    subject: str
    undone: bool


@dataclass
class JournalOut:
    """Steps, newest first; `more` where there are earlier ones. The kinds and the people that can be filtered by."""

    steps: list[StepOut]
    more: bool
    kinds: list[str] = field(default_factory=list)
    people: list[str] = field(default_factory=list)


def found(project: Project, asked: Mapping[str, Any]) -> "QuerySet[Step]":
    """The steps that a filter leaves: `kind`, `by` (a full name), `of` (an activity's code), `words`, `before` (an id)."""
    rows = Step.objects.filter(project=project).select_related("by").order_by("-id")
    if asked.get("kind"):
        rows = rows.filter(kind=asked["kind"])
    if asked.get("by"):
        rows = rows.filter(by__full_name=asked["by"])
    if asked.get("of"):
        rows = rows.filter(subject__iexact=asked["of"])
    if asked.get("words"):
        rows = rows.filter(Q(label__icontains=asked["words"]) | Q(subject__icontains=asked["words"]))
    if asked.get("before") is not None:
        rows = rows.filter(id__lt=asked["before"])
    return rows


def _out(s: Step) -> StepOut:
    return StepOut(s.pk, s.revision, s.at.isoformat(timespec="minutes"), s.by.full_name, s.kind, s.label, s.subject, s.undone)


def journal(project: Project, asked: Mapping[str, Any]) -> JournalOut:
    """One part of the trail."""
    rows = list(found(project, asked)[: PART + 1])
    own = Step.objects.filter(project=project).order_by()
    kinds = sorted(set(own.values_list("kind", flat=True)) & set(KINDS))
    people = sorted(set(own.values_list("by__full_name", flat=True)))
    return JournalOut([_out(s) for s in rows[:PART]], len(rows) > PART, kinds, people)


def journal_csv(project: Project, asked: Mapping[str, Any]) -> str:
    """All that a filter leaves, oldest first."""
    steps = (_out(s) for s in found(project, asked).reverse().iterator(chunk_size=500))
    rows = ((str(x.revision), x.at, x.by, x.kind, x.label, x.subject, "yes" if x.undone else "") for x in steps)
    return csv_text(("Revision", "At", "By", "Kind", "What was done", "Activity", "Undone"), rows)
