"""Finding a project and its pages by their codes, with a sentence where there is none."""

from server.book.models import Page, Project
from server.shared.problems import Refused


def find_project(code: str) -> Project:
    """A project by its code."""
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


def last_page(project: Project) -> Page:
    """The latest page. Raises Refused where somebody took all of them away."""
    found = Page.objects.filter(project=project).defer("inputs", "results").last()
    if found is None:
        raise Refused("no-page", f"{project.code} has no page left: its data were changed from outside. Run ./dry verify.", 409)
    return found
