"""The book of a project as it stands, with what was computed of it: one workspace a revision, published when it is committed.

A workspace never changes what it says; the next one takes over from it what is the same. Previews make none.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from threading import RLock
from typing import Any, TypeVar

from dryledger.book.plan import Book, External
from dryledger.changes.keyed import KeyedBook, with_externals
from dryledger.compute import Results, compute
from server.book.cache import Recent
from server.book.models import Project
from server.book.read import read_project, read_projects

T = TypeVar("T")
MOST_ROWS = 450_000
CARRIED = ("plan sheet", "posting sheet")
"""What the next workspace is told of, since most of it stays the same there."""


@dataclass
class Workspace:
    """A book with the keys of its rows at a revision; `made` holds what was worked out of it, by names of their own."""

    revision: int
    keyed: KeyedBook
    made: dict[object, Any] = field(default_factory=dict, repr=False)
    _lock: Any = field(default_factory=RLock, repr=False)

    @property
    def book(self) -> Book:
        """The book with all its pages."""
        return self.keyed.book

    @property
    def newest(self) -> Results | None:
        """The last results computed here, or of the workspace before: what rests on the same is taken over from them."""
        found: Results | None = self.made.get("newest")
        return found

    def once(self, name: object, make: Callable[[], T]) -> T:
        """Something worked out once; whoever asks while it is being made waits for that."""
        with self._lock:
            if name not in self.made:
                self.made[name] = make()
            found: T = self.made[name]
            return found

    def results(self, page: str) -> Results:
        """The results at a page."""

        def make() -> Results:
            found = compute(self.book, page, before=self.newest)
            self.made["newest"] = found
            return found

        return self.once(("results", page), make)

    def with_externals(self, externals: tuple[External, ...]) -> "Workspace":
        """The same revision with the activities of other projects as they stand now."""
        return self.next(self.revision, with_externals(self.keyed, externals))

    def next(self, revision: int, keyed: KeyedBook) -> "Workspace":
        """The workspace after a change."""
        known: dict[object, Any] = {("known", name): self.made[name] for name in self.made if name in CARRIED}
        known |= {name: x for name, x in self.made.items() if isinstance(name, tuple) and name[0] == "known" and name not in known}
        more = {name: self.made[name] for name in ("newest", "before page") if name in self.made}
        return Workspace(revision, keyed, known | more)

    @property
    def weight(self) -> int:
        """Roughly how many rows it holds."""
        book = self.book
        pages = sum(len(p.statements) + len(p.hours) + len(p.costs) for p in book.periods)
        kept = sum(len(b.activities) for b in book.baselines)
        return 200 + 4 * len(book.activities) + len(book.links) + len(book.assignments) + len(book.costs) + kept + pages


_workspaces = Recent(MOST_ROWS, lambda w: w.weight)


def workspace_of(project: Project) -> Workspace:
    """The workspace at the project's revision, or a newer one where somebody wrote since it was read.

    All that one request asks of its project it asks of the same workspace, until it writes by itself.
    """
    from server.book.outside import settled  # other projects' results go into this one's workspace: each needs the other

    held: Workspace | None = project.__dict__.get("_workspace")
    if held is None or held.revision < project.revision:
        held = project.__dict__["_workspace"] = settled(project, _workspace_at(project))
    return held


def _workspace_at(project: Project) -> Workspace:
    found: Workspace | None = _workspaces.peek(project.uid)
    if found is not None and found.revision >= project.revision:
        return found
    made = _workspaces_at.get((project.uid, project.revision), lambda: Workspace(project.revision, read_project(project)))
    newest = _workspaces.peek(project.uid)
    if newest is None or newest.revision < made.revision:
        _workspaces.put(project.uid, made)
    return made


def read_together(projects: Sequence[Project]) -> None:
    """Have the workspaces of projects, as far as they are not there: read at once, which asks the database much less often."""
    held = {p.pk: _workspaces.peek(p.uid) for p in projects}
    wanted = [p for p in projects if held[p.pk] is None or held[p.pk].revision < p.revision]
    books = read_projects(wanted) if len(wanted) > 1 else {}
    for p in wanted:
        if p.pk in books:
            publish(p, Workspace(p.revision, books[p.pk]))


def publish(project: Project, workspace: Workspace) -> None:
    """Keep a workspace for everybody. Only what is committed is published."""
    newest = _workspaces.peek(project.uid)
    if newest is None or newest.revision <= workspace.revision:
        _workspaces.put(project.uid, workspace)


_workspaces_at = Recent(1, lambda w: 1)
"""Holds whoever asks for the same reading while it is going on."""
