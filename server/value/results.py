"""Results of a project at a page, computed by the core and kept by revision."""

from dataclasses import dataclass

from dryledger.book.plan import Book
from dryledger.compute import Results, compute
from server.exchange.books import Recent
from server.exchange.live import live_book
from server.plan.models import Project
from server.posting.models import Page
from server.posting.pages import find_page, find_project
from server.posting.sealing import sealed_book

_results = Recent(60)
_newest = Recent(24)
"""The last results of each project: an entry takes over from them what it does not touch."""


@dataclass
class View:
    """A project at a page: what every screen is made from. A dry page is seen as it was closed."""

    project: Project
    page: Page
    book: Book
    results: Results


def results_of(project: Project, page: Page) -> Results:
    """The results at a page: from its seal where it is dry, from the rows where it is wet."""
    if page.state == "dry":
        return _results.get((page.uid, page.digest), lambda: compute(sealed_book(page), page.code))
    return _results.get((project.uid, project.revision, page.uid), lambda: _live(project, page))


def _live(project: Project, page: Page) -> Results:
    found = compute(live_book(project), page.code, before=_newest.peek(project.uid))
    _newest.put(project.uid, found)
    return found


def view(project_code: str, page_code: str) -> View:
    """The view of a project at a page by their codes. Raises Refused where one is not there."""
    project = find_project(project_code)
    page = find_page(project, page_code)
    found = results_of(project, page)
    return View(project, page, found.book, found)


def forget_results(project: Project, page: Page, before: Results) -> None:
    """Drop the results at the project's revision, for those `before` it: its step was taken back before it ended."""
    _results.drop((project.uid, project.revision, page.uid))
    _newest.put(project.uid, before)
