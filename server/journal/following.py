"""Projects that follow what the organisation changed: each in a step of its own, that no undo of one's own comes upon."""

from typing import Any

from dryledger.changes.apply import apply_keyed
from dryledger.changes.elsewhere import Beside
from dryledger.errors import ChangeRefused
from server.accounts.models import Person, Role
from server.book.access import Access
from server.book.models import Project
from server.book.workspace import workspace_of
from server.journal.writing import write
from server.shared.problems import Stale

TRIES = 5


def follow(person: Person, project: Project, verb: dict[str, Any], beside: Beside) -> bool | None:
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
