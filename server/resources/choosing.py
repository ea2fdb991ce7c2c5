"""Choosing who works on what: every resource with its skills, what of it is free in the time of the work, and whether it is too much."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.budget.free import Free
from dryledger.calendar.calendar import to_text
from server.book.access import Access
from server.book.results import current_results
from server.book.workspace import workspace_of
from server.shared.json_values import hours
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_ROWS = 500


@dataclass
class AssignedOut:
    """An activity that a resource is on: units, its dates, and the hours that it books from now on."""

    row: str
    code: str
    name: str
    state: str
    start: str
    finish: str
    units: float
    hours: float


@dataclass
class AssignedList:
    """The activities that a resource is on, the unfinished first, by start."""

    revision: int
    activities: list[AssignedOut]


def assigned(access: Access, row: str) -> AssignedList:
    """The activities that a resource is on. Raises Refused."""
    w, r = workspace_of(access.project), current_results(access.project)
    code, of = w.keyed.code_of("resources", row), w.keyed.key_of("activities")
    if code is None:
        raise Refused("not-found", sentence("resources.no_such_row"), 404)
    free, out = Free(r.book, r.schedule, r.at.to_go), []
    for x in r.book.assignments:
        if x.resource == code:
            a = r.schedule.activities[x.activity]
            timed = a.state != "complete" and r.book.resource_by_code[code].kind != "material"
            booked = hours(free.booking(code, [x.activity], x.units)) if timed else 0
            name = r.book.activity_by_code[x.activity].name
            ends = to_text(a.start), to_text(a.finish)
            out.append(AssignedOut(f"a{of[x.activity]}", x.activity, name, a.state, *ends, float(x.units), booked))
    return AssignedList(w.revision, sorted(out, key=lambda x: (x.state == "complete", x.start, x.code)))


@dataclass
class ChoiceOfResource:
    """A resource for some activities: hours free in their time, hours that it would book, and by how many that is too much.

    A material has no time: nothing is said of it.
    """

    id: str
    code: str
    name: str
    kind: str
    role: bool
    skills: list[str]
    supplier: str
    units: float
    free_hours: float
    booked_hours: float
    over_hours: float
    on: int
    """On how many of them it is already."""


@dataclass
class ChoiceOfResources:
    """Every resource of the project for some activities."""

    revision: int
    resources: list[ChoiceOfResource]


def offered(access: Access, rows: list[str], units: Decimal) -> ChoiceOfResources:
    """Every resource with so many units of it on each of some activities, in the book's order. Raises Refused."""
    w, r = workspace_of(access.project), current_results(access.project)
    book, keys = r.book, {f"a{key}": code for code, key in w.keyed.key_of("activities").items()}
    if len(rows) > MOST_ROWS:
        raise Refused("too-many", sentence("resources.too_many_rows", most=MOST_ROWS), 422)
    codes = [keys[x] for x in rows if x in keys]
    free, of = Free(book, r.schedule, r.at.to_go), w.keyed.key_of("resources")
    out = []
    for x in book.resources:
        on = sum(any(y.resource == x.code for y in book.assignments_of.get(c, ())) for c in codes)
        timed = x.kind != "material"
        wanted = [c for c in codes if r.schedule.activities[c].state != "complete"] if timed else []
        out.append(
            ChoiceOfResource(
                f"r{of[x.code]}",
                x.code,
                x.name,
                x.kind,
                x.role,
                list(x.skills),
                x.supplier,
                float(x.units),
                hours(free.in_all(x.code, wanted)),
                hours(free.booking(x.code, wanted, units)),
                hours(free.too_much(x.code, wanted, units)),
                on,
            )
        )
    return ChoiceOfResources(w.revision, out)
