"""Projects that follow what the organisation changed: each in a step of its own, that no undo of one's own comes upon."""

from collections.abc import Iterable
from typing import Any

from dryledger.changes.apply import apply_keyed
from dryledger.changes.elsewhere import OutsideContext
from dryledger.errors import ChangeRefused
from server.accounts.models import Person, Role
from server.book.access import Access, visible
from server.book.models import Project
from server.book.workspace import workspace_of
from server.journal.writing import write
from server.shared.problems import Stale

TRIES = 5
Verb = dict[str, Any]


def follow_all(person: Person, verbs: Iterable[tuple[Project, Verb]], beside: OutsideContext) -> tuple[int, int]:
    """Let projects do what a verb says, each its own; gives how many of those that the person sees did, and how many could not."""
    seen = set(visible(person).values_list("pk", flat=True))
    done = {project.pk: follow(person, project, verb, beside) for project, verb in verbs}
    told = [x for pk, x in done.items() if pk in seen]
    return told.count(True), told.count(False)


def follow(person: Person, project: Project, verb: Verb, beside: OutsideContext) -> bool | None:
    """Whether a project did what a verb says; None where nothing of it was to be changed, False where it can't be done there."""
    for _ in range(TRIES):
        project.refresh_from_db()
        project.__dict__.pop("_workspace", None)
        w = workspace_of(project)
        try:
            changed = apply_keyed(w.keyed, [verb], {}, beside)
            if not changed.edits and not changed.project:
                return None
            write(Access(person, project, Role.APPROVER), project.revision, "shared", changed, w)
            return True
        except Stale:
            continue
        except ChangeRefused:
            return False
    return False
