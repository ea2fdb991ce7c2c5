"""Projects that follow what another or the organisation changed: each in a step of its own, that no undo of one's own comes upon."""

from collections.abc import Callable, Iterable
from functools import partial
from typing import Any

from dryledger.changes.apply import finished, one
from dryledger.changes.draft import Draft
from dryledger.changes.elsewhere import NOTHING, OutsideContext
from dryledger.errors import ChangeRefused, EntryRefused
from server.accounts.models import Person, Role
from server.book.access import Access, visible
from server.book.crossing import called_otherwise, last_seen
from server.book.models import Project
from server.book.workspace import workspace_of
from server.journal.steps import Row, stepped
from server.journal.writing import write
from server.shared.problems import Stale
from server.shared.words import sentence

TRIES = 5
Verb = dict[str, Any]
Change = Callable[[Draft], object]


def follow_all(person: Person, verbs: Iterable[tuple[Project, Verb]], beside: OutsideContext) -> tuple[int, int]:
    """Let projects do what a verb says, each its own; gives how many of those that the person sees did, and how many could not."""
    seen = set(visible(person).values_list("pk", flat=True))
    done = {project.pk: follow(person, project, partial(one, verb=verb), "shared", beside) for project, verb in verbs}
    told = [x for pk, x in done.items() if pk in seen]
    return told.count(True), told.count(False)


def follow(person: Person, project: Project, change: Change, kind: str = "shared", beside: OutsideContext = NOTHING) -> bool | None:
    """Whether a project did a change; None where nothing of it was to be changed, False where it can't be done there."""
    for _ in range(TRIES):
        project.refresh_from_db()
        project.__dict__.pop("_workspace", None)
        w = workspace_of(project)
        draft = Draft(w.keyed, beside=beside)
        try:
            change(draft)
            changed = finished(draft)
            if not changed.edits and not changed.project:
                return None
            write(Access(person, project, Role.APPROVER), project.revision, kind, changed, w)
            return True
        except Stale:
            continue
        except (ChangeRefused, EntryRefused):
            return False
    return False


def follow_codes(project: Project, rows: list[Row], person: Person, **_: object) -> None:
    """After a step that gave codes: whoever waits for an activity calls it by its code of now."""
    for waiting, key, code in called_otherwise(project, rows):
        follow(person, waiting, partial(_renamed, key=key, code=code), "follow")


def _renamed(draft: Draft, key: int, code: str) -> None:
    draft.labels.append(sentence("following.renamed", old=draft.record("externals", key).code, new=code))
    draft.rename("externals", key, code)


def hold_for_outsiders(person: Person, project: Project) -> None:
    """After a project was closed to some: who waits for it and sees it no more keeps what its activities were last."""
    for waiting, key, cells in last_seen(project):
        follow(person, waiting, partial(_held, key=key, cells=cells), "follow")


def _held(draft: Draft, key: int, cells: dict[str, Any]) -> None:
    draft.labels.append(sentence("following.held", code=draft.record("externals", key).code))
    draft.put("externals", key, cells)


stepped.connect(follow_codes)
