"""Results of a project at a page: computed from the rows where it is wet, from its seal where it is dry."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TypeVar

from dryledger.book.memory import Slot
from dryledger.book.plan import Book
from dryledger.compute import CALCULATION, Results, compute
from dryledger.formats import formats_written
from dryledger.sealed import sealed_results
from server.book.cache import LruCache
from server.book.lookup import last_page
from server.book.models import Page, Project
from server.book.sealing import sealed_book, sealed_document
from server.book.workspace import Workspace, workspace_of

T = TypeVar("T")
MOST_KEPT = 40_000
"""How many rows of sheets of one kind a project keeps: four of the largest that there are."""
_dry = LruCache(75_000, lambda r: 200 + 6 * len(r.book.activities))


@dataclass
class View:
    """A project at a page: what every screen is made from. A dry page is seen as it was closed."""

    project: Project
    page: Page
    book: Book
    results: Results

    @property
    def calculation(self) -> int:
        """The number of the calculation that the figures are reckoned by."""
        return calculation_of(self.page)

    def kept(self, slot: Slot[T], make: Callable[[], T], *asked: str) -> T:
        """What a room makes of the page in the formats of whoever asks, kept until something is written."""
        return self.workspace.memo.once(slot, make, (self.page.code, asked, formats_written()))

    @property
    def workspace(self) -> Workspace:
        """The book as it stands now, whatever page is looked at."""
        return workspace_of(self.project)


def calculation_of(page: Page) -> int:
    """The number of the calculation whose figures a page shows: today's, or that of its seal."""
    return page.calculation if page.state == "dry" else CALCULATION


def results_of(project: Project, page: Page) -> Results:
    """The results at a page. One closed under an earlier calculation shows the figures that its seal holds."""
    if page.state == "wet":
        return workspace_of(project).results(page.code)

    def make() -> Results:
        found = compute(sealed_book(page), page.code)
        return found if page.calculation == CALCULATION else sealed_results(found, sealed_document(page))

    return _dry.get((page.uid, page.digest), make)


def view_of(project: Project, page: Page) -> View:
    """The view of a project at a page."""
    found = results_of(project, page)
    return View(project, page, found.book, found)


def current_results(project: Project) -> Results:
    """The results at the latest page."""
    return results_of(project, last_page(project))
