"""Finding a project and its pages by their codes, with a sentence where there is none."""

from server.book.models import Page, Project
from server.shared.problems import Refused
from server.shared.words import sentence


def no_project(code: str) -> Refused:
    """What somebody is told who asks for a project that is not there, or not for them."""
    return Refused("not-found", sentence("lookup.no_project", code=code), 404)


def find_again(project: Project) -> Project:
    """A project as its row stands now. Raises Refused where it is gone."""
    found = Project.objects.filter(pk=project.pk).first()
    if found is None:
        raise Refused("not-found", sentence("steps.project_any_more"), 404)
    return found


def find_page(project: Project, code: str) -> Page:
    """A page by its code; `now` is the open one, where none is open the latest."""
    pages = Page.objects.filter(project=project).defer("inputs", "results")
    found = (pages.filter(state="wet").last() or pages.last()) if code == "now" else pages.filter(code=code).first()
    if found is None:
        raise Refused("not-found", sentence("lookup.no_page", code=project.code, code_2=code), 404)
    return found


def wet_page(project: Project, code: str) -> Page:
    """A page that may be written. Every action that writes on a page asks here."""
    page = find_page(project, code)
    if page.state == "dry":
        raise Refused("page-dry", sentence("lookup.page_dry_stays_closed", code=page.code), 409)
    return page


def last_page(project: Project) -> Page:
    """The latest page. Raises Refused where somebody took all of them away."""
    found = Page.objects.filter(project=project).defer("inputs", "results").last()
    if found is None:
        raise Refused("no-page", sentence("lookup.no_page_left_data", code=project.code), 409)
    return found
