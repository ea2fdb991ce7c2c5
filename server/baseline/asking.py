"""Asking for a baseline: the analyst's press. Taking it is the approver's."""

from dataclasses import dataclass

from django.db import transaction
from django.utils.timezone import localtime

from dryledger.errors import EntryRefused
from server.accounts.models import Role
from server.baseline import actions
from server.baseline.models import Ask
from server.book.access import Access
from server.book.workspace import workspace_of
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_TEXT = 4_000


@dataclass
class AskedBaseline:
    """A baseline that is asked for: by whom and when, with which words, and whether the plan has changed since."""

    id: int
    by: str
    at: str
    name: str
    reason: str
    rows: list[str] | None
    changes: list[str]
    state: str
    answer: str
    mine: bool
    moved_on: bool


def asked(access: Access) -> list[AskedBaseline]:
    """What is asked for and not answered, and the answers to one's own that were sent back last."""
    w, out = workspace_of(access.project), []
    for x in Ask.objects.filter(project=access.project, state__in=("open", "declined")).select_related("by"):
        mine = x.by_id == access.person.pk
        if x.state == "open" or mine:
            at = localtime(x.at).strftime("%Y-%m-%dT%H:%M")
            moved = x.revision != w.revision
            out.append(AskedBaseline(x.pk, x.by.full_name, at, x.name, x.reason, x.rows, x.changes, x.state, x.answer, mine, moved))
    return out


def ask_for(access: Access, name: str, reason: str, rows: list[str] | None, changes: list[str]) -> None:
    """Ask for a baseline of the plan. What one asked for before and nobody answered gives way. Raises EntryRefused."""
    access.require(Role.ANALYST, sentence("baseline.ask_for"))
    name, reason = actions.named(name, reason)
    with transaction.atomic():
        Ask.objects.filter(project=access.project, by=access.person, state__in=("open", "declined")).update(state="withdrawn")
        revision = workspace_of(access.project).revision
        words = {"name": name, "reason": reason, "rows": rows, "changes": changes}
        Ask.objects.create(project=access.project, by=access.person, revision=revision, **words)


def answer(access: Access, pk: int, revision: int, take: bool, text: str) -> str:
    """Take what was asked for, or send it back with a word; gives the code of the baseline. One's own is withdrawn by sending it back."""
    row = Ask.objects.filter(project=access.project, pk=pk, state="open").first() if pk < 2**62 else None
    if row is None:
        raise Refused("not-found", sentence("baseline.not_asked"), 404)
    if not take and row.by_id == access.person.pk:
        Ask.objects.filter(pk=pk).update(state="withdrawn")
        return ""
    access.require(Role.APPROVER, sentence("baseline.approve_baseline"))
    if not take and not text.strip():
        raise EntryRefused("text", sentence("baseline.say_why_not"))
    if not take:
        Ask.objects.filter(pk=pk).update(state="declined", answer=text.strip()[:MOST_TEXT])
        return ""
    with transaction.atomic():
        code = actions.take(access, revision, row.name, row.reason, row.rows, row.changes)
        Ask.objects.filter(pk=pk).update(state="taken", baseline=code)
    return code
