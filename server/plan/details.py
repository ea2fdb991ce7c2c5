"""What the plan room reads: the sheet with what its cells choose from, and all of one activity."""

from dataclasses import dataclass, field
from typing import Any

from dryledger.book.plan import Book, Link
from dryledger.book.reader import duration_text
from dryledger.calendar.calendar import to_text
from dryledger.entry.plan_cells import link_words
from dryledger.working.dates import said_driver
from server.book.access import Access
from server.book.models import Activity, Assignment, DirectCost, Page, Project
from server.book.models import Link as LinkRow
from server.plan.sheet import project_sheet
from server.plan.sheet_rows import PlanRow
from server.shared.named import Named
from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class OwnField:
    """One of the project's own columns."""

    code: str
    name: str
    kind: str
    options: list[str]


@dataclass
class PlanOut:
    """The plan sheet with what its cells choose from."""

    revision: int
    currency: str
    start: str
    finish: str
    status: str
    deadline: str | None
    baseline: str | None
    calendar: str
    hours_per_day: float
    rows: list[PlanRow]
    fields: list[OwnField]
    calendars: list[Named]
    resources: list[Named]
    views: list[dict[str, Any]]
    views_revision: int


def plan_out(project: Project) -> PlanOut:
    """The plan sheet of a project."""
    sheet = project_sheet(project)
    book, results = sheet.results.book, sheet.results
    return PlanOut(
        project.revision,
        project.currency,
        to_text(book.project.start),
        to_text(results.schedule.finish),
        to_text(results.status) if results.status is not None else "",
        to_text(book.project.deadline) if book.project.deadline is not None else None,
        results.baseline.code if results.baseline else None,
        project.calendar,
        float(book.calendar_by_code[project.calendar].hours_per_day),
        list(sheet.whole.values()),
        own_fields(book),
        [Named(f"k{pk}", c.code, c.name) for pk, (_, _, c) in sheet.keyed.rows["calendars"].items()],
        [Named(f"r{pk}", r.code, r.name, r.kind, r.role) for pk, (_, _, r) in sheet.keyed.rows["resources"].items()],
        project.views,
        project.views_revision,
    )


def own_fields(book: Book) -> list[OwnField]:
    """The project's own columns in order."""
    return [
        OwnField(str(d["code"]), str(d["name"]), str(d.get("kind", "text")), list(d.get("options", ())))  # type: ignore[call-overload]
        for d in book.fields
    ]


@dataclass
class LinkOut:
    """A link of an activity, with the row at its other end."""

    id: str
    other: str
    code: str
    name: str
    type: str
    lag: str
    lag_basis: str
    words: str
    driving: bool


@dataclass
class AssignmentOut:
    """A resource on an activity."""

    id: str
    resource: str
    code: str
    name: str
    kind: str
    units: float
    work: str | None
    quantity: float | None


@dataclass
class CostOut:
    """A direct cost of an activity."""

    id: str
    name: str
    kind: str
    amount: str
    accrual: str
    in_budget: bool


@dataclass
class RowOut:
    """All of one activity, for editing it in the margin."""

    row: PlanRow
    drivers: list[str]
    before: list[LinkOut]
    after: list[LinkOut]
    assignments: list[AssignmentOut]
    costs: list[CostOut]
    constraint: dict[str, Any] | None
    value_method: dict[str, Any] | None
    safe_duration: str | None
    posted: list[str] = field(default_factory=list)


def row_out(access: Access, name: str) -> RowOut:
    """One activity by its row's name."""
    project = access.project
    sheet = project_sheet(project)
    row = sheet.row(name) if name in sheet.rows else None
    if row is None or row.kind == "wbs":
        raise Refused("not-found", sentence("details.no_activity_plan"), 404)
    pk, book = int(name[1:]), sheet.results.book
    activity = sheet.keyed.rows["activities"][pk][2]
    driven = sheet.results.schedule.activities[row.code].driven_by
    kept = Activity.objects.filter(pk=pk).first()
    if kept is None:
        raise Refused("not-found", sentence("details.no_activity_plan_any"), 404)
    links = sheet.keyed.rows["links"]  # a link that somebody made since is not in the sheet yet
    return RowOut(
        row,
        [said_driver(sheet.results, d) for d in driven],
        [
            _link(project.calendar, k, links[k.pk][2], k.source_id, True, book, driven)
            for k in LinkRow.objects.filter(target_id=pk).select_related("source", "target")
            if k.pk in links
        ],
        [
            _link(project.calendar, k, links[k.pk][2], k.target_id, False, book, [])
            for k in LinkRow.objects.filter(source_id=pk).select_related("source", "target")
            if k.pk in links
        ],
        [
            AssignmentOut(
                f"s{a.pk}",
                f"r{a.resource_id}",
                a.resource.code,
                a.resource.name,
                a.resource.kind or "labour",
                1.0 if a.units is None else a.units,
                a.work,
                a.quantity,
            )
            for a in Assignment.objects.filter(activity_id=pk).select_related("resource")
        ],
        [
            CostOut(f"c{c.pk}", c.name, c.kind or "fixed", c.amount, c.accrual or "uniform", c.in_budget is not False)
            for c in DirectCost.objects.filter(activity_id=pk)
        ],
        kept.constraint,
        kept.value_method,
        duration_text(activity.safe_duration, book.calendar_by_code[activity.calendar], ("d", "h", "min"))
        if activity.safe_duration is not None
        else None,
        list(Page.objects.filter(statements__activity_id=pk).values_list("code", flat=True)),
    )


def _link(calendar: str, k: LinkRow, link: Link, other: int, into: bool, book: Book, driven: list[str]) -> LinkOut:
    end = k.source if into else k.target
    on = book.calendar_by_code[calendar]
    return LinkOut(
        f"l{k.pk}",
        f"a{other}",
        end.code,
        end.name,
        link.type,
        k.lag or "0d",
        link.lag_basis,
        link_words(link, end.name, on) if into else "",
        f"link:{link.source}" in driven,
    )
