"""The pages of a project: finding one, the first, the next, and closing."""

from datetime import datetime, timedelta

from dryledger.calendar.calendar import from_text, to_text
from server.accounts.models import Person, Role
from server.accounts.roles import require
from server.journal.steps import step
from server.plan.models import Project
from server.posting.models import Page
from server.posting.sealing import seal
from server.shared.problems import Refused


def find_project(code: str) -> Project:
    """A project by its code, or a sentence that there is none."""
    found = Project.objects.filter(code=code).first()
    if found is None:
        raise Refused("not-found", f"There is no project “{code}”.", 404)
    return found


def find_page(project: Project, code: str) -> Page:
    """A page by its code; `now` is the wet one."""
    pages = Page.objects.filter(project=project).defer("inputs", "results")
    found = pages.filter(state="wet").last() if code == "now" else pages.filter(code=code).first()
    if found is None:
        raise Refused("not-found", f"{project.code} has no page “{code}”.", 404)
    return found


def wet_page(project: Project, code: str) -> Page:
    """A page that may be written. Every action that writes on a page asks here."""
    page = find_page(project, code)
    if page.state == "dry":
        raise Refused(
            "page-dry", f"Page {page.code} is dry: it stays as it was closed. Put a mistake right with a correction on the open page.", 409
        )
    return page


def first_page(project: Project) -> Page:
    """The opening page of a project without any: as of its start, so that the plan stands as planned. It moves with the start."""
    return Page.objects.create(project=project, order=0, code="P01", status=project.start)


def opening_page(project: Project) -> Page | None:
    """The opening page while nothing is posted on it and no other follows."""
    pages = list(Page.objects.filter(project=project).defer("inputs", "results")[:2])
    if len(pages) != 1 or pages[0].state != "wet":
        return None
    page = pages[0]
    return None if page.statements.exists() or page.hours.exists() or page.costs.exists() else page  # type: ignore[attr-defined]


def _first_friday(project: Project) -> str:
    """The Friday of the project's first week, 17:00 (at the latest a week on)."""
    start = datetime.fromisoformat(project.start)
    friday = (start + timedelta(days=(4 - start.weekday()) % 7)).replace(hour=17, minute=0)
    if friday <= start:
        friday += timedelta(days=7)
    return friday.isoformat(timespec="minutes")


def open_next(project: Project, after: Page) -> Page:
    """The next page: as long again as the last one was (after the opening page, to the first Friday), with the next code."""
    before = Page.objects.filter(project=project, order__lt=after.order).order_by("-order").first()
    if before is None and after.status <= project.start:
        return Page.objects.create(project=project, order=after.order + 1, code="P02", status=_first_friday(project))
    length = from_text(after.status) - from_text(before.status) if before else 7 * 1440
    number = int(after.order) + 2
    code = f"P{number:02d}"
    while Page.objects.filter(project=project, code=code).exists():
        number += 1
        code = f"P{number:02d}"
    return Page.objects.create(project=project, order=after.order + 1, code=code, status=to_text(from_text(after.status) + length))


def close_page(person: Person, project: Project, code: str, revision: int) -> Page:
    """Seal the wet page and open the next. It is not undone."""
    require(person, Role.ANALYST, "close a page")
    page = wet_page(project, code)
    with step(project, person, revision, "close", f"closed page {page.code}") as s:
        s.undoable = False
        full = Page.objects.get(pk=page.pk)
        seal(project, full, person)
        following = open_next(project, full)
        s.rows.append({"model": "posting.Page", "pk": page.pk, "before": None, "after": None})
    return following
