"""The book of a project as it stands, with what was computed of it: one workspace a revision, published when it is committed.

A workspace never changes what it says; the next one takes over from it what is the same. Previews make none.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from django.dispatch import Signal

from dryledger.book.memory import BookChange, Memo, Slot
from dryledger.book.plan import Book, External
from dryledger.changes.keyed import KeyedBook, with_externals
from dryledger.compute import Results, compute
from server.book.cache import LruCache
from server.book.models import Project
from server.book.read import read_project, read_projects

MOST_ROWS = 450_000
NOTHING_SAME = BookChange(frozenset(), frozenset())
RESULTS: Slot[Results] = Slot("results at a page")
NEWEST: Slot[Results] = Slot("the last results computed here or before: what rests on the same is taken over from them", ())


@dataclass
class Workspace:
    """A book with the keys of its rows at a revision; its memo holds what rooms worked out of it, each in a slot of its own.

    A slot that rests on nothing goes on to the next workspace as it is; `carry` takes what is made here along to be made over there.
    """

    revision: int
    keyed: KeyedBook
    memo: Memo = field(default_factory=Memo, repr=False)

    @property
    def book(self) -> Book:
        """The book with all its pages."""
        return self.keyed.book

    def results(self, page: str) -> Results:
        """The results at a page."""

        def make() -> Results:
            found = compute(self.book, page, before=self.memo.peek(NEWEST))
            self.memo.keep(NEWEST, found)
            return found

        return self.memo.once(RESULTS, make, page)

    def know(self, page: str, results: Results) -> None:
        """Keep results that were computed before this workspace was there."""
        self.memo.keep(RESULTS, results, page)
        self.memo.keep(NEWEST, results)

    def with_externals(self, externals: tuple[External, ...]) -> "Workspace":
        """The same revision with the activities of other projects as they stand now."""
        return self.next(self.revision, with_externals(self.keyed, externals))

    def next(self, revision: int, keyed: KeyedBook) -> "Workspace":
        """The workspace after a change."""
        return Workspace(revision, keyed, self.memo.after(NOTHING_SAME))

    @property
    def weight(self) -> int:
        """Roughly how many rows it holds."""
        book = self.book
        pages = sum(len(p.statements) + len(p.hours) + len(p.costs) for p in book.periods)
        kept = sum(len(b.activities) for b in book.baselines)
        return 200 + 4 * len(book.activities) + len(book.links) + len(book.assignments) + len(book.costs) + kept + pages


published = Signal()
"""Sent by a project of which another workspace was published: rooms may follow."""
_workspaces = LruCache(MOST_ROWS, lambda w: w.weight)


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
    made = _workspaces_at.get((project.uid, project.revision), lambda: Workspace(*read_project(project)))
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
            publish(p, Workspace(*books[p.pk]))


def publish(project: Project, workspace: Workspace) -> None:
    """Keep a workspace for everybody. Only what is committed is published."""
    newest = _workspaces.peek(project.uid)
    if newest is None or newest.revision <= workspace.revision:
        _workspaces.put(project.uid, workspace)
        published.send(project)


_workspaces_at = LruCache(1, lambda w: 1)
"""Holds whoever asks for the same reading while it is going on."""
