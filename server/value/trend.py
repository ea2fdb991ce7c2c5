"""The pages side by side: the figures of every page up to one, and what changed between two of them."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.calendar.calendar import to_text
from dryledger.figure_values import written
from dryledger.marks.marks import drift_days, marks, project_mark
from dryledger.posting.effects import moved
from dryledger.readings import read, reader
from dryledger.schedule.driving import path_float
from dryledger.value.rebased import Rebased, rebased
from dryledger.value.under_change import first_approved
from server.book.access import Access
from server.book.models import Page
from server.book.results import View, results_of

MOST_CHANGES = 500


@dataclass
class PageFigures:
    """One page: its mark and the project's figures as the page has them; floats and drift in working days."""

    page: str
    status: str
    state: str
    mark: str
    spi: float | None
    cpi: float | None
    spi_t: float | None
    eac: str | None
    finish: str
    late_days: float | None
    float_days: float | None
    baseline: str
    bac: str | None
    first_late_days: float | None
    """Against the first approved baseline, where there is one."""


@dataclass
class RebasedOut:
    """A page on which the measured baseline changed: from which to which, the finish and BAC of both, and why."""

    page: str
    was: str
    now: str
    was_finish: str | None
    now_finish: str | None
    days: float | None
    was_bac: str
    now_bac: str
    reason: str


@dataclass
class TrendOut:
    """The pages up to one, the oldest first."""

    currency: str
    baseline: str | None
    pages: list[PageFigures]
    first: str | None
    """The first approved baseline, where any page is measured by another one."""
    changed: list[RebasedOut]


@dataclass
class ChangedRow:
    """An activity that another page has otherwise: its mark, how far its finish moved, and how much value and cost grew."""

    code: str
    name: str
    was: str
    mark: str
    days: float
    ev: str
    ac: str
    eac: str


@dataclass
class ComparedOut:
    """What changed since another page, what moved furthest first, then what costs more; `count` of them there are."""

    page: str
    other: str
    count: int
    rows: list[ChangedRow]


def trend(v: View) -> TrendOut:
    """The figures of every page up to this one."""
    pages = Page.objects.filter(project=v.project, order__lte=v.page.order).defer("inputs", "results").order_by("order")
    baseline, figures = v.results.baseline.code if v.results.baseline else None, [_figures(v, page) for page in pages]
    changed, first = baselines_changed(v), first_approved(v.book)
    return TrendOut(v.book.project.currency, baseline, figures, first.code if first is not None and changed else None, changed)


def baselines_changed(v: View) -> list[RebasedOut]:
    """The pages up to this one on which the measured baseline changed."""
    return [_rebased(x) for x in rebased(v.results.book, v.results.at.periods)]


def _rebased(x: Rebased) -> RebasedOut:
    was, now = (None if b.finish is None else to_text(b.finish) for b in (x.was, x.now))
    days = None if x.days is None else round(float(x.days), 2)
    return RebasedOut(x.page, x.was.code, x.now.code, was, now, days, f"{x.was.bac:f}", f"{x.now.bac:f}", x.now.reason or x.now.name)


def _figures(v: View, page: Page) -> PageFigures:
    r = v.results if page.pk == v.page.pk else results_of(v.project, page)
    first = drift_days(r, key="original_finish_difference")
    per_day, late, slack = r.book.project_calendar.minutes_per_day, drift_days(r), path_float(r.schedule)
    spi, cpi, spi_t = (x if isinstance(x := read(r, key), float) else None for key in ("spi", "cpi", "spi_t"))
    return PageFigures(
        page.code,
        page.status,
        page.state,
        page.mark if page.state == "dry" else project_mark(r).mark,
        spi,
        cpi,
        spi_t,
        written(read(r, "eac"), "money"),
        to_text(r.schedule.finish),
        None if late is None else round(float(late), 2),
        None if slack is None else round(slack / per_day, 2),
        r.baseline.code if r.baseline is not None else "",
        written(read(r, "bac"), "money"),
        None if first is None else round(float(first), 2),
    )


def compared(access: Access, v: View, other: str) -> ComparedOut:
    """What changed from another page to this one."""
    before = access.view(other)
    then, now = before.results, v.results
    days = {m.code: float(m.days) for m in moved(then, now)}
    marks_then, marks_now = marks(then).activities, marks(now).activities
    keys = ("ev", "ac", "eac")
    old, new = ([reader(r, key, "activity") for key in keys] for r in (then, now))
    rows = []
    for a in v.book.activities:
        known = a.code in then.schedule.activities
        apart = [_money(new[i](a.code)) - (_money(old[i](a.code)) if known else Decimal(0)) for i in range(3)]
        was, mark = marks_then[a.code].mark if known else "", marks_now[a.code].mark
        if a.code in days or any(apart) or was != mark:
            rows.append(ChangedRow(a.code, a.name, was, mark, days.get(a.code, 0.0), *(f"{x:f}" for x in apart)))
    rows.sort(key=lambda x: (-abs(x.days), -abs(Decimal(x.eac)), x.code))
    return ComparedOut(v.page.code, before.page.code, len(rows), rows[:MOST_CHANGES])


def _money(value: object) -> Decimal:
    return value if isinstance(value, Decimal) else Decimal(0)
