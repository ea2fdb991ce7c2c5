"""The projects of the desk, and the frame that every screen of one stands in."""

from dataclasses import dataclass
from decimal import Decimal

from django.db.models import OuterRef, Subquery

from dryledger.calendar.calendar import to_text
from dryledger.compute import CALCULATION, Results
from dryledger.desk.portfolio import CurrencySum, figures_of_project, sums_by_currency
from dryledger.marks.marks import MARK_WORDS, drift_days, project_mark
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
    manager: str
    bac: str
    pv: str | None
    ev: str
    ac: str
    eac: str | None
    vac: str | None
    spi: float | None
    cpi: float | None
    finish: str
    late_days: float | None
    """Working days that it finishes after its baseline."""


@dataclass
class SumOut:
    """The sums of the projects of one currency, and the indices that follow from them; None with its reason."""

    currency: str
    projects: int
    left_out: list[str]
    bac: str
    pv: str
    ev: str
    ac: str
    eac: str | None
    vac: str | None
    spi: float | None
    cpi: float | None
    reasons: dict[str, str]


@dataclass
class DeskOut:
    """All projects, and their sums by currency."""

    projects: list[ProjectOut]
    sums: list[SumOut]


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
    """Every project as of its open or last dry page, and the sums by currency."""
    out, figures = [], []
    last = Page.objects.filter(project=OuterRef("pk")).order_by("-order", "-id").values("pk")[:1]
    latest = Project.objects.annotate(latest=Subquery(last)).values("latest")
    open_pages = {p.project_id: p for p in Page.objects.filter(pk__in=latest).defer("inputs", "results")}
    for project in Project.objects.all():
        page = open_pages.get(project.pk)
        if page is not None:
            r = results_of(project, page)
            figures.append(figures_of_project(r))
            out.append(_project(project, page, r))
    return DeskOut(out, [_sum(x) for x in sums_by_currency(figures)])


def _project(project: Project, page: Page, r: Results) -> ProjectOut:
    mark, m = _mark(project, page), r.totals
    late = drift_days(r, None)
    return ProjectOut(
        project.code,
        project.name,
        project.currency,
        page.status,
        page.code,
        mark,
        MARK_WORDS[mark],
        project.manager or "",
        f"{m.bac:f}",
        None if "pv" in m.reasons else f"{m.pv:f}",
        f"{m.ev:f}",
        f"{m.ac:f}",
        _money(m.eac.get(r.book.project.eac)),
        _money(m.vac),
        m.spi,
        m.cpi,
        to_text(r.schedule.finish),
        None if late is None else float(round(late, 1)),
    )


def _sum(x: CurrencySum) -> SumOut:
    left_out = [f"{code}: {reason}" for code, reason in x.left_out]
    bac, pv, ev, ac = (f"{amount:f}" for amount in (x.bac, x.pv, x.ev, x.ac))
    return SumOut(x.currency, len(x.projects), left_out, bac, pv, ev, ac, _money(x.eac), _money(x.vac), x.spi, x.cpi, x.reasons)


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


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
