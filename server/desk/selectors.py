"""The projects of the desk, what follows from all of them, and the frame that every screen of one stands in."""

from decimal import Decimal
from typing import Any

from django.db.models import OuterRef, Q, Subquery
from django.utils.timezone import localdate

from dryledger.calendar.calendar import to_text
from dryledger.compute import CALCULATION
from dryledger.desk.curve import portfolio_curve
from dryledger.desk.portfolio import CurrencySum, sums_by_currency
from dryledger.marks.marks import mark_word
from server.accounts.models import Person, Role
from server.accounts.roles import covers
from server.asking.selectors import open_requests
from server.book.access import Access, visible
from server.book.membership import Member
from server.book.models import Page, Project, Standing
from server.book.outside import state_of_outside
from server.book.results import calculation_of, current_results, results_of
from server.desk.lines import mark_of
from server.desk.models import View
from server.desk.shapes import (
    DeskCurve,
    DeskOut,
    DeskPoint,
    DeskStatistics,
    DeskView,
    FrameOut,
    PageOut,
    ProjectLine,
    ProjectOut,
    ProjectStatistics,
    SumOut,
)
from server.desk.summaries import summaries
from server.report.models import Edition
from server.shared.words import sentence


def seen_pages(person: Person) -> list[tuple[Project, Page]]:
    """Every project that a person may see with its open or last dry page."""
    seen = visible(person)
    last = Page.objects.filter(project=OuterRef("pk")).order_by("-order", "-id").values("pk")[:1]
    latest = seen.annotate(latest=Subquery(last)).values("latest")
    pages = {p.project_id: p for p in Page.objects.filter(pk__in=latest).defer("inputs", "results")}
    return [(project, pages[project.pk]) for project in seen if project.pk in pages]


def real_pages(person: Person) -> list[tuple[Project, Page]]:
    """The same of those that count: what-if copies and retired projects are in no sum, and book nobody's time."""
    return [(project, page) for project, page in seen_pages(person) if project.standing == Standing.REAL]


def lines(person: Person) -> list[ProjectLine]:
    """What the desk needs of every project that counts, as far as a person may see it, as of that page."""
    return [x.line for x in summaries(real_pages(person))]


def _to_close(project: Project, page: Page) -> bool:
    """Whether the status date of a real project's open page has come."""
    return project.standing == Standing.REAL and page.state == "wet" and page.status[:10] <= localdate().isoformat()


def desk(person: Person) -> DeskOut:
    """The projects, the sums by currency, late milestones, reports due, and the views that the person finds."""
    seen, due = seen_pages(person), _due(person)
    found = [x.line for x in summaries(seen)]
    roles = dict(Member.objects.filter(person=person).values_list("project", "role"))
    projects = []
    for line, (project, page) in zip(found, seen, strict=True):
        own: dict[str, Any] = {"standing": project.standing, "copy_of": project.copy_of, "place": project.place}
        counts = project.standing == Standing.REAL
        own |= {"report_due": due.get(project.code) if counts else None}
        own |= {"page_due": _to_close(project, page)}
        own |= {"may_stand": covers(roles.get(project.pk, person.role), Role.APPROVER)}
        projects.append(ProjectOut(**{**vars(line.project), **own}))
    real = [line for line, (project, _) in zip(found, seen, strict=True) if project.standing == Standing.REAL]
    late = sorted((m for x in real for m in x.late), key=lambda m: -m.late_days)
    return DeskOut(
        projects, [_sum(x) for x in sums_by_currency(x.figures for x in real)], late, views_of(person), len(open_requests(person))
    )


def _due(person: Person) -> dict[str, str]:
    """By project the latest closed page, where no report on it was issued."""
    last = Page.objects.filter(project=OuterRef("pk"), state="dry").order_by("-order", "-id").values("pk")[:1]
    found = visible(person).annotate(closed=Subquery(last)).values("closed")
    pages = Page.objects.filter(pk__in=found).exclude(pk__in=Edition.objects.values("page"))
    return dict(pages.values_list("project__code", "code"))


def views_of(person: Person) -> list[DeskView]:
    """The views that a person keeps, by name, then those that others share."""
    found = sorted(View.objects.filter(Q(person=person) | Q(shared=True)).select_related("person"), key=lambda v: v.person_id != person.pk)
    return [DeskView(**v.look, shared=v.shared, by="" if v.person_id == person.pk else v.person.full_name) for v in found]


def sums_of(person: Person, groups: list[list[str]]) -> list[list[SumOut]]:
    """The sums by currency of each group of projects, of those that count and that the person sees."""
    found = {x.project.code: x for x in lines(person)}
    return [[_sum(x) for x in sums_by_currency(found[c].figures for c in codes if c in found)] for codes in groups]


def _sum(x: CurrencySum) -> SumOut:
    left_out = [f"{code}: {reason}" for code, reason in x.left_out]
    bac, pv, ev, ac = (f"{amount:f}" for amount in (x.bac, x.pv, x.ev, x.ac))
    return SumOut(x.currency, len(x.projects), left_out, bac, pv, ev, ac, _money(x.eac), _money(x.vac), x.spi, x.cpi, x.reasons)


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


def chosen(person: Person, codes: list[str]) -> list[ProjectLine]:
    """The projects by their codes, as far as the person sees them; all, where none is named."""
    wanted = set(codes)
    return [x for x in lines(person) if not wanted or x.project.code in wanted]


def desk_statistics(found: list[ProjectLine]) -> DeskStatistics:
    """The statistics of projects."""
    return DeskStatistics(
        [ProjectStatistics(p.code, p.name, p.currency, p.status, p.baseline, x.statistics) for x in found for p in [x.project]]
    )


def desk_curve(found: list[ProjectLine], currency: str) -> DeskCurve:
    """The curve of those of the projects that are in one currency; absent: in that of most of them."""
    counts: dict[str, int] = {}
    for x in found:
        counts[x.project.currency] = counts.get(x.project.currency, 0) + 1
    of = currency or max(counts, key=lambda c: counts[c], default="")
    mine = [x for x in found if x.project.currency == of]
    parts = [x.curve for x in mine if x.curve is not None]
    left_out = [sentence("desk.no_curve", code=x.project.code) for x in mine if x.curve is None]
    dates = [p.status for p in parts]
    points = [
        DeskPoint(to_text(p.end), f"{p.pv:f}", _money(p.ev), _money(p.ac), _money(p.forecast)) for p in portfolio_curve(parts)
    ]  # fmt: skip
    first, last = (to_text(f(dates)) if dates else None for f in (min, max))
    return DeskCurve(of, list(counts), [p.code for p in parts], left_out, first, last, points)


def frame(access: Access) -> FrameOut:
    """The frame of one project."""
    project = access.project
    pages = []
    for i, page in enumerate(Page.objects.filter(project=project).defer("inputs", "results"), 1):
        mark = page.mark if page.state == "dry" else mark_of(page, results_of(project, page))
        due = covers(access.role, Role.ANALYST) and _to_close(project, page)
        pages.append(PageOut(page.code, i, page.status, page.state, mark, mark_word(mark), calculation_of(page), due))
    results = current_results(project)
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


def keep_view(person: Person, look: dict[str, Any]) -> list[DeskView]:
    """Keep a view under its name, in the place of one of that name."""
    own = {k: v for k, v in look.items() if k != "shared"}
    View.objects.update_or_create(person=person, name=look["name"], defaults={"look": own, "shared": look.get("shared", False)})
    return views_of(person)


def drop_view(person: Person, name: str) -> list[DeskView]:
    """Take a view away."""
    View.objects.filter(person=person, name=name).delete()
    return views_of(person)
