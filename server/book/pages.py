"""Pages as they are made: the opening one, and the next after one that was closed."""

from dryledger.book.plan import Book
from dryledger.calendar.calendar import Instant, from_text, to_text
from dryledger.schedule.rhythm import next_status
from server.book.models import Page, Project


def opening_page(project: Project) -> Page:
    """The page of a project without any: as of its start, so that the plan stands as planned. It moves with the start."""
    return Page(project=project, order=0, code="P01", status=project.start)


def next_page(project: Project, pages: list[tuple[str, str]], book: Book, order: float, status: Instant | None = None) -> Page:
    """The page after those that there are (code and status of each), with the next code: as of `status`, or as proposed."""
    codes = {code for code, _ in pages}
    number = len(pages) + 1
    while f"P{number:02d}" in codes:
        number += 1
    at = proposed(book, [from_text(status) for _, status in pages]) if status is None else status
    return Page(project=project, order=order, code=f"P{number:02d}", status=to_text(at))


def proposed(book: Book, pages: list[Instant]) -> Instant:
    """The status date proposed for the page after those that there are: by the project's rhythm, on a working day."""
    return next_status(book.axis, book.project.start, pages, book.project.rhythm)
