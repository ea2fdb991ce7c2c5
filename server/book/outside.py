"""Activities of other projects that links lead from, as they stand now: their dates flow into every wet page that waits for them.

Each is as of the open page of its project, of its last one where none is open. Projects may wait for each other both ways, as long as no
chain of links comes round; dates are then carried over until none moves any more.
"""

import threading
from collections.abc import Iterable
from hashlib import sha256
from typing import Any

from dryledger.book.lists import EXTERNALS
from dryledger.book.plan import External as ExternalRecord
from dryledger.errors import DryLedgerError
from dryledger.exchange.write import row_document
from server.book.access import sees
from server.book.lookup import last_page
from server.book.models import Activity, External, Page, Project
from server.book.results import results_of
from server.book.workspace import Workspace, publish, workspace_of

Of = dict[str, tuple[Project, str]]
"""By the code of an external activity the project that it is of, and its code there."""
_now = threading.local()


def settled(project: Project, w: Workspace) -> Workspace:
    """A workspace with what it waits for as it stands now; the same one where nothing moved."""
    if not w.book.externals or getattr(_now, "settling", False):
        return w
    _now.settling = True
    try:
        project.__dict__["_workspace"] = w
        group = Waits([project]).group(project)
        for _ in range(2 + sum(len(of) for _, of in group)):
            if not [p for p, of in group if _brought_up_to_date(p, of)]:
                break
        found: Workspace = project.__dict__["_workspace"]
        return found
    finally:
        _now.settling = False


def _brought_up_to_date(project: Project, of: Of) -> bool:
    """Whether anything that a project waits for stands otherwise than its workspace has it: then it has another one."""
    w = workspace_of(project)
    externals = tuple(_as_it_stands(x, of.get(x.code)) for x in w.book.externals)
    if externals == w.book.externals:
        return False
    project.__dict__["_workspace"] = now = w.with_externals(externals)
    publish(project, now)
    return True


def _as_it_stands(x: ExternalRecord, of: tuple[Project, str] | None) -> ExternalRecord:
    """An external activity with the dates that its own project gives it; as it was where that has it no more."""
    if of is None:
        return x
    project, code = of
    if not Page.objects.filter(project=project).exists():
        return x
    try:
        r = results_of(project, last_page(project))
    except DryLedgerError:
        return x  # a book that can't be computed just now says nothing new
    row, activity = r.schedule.activities.get(code), r.book.activity_by_code.get(code)
    if row is None or activity is None:
        return x
    return ExternalRecord(x.code, activity.name, row.start, row.finish, row.state, r.status, x.last_start, x.last_finish)


class Waits:
    """Which of some projects wait for which others, however far back: asked for level by level, however many there are."""

    def __init__(self, projects: Iterable[Project]) -> None:
        self.projects = {p.pk: p for p in projects}
        self._rows: dict[int, list[tuple[str, int, str]]] = {}
        self._known: dict[tuple[int | None, int], bool] = {}
        new = set(self.projects)
        while new:
            new = self._ask(new)

    def _ask(self, new: set[int]) -> set[int]:
        """What projects wait for; gives those among it that were not known."""
        rows = list(External.objects.filter(project__in=new, of__isnull=False).select_related("by"))
        there = {
            pk: (code, other)
            for pk, code, other in Activity.objects.filter(pk__in={x.of for x in rows}).values_list("pk", "code", "project_id")
        }
        more = {other for _, other in there.values()} - self.projects.keys()
        self.projects |= Project.objects.in_bulk(more)
        for x in rows:
            code, other = there.get(x.of or 0, ("", 0))
            if other in self.projects and self._seen_by(x, self.projects[other]):
                self._rows.setdefault(x.project_id, []).append((x.code, other, code))
        return more

    def _seen_by(self, x: External, other: Project) -> bool:
        key = (x.by_id, other.pk)
        if key not in self._known:
            self._known[key] = sees(x.by, other)
        return self._known[key]

    def group(self, project: Project) -> list[tuple[Project, Of]]:
        """The project and all that it waits for, those waited for first; each with where its external ones are."""
        seen: set[int] = {project.pk}
        out: list[tuple[Project, Of]] = []

        def visit(pk: int) -> None:
            of: Of = {}
            for code, other, there in self._rows.get(pk, ()):
                if other not in seen:
                    seen.add(other)
                    visit(other)
                of[code] = self.projects[other], there
            out.append((self.projects[pk], of))

        visit(project.pk)
        return out

    def revisions(self, project: Project) -> list[tuple[str, int]]:
        """All that the figures of a project rest on: it and every project whose dates flow into it, each with its revision."""
        return [(str(p.uid), p.revision) for p, _ in self.group(project)]


def held(project: Project) -> set[str]:
    """The codes of external activities whose project was closed to whoever linked them: they stay as they were last seen."""
    rows = list(External.objects.filter(project=project, of__isnull=False).select_related("by"))
    there = dict(Activity.objects.filter(pk__in=[x.of for x in rows]).values_list("pk", "project_id"))
    others = {x.pk: x for x in Project.objects.filter(pk__in=there.values())}
    return {x.code for x in rows if x.of in there and not sees(x.by, others[there[x.of]])}


def current_externals(project: Project) -> list[dict[str, Any]]:
    """The external activities of a project as they stand now, the way the book writes them."""
    return [row_document(EXTERNALS, x) for x in workspace_of(project).book.externals]


def with_current_externals(project: Project, document: dict[str, Any]) -> dict[str, Any]:
    """A document of the book with its external activities as they stand now."""
    return document | {"externals": current_externals(project)} if document.get("externals") else document


def state_of_outside(project: Project) -> str:
    """A short text that is another whenever something that the project waits for moved; empty where it waits for nothing."""
    found = workspace_of(project).book.externals
    return sha256(repr(found).encode()).hexdigest()[:12] if found else ""
