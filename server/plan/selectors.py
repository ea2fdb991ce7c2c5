"""The projects of the desk, and the frame that every screen of one stands in."""

from dataclasses import dataclass

from dryledger.marks.marks import MARK_WORDS, project_mark
from server.plan.models import Project
from server.posting.models import Page
from server.posting.pages import find_project
from server.value.results import results_of


@dataclass
class PageOut:
    """One leaf of the period rail."""

    code: str
    number: int
    status: str
    state: str
    mark: str
    mark_word: str


@dataclass
class ProjectOut:
    """A project on the desk."""

    code: str
    name: str
    currency: str
    status: str
    page: str
    mark: str
    mark_word: str


@dataclass
class DeskOut:
    """All projects."""

    projects: list[ProjectOut]


@dataclass
class FrameOut:
    """What the frame around every screen shows of a project."""

    code: str
    name: str
    currency: str
    revision: int
    baseline: str | None
    baseline_name: str | None
    treatment: str
    pages: list[PageOut]


def _mark(project: Project, page: Page) -> str:
    return page.mark if page.state == "dry" else project_mark(results_of(project, page)).mark


def desk() -> DeskOut:
    """Every project with its open page."""
    out = []
    for project in Project.objects.all():
        page = Page.objects.filter(project=project).defer("inputs", "results").last()
        if page is not None:
            mark = _mark(project, page)
            out.append(ProjectOut(project.code, project.name, project.currency, page.status, page.code, mark, MARK_WORDS[mark]))
    return DeskOut(out)


def frame(code: str) -> FrameOut:
    """The frame of one project."""
    project = find_project(code)
    pages = []
    for i, page in enumerate(Page.objects.filter(project=project).defer("inputs", "results"), 1):
        mark = _mark(project, page)
        pages.append(PageOut(page.code, i, page.status, page.state, mark, MARK_WORDS[mark]))
    results = results_of(project, Page.objects.filter(project=project).defer("inputs", "results").last())  # type: ignore[arg-type]
    base = results.baseline
    return FrameOut(
        project.code,
        project.name,
        project.currency,
        project.revision,
        base.code if base else None,
        base.name if base else None,
        results.treatment,
        pages,
    )
