"""The shelf of baselines, and the differences between any two or against the present."""

from dataclasses import dataclass, replace

from dryledger.baseline.comparison import compare, span_of
from dryledger.baseline.snapshot import Difference
from dryledger.book.baselines import Baseline as CoreBaseline
from dryledger.book.outline import levels
from dryledger.book.plan import Book
from dryledger.budget.time_phased import kinds_of_cost
from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import compute
from server.accounts.models import Role
from server.baseline.asking import AskedBaseline, asked
from server.book.access import Access, visible
from server.book.models import Baseline as BaselineRow
from server.book.results import current_results
from server.book.workspace import workspace_of
from server.shared.named import Named
from server.shared.problems import Refused
from server.shared.words import sentence

NOW = "now"
MOST_PROJECTS = 500


@dataclass
class BaselineOut:
    """A baseline on the shelf."""

    code: str
    name: str
    taken: str
    approved_by: str
    reason: str
    activities: int
    start: str | None
    finish: str | None
    budget: str
    measured: bool
    drawn: bool
    came_from: str
    """Who brought it in with a file, where it was not taken here."""


@dataclass
class ShelfOut:
    """All baselines of a project, and what the plan would give if one were taken now."""

    revision: int
    currency: str
    status: str
    may_approve: bool
    may_ask: bool
    baselines: list[BaselineOut]
    finish: str
    budget: str
    to_build: list[str]
    """The approved changes that no baseline builds in yet, by code."""
    asked: list[AskedBaseline]
    projects: list[Named]
    """Other projects that one sees, whose plan can be a baseline here."""


def shelf(access: Access) -> ShelfOut:
    """The shelf."""
    project = access.project
    results = current_results(project)
    book = results.book
    kinds = kinds_of_cost(results.valuation, [a.code for a in book.activities])
    kinds.pop("outside")
    came_from = dict(BaselineRow.objects.filter(project=project).values_list("code", "came_from"))
    return ShelfOut(
        project.revision,
        project.currency,
        to_text(results.status) if results.status is not None else "",
        access.may(Role.APPROVER),
        access.may(Role.ANALYST),
        [_out(b, book, came_from.get(b.code, "")) for b in book.baselines],
        to_text(results.schedule.finish),
        f"{sum(kinds.values()):f}",
        [c.code for c in book.changes if c.stands == "approved"],
        asked(access),
        [Named(p.code, p.code, p.name) for p in visible(access.person).exclude(pk=project.pk).order_by("code")[:MOST_PROJECTS]],
    )


def _out(b: CoreBaseline, book: Book, came_from: str) -> BaselineOut:
    return BaselineOut(
        b.code,
        b.name,
        to_text(b.taken),
        b.approved_by,
        b.reason,
        len(b.activities),
        to_text(min(a.start for a in b.activities)) if b.activities else None,
        to_text(max(a.finish for a in b.activities)) if b.activities else None,
        f"{sum(a.budget for a in b.activities):f}",
        book.project.measured_against == b.code,
        b.code in book.project.compared_with,
        came_from,
    )


@dataclass
class Spans:
    """The dates of a row on one side; null where it is not there."""

    start: str | None
    finish: str | None


@dataclass
class DifferenceRow:
    """How far one row lies from another baseline; days on its calendar, positive is later or more."""

    kind: str
    code: str
    name: str
    level: int
    change: str
    start: float | None
    finish: float | None
    duration: float | None
    work: float
    cost: str
    was: Spans
    now: Spans


@dataclass
class DifferencesOut:
    """The later − the earlier, by WBS down to activities, the project last."""

    earlier: str
    later: str
    status: str
    currency: str
    rows: list[DifferenceRow]


def differences(access: Access, earlier: str, later: str) -> DifferencesOut:
    """Differences between two baselines, or a baseline and the present (`later` is "now")."""
    project = access.project
    book = workspace_of(project).book
    known = book.baseline_by_code
    for name in (earlier, later):
        if name not in known and not (name == NOW and name is later):
            raise Refused("not-found", sentence("baseline.no_baseline_named", name=name, code=project.code), 404)
    results = current_results(project)
    if later == NOW:
        against = replace(results.book, project=replace(results.book.project, measured_against=earlier))
        found = compute(against, results.at.periods[-1].code if results.at.periods else None).differences
    else:
        found = compare(book, known[earlier], known[later])
    names = {a.code: a.name for b in book.baselines for a in b.activities} | {a.code: a.name for a in book.activities}
    wbs_of = {a.code: a.wbs for b in book.baselines for a in b.activities} | {a.code: a.wbs for a in book.activities}
    was = {a.code: (a.start, a.finish) for a in known[earlier].activities}
    rows_now = results.schedule.activities.values() if later == NOW else known[later].activities
    now = {a.code: (a.start, a.finish) for a in rows_now}
    above = {c: book.wbs_above.get(wbs or "", ()) for c, wbs in wbs_of.items()}
    rows: list[DifferenceRow] = []

    def add(kind: str, at: str, name: str, level: int) -> None:
        d = found.get((kind, at))
        if d is not None:
            inside = [at] if kind == "activity" else [c for c in activities if kind == "project" or at in above[c]]
            rows.append(_row(book, kind, d, name, level, *(_spans(span_of(x, inside)) for x in (was, now))))

    activities = [c for k, c in found if k == "activity"]
    for head in levels(book):
        add("wbs", head.code, head.name, head.level)
        for c in activities:
            if wbs_of.get(c) == head.code:
                add("activity", c, names[c], head.level + 1)
    for c in activities:
        if wbs_of.get(c) is None:
            add("activity", c, names[c], 0)
    add("project", book.project.code, book.project.name, 0)
    status = to_text(results.status) if results.status is not None else ""
    return DifferencesOut(earlier, later, status, project.currency, rows)


def _spans(span: tuple[Instant, Instant] | None) -> Spans:
    return Spans(None, None) if span is None else Spans(to_text(span[0]), to_text(span[1]))


def _row(book: Book, kind: str, d: Difference, name: str, level: int, was: Spans, now: Spans) -> DifferenceRow:
    a = book.activity_by_code.get(d.code) if kind == "activity" else None
    calendar = book.calendar_by_code[a.calendar if a is not None else book.project.calendar]

    def days(minutes: int | None) -> float | None:
        return None if minutes is None else float(round(calendar.days(minutes), 2))

    lengths = days(d.start), days(d.finish), days(d.duration)
    return DifferenceRow(kind, d.code, name, level, d.change, *lengths, round(d.work / 60, 2), f"{d.cost:f}", was, now)
