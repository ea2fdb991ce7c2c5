"""Calendars and resources with who uses them, and the load of each resource over time."""

from dataclasses import dataclass, field
from typing import Any

from dryledger.book.plan import Resource
from dryledger.book.shared import SharedResource, taken_over
from dryledger.budget.load import loads
from dryledger.calendar.calendar import to_text
from server.accounts.models import Person
from server.book.access import Access, visible
from server.book.documents import codes_of, rows_of
from server.book.models import Resource as ResourceRow
from server.book.organisation import Shared, shared_by_code, shared_resource
from server.book.results import current_results
from server.book.workspace import workspace_of
from server.shared.json_values import hours
from server.shared.named import Named


@dataclass
class DrawingOut:
    """A project that draws on a resource: its code and name, the code that the resource has there, and whether rates are its own."""

    project: str
    name: str
    resource: str
    own_rates: bool


@dataclass
class ListsOut:
    """Calendars and resources, as their editors show them; `users` says who uses each calendar."""

    revision: int
    currency: str
    start: str
    finish: str
    project_calendar: str
    calendars: list[dict[str, Any]]
    resources: list[dict[str, Any]]
    activities: list[Named]


def lists_out(access: Access) -> ListsOut:
    """The calendars and resources of a project."""
    project = access.project
    keyed, results = workspace_of(project).keyed, current_results(project)
    book = keyed.book
    users: dict[str, list[str]] = {c.code: [] for c in book.calendars}
    if project.calendar in users:
        users[project.calendar].append("the project")
    for r in book.resources:
        users[r.calendar].append(r.name)
    for a in book.activities:
        users[a.calendar].append(a.name)
    codes = codes_of(project)
    calendars: list[dict[str, Any]] = []
    for row in rows_of(project, "calendars"):
        doc = row.to_book(codes)
        found = users.get(str(doc["code"]), [])  # a row that somebody made since the book was read has none
        calendars.append({"id": f"k{row.pk}", **doc, "users": found[:200], "used": len(found)})
    organisation = {x.code: x for x in shared_by_code(r.shared for r in book.resources if r.shared is not None)}
    on = {code: len(found) for code, found in book.activities_on.items()}
    resources: list[dict[str, Any]] = []
    for row in rows_of(project, "resources"):
        doc = row.to_book(codes)
        kept = _kept(book.resource_by_code.get(str(doc["code"])), book.project.currency, organisation)
        resources.append({"id": f"r{row.pk}", **doc, "activities": on.get(str(doc["code"]), 0), "kept": kept})
    return ListsOut(
        project.revision,
        project.currency,
        to_text(book.project.start),
        to_text(results.schedule.finish),
        project.calendar,
        calendars,
        resources,
        [Named(f"a{x.key}", x.record.code, x.record.name) for x in keyed.in_order("activities")],
    )


def _kept(own: Resource | None, currency: str, organisation: dict[str, SharedResource]) -> str:
    """How a resource stands to the organisation's: not drawn on it, as it is there, other than there, or of one that is there no more."""
    if own is None or own.shared is None:
        return "own"
    found = organisation.get(own.shared)
    return "gone" if found is None else "other" if taken_over(found, own, currency) else "same"


@dataclass
class SharedOut:
    """A resource of the organisation with the projects that draw on it, as far as whoever asks sees them."""

    code: str
    name: str
    kind: str
    units: float
    role: bool
    skills: list[str]
    currency: str
    rates: list[dict[str, Any]]
    week: dict[str, list[str]]
    days_off: int
    """How many exceptions its calendar has."""
    revision: int
    projects: list[DrawingOut]


@dataclass
class SharedList:
    """The organisation's resources."""

    resources: list[SharedOut]


def organisation(person: Person) -> SharedList:
    """The organisation's resources; who is nothing in the organisation sees those that projects draw on where they are members."""
    seen = visible(person)
    rows = ResourceRow.objects.filter(project__in=seen, shared__isnull=False).select_related("project")
    by_code: dict[str, list[DrawingOut]] = {}
    for row in rows.order_by("project", "id"):
        p = row.project
        by_code.setdefault(str(row.shared), []).append(DrawingOut(p.code, p.name, row.code, bool(row.own_rates)))
    found = Shared.objects.all() if person.role != "none" else Shared.objects.filter(code__in=by_code)
    return SharedList([_shared(row, by_code.get(row.code, [])) for row in found])


def _shared(row: Shared, projects: list[DrawingOut]) -> SharedOut:
    x = shared_resource(row)
    return SharedOut(
        x.code,
        x.name,
        x.kind,
        float(x.units),
        x.role,
        list(x.skills),
        x.currency,
        row.resource.get("rates", []),
        row.calendar["week"],
        len(x.calendar.exceptions),
        row.revision,
        projects,
    )


@dataclass
class Cause:
    """What one activity asks of a resource in a bucket, in hours."""

    row: str
    code: str
    name: str
    hours: float


@dataclass
class LoadOut:
    """The load of a resource in hours by bucket; `over` are the places of over-booked buckets with what causes each."""

    id: str
    code: str
    name: str
    kind: str
    units: float
    asked: list[float]
    there: list[float]
    over: list[int]
    causes: dict[str, list[Cause]] = field(default_factory=dict)


@dataclass
class LoadsOut:
    """The loads of all resources."""

    revision: int
    status: str
    bucket: str
    ends: list[str]
    loads: list[LoadOut]


def loads_out(access: Access, bucket: str) -> LoadsOut:
    """The loads of a project's resources."""
    project = access.project
    keyed, r = workspace_of(project).keyed, current_results(project)
    ends, found = loads(r.at, r.progress, r.schedule, bucket)
    keys = {c: f"r{pk}" for c, pk in keyed.key_of("resources").items()}
    rows = {c: f"a{pk}" for c, pk in keyed.key_of("activities").items()}
    out = []
    for x in found:
        resource = r.book.resource_by_code[x.resource]
        causes: dict[str, list[Cause]] = {}
        for i, parts in enumerate(x.causes):
            if parts:
                named = [Cause(rows[c], c, r.book.activity_by_code[c].name, hours(m)) for c, m in parts.items()]
                causes[str(i)] = sorted(named, key=lambda c: -c.hours)
        out.append(
            LoadOut(
                keys[x.resource],
                x.resource,
                resource.name,
                resource.kind,
                float(resource.units),
                [hours(m) for m in x.asked],
                [hours(m) for m in x.there],
                x.over,
                causes,
            )
        )
    return LoadsOut(project.revision, to_text(r.status) if r.status is not None else "", bucket, [to_text(e) for e in ends], out)
