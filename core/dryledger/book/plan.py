"""The book: everything of one project, as frozen dataclasses. What each absent value means is settled on reading.

Instants are minutes since 0001-01-01T00:00, durations whole working minutes, money `Decimal` in the project's
currency, shares fractions of 1. `Book` is the one input type of the whole core.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from functools import cached_property

from dryledger.book.answers import Answer, Limits
from dryledger.book.baselines import Baseline, own_axes
from dryledger.book.estimates import KeptEstimate
from dryledger.book.indexed import NetworkIndex, index_network
from dryledger.book.mark_rules import MarkRule
from dryledger.book.memory import Memo
from dryledger.book.options import Buffers, Option, Promise
from dryledger.book.orders import Order, Reserve
from dryledger.book.pages import CostEntry, HoursEntry, Period, Rhythm, Statement
from dryledger.book.registers import Assumption, ChangeOrder, FieldDefinition, Issue, Note, Paper, ProjectConstraint, Risk
from dryledger.book.report_layout import KeptLine, ReportLayout
from dryledger.book.value_method import PERCENT, ValueMethod
from dryledger.calendar.axis import Axis, Instant
from dryledger.calendar.calendar import DAY, Calendar, Pause, midnight

__all__ = [
    "Activity",
    "Assignment",
    "Book",
    "Constraint",
    "CostEntry",
    "DirectCost",
    "External",
    "HoursEntry",
    "Link",
    "Period",
    "Project",
    "Rate",
    "Resource",
    "Statement",
    "WbsElement",
]


@dataclass(frozen=True, slots=True)
class Project:
    """The project and the choices that hold for all of it."""

    code: str
    name: str
    currency: str
    start: Instant
    calendar: str
    imposed_finish: Instant | None = None
    deadline: Instant | None = None
    treatment: str = "retained"
    critical_float: int = 0
    measured_against: str | None = None
    compared_with: tuple[str, ...] = ()
    eac: str = "bottom_up"
    client: str = ""
    manager: str = ""
    description: str = ""
    state: str = ""
    benefit: Decimal | None = None
    benefit_basis: str = ""
    """What the benefit is reckoned from."""
    kind: str = ""
    """What kind of project it is, in the organisation's words: it decides which own fields it has."""
    fields: Mapping[str, object] = field(default_factory=dict)
    """Its values in those of its own fields that are of the project."""
    rhythm: Rhythm | None = None
    limits: Limits = field(default_factory=Limits)
    buffers: Buffers = field(default_factory=Buffers)
    actuals: str = "posted"
    """Whether actual work and cost are posted or follow progress, where nothing nearer says so."""
    responsible: str = ""


@dataclass(frozen=True, slots=True)
class Rate:
    """An amount `per` hour, day, … in force from a date until the next row of the same kind."""

    start: date
    amount: Decimal
    per: str
    overtime: Decimal | None = None


@dataclass(frozen=True, slots=True)
class UnitsException:
    """Other units of a resource (none: leave) from 00:00 of `start` to the end of `end`, both dates included."""

    start: date
    end: date
    name: str = ""
    units: Decimal = Decimal(0)

    @property
    def since(self) -> Instant:
        """When it begins."""
        return midnight(self.start)

    @property
    def until(self) -> Instant:
        """When it has ended."""
        return midnight(self.end) + DAY


@dataclass(frozen=True, slots=True)
class Resource:
    """A person, role, machine or material. `units` is how many there are for this project (1.0 = one, full time).

    `shared` is the code that the organisation knows it by, where several projects draw on it: then its name, kind, role and skills are
    the organisation's, and its rates too unless the project has its own.
    """

    code: str
    name: str
    kind: str = "labour"
    units: Decimal = Decimal(1)
    calendar: str = ""
    role: bool = False
    rates: tuple[Rate, ...] = ()
    skills: tuple[str, ...] = ()
    shared: str | None = None
    own_rates: bool = False
    actuals: str = ""
    unit: str = ""
    supplier: str = ""
    person: str = ""
    exceptions: tuple[UnitsException, ...] = ()
    roles: tuple[str, ...] = ()
    """The roles that it can fill: its hours stand for those of a role on the same activity."""
    fields: Mapping[str, object] = field(default_factory=dict)
    """Its values in those own fields that are of resources."""

    def series(self, per: str) -> list[Rate]:
        """The rows of one kind of rate, earliest first."""
        return sorted((r for r in self.rates if r.per == per), key=lambda r: r.start)


@dataclass(frozen=True, slots=True)
class WbsElement:
    """One element of the breakdown; `parent` is None at the top."""

    code: str
    name: str
    parent: str | None = None
    weight: Decimal = Decimal(1)
    responsible: str = ""


@dataclass(frozen=True, slots=True)
class Constraint:
    """A date an activity is held to; `at` is None only for as_late_as_possible."""

    type: str
    at: Instant | None


@dataclass(frozen=True, slots=True)
class Activity:
    """One piece of work. `duration` is in working minutes of its calendar."""

    code: str
    name: str
    wbs: str | None = None
    calendar: str = ""
    duration: int = 0
    kind: str = "task"
    mode: str = "driven"
    start: Instant | None = None
    finish: Instant | None = None
    constraint: Constraint | None = None
    deadline: Instant | None = None
    pauses: tuple[Pause, ...] = ()
    driver: str = "duration"
    value_method: ValueMethod = PERCENT
    profile: str = "uniform"
    safe_duration: int | None = None
    levelled: Instant | None = None
    weight: Decimal = Decimal(1)
    fields: Mapping[str, object] = field(default_factory=dict)
    responsible: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True)
class External:
    """An activity of another project (`PROJECT/ACTIVITY`) that links lead from: its dates stand, whatever its state and status say.

    `status` is the status they are as of; `last_start` and `last_finish` are what they were when the last page was closed.
    """

    code: str
    name: str
    start: Instant
    finish: Instant
    state: str = "not_started"
    status: Instant | None = None
    last_start: Instant | None = None
    last_finish: Instant | None = None

    @property
    def moved(self) -> bool:
        """Whether it has other dates than when the last page was closed.

        >>> External("PIER/A1", "Pile", 0, 480, last_start=0, last_finish=960).moved, External("PIER/A1", "Pile", 0, 480).moved
        (True, False)
        """
        before = ((self.last_start, self.start), (self.last_finish, self.finish))
        return any(was is not None and was != now for was, now in before)


@dataclass(frozen=True, slots=True)
class Link:
    """A dependency; its source is an activity or an external one; `lag` is minutes, working on the project calendar or elapsed."""

    source: str
    target: str
    type: str = "FS"
    lag: int = 0
    lag_basis: str = "working"


@dataclass(frozen=True, slots=True)
class Assignment:
    """A resource on an activity; `work` in minutes where given, `quantity` of a material.

    `to_order` is what of it is still to be ordered, where that is said; `closed`, the date from which its final invoice is in, as a
    text, or True for always. It is named `ACTIVITY/RESOURCE`.
    """

    activity: str
    resource: str
    units: Decimal = Decimal(1)
    work: int | None = None
    quantity: Decimal | None = None
    actuals: str = ""
    to_order: Decimal | None = None
    closed: str | bool | None = None

    @property
    def code(self) -> str:
        """What entries and orders call it."""
        return f"{self.activity}/{self.resource}"


@dataclass(frozen=True, slots=True)
class DirectCost:
    """A cost that is not hours: `fixed`, or `per_day` of duration; without a `code` nothing can name it. `to_order`, `closed`: as above."""

    activity: str
    name: str
    kind: str
    amount: Decimal
    accrual: str = "uniform"
    in_budget: bool = True
    code: str = ""
    actuals: str = ""
    to_order: Decimal | None = None
    closed: str | bool | None = None


@dataclass(frozen=True)
class Book:
    """Everything of one project."""

    project: Project
    calendars: tuple[Calendar, ...]
    resources: tuple[Resource, ...] = ()
    wbs: tuple[WbsElement, ...] = ()
    activities: tuple[Activity, ...] = ()
    externals: tuple[External, ...] = ()
    links: tuple[Link, ...] = ()
    assignments: tuple[Assignment, ...] = ()
    costs: tuple[DirectCost, ...] = ()
    orders: tuple[Order, ...] = ()
    reserves: tuple[Reserve, ...] = ()
    baselines: tuple[Baseline, ...] = ()
    periods: tuple[Period, ...] = ()
    notes: tuple[Note, ...] = ()
    documents: tuple[Paper, ...] = ()
    assumptions: tuple[Assumption, ...] = ()
    constraints: tuple[ProjectConstraint, ...] = ()
    risks: tuple[Risk, ...] = ()
    issues: tuple[Issue, ...] = ()
    changes: tuple[ChangeOrder, ...] = ()
    fields: tuple[FieldDefinition, ...] = ()
    estimates: tuple[KeptEstimate, ...] = ()
    answers: tuple[Answer, ...] = ()
    mark_rules: tuple[MarkRule, ...] = ()
    report_layout: tuple[ReportLayout, ...] = ()
    """The layout of the report, at most one."""
    progress_lines: tuple[KeptLine, ...] = ()
    options: tuple[Option, ...] = ()
    promises: tuple[Promise, ...] = ()
    extra: dict[str, object] = field(default_factory=dict, compare=False)

    @cached_property
    def memo(self) -> Memo:
        """What later steps have worked out of the plan, and of pages that no longer change."""
        return Memo()

    @cached_property
    def calendar_by_code(self) -> dict[str, Calendar]:
        """The calendars by code."""
        return {c.code: c for c in self.calendars}

    @cached_property
    def project_calendar(self) -> Calendar:
        """The calendar of the project, on which whole lengths are counted."""
        return self.calendar_by_code[self.project.calendar]

    @cached_property
    def axis(self) -> Axis:
        """The axis of the project calendar."""
        return self.project_calendar.axis

    @cached_property
    def activity_by_code(self) -> dict[str, Activity]:
        """The activities by code."""
        return {a.code: a for a in self.activities}

    @cached_property
    def external_by_code(self) -> dict[str, External]:
        """The activities of other projects by code."""
        return {x.code: x for x in self.externals}

    @cached_property
    def resource_by_code(self) -> dict[str, Resource]:
        """The resources by code."""
        return {r.code: r for r in self.resources}

    @cached_property
    def axes(self) -> dict[str, Axis]:
        """Each activity's own axis (its calendar without its pauses), by activity code."""
        return own_axes(self.calendars, self.activities)

    @cached_property
    def network_index(self) -> NetworkIndex:
        """Activities and links as arrays, for the passes."""
        beside = [(x.code, x.start, x.finish) for x in self.externals]
        return index_network(list(self.axes), list(self.axes.values()), self.links, self.axis, beside)

    @cached_property
    def assignments_of(self) -> dict[str, list[Assignment]]:
        """The assignments of each activity that has any."""
        out: dict[str, list[Assignment]] = {}
        for a in self.assignments:
            out.setdefault(a.activity, []).append(a)
        return out

    @cached_property
    def activities_on(self) -> dict[str, list[str]]:
        """The activities that each resource is assigned to."""
        out: dict[str, list[str]] = {}
        for a in self.assignments:
            out.setdefault(a.resource, []).append(a.activity)
        return out

    @cached_property
    def links_into(self) -> dict[str, list[Link]]:
        """The links into each activity that has any."""
        out: dict[str, list[Link]] = {}
        for k in self.links:
            out.setdefault(k.target, []).append(k)
        return out

    @cached_property
    def costs_of(self) -> dict[str, list[DirectCost]]:
        """The direct costs of each activity that has any."""
        out: dict[str, list[DirectCost]] = {}
        for c in self.costs:
            out.setdefault(c.activity, []).append(c)
        return out

    @cached_property
    def orders_for(self) -> dict[str, list[tuple[Order, Decimal]]]:
        """What is ordered for each cost or assignment, by its code: the orders with the amounts of their lines for it."""
        out: dict[str, list[tuple[Order, Decimal]]] = {}
        for order in self.orders:
            for line in order.lines:
                out.setdefault(line.of, []).append((order, line.amount))
        return out

    @cached_property
    def wbs_above(self) -> dict[str, tuple[str, ...]]:
        """For each WBS element, itself and every element above it."""
        parents = {w.code: w.parent for w in self.wbs}
        out: dict[str, tuple[str, ...]] = {}
        for w in self.wbs:
            chain, at = [], w.code
            while at is not None:
                chain.append(at)
                at = parents[at]  # type: ignore[assignment]
            out[w.code] = tuple(chain)
        return out

    @cached_property
    def baseline_by_code(self) -> dict[str, Baseline]:
        """The baselines by code."""
        return {b.code: b for b in self.baselines}

    @property
    def measured(self) -> Baseline | None:
        """The baseline that performance is measured against, if one is chosen."""
        code = self.project.measured_against
        return self.baseline_by_code[code] if code else None

    def with_periods(self, periods: tuple[Period, ...]) -> "Book":
        """The same plan with other pages; what was worked out of the plan is kept."""
        for name in ("memo", "network_index", "assignments_of", "links_into", "costs_of", "wbs_above", "resource_by_code"):
            getattr(self, name)  # worked out here once, not in every copy
        out = replace(self, periods=periods)
        known = dict(self.__dict__)  # a copy at once: another thread may be working something out
        out.__dict__.update((k, v) for k, v in known.items() if k not in out.__dict__)
        return out
