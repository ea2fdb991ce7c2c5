"""What the desk needs of a project, from its results at its open or last dry page."""

from decimal import Decimal

from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.desk.curve import CurvePart
from dryledger.desk.portfolio import figures_of_project
from dryledger.desk.risk import risk_and_benefit
from dryledger.errors import TooManyPoints
from dryledger.marks.marks import drift_days, mark_word, project_mark
from dryledger.report.facts import milestone_facts
from dryledger.report.own_fields import field_words
from server.book.models import Page
from server.book.results import View
from server.desk.shapes import LateOut, ProjectLine, ProjectOut
from server.value.tables import project_statistics


def mark_of(page: Page, r: Results) -> str:
    """The mark of a project at a page: as it was closed, or as it is now."""
    return page.mark if page.state == "dry" else project_mark(r).mark


def line_of(v: View) -> ProjectLine:
    """The line of a project at a page."""
    r = v.results
    return ProjectLine(_project(v), figures_of_project(r), _late(v), _curve(r), project_statistics(v))


def _curve(r: Results) -> CurvePart | None:
    """The curve by weeks; None without a status date, or where the project is so long that it has none."""
    if r.status is None:
        return None
    try:
        return CurvePart(r.book.project.code, r.status, tuple(r.points))
    except TooManyPoints:
        return None


def _late(v: View) -> list[LateOut]:
    r, project = v.results, v.project
    against = r.baseline.code if r.baseline else ""
    found = [(m, m.baseline, m.late) for m in milestone_facts(r) if not m.reached]
    return [
        LateOut(project.code, v.page.code, m.code, m.name, v.page.status, against, to_text(base), to_text(m.now), float(round(late, 1)))
        for m, base, late in found
        if base is not None and late is not None and late > 0
    ]


def _project(v: View) -> ProjectOut:
    r, project, page = v.results, v.project, v.page
    mark, m, risk = mark_of(page, r), r.totals, risk_and_benefit(r)
    late = drift_days(r, None)
    return ProjectOut(
        code=project.code,
        name=project.name,
        currency=project.currency,
        status=page.status,
        page=page.code,
        baseline=r.baseline.code if r.baseline else None,
        mark=mark,
        mark_word=mark_word(mark),
        manager=project.manager or "",
        client=project.client or "",
        state=project.state or "",
        kind=project.kind or "",
        own=dict(field_words(r.book)),
        bac=f"{m.bac:f}",
        pv=None if "pv" in m.reasons else f"{m.pv:f}",
        ev=f"{m.ev:f}",
        ac=f"{m.ac:f}",
        eac=_money(m.eac.get(r.book.project.eac)),
        vac=_money(m.vac),
        spi=m.spi,
        cpi=m.cpi,
        finish=to_text(r.schedule.finish),
        late_days=None if late is None else float(round(late, 1)),
        exposure=f"{risk.exposure:f}",
        exposure_percent=risk.percent,
        benefit=_money(risk.benefit),
        benefit_basis=r.book.project.benefit_basis,
        unrated=list(risk.unrated),
    )


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"
