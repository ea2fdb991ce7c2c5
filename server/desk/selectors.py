"""The projects of the desk, and the frame that every screen of one stands in."""

from dataclasses import dataclass

from django.db.models import OuterRef, Subquery

from dryledger.compute import CALCULATION
from dryledger.marks.marks import MARK_WORDS, project_mark
from server.book.access import Access
from server.book.models import Page, Project
from server.book.results import calculation_of, live_results, results_of


@dataclass
class PageOut:
    """One leaf of the period rail."""

    code: str
    number: int
    status: str
    state: str
    mark: str
    mark_word: str
    calculation: int
    """The number of the calculation whose figures the page shows."""


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
    calculation: int
    """The number of the calculation of today."""
    pages: list[PageOut]


def _mark(project: Project, page: Page) -> str:
    return page.mark if page.state == "dry" else project_mark(results_of(project, page)).mark


def desk() -> DeskOut:
    """Every project with its open page."""
    out = []
    last = Page.objects.filter(project=OuterRef("pk")).order_by("-order", "-id").values("pk")[:1]
    latest = Project.objects.annotate(latest=Subquery(last)).values("latest")
    open_pages = {p.project_id: p for p in Page.objects.filter(pk__in=latest).defer("inputs", "results")}
    for project in Project.objects.all():
        page = open_pages.get(project.pk)
        if page is not None:
            mark = _mark(project, page)
            out.append(ProjectOut(project.code, project.name, project.currency, page.status, page.code, mark, MARK_WORDS[mark]))
    return DeskOut(out)


def frame(access: Access) -> FrameOut:
    """The frame of one project."""
    project = access.project
    pages = []
    for i, page in enumerate(Page.objects.filter(project=project).defer("inputs", "results"), 1):
        mark = _mark(project, page)
        number = calculation_of(page)
        pages.append(PageOut(page.code, i, page.status, page.state, mark, MARK_WORDS[mark], number))
    results = live_results(project)
    base = results.baseline
    return FrameOut(
        project.code,
        project.name,
        project.currency,
        project.revision,
        base.code if base else None,
        base.name if base else None,
        results.treatment,
        CALCULATION,
        pages,
    )
