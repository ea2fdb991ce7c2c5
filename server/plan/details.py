"""What the plan room reads: the sheet with what its cells choose from, and all of one activity."""

from collections.abc import Set
from dataclasses import dataclass, field
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.plan import Book, External, Link
from dryledger.book.reader import duration_text
from dryledger.book.registers import fields_of
from dryledger.book.responsible import all_responsible
from dryledger.calendar.calendar import to_text
from dryledger.changes.keyed import Row, name_of
from dryledger.entry.grammar import format_day
from dryledger.entry.plan_cells import link_words
from dryledger.exchange.write import minutes_text, row_document
from dryledger.working.dates import driver_words
from server.book.access import Access, people_at
from server.book.crossing import Waiting, waiting_for
from server.book.models import Project
from server.book.outside import held
from server.plan.sheet import PlanSheet, project_sheet
from server.plan.sheet_rows import PlanRow
from server.shared.json_values import floats
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
    imposed_finish: str | None
    baseline: str | None
    calendar: str
    hours_per_day: float
    rows: list[PlanRow]
    fields: list[OwnField]
    calendars: list[Named]
    resources: list[Named]
    responsible: list[str]
    """The names that are there to choose from: of those who sign in and of who is responsible already."""
    views: list[dict[str, Any]]
    views_revision: int


def plan_out(project: Project) -> PlanOut:
    """The plan sheet of a project."""
    return sheet_out(project, project_sheet(project), project.revision)


def sheet_out(project: Project, sheet: PlanSheet, revision: int) -> PlanOut:
    """A plan sheet as it is sent: of the plan itself, or of one with an option on top."""
    book, results = sheet.results.book, sheet.results
    return PlanOut(
        revision,
        project.currency,
        to_text(book.project.start),
        to_text(results.schedule.finish),
        to_text(results.status) if results.status is not None else "",
        to_text(book.project.deadline) if book.project.deadline is not None else None,
        to_text(book.project.imposed_finish) if book.project.imposed_finish is not None else None,
        results.baseline.code if results.baseline else None,
        book.project.calendar,
        float(book.project_calendar.hours_per_day),
        list(sheet.whole.values()),
        own_fields(book),
        [Named(f"k{pk}", c.code, c.name) for pk, (_, _, c) in sheet.keyed.rows["calendars"].items()],
        [Named(f"r{pk}", r.code, r.name, r.kind, r.role) for pk, (_, _, r) in sheet.keyed.rows["resources"].items()],
        names_of(project, book),
        project.views,
        project.views_revision,
    )


def names_of(project: Project, book: Book) -> list[str]:
    """Who can be responsible: those who see the project, whoever a resource is, and who is responsible already; a name may be another."""
    names = {*people_at(project).exclude(full_name="").values_list("full_name", flat=True), *(x.person for x in book.resources)}
    return sorted({*names, *all_responsible(book).values(), book.project.responsible} - {""})


def own_fields(book: Book, scope: str = "activity") -> list[OwnField]:
    """The own fields of the activities, or of the project itself, in order."""
    return [OwnField(d.code, d.name, d.holds, list(d.options)) for d in fields_of(book.fields, scope)]


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
    note: str
    """Of an activity of another project that was closed to whoever linked it: that it stands as it was last seen, and as of when."""


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
    actuals: str


@dataclass
class CostOut:
    """A direct cost of an activity."""

    id: str
    name: str
    kind: str
    amount: str
    accrual: str
    in_budget: bool
    actuals: str


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
    waiting: list[Waiting] = field(default_factory=list)
    """The activities of other projects that wait for it, as far as the person sees those."""


def row_out(access: Access, name: str) -> RowOut:
    """One activity of the plan by its row's name."""
    out = row_of_sheet(project_sheet(access.project), name, held(access.project))
    out.waiting = waiting_for(access.person, int(name[1:]))
    return out


def row_of_sheet(sheet: PlanSheet, name: str, as_last_seen: Set[str] = frozenset()) -> RowOut:
    """One activity of a plan sheet by its row's name; `as_last_seen` are the external activities that no dates flow from any more."""
    row = sheet.row(name) if name in sheet.rows else None
    if row is None or row.kind == "wbs":
        raise Refused("not-found", sentence("details.no_activity_plan"), 404)
    keyed, book = sheet.keyed, sheet.results.book
    activity = book.activity_by_code[row.code]
    driven = sheet.results.schedule.activities[row.code].driven_by
    doc = floats(row_document(LISTS["activities"], activity))
    resources, key_of = book.resource_by_code, keyed.key_of("resources")
    return RowOut(
        row,
        [driver_words(sheet.results, row.code, d) for d in driven],
        [_link(sheet, x, True, driven, as_last_seen) for x in keyed.in_order("links") if x.record.target == row.code],
        [_link(sheet, x, False, [], set()) for x in keyed.in_order("links") if x.record.source == row.code],
        [
            AssignmentOut(
                f"s{x.key}",
                f"r{key_of[x.record.resource]}",
                x.record.resource,
                resources[x.record.resource].name,
                resources[x.record.resource].kind,
                float(x.record.units),
                None if x.record.work is None else minutes_text(x.record.work),
                None if x.record.quantity is None else float(x.record.quantity),
                x.record.actuals,
            )
            for x in keyed.in_order("assignments")
            if x.record.activity == row.code
        ],
        [
            CostOut(
                f"c{x.key}", x.record.name, x.record.kind, f"{x.record.amount:f}", x.record.accrual, x.record.in_budget, x.record.actuals
            )
            for x in keyed.in_order("costs")
            if x.record.activity == row.code
        ],
        doc.get("constraint"),
        doc.get("value_method"),
        duration_text(activity.safe_duration, book.calendar_by_code[activity.calendar], ("d", "h", "min"))
        if activity.safe_duration is not None
        else None,
        [p.code for p in book.periods if any(s.activity == row.code for s in p.statements)],
    )


def _last_seen(x: External) -> str:
    return sentence("plan.last_seen", code=x.code, status="" if x.status is None else format_day(x.status))


def _link(sheet: PlanSheet, x: Row, into: bool, driven: list[str], as_last_seen: Set[str]) -> LinkOut:
    link: Link = x.record
    book = sheet.results.book
    other = link.source if into else link.target
    of = "externals" if other in book.external_by_code else "activities"
    end, on = book.external_by_code.get(other) or book.activity_by_code[other], book.project_calendar
    return LinkOut(
        f"l{x.key}",
        name_of(of, sheet.keyed.key_of(of)[other]),
        other,
        end.name,
        link.type,
        minutes_text(link.lag) if link.lag else "0d",
        link.lag_basis,
        link_words(link, end.name, on) if into else "",
        f"link:{link.source}" in driven,
        _last_seen(end) if isinstance(end, External) and other in as_last_seen else "",
    )
