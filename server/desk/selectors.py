"""The projects of the desk, and the frame that every screen of one stands in."""

from decimal import Decimal

from django.db.models import OuterRef, Subquery

from dryledger.calendar.calendar import to_text
from dryledger.compute import CALCULATION, Results
from dryledger.desk.portfolio import CurrencySum, figures_of_project, sums_by_currency
from dryledger.marks.marks import MARK_WORDS, drift_days, project_mark
from dryledger.report.facts import milestone_facts
from server.accounts.models import Person
from server.book.access import Access, visible
from server.book.models import Page, Project
from server.book.outside import state_of_outside
from server.book.results import calculation_of, live_results, results_of
from server.desk.shapes import DeskOut, FrameOut, LateOut, PageOut, ProjectOut, SumOut


def _mark(project: Project, page: Page) -> str:
    return page.mark if page.state == "dry" else project_mark(results_of(project, page)).mark


def desk(person: Person) -> DeskOut:
    """Every project that a person may see as of its open or last dry page, and the sums by currency."""
    out, figures, late = [], [], []
    last = Page.objects.filter(project=OuterRef("pk")).order_by("-order", "-id").values("pk")[:1]
    seen = visible(person)
    latest = seen.annotate(latest=Subquery(last)).values("latest")
    open_pages = {p.project_id: p for p in Page.objects.filter(pk__in=latest).defer("inputs", "results")}
    for project in seen:
        page = open_pages.get(project.pk)
        if page is not None:
            r = results_of(project, page)
            figures.append(figures_of_project(r))
            out.append(_project(project, page, r))
            late += _late(project, page, r)
    late.sort(key=lambda x: -x.late_days)
    return DeskOut(out, [_sum(x) for x in sums_by_currency(figures)], late)


def _late(project: Project, page: Page, r: Results) -> list[LateOut]:
    against = r.baseline.code if r.baseline else ""
    found = [(m, m.baseline, m.late) for m in milestone_facts(r) if not m.reached]
    return [
        LateOut(project.code, page.code, m.code, m.name, page.status, against, to_text(base), to_text(m.now), float(round(late, 1)))
        for m, base, late in found
        if base is not None and late is not None and late > 0
    ]


def _project(project: Project, page: Page, r: Results) -> ProjectOut:
    mark, m = _mark(project, page), r.totals
    late = drift_days(r, None)
    return ProjectOut(
        project.code,
        project.name,
        project.currency,
        page.status,
        page.code,
        r.baseline.code if r.baseline else None,
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
        access.role,
        project.revision,
        state_of_outside(project),
        base.code if base else None,
        base.name if base else None,
        results.treatment,
        CALCULATION,
        pages,
    )
