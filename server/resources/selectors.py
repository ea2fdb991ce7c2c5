"""Calendars and resources with who uses them."""

from dataclasses import dataclass
from typing import Any

from dryledger.book.plan import Resource
from dryledger.book.shared import SharedResource, taken_over
from dryledger.budget.booking import over_minutes
from dryledger.calendar.calendar import to_text
from dryledger.entry.rate_cells import rates_in_force, rates_on
from server.accounts.models import Person
from server.book.access import Access, visible
from server.book.documents import codes_of, rows_of
from server.book.models import Resource as ResourceRow
from server.book.organisation import Shared, shared_by_code, shared_resource
from server.book.results import current_results
from server.book.workspace import workspace_of
from server.plan.details import OwnField, own_fields
from server.resources.loads import over_of
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
    rates_on: str
    """The date of which the rates in force are shown."""
    own: list[OwnField]
    """The own fields of resources."""


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
    codes, over = codes_of(project), over_of(workspace_of(project), results)
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
        own = book.resource_by_code.get(str(doc["code"]))
        told = {"kept": _kept(own, book.project.currency, organisation), "short_hours": hours(over_minutes(over.get(str(doc["code"]), ())))}
        now = {} if own is None else {key: f"{amount:f}" for key, amount in rates_in_force(own.rates, rates_on(book)).items()}
        values = doc.pop("fields", {})
        resources.append({"id": f"r{row.pk}", **doc, "activities": on.get(str(doc["code"]), 0), "in_force": now, "own": values, **told})
    return ListsOut(
        project.revision,
        project.currency,
        to_text(book.project.start),
        to_text(results.schedule.finish),
        project.calendar,
        calendars,
        resources,
        [Named(f"a{x.key}", x.record.code, x.record.name) for x in keyed.in_order("activities")],
        rates_on(book).isoformat(),
        own_fields(book, "resource"),
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
