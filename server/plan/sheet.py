"""The plan sheet: every element and activity with its dates, and after a change only the rows that look different."""

import logging
from collections.abc import Callable
from dataclasses import MISSING, dataclass, field, fields
from decimal import Decimal
from typing import Any

from dryledger.budget import planned_cost, planned_work
from dryledger.calendar import to_text
from dryledger.compute import Results
from dryledger.fields import duration_text
from dryledger.formulas import values_of
from dryledger.gaps import driving_path
from dryledger.marks import drift_days
from dryledger.plan import Activity, Book
from dryledger.typed_plan import constraint_sentence, links_text
from server.exchange.books import Recent
from server.exchange.live import LivePlan, live_plan
from server.plan.models import Project
from server.posting.models import Page
from server.value.results import results_of


@dataclass(slots=True)
class PlanRow:
    """A row of the plan. Of an element only the sums and the dates over its activities are there."""

    id: str
    order: float
    code: str
    name: str
    kind: str
    parent: str | None = None
    start: str | None = None
    finish: str | None = None
    cost: str = "0"
    weight: float = 1
    duration: str = ""
    span: str = ""
    calendar: str = ""
    after: str = ""
    people: str = ""
    direct_cost: str | None = None
    constraint: str = ""
    deadline: str | None = None
    total_float: float | None = None
    free_float: float | None = None
    late: float | None = None
    state: str = "not_started"
    percent: float = 0
    critical: bool = False
    driving: bool = False
    driver: str = "duration"
    mode: str = "driven"
    method: str = "percent"
    profile: str = "uniform"
    odd: str | None = None
    """What is odd about the row: a milestone that has a duration, a deadline that is missed."""
    worked_to: str | None = None
    resume: str | None = None
    base_start: str | None = None
    base_finish: str | None = None
    float_to: str | None = None
    links: list[str] = field(default_factory=list)
    """The rows it comes after, with the type of each link: "a12:FS"."""
    pauses: list[list[str]] = field(default_factory=list)
    fields: dict[str, Any] = field(default_factory=dict)

    @property
    def money(self) -> Decimal:
        """The cost as a number, for adding up."""
        return Decimal(self.cost)

    def __plain__(self) -> dict[str, Any]:
        """As sent: what is as it mostly is, is left out."""
        return {n: v for n, usual in _USUAL if (v := getattr(self, n)) != usual and v != [] and v != {}}


_USUAL = [(f.name, None if f.default is MISSING else f.default) for f in fields(PlanRow)]


@dataclass
class PlanSheet:
    """The rows by name, and what they were made from."""

    rows: dict[str, PlanRow]
    results: Results
    plan: LivePlan
    driving: set[str]
    direct: "dict[str | None, Span]"

    @property
    def total(self) -> Decimal:
        """The cost of all activities."""
        return sum((row.money for row in self.rows.values() if row.money), Decimal(0))


log = logging.getLogger(__name__)
_sheets = Recent(12)


def sheet_of(project: Project) -> PlanSheet:
    """The plan sheet of a project as it stands."""
    return _sheets.get((project.uid, project.revision), lambda: make_sheet(project, _sheets.peek((project.uid, project.revision - 1))))


def forget_sheet(project: Project) -> None:
    """Drop the sheet at the project's revision: its step was taken back before it ended."""
    _sheets.drop((project.uid, project.revision))


def live_results(project: Project) -> Results:
    """The results at the open page."""
    page = Page.objects.filter(project=project).defer("inputs", "results").last()
    assert page is not None, "a project always has a page"
    return results_of(project, page)


def make_sheet(project: Project, before: PlanSheet | None) -> PlanSheet:
    """All rows; those that nothing touched are taken over from the sheet before."""
    plan, results = live_plan(project), live_results(project)
    driving = driving_path(results)
    key_of = {code: pk for pk, code in plan.codes["Activity"].items()}
    above = {code: f"w{pk}" for pk, code in plan.codes["WbsElement"].items()}
    rows: dict[str, PlanRow] = {}
    if before is not None and not _comparable(before.results, results):
        before = None
    same = _same(before, results, driving) if before is not None else None
    old_rows = before.rows if before is not None else {}
    old_records = before.plan.rows["activities"] if before is not None else {}
    touched: set[str | None] = set()
    """The elements under which a row looks different."""
    for pk, (order, _, a) in plan.rows["activities"].items():
        name = f"a{pk}"
        old = old_rows.get(name)
        if old is not None and same is not None and old.order == order and old_records[pk][2] is a and same(a.code):
            rows[name] = old
            continue
        made = _activity_row(name, order, a, results, key_of, above, a.code in driving)
        rows[name] = made if old is None or old != made else old
        touched |= {made.parent, old.parent if old is not None else made.parent}
    touched |= {row.parent for name, row in old_rows.items() if name not in rows}
    direct = _direct(rows, before.direct if before is not None else None, touched)
    _elements(rows, plan, results, above, direct, old_rows)
    return PlanSheet(rows, results, plan, driving, direct)


def _comparable(old: Results, new: Results) -> bool:
    """Whether rows of one can stand in the other: same resources, own fields, elements and baseline."""
    a, b = old.book, new.book
    return a.resources is b.resources and a.fields == b.fields and a.wbs is b.wbs and old.baseline is new.baseline


def _same(before: PlanSheet, results: Results, driving: set[str]) -> Callable[[str], bool]:
    """Whether an activity whose own record is the same also looks the same: its dates, links, people, costs, progress."""
    old, new = before.results, results
    was, now = old.schedule.activities, new.schedule.activities
    pairs = [
        (old.book.links_into, new.book.links_into),
        (old.book.assignments_of, new.book.assignments_of),
        (old.book.costs_of, new.book.costs_of),
    ]
    turned = before.driving ^ driving
    moved = {code for code, row in now.items() if was.get(code) != row} | turned
    for a, b in pairs:
        moved |= {code for code, rows in b.items() if a.get(code) != rows} | (a.keys() - b.keys())
    moved |= {code for code, p in new.progress.items() if old.progress.get(code) != p}
    return lambda code: code not in moved


def _days(book: Book, a: Activity, minutes: int | None) -> float | None:
    return None if minutes is None else round(minutes / 60 / book.calendar_by_code[a.calendar].hours_per_day, 2)


def _people(book: Book, code: str) -> str:
    parts = []
    for x in book.assignments_of.get(code, ()):
        material = book.resource_by_code[x.resource].kind == "material"
        number = x.quantity if material else x.units
        parts.append(x.resource if number is None or (number == 1 and not material) else f"{x.resource} {number.normalize():f}")
    return "; ".join(parts)


def _odd(a: Activity, finish: int) -> str | None:
    if a.kind == "milestone" and a.duration:
        return "duration"
    return "deadline" if a.deadline is not None and finish > a.deadline else None


def _activity_row(
    name: str, order: float, a: Activity, r: Results, key_of: dict[str, int], above: dict[str, str], driving: bool
) -> PlanRow:
    book, x = r.book, r.schedule.activities[a.code]
    calendar = book.calendar_by_code[a.calendar]
    base = r.baseline.by_code.get(a.code) if r.baseline else None
    late = drift_days(r, a.code)
    cost = planned_cost(book, a, x)
    direct = book.costs_of.get(a.code, [])
    figures: dict[str, object] = {
        "days": Decimal(a.duration) / 60 / Decimal(str(calendar.hours_per_day)),
        "cost": cost,
        "hours": planned_work(book, a, x) / 60,
        "float_days": Decimal(str(_days(book, a, x.total_float) or 0)),
        "percent": r.progress[a.code].percent * 100,
        "name": a.name,
        "code": a.code,
        "wbs": a.wbs or "",
    }
    own = values_of(book.fields, a.fields, figures) if book.fields else {}
    slack = x.late_finish if x.late_finish is not None and x.late_finish > x.finish else None
    return PlanRow(
        id=name,
        parent=above.get(a.wbs or ""),
        order=order,
        code=a.code,
        name=a.name,
        kind="milestone" if a.kind == "milestone" or (a.duration == 0 and x.duration == 0) else "task",
        start=to_text(x.start),
        finish=to_text(x.finish),
        cost=f"{cost:f}",
        weight=float(a.weight),
        duration=duration_text(a.duration, calendar, ("d", "h", "min")) if a.duration or a.kind != "milestone" else "0d",
        span=f"{round(x.duration / 60 / calendar.hours_per_day, 2):g}d" if x.duration != a.duration else "",
        calendar=a.calendar if a.calendar != book.project.calendar else "",
        after=links_text(book.links_into.get(a.code, ()), book.calendar_by_code[book.project.calendar]),
        people=_people(book, a.code),
        direct_cost=f"{sum((c.amount for c in direct), Decimal(0)):f}" if direct else None,
        constraint=constraint_sentence(a.constraint),
        deadline=to_text(a.deadline) if a.deadline is not None else None,
        total_float=_days(book, a, x.total_float),
        free_float=_days(book, a, x.free_float),
        late=None if late is None else float(round(late, 2)),
        state=x.state,
        percent=round(float(r.progress[a.code].percent * 100), 1),
        critical=x.critical,
        driving=driving,
        driver=a.driver,
        mode=a.mode,
        method=a.value_method.type,
        profile=a.profile,
        odd=_odd(a, x.finish),
        worked_to=to_text(x.worked_to) if x.worked_to is not None else to_text(x.finish) if x.state == "complete" else None,
        resume=to_text(x.resume) if x.resume is not None else None,
        base_start=to_text(base.start) if base else None,
        base_finish=to_text(base.finish) if base else None,
        float_to=to_text(slack) if slack is not None else None,
        links=[f"a{key_of[k.source]}:{k.type}" for k in book.links_into.get(a.code, ())],
        pauses=[[to_text(p.start), to_text(p.end), p.reason] for p in a.pauses],
        fields={k: _plain(v) for k, v in own.items()},
    )


def _plain(value: object) -> object:
    return float(value) if isinstance(value, Decimal) else value


Span = tuple[str, str, Decimal]
"""The earliest start, the latest finish and the cost of some rows."""


def _direct(rows: dict[str, PlanRow], known: dict[str | None, Span] | None, touched: set[str | None]) -> dict[str | None, Span]:
    """The span of the activities right under each element; only those under `touched` are gone through again."""
    out = {} if known is None else {parent: span for parent, span in known.items() if parent not in touched}
    for row in rows.values():
        if row.kind != "wbs" and row.start and row.finish and (known is None or row.parent in touched):
            span = out.get(row.parent)
            out[row.parent] = _joined(span, (row.start, row.finish, row.money))
    return out


def _joined(a: Span | None, b: Span) -> Span:
    return b if a is None else (min(a[0], b[0]), max(a[1], b[1]), a[2] + b[2] if b[2] else a[2])


def _elements(
    rows: dict[str, PlanRow],
    plan: LivePlan,
    r: Results,
    above: dict[str, str],
    direct: dict[str | None, Span],
    old_rows: dict[str, PlanRow],
) -> None:
    """The elements with the span and cost of all under them."""
    spans: dict[str, Span] = {}
    for code, chain in r.book.wbs_above.items():
        mine = direct.get(above[code])
        for up in chain if mine is not None else ():
            spans[above[up]] = _joined(spans.get(above[up]), mine)  # type: ignore[arg-type]
    for pk, (order, _, w) in plan.rows["wbs"].items():
        start, finish, cost = spans.get(f"w{pk}", (None, None, Decimal(0)))
        made = PlanRow(f"w{pk}", order, w.code, w.name, "wbs", above.get(w.parent or ""), start, finish, f"{cost:f}", float(w.weight))
        old = old_rows.get(made.id)
        rows[made.id] = made if old is None or old != made else old


def changed(before: PlanSheet, now: PlanSheet) -> tuple[list[PlanRow], list[str]]:
    """The rows that look different now, and the names of those that are gone."""
    return [row for name, row in now.rows.items() if before.rows.get(name) is not row], [n for n in before.rows if n not in now.rows]


def read_ahead() -> None:
    """Make the sheet of every project; one that can't be made is left for whoever opens it."""
    for project in Project.objects.all():
        try:
            sheet_of(project)
        except Exception:
            log.exception("could not read %s ahead", project.code)
