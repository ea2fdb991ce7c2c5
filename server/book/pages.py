"""Pages as they are made: the opening one, and the next after one that was closed."""

from dryledger.calendar.calendar import Axis, from_text, to_text
from dryledger.schedule.rhythm import next_status
from server.book.models import Page, Project


def opening_page(project: Project) -> Page:
    """The page of a project without any: as of its start, so that the plan stands as planned. It moves with the start."""
    return Page(project=project, order=0, code="P01", status=project.start)


def next_page(project: Project, pages: list[tuple[str, str]], axis: Axis, order: float) -> Page:
    """The page after those that there are (code and status of each), on the close of a working day, with the next code."""
    codes = {code for code, _ in pages}
    number = len(pages) + 1
    while f"P{number:02d}" in codes:
        number += 1
    status = next_status(axis, from_text(project.start), [from_text(status) for _, status in pages])
    return Page(project=project, order=order, code=f"P{number:02d}", status=to_text(status))
