"""People across projects: what all projects that a person sees ask of the resources of the organisation, and where that is too much."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.shared import SharedResource
from dryledger.calendar.calendar import to_text
from dryledger.desk.people import Asking, Leave, SharedLoad, load_of, over_minutes, over_of, runs_of
from dryledger.errors import TooManyPoints
from server.accounts.models import Person
from server.book.models import Resource
from server.book.organisation import Shared, shared_resource
from server.desk.selectors import real_pages
from server.desk.summaries import summaries
from server.shared.json_values import hours

MOST_SPANS = 60
"""How many times of over-allocation are sent of a resource; the first ones."""


@dataclass
class AskedOut:
    """What an activity asks for in a bucket, in hours."""

    project: str
    page: str
    code: str
    name: str
    hours: float


@dataclass
class SharedOver:
    """A run of times in which more of a resource is booked than there is: by which activities, how many, and the hours beyond."""

    start: str
    end: str
    required: float
    available: float
    hours: float
    who: list[AskedOut]


@dataclass
class PersonLoad:
    """The load of a resource of the organisation over all projects, in hours by bucket."""

    code: str
    name: str
    units: float
    hours: float
    """What is booked from now on, all projects together."""
    ends: list[str]
    asked: list[float]
    there: list[float]
    projects: dict[str, list[float]]
    """What each project asks for, by bucket."""
    short: list[float]
    """What is booked beyond what there is in some minute, by bucket."""
    over: list[int]
    """The buckets in which more is asked than there is."""
    causes: dict[str, list[AskedOut]]
    """By such a bucket who asks, the most first."""
    over_hours: float
    spans: list[SharedOver]
    last_over: str | None
    more_spans: int
    """How many times of over-allocation are not sent."""
    first: str
    last: str
    """The earliest and the latest status date of the projects that ask."""


@dataclass
class PeopleLoads:
    """The load of every resource of the organisation over the projects that one sees."""

    bucket: str
    resources: list[PersonLoad]


@dataclass
class Found:
    """What projects ask for, with what they are called and where one goes for it."""

    asked: dict[str, list[Asking]]
    leave: dict[str, list[Leave]]
    pages: dict[str, str]
    dates: dict[str, str]


def found_asking(person: Person, codes: list[str]) -> Found:
    """By resource of the organisation what the projects that a person sees ask of it; of those that are named, or of all."""
    drawing = set(Resource.objects.filter(shared__isnull=False).values_list("project", flat=True))
    seen = [(project, page) for project, page in real_pages(person) if project.pk in drawing and (not codes or project.code in codes)]
    out = Found({}, {}, {project.code: page.code for project, page in seen}, {project.code: page.status for project, page in seen})
    for summary in summaries(seen):
        for x in summary.asking:
            out.asked.setdefault(x.resource, []).append(x)
        for away in summary.leave:
            out.leave.setdefault(away.resource, []).append(away)
    return out


def people_loads(person: Person, bucket: str = "week", resource: str = "", codes: Sequence[str] = ()) -> PeopleLoads:
    """The loads by bucket: of one resource or of all; of the projects that are named, or of all."""
    found = found_asking(person, list(codes))
    rows = Shared.objects.filter(code=resource) if resource else Shared.objects.all()
    if person.role == "none":
        rows = rows.filter(code__in=found.asked)
    return PeopleLoads(bucket, [_load(shared_resource(row), found, bucket) for row in rows if row.resource.get("kind") != "material"])


def _load(kept: SharedResource, found: Found, bucket: str) -> PersonLoad:
    rows, leave = found.asked.get(kept.code, []), found.leave.get(kept.code, [])
    names = {(x.project, x.activity): x.name for x in rows}
    try:
        load = load_of(kept, rows, bucket, leave)
    except TooManyPoints:
        load = SharedLoad([])
    spans = runs_of(over_of(kept, rows, leave))

    def asked_out(who: tuple[str, str], minutes: Decimal) -> AskedOut:
        return AskedOut(who[0], found.pages[who[0]], who[1], names[who], hours(minutes))

    causes = {str(i): sorted((asked_out(k, m) for k, m in load.asked[i].items()), key=lambda a: -a.hours) for i in load.over}
    dates = sorted(found.dates[p] for p in {x.project for x in rows})
    over = spans[:MOST_SPANS]
    return PersonLoad(
        kept.code,
        kept.name,
        float(kept.units),
        hours(load.total),
        [to_text(e) for e in load.ends],
        [hours(m) for m in load.sums],
        [hours(m) for m in load.there],
        {p: [hours(m) for m in minutes] for p, minutes in load.by_project.items()},
        [hours(m) for m in load.short],
        load.over,
        causes,
        hours(over_minutes(spans)),
        [
            SharedOver(
                to_text(x.start),
                to_text(x.end),
                float(x.required),
                float(x.available),
                hours(x.unit_minutes),
                [asked_out(who, Decimal(0)) for who in x.who],
            )
            for x in over
        ],
        to_text(spans[-1].end) if spans else None,
        len(spans) - len(over),
        dates[0] if dates else "",
        dates[-1] if dates else "",
    )
