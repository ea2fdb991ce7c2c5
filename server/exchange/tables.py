"""The tables of a book in CSV and XLSX: one table a list, columns named in words. What is here decides both ways.

A nested list is a table of its own whose first column names the row it belongs to. A column `kind` says how its cells
are read: text, code, number, amount, span, instant, day, flag, shifts, texts, json.
"""

from dataclasses import dataclass, field
from typing import Any

from dryledger.book.registers import REGISTERS, Column

Doc = dict[str, Any]
DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


@dataclass(frozen=True)
class Col:
    """A column: its title, the key it fills (dotted for keys of an object inside), how it is read, other titles."""

    title: str
    key: str
    kind: str = "text"
    also: tuple[str, ...] = ()


@dataclass(frozen=True)
class Table:
    """A table: its title, the list it is, and for a nested list the table above it."""

    title: str
    key: str
    columns: tuple[Col, ...]
    under: str | None = None
    """The table whose rows these belong to; its first columns name that row."""
    owner: int = 1
    """How many of the first columns name the row above."""


CODE, NAME = Col("Code", "code", "code", ("id",)), Col("Name", "name")
_METHOD = (
    Col("Value method", "value_method.type"),
    Col("Start share", "value_method.share", "number"),
    Col("Units planned", "value_method.planned", "number"),
    Col("Apportioned with", "value_method.base", "code"),
)
_WEEK = tuple(Col(d, f"week.{k}", "shifts") for d, k in zip(("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"), DAYS, strict=True))
_HOURS = tuple(Col(f"Hours per {x}", f"hours_per_{x}", "number") for x in ("day", "week", "month"))
_EXCEPTION = (Col("From", "from", "day"), Col("To", "to", "day"), Col("Shifts", "shifts", "shifts"), NAME)
_PAUSE = (Col("From", "from", "instant"), Col("To", "to", "instant"), Col("Reason", "reason"))
_WEIGHT = (NAME, Col("Weight", "weight", "number"), Col("At", "at", "number"))
_ACTIVITY, _RESOURCE = Col("Activity code", "activity", "code", ("activity",)), Col("Resource code", "resource", "code", ("resource",))
_PAGE, _BASE = Col("Page", "period", "code"), Col("Baseline", "baseline", "code")
PROJECT = (
    Col("Code", "code", "code"),
    Col("Name", "name"),
    Col("Client", "client"),
    Col("Manager", "manager"),
    Col("Description", "description"),
    Col("State", "state"),
    Col("Currency", "currency"),
    Col("Start", "start", "instant"),
    Col("Calendar", "calendar", "code"),
    Col("Imposed finish", "imposed_finish", "instant"),
    Col("Deadline", "deadline", "instant"),
    Col("Treatment", "treatment"),
    Col("Critical float", "critical_float", "span"),
    Col("Measured against", "measured_against", "code"),
    Col("Compared with", "compared_with", "texts"),
    Col("EAC", "eac"),
)
_KINDS = {"long": "text", "choice": "text", "date": "day", "texts": "json"}


def _register(columns: tuple[Column, ...]) -> tuple[Col, ...]:
    return (CODE, NAME, *(Col(c.key.replace("_", " ").capitalize(), c.key, _KINDS.get(c.kind, c.kind)) for c in columns))


TABLES: tuple[Table, ...] = (
    Table("Calendars", "calendars", (CODE, NAME, *_WEEK, *_HOURS)),
    Table("Calendar exceptions", "exceptions", (Col("Calendar", "calendar", "code"), *_EXCEPTION), "calendars"),
    Table(
        "Resources",
        "resources",
        (
            CODE,
            NAME,
            Col("Kind", "kind"),
            Col("Units", "units", "number"),
            Col("Calendar", "calendar", "code"),
            Col("Role to be filled", "role", "flag"),
            Col("Skills", "skills", "json"),
        ),
    ),
    Table(
        "Rates",
        "rates",
        (
            _RESOURCE,
            Col("From", "from", "day"),
            Col("Amount", "amount", "amount"),
            Col("Per", "per"),
            Col("Overtime", "overtime", "amount"),
        ),
        "resources",
    ),
    Table("WBS", "wbs", (CODE, NAME, Col("Parent", "parent", "code"), Col("Weight", "weight", "number"))),
    Table(
        "Activities",
        "activities",
        (
            Col("Activity code", "code", "code", ("code", "id")),
            NAME,
            Col("WBS", "wbs", "code"),
            Col("Calendar", "calendar", "code"),
            Col("Duration", "duration", "span"),
            Col("Predecessors", "-after", "text"),
            Col("Kind", "kind"),
            Col("Dates", "mode"),
            Col("Start", "start", "instant"),
            Col("Finish", "finish", "instant"),
            Col("Held to", "constraint.type"),
            Col("Held to date", "constraint.at", "instant"),
            Col("Deadline", "deadline", "instant"),
            Col("Driven by", "driver"),
            *_METHOD,
            Col("Profile", "profile"),
            Col("Safe duration", "safe_duration", "span"),
            Col("Weight", "weight", "number"),
        ),
    ),
    Table("Pauses", "pauses", (_ACTIVITY, *_PAUSE), "activities"),
    Table("Weighted milestones", "value_method.weights", (_ACTIVITY, *_WEIGHT), "activities"),
    Table(
        "Links",
        "links",
        (
            Col("From", "from", "code"),
            Col("To", "to", "code"),
            Col("Type", "type"),
            Col("Lag", "lag", "lag"),
            Col("Lag basis", "lag_basis"),
        ),
    ),
    Table(
        "Assignments",
        "assignments",
        (_ACTIVITY, _RESOURCE, Col("Units", "units", "number"), Col("Work", "work", "span"), Col("Quantity", "quantity", "number")),
    ),
    Table(
        "Costs",
        "costs",
        (
            _ACTIVITY,
            NAME,
            Col("Kind", "kind"),
            Col("Amount", "amount", "amount"),
            Col("Accrual", "accrual"),
            Col("In budget", "in_budget", "flag"),
        ),
    ),
    Table(
        "Baselines",
        "baselines",
        (
            CODE,
            NAME,
            Col("Taken", "taken", "instant"),
            Col("Approved by", "approved_by"),
            Col("Reason", "reason"),
            Col("Calendar", "calendar", "code"),
        ),
    ),
    Table("Baseline calendars", "baseline.calendars", (_BASE, CODE, NAME, *_WEEK, *_HOURS), "baselines"),
    Table(
        "Baseline calendar exceptions",
        "baseline.exceptions",
        (_BASE, Col("Calendar", "calendar", "code"), *_EXCEPTION),
        "baseline.calendars",
        2,
    ),
    Table(
        "Baseline activities",
        "baseline.activities",
        (
            _BASE,
            Col("Activity code", "code", "code", ("code",)),
            NAME,
            Col("WBS", "wbs", "code"),
            Col("Calendar", "calendar", "code"),
            Col("Start", "start", "instant"),
            Col("Finish", "finish", "instant"),
            Col("Duration", "duration", "span"),
            Col("Work", "work", "span"),
            *_METHOD,
        ),
        "baselines",
    ),
    Table(
        "Baseline costs",
        "baseline.cost_lines",
        (_BASE, _ACTIVITY, NAME, Col("Amount", "amount", "amount"), Col("Accrual", "accrual"), Col("Profile", "profile")),
        "baseline.activities",
        2,
    ),
    Table("Baseline pauses", "baseline.pauses", (_BASE, _ACTIVITY, *_PAUSE), "baseline.activities", 2),
    Table("Baseline weighted milestones", "baseline.value_method.weights", (_BASE, _ACTIVITY, *_WEIGHT), "baseline.activities", 2),
    Table("Pages", "periods", (CODE, Col("Status date", "status", "instant"), Col("State", "state"))),
    Table(
        "Statements",
        "statements",
        (
            _PAGE,
            _ACTIVITY,
            Col("Actual start", "actual_start", "instant"),
            Col("Actual finish", "actual_finish", "instant"),
            Col("Percent", "percent", "percent"),
            Col("Remaining", "remaining", "span"),
            Col("Carried to", "carry_to", "instant"),
            Col("Units done", "units_done", "number"),
            Col("Milestones reached", "milestones_reached", "json"),
            Col("Note", "note"),
        ),
        "periods",
    ),
    Table(
        "Hours",
        "hours",
        (
            _PAGE,
            _ACTIVITY,
            _RESOURCE,
            Col("Worked", "worked", "span"),
            Col("Overtime", "overtime", "span"),
            Col("To go", "to_go", "span"),
        ),
        "periods",
    ),
    Table(
        "Cost entries",
        "period.costs",
        (
            _PAGE,
            _ACTIVITY,
            Col("WBS", "wbs", "code"),
            Col("Date", "date", "day"),
            Col("Amount", "amount", "amount"),
            Col("Source", "source"),
            Col("Reference", "ref"),
        ),
        "periods",
    ),
    *(Table(key.capitalize() if key != "fields" else "Own fields", key, _register(columns)) for key, columns in REGISTERS.items()),
    Table(
        "Estimates",
        "estimates",
        (CODE, NAME, Col("Measure", "measure"), Col("Total", "total", "amount"), Col("Top", "top", "code")),
    ),
    Table(
        "Estimate shares",
        "shares",
        (
            Col("Estimate", "estimate", "code"),
            Col("Kind", "kind"),
            Col("Code", "code", "code"),
            Col("Amount", "amount", "amount"),
        ),
        "estimates",
    ),
)
BY_KEY = {t.key: t for t in TABLES}
OTHER = Col("Other keys", "x-", "json")
"""Keys of a row that begin with x-, as JSON: they come back untouched."""
OWN_FIELD = "Field "
"""Columns of activities that hold the project's own fields begin with this, followed by the field's code."""


def inner(key: str) -> list[str]:
    """The keys on the way to a nested list, below the row it belongs to: "baseline.cost_lines" → cost_lines."""
    return key.removeprefix("baseline.").removeprefix("period.").split(".")


def get(doc: Doc, key: str) -> Any:
    """The value of a dotted key, None where it is absent."""
    at: Any = doc
    for part in key.split("."):
        at = at.get(part) if isinstance(at, dict) else None
    return at


def put(doc: Doc, key: str, value: Any) -> None:
    """Set the value of a dotted key."""
    *way, last = key.split(".")
    for part in way:
        doc = doc.setdefault(part, {})
    doc[last] = value


@dataclass
class Grid:
    """A table as read or to be written: its titles, and rows of cells with their row numbers (1 is the titles)."""

    title: str
    titles: list[str]
    rows: list[tuple[int, list[Any]]] = field(default_factory=list)
