"""Calendars and resources with who uses them, and the load of each resource over time."""

from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from dryledger.budget.load import loads
from dryledger.calendar.buckets import BUCKETS
from dryledger.calendar.calendar import to_text
from server.book.access import Access
from server.book.documents import codes_of, rows_of
from server.book.results import live_results
from server.book.workspace import workspace_of
from server.shared.named import Named
from server.shared.problems import Refused
from server.shared.words import sentence


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
    keyed, results = workspace_of(project).keyed, live_results(project)
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
    on = {code: len(found) for code, found in book.activities_on.items()}
    resources: list[dict[str, Any]] = []
    for row in rows_of(project, "resources"):
        doc = row.to_book(codes)
        resources.append({"id": f"r{row.pk}", **doc, "activities": on.get(str(doc["code"]), 0)})
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
    if bucket not in BUCKETS:
        raise Refused("bad-request", sentence("resources.load_shown", names=", ".join(BUCKETS)), 400, field="bucket")
    project = access.project
    keyed, r = workspace_of(project).keyed, live_results(project)
    ends, found = loads(r.at, r.progress, r.schedule, bucket)
    keys = {c: f"r{pk}" for c, pk in keyed.key_of("resources").items()}
    rows = {c: f"a{pk}" for c, pk in keyed.key_of("activities").items()}
    out = []
    for x in found:
        resource = r.book.resource_by_code[x.resource]
        causes: dict[str, list[Cause]] = {}
        for i, parts in enumerate(x.causes):
            if parts:
                named = [Cause(rows[c], c, r.book.activity_by_code[c].name, _hours(m)) for c, m in parts.items()]
                causes[str(i)] = sorted(named, key=lambda c: -c.hours)
        out.append(
            LoadOut(
                keys[x.resource],
                x.resource,
                resource.name,
                resource.kind,
                float(resource.units),
                [_hours(m) for m in x.asked],
                [_hours(m) for m in x.there],
                x.over,
                causes,
            )
        )
    return LoadsOut(project.revision, to_text(r.status) if r.status is not None else "", bucket, [to_text(e) for e in ends], out)


def _hours(minutes: Decimal) -> float:
    return round(float(minutes) / 60, 2)
