"""The summary and work by time of a page, for the screen and as CSV. Durations in days of the project calendar, work in hours."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.book.plan import Assignment
from dryledger.calendar.calendar import to_text
from dryledger.errors import TooManyPoints
from dryledger.figure_values import whole, written
from dryledger.figures import figure, figures_of
from dryledger.readings import read, reason
from dryledger.value.rebased import first_beside
from dryledger.value.statistics import COLUMNS, ROWS, Statistics, statistics
from dryledger.value.sums import Scope
from dryledger.value.work_by_time import Amounts, work_by_time
from server.book.results import View
from server.shared.files import csv_text
from server.shared.problems import Refused
from server.shared.words import sentence

IN_ORDER = ("baseline", "actual", "remaining", "now", "variance")
"""The columns as a summary has them: what was planned, to date, to go, the forecast, the difference."""
ESTIMATES = tuple(f.key for f in figures_of("project", "measures") if f.key.startswith("eac."))
BESIDE = ("ev", "spi", "cpi", "spi_t", "total_float", "tcpi_bac", *ESTIMATES)
SERIES = ("planned", "worked", "remaining")


@dataclass
class StatisticOut:
    """One row of statistics as texts: dates as instants, durations as days, work as hours, cost as an amount."""

    row: str
    kind: str
    baseline: str | None
    now: str | None
    actual: str | None
    remaining: str | None
    variance: str | None
    variance_kind: str
    first_variance: str | None = None
    """The difference from the first approved baseline, where the page is measured by another one."""


@dataclass
class ScopeStatistics:
    """The statistics of the project or an element, with the reason of each figure that is not there."""

    kind: str
    code: str
    name: str
    level: int
    rows: list[StatisticOut]
    figures: dict[str, str | None]
    """What stands beside it: EV, the indices, total float in days, and every estimate at completion."""
    reasons: dict[str, str]


@dataclass
class StatisticsOut:
    """The statistics of the project, then of every element."""

    status: str
    baseline: str | None
    currency: str
    scopes: list[ScopeStatistics]
    eac_method: str
    """The estimate at completion that the project uses."""
    first: str | None = None
    """The first approved baseline, where the page is measured by another one."""


@dataclass
class SeriesOut:
    """Hours and cost of one series: by bucket and in all; cost is absent where the baseline keeps none."""

    hours: list[float]
    total_hours: float
    cost: list[str]
    total_cost: str | None


@dataclass
class WorkLine:
    """One activity and resource, or the sum of all."""

    activity: str
    name: str
    resource: str
    person: str
    planned: SeriesOut | None
    worked: SeriesOut
    remaining: SeriesOut
    reasons: dict[str, str] = field(default_factory=dict)
    reckoned: bool = False
    """Whether what is worked follows progress, all or some of it."""


@dataclass
class WorkByTimeOut:
    """Work by time: the ends of the buckets, a line for each assignment, and the sums of their cells."""

    status: str
    baseline: str | None
    currency: str
    bucket: str
    ends: list[str]
    lines: list[WorkLine]
    total: WorkLine


def statistics_out(v: View) -> StatisticsOut:
    """The statistics of a page."""
    r, book = v.results, v.book
    first = first_beside(book, r.baseline)
    rows: list[tuple[str, str, str, int, Scope | None]] = [("project", book.project.code, book.project.name, 0, None)]
    rows += [("wbs", h.code, h.name, h.level, r.valuation.scope(h.code)) for h in levels(book)]
    scopes = []
    for kind, code, name, level, scope in rows:
        out = _scope(v, kind, code, name, level, statistics(r.valuation, scope))
        if first is not None:
            beside = _rows(v, statistics(r.valuation, scope, first))
            out.rows = [replace(x, first_variance=y.variance) for x, y in zip(out.rows, beside, strict=True)]
        scopes.append(out)
    known = None if first is None else first.code
    return StatisticsOut(v.page.status, r.baseline.code if r.baseline else None, book.project.currency, scopes, book.project.eac, known)


def project_statistics(v: View) -> list[StatisticOut]:
    """The statistics of the project alone."""
    return _rows(v, statistics(v.results.valuation))


def _scope(v: View, kind: str, code: str, name: str, level: int, s: Statistics) -> ScopeStatistics:
    beside = {key: _beside(v, key, kind, code) for key in BESIDE if figure(key).means(kind)}
    reasons = s.reasons | {key: reason(v.results, key, kind, code) for key, text in beside.items() if text is None}
    return ScopeStatistics(kind, code, name, level, _rows(v, s), beside, reasons)


def _beside(v: View, key: str, kind: str, code: str) -> str | None:
    value, known = read(v.results, key, kind, code), figure(key).kind
    if known == "duration":
        return None if value is None else f"{v.book.project_calendar.days(whole(value) or 0).normalize():f}"
    return written(value, known)


def _rows(v: View, s: Statistics) -> list[StatisticOut]:
    per_day = v.book.project_calendar.minutes_per_day
    rows = []
    for key in ROWS:
        shown = {"start": "instant", "finish": "instant", "duration": "days", "work": "hours", "cost": "money"}[key]
        apart = "days" if shown == "instant" else shown
        cells = {c: _text(getattr(getattr(s, key), c), apart if c == "variance" else shown, per_day) for c in COLUMNS}
        rows.append(StatisticOut(row=key, kind=shown, variance_kind=apart, **cells))
    return rows


def _text(value: int | Decimal | None, kind: str, per_day: int) -> str | None:
    if value is None:
        return None
    if kind == "instant":
        return to_text(int(value))
    if kind == "money":
        return f"{value:f}"
    return f"{round(Decimal(value) / (per_day if kind == 'days' else 60), 2).normalize():f}"


def statistics_csv(v: View) -> str:
    """The same as CSV: a line for each scope and row."""
    out = statistics_out(v)
    titles = ("Scope", "Name", "Row", "Unit", *(sentence(f"value.head_{c}") for c in IN_ORDER))
    lines = (
        (s.code, s.name, x.row.capitalize(), x.variance_kind if x.kind == "instant" else x.kind, *((getattr(x, c) or "") for c in IN_ORDER))
        for s in out.scopes
        for x in s.rows
    )
    return csv_text(titles, lines)


def work_out(v: View, bucket: str) -> WorkByTimeOut:
    """Work by time of a page. Raises Refused where there would be too many buckets."""
    r, book = v.results, v.book
    try:
        w = work_by_time(r.valuation, bucket)
    except TooManyPoints as error:
        raise Refused("too-many-points", str(error), 422, field="bucket") from None
    names = {a.code: a.name for b in book.baselines for a in b.activities} | {a.code: a.name for a in book.activities}
    people = {x.code: x.name for x in book.resources}
    payments = r.valuation.payments.reckoned()
    reckoned = {(code, x.of.resource) for code, x, piece in payments if piece.amount and isinstance(x.of, Assignment)}
    reckoned |= {(code, x.resource) for code in r.progress for x in r.valuation.following.of(code)}
    lines = [
        WorkLine(
            x.activity,
            names.get(x.activity, x.activity),
            x.resource,
            people.get(x.resource, x.resource),
            None if x.planned is None else _series(x.planned),
            _series(x.worked),
            _series(x.remaining),
            x.reasons,
            (x.activity, x.resource) in reckoned,
        )
        for x in w.rows
    ]
    kept = [x.planned for x in w.rows if x.planned is not None]
    sums = [_sum(found, len(w.ends), r.valuation.unit) for found in (kept, [x.worked for x in w.rows], [x.remaining for x in w.rows])]
    total = WorkLine("", "", "", "", sums[0] if kept else None, sums[1], sums[2])
    baseline = r.baseline.code if r.baseline else None
    return WorkByTimeOut(v.page.status, baseline, book.project.currency, bucket, [to_text(e) for e in w.ends], lines, total)


def _hours(minutes: int) -> float:
    return round(minutes / 60, 2)


def _series(x: Amounts) -> SeriesOut:
    cost = None if x.total_cost is None else f"{x.total_cost:f}"
    return SeriesOut([_hours(m) for m in x.minutes], _hours(x.total_minutes), [f"{c:f}" for c in x.cost or ()], cost)


def _sum(found: Sequence[Amounts], count: int, unit: Decimal) -> SeriesOut:
    """The sums of the shown cells."""
    none = unit - unit
    minutes = [sum(x.minutes[i] for x in found) for i in range(count)]
    cost = [sum((x.cost[i] for x in found if x.cost is not None), none) for i in range(count)]
    return _series(Amounts(minutes, cost))


def work_csv(v: View, bucket: str) -> str:
    """The same as CSV: for each line and series a row of hours and one of cost."""
    out = work_out(v, bucket)
    titles = ("Activity", "Name", "Resource", "Person", "Series", "Unit", "Total", *(e[:10] for e in out.ends))
    return csv_text(titles, (row for x in out.lines for row in _csv_rows(x, out.currency)))


def series_word(x: WorkLine, name: str) -> str:
    """What a series of a line is called: of one that follows progress that it does."""
    return sentence("value.series_reckoned") if name == "worked" and x.reckoned else sentence(f"value.series_{name}")


def _csv_rows(x: WorkLine, currency: str) -> Iterable[tuple[str, ...]]:
    for name in SERIES:
        s: SeriesOut | None = getattr(x, name)
        if s is None:
            continue
        head = (x.activity, x.name, x.resource, x.person, series_word(x, name))
        yield (*head, "hours", f"{s.total_hours:g}", *(f"{h:g}" for h in s.hours))
        if s.total_cost is not None:
            yield (*head, currency, s.total_cost, *s.cost)
