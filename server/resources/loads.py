"""What is booked of each resource over time, where that is too much, and how it can be put right there."""

from dataclasses import dataclass
from typing import Any

from dryledger.book.memory import Slot
from dryledger.book.options import Change
from dryledger.budget.booking import Over, over_allocated
from dryledger.budget.load import loads
from dryledger.budget.stretches import Stretch as BookedStretch
from dryledger.budget.stretches import stretches
from dryledger.calendar.calendar import from_text, to_text
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import Results
from dryledger.options.remedies import Remedy, remedies
from server.book.access import Access
from server.book.results import current_results
from server.book.workspace import Workspace, workspace_of
from server.shared.json_values import days, hours
from server.shared.problems import Refused
from server.shared.words import sentence

OVER: Slot[dict[str, list[Over]]] = Slot("over-allocated times by resource", most=2_000)
REMEDIES: Slot[list[Remedy]] = Slot("ways to put an over-allocation right", most=2_000)
MOST_STRETCHES = 200
"""How many over-allocated stretches of one resource are sent; the first ones."""


@dataclass
class Cause:
    """What one activity books of a resource, in hours."""

    row: str
    code: str
    name: str
    hours: float


@dataclass
class Stretch:
    """A time in which the same activities ask for more of a resource than there is: units, and the hours beyond."""

    start: str
    end: str
    required: float
    available: float
    hours: float
    causes: list[Cause]
    """What each books of it in that time, the most first."""


@dataclass
class LoadOut:
    """The load of a resource in hours by bucket: booked, available, and booked beyond that in some minute; `over` are such buckets."""

    id: str
    code: str
    name: str
    kind: str
    units: float
    asked: list[float]
    there: list[float]
    short: list[float]
    over: list[int]
    causes: dict[str, list[Cause]]
    stretches: list[Stretch]


@dataclass
class LoadsOut:
    """The loads of all resources."""

    revision: int
    status: str
    bucket: str
    ends: list[str]
    loads: list[LoadOut]


def over_of(w: Workspace, r: Results) -> dict[str, list[Over]]:
    """The over-allocated times of the present plan, by resource."""

    def make() -> dict[str, list[Over]]:
        out: dict[str, list[Over]] = {}
        for x in over_allocated(r.book, r.schedule, r.at.to_go):
            out.setdefault(x.resource, []).append(x)
        return out

    return w.memo.once(OVER, make)


def loads_out(access: Access, bucket: str) -> LoadsOut:
    """The loads of a project's resources."""
    project = access.project
    w, r = workspace_of(project), current_results(project)
    ends, found = loads(r.at, r.schedule, bucket)
    over, named = over_of(w, r), _Named(w.keyed)
    keys = w.keyed.key_of("resources")
    out = []
    for x in found:
        resource = r.book.resource_by_code[x.resource]
        causes = {str(i): named.causes({c: hours(m) for c, m in parts.items()}) for i, parts in enumerate(x.causes) if parts}
        out.append(
            LoadOut(
                f"r{keys[x.resource]}",
                x.resource,
                resource.name,
                resource.kind,
                float(resource.units),
                [hours(m) for m in x.booked],
                [hours(m) for m in x.available],
                [hours(m) for m in x.over],
                x.over_at,
                causes,
                [_stretch(named, y) for y in stretches(r.book, over.get(x.resource, ()))[:MOST_STRETCHES]],
            )
        )
    return LoadsOut(project.revision, to_text(r.status) if r.status is not None else "", bucket, [to_text(e) for e in ends], out)


def _stretch(named: "_Named", x: BookedStretch) -> Stretch:
    causes = named.causes({code: hours(m) for code, m in x.booked.items()})
    return Stretch(to_text(x.start), to_text(x.end), float(x.required), float(x.available), hours(x.unit_minutes), causes)


class _Named:
    """Activities by their rows and names."""

    def __init__(self, keyed: KeyedBook) -> None:
        self.book, self.keys = keyed.book, keyed.key_of("activities")

    def causes(self, booked: dict[str, float]) -> list[Cause]:
        """What activities book, the most first."""
        rows = [Cause(f"a{self.keys[c]}", c, self.book.activity_by_code[c].name, h) for c, h in booked.items()]
        return sorted(rows, key=lambda x: -x.hours)


# Putting it right


@dataclass
class RemedyOut:
    """A way to put it right: what it does and for whom, with what comes of it, and the verbs of the plan that do it.

    Days are working days of the project (`later`) and of the activity (`own_later`); hours left are over-allocated after it.
    """

    kind: str
    mode: str
    activity: str
    activity_name: str
    other: str
    other_name: str
    skills: list[str]
    units: float
    free_hours: float
    to: str
    """Where the activity begins after it, where it moves."""
    later_days: float
    own_later_days: float
    cost: str
    left_hours: float
    left_in_all_hours: float
    verbs: list[dict[str, Any]]


@dataclass
class RemediesOut:
    """The ways to put an over-allocated stretch right, the least harm first."""

    revision: int
    found: list[RemedyOut]


def remedies_out(access: Access, row: str, start: str, end: str) -> RemediesOut:
    """The ways to put right what is over-allocated of a resource from start to end. Raises Refused."""
    w, r = workspace_of(access.project), current_results(access.project)
    code = w.keyed.code_of("resources", row)
    if code is None:
        raise Refused("not-found", sentence("resources.no_such_row"), 404)
    try:
        since, until = from_text(start), from_text(end)
    except ValueError:
        raise Refused("bad-request", sentence("resources.no_such_time"), 400, field="start") from None
    found = w.memo.once(REMEDIES, lambda: remedies(r, code, since, until), (code, since, until))
    return RemediesOut(w.revision, [_remedy(r, w.keyed, x) for x in found])


def _remedy(r: Results, keyed: KeyedBook, x: Remedy) -> RemedyOut:
    book = r.book
    activity, other = book.activity_by_code.get(x.activity or ""), book.resource_by_code.get(x.other or "")
    moved = next((c.cells["levelled"] for c in x.changes if x.kind == "later"), "")
    return RemedyOut(
        x.kind,
        x.mode,
        x.activity or "",
        activity.name if activity is not None else "",
        x.other or "",
        other.name if other is not None else "",
        list(other.skills) if other is not None else [],
        float(x.units or 0),
        hours(x.free),
        str(moved),
        days(book.project_calendar, x.later),
        days(book.calendar_by_code[activity.calendar], x.own_later) if activity is not None else 0,
        f"{x.cost:f}",
        hours(x.left),
        hours(x.left_in_all),
        [typed(keyed, c) for c in x.changes],
    )


def typed(keyed: KeyedBook, x: Change) -> dict[str, Any]:
    """A change of the plan as its sheet does it: rows by their keys, with what they replace."""
    names = {"activities": "a", "resources": "r"}
    ends = {"row": "resources" if x.do == "resource" else "activities", "activity": "activities", "resource": "resources"}
    verb = dict(x.verb)
    for key, list_name in ends.items():
        if key in verb:
            verb[key] = f"{names[list_name]}{keyed.key_of(list_name)[verb[key]]}"
    if verb["do"] == "assign":
        verb["cells"] = {k: v if isinstance(v, str) else f"{v}" for k, v in verb["cells"].items()}
    return verb
