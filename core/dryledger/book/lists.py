"""Every list of a book, declared once: its columns, what they hold, what they name, and their words.

Reading, writing, the schema, spreadsheets and database rows follow what stands here, so a new field is one row (and a
column of the database). Columns stand in the order of the open format; `sheet` gives the order in spreadsheets.
"""

from decimal import Decimal

from dryledger.book import baselines, orders, plan, value_method
from dryledger.book.answers import Limits
from dryledger.book.columns import CODE, NAME, Column, ListOf, choice, number
from dryledger.book.lists_beside import ANSWERS, ESTIMATES, MARK_RULES, OPTIONS, PROGRESS_LINES, PROMISES, REPORT_LAYOUT
from dryledger.book.options import Buffers
from dryledger.book.pages import CostEntry, HoursEntry, Period, Rhythm, Statement
from dryledger.book.registers import RECORDS, REGISTERS
from dryledger.calendar.calendar import Calendar, CalendarException, Pause

__all__ = ["ACCRUALS", "CONSTRAINTS", "EAC_METHODS", "LISTS", "PERS", "PROFILES", "PROJECT", "REGISTERS", "SOURCES", "TREATMENTS"]
__all__ += ["VALUE_METHODS", "WEEKDAYS"]

WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
TREATMENTS = ("retained", "override", "recorded")
EAC_METHODS = ("bottom_up", "cpi", "budget", "cpi_spi", "recent")
CONSTRAINTS = (
    *("start_on_or_after", "start_on_or_before", "finish_on_or_after", "finish_on_or_before"),
    *("must_start_on", "must_finish_on", "as_late_as_possible"),
)
VALUE_METHODS = (
    *("percent", "zero_hundred", "fifty_fifty", "start_share", "milestones", "units", "duration", "hours"),
    *("level_of_effort", "apportioned"),
)
PROFILES = ("uniform", "front", "back", "bell")
ACCRUALS = ("uniform", "start", "finish")
SOURCES = ("hours", "invoice", "accrual", "feed", "correction")
FOLLOWS = ("posted", "progress")
PERS = ("hour", "started_hour", "day", "week", "month", "use", "unit")
ONE, ZERO, HUNDRED = Decimal(1), Decimal(0), Decimal(100)


_WEIGHT = number("weight", ONE, least=ZERO)
_ACTIVITY = Column("activity", "code", "Activity code", required=True, names="activities", also=("activity",))
_RESOURCE = Column("resource", "code", "Resource code", required=True, names="resources", also=("resource",))
_HOURS = tuple(
    number(f"hours_per_{unit}", Decimal(usual), above=ZERO, most=Decimal(most))
    for unit, usual, most in (("day", 8, 24), ("week", 40, 168), ("month", 160, 744))
)
_FOLLOWS = choice("actuals", FOLLOWS, "", word="Actuals")
_PAID = (_FOLLOWS, Column("to_order", "amount", "Still to order"), Column("closed", "scalar"))
EXCEPTIONS = ListOf(
    "exceptions",
    "Calendar exceptions",
    CalendarException,
    (
        Column("from", "date", attr="start", required=True),
        Column("to", "date", attr="end", required=True),
        Column("shifts", "shifts", default=()),
        Column("name", default=""),
    ),
)
CALENDARS = ListOf(
    "calendars",
    "Calendars",
    Calendar,
    (CODE, NAME, Column("week", "week", required=True), Column("exceptions", "rows", default=(), rows=EXCEPTIONS), *_HOURS),
)
RATES = ListOf(
    "rates",
    "Rates",
    plan.Rate,
    (
        Column("from", "date", attr="start", required=True),
        Column("amount", "amount", required=True),
        choice("per", PERS),
        Column("overtime", "amount"),
    ),
)
UNITS_EXCEPTIONS = ListOf(
    "exceptions",
    "Leave and other units",
    plan.UnitsException,
    (
        Column("from", "date", attr="start", required=True),
        Column("to", "date", attr="end", required=True),
        Column("name", default=""),
        number("units", ZERO, least=ZERO),
    ),
)
RESOURCES = ListOf(
    "resources",
    "Resources",
    plan.Resource,
    (
        CODE,
        NAME,
        choice("kind", ("labour", "equipment", "material")),
        number("units", ONE, above=ZERO),
        Column("calendar", "code", default="project", names="calendars"),
        Column("role", "flag", "Role to be filled", default=False),
        Column("rates", "rows", default=(), rows=RATES),
        Column("skills", "texts", default=()),
        Column("shared", "code", "Shared as"),
        Column("own_rates", "flag", "Own rates", default=False),
        _FOLLOWS,
        Column("unit", word="Unit of measure", default=""),
        Column("supplier", default=""),
        Column("person", default=""),
        Column("exceptions", "rows", default=(), rows=UNITS_EXCEPTIONS),
        Column("roles", "texts", "Fills roles", default=(), names="resources"),
        Column("fields", "values"),
    ),
)
_RESPONSIBLE = Column("responsible", default="")
WBS = ListOf("wbs", "WBS", plan.WbsElement, (CODE, NAME, Column("parent", "code", names="wbs"), _WEIGHT, _RESPONSIBLE))
PAUSES = ListOf(
    "pauses",
    "Pauses",
    Pause,
    (
        Column("from", "instant", attr="start", required=True),
        Column("to", "instant", attr="end", required=True),
        Column("reason", default=""),
    ),
)
CONSTRAINT = ListOf(
    "constraint",
    "Constraint",
    plan.Constraint,
    (choice("type", CONSTRAINTS, word="Constraint", required=True), Column("at", "instant", "Constraint date")),
)
WEIGHTS = ListOf(
    "value_method.weights",
    "Weighted milestones",
    value_method.MilestoneWeight,
    (NAME, number("weight", ZERO, required=True, least=ZERO), number("at", ZERO, required=True, least=ZERO, most=ONE)),
)
METHOD = ListOf(
    "value_method",
    "Value method",
    value_method.ValueMethod,
    (
        choice("type", VALUE_METHODS, word="Value method", required=True),
        number("share", Decimal("0.5"), word="Start share", least=ZERO, most=ONE),
        Column("weights", "rows", default=(), rows=WEIGHTS),
        number("planned", ZERO, word="Units planned", above=ZERO),
        Column("base", "code", "Apportioned with", names="activities"),
    ),
    ("type", "share", "planned", "base"),
)
_METHOD = Column("value_method", "object", default=value_method.PERCENT, rows=METHOD)
_PAUSES = Column("pauses", "rows", default=(), rows=PAUSES)
_IN_WBS = Column("wbs", "code", "WBS", names="wbs")
ACTIVITIES = ListOf(
    "activities",
    "Activities",
    plan.Activity,
    (
        Column("code", "code", "Activity code", required=True, also=("code", "id")),
        NAME,
        Column("calendar", "code", default="project", names="calendars"),
        Column("duration", "span", on="row", default="usual"),
        choice("kind", ("task", "milestone")),
        choice("mode", ("driven", "fixed"), word="Dates"),
        Column("start", "instant"),
        Column("finish", "instant"),
        Column("constraint", "object", rows=CONSTRAINT),
        Column("deadline", "instant"),
        _PAUSES,
        choice("driver", ("duration", "work"), word="Duration comes from"),
        _METHOD,
        choice("profile", PROFILES),
        Column("safe_duration", "span", on="row"),
        Column("levelled", "instant", "Levelled to"),
        _WEIGHT,
        Column("fields", "values"),
        _IN_WBS,
        _RESPONSIBLE,
        Column("note", "long", default=""),
    ),
    ("code", "name", "wbs"),
)
EXTERNALS = ListOf(
    "externals",
    "Other projects",
    plan.External,
    (
        Column("code", "code", required=True, also=("id",)),
        NAME,
        Column("start", "instant", required=True),
        Column("finish", "instant", required=True),
        choice("state", ("not_started", "in_progress", "complete")),
        Column("status", "instant", "As of"),
        Column("last_start", "instant", "Start on the last page"),
        Column("last_finish", "instant", "Finish on the last page"),
    ),
)
LINKS = ListOf(
    "links",
    "Links",
    plan.Link,
    (
        Column("from", "code", attr="source", required=True, names="activities|externals"),
        Column("to", "code", attr="target", required=True, names="activities"),
        choice("type", ("FS", "SS", "FF", "SF")),
        Column("lag", "lag", default=0, signed=True, on="project"),
        choice("lag_basis", ("working", "elapsed")),
    ),
)
ASSIGNMENTS = ListOf(
    "assignments",
    "Assignments",
    plan.Assignment,
    (
        _ACTIVITY,
        _RESOURCE,
        number("units", ONE, above=ZERO),
        Column("work", "span", on="activity"),
        number("quantity", least=ZERO),
        *_PAID,
    ),
)
COSTS = ListOf(
    "costs",
    "Costs",
    plan.DirectCost,
    (
        _ACTIVITY,
        NAME,
        choice("kind", ("fixed", "per_day")),
        Column("amount", "amount", required=True),
        choice("accrual", ACCRUALS),
        Column("in_budget", "flag", default=True),
        Column("code", "code", "Cost code", default=""),
        *_PAID,
    ),
)
ORDER_LINES = ListOf(
    "lines",
    "Order lines",
    orders.OrderLine,
    (Column("for", "code", attr="of", required=True), Column("amount", "amount", required=True, signed=True)),
)
ORDERS = ListOf(
    "orders",
    "Orders",
    orders.Order,
    (
        CODE,
        Column("supplier", default=""),
        Column("text", "long", default=""),
        Column("date", "date"),
        choice("state", ("open", "closed")),
        Column("lines", "rows", default=(), rows=ORDER_LINES),
    ),
)
RESERVES = ListOf(
    "reserves",
    "Reserves",
    orders.Reserve,
    (CODE, NAME, Column("amount", "amount", required=True), choice("held", ("inside", "outside"))),
)
COST_LINES = ListOf(
    "cost_lines",
    "Baseline costs",
    baselines.CostLine,
    (NAME, Column("amount", "amount", required=True), choice("accrual", ACCRUALS), choice("profile", PROFILES)),
)
BASELINE_ASSIGNMENTS = ListOf(
    "assignments",
    "Baseline assignments",
    baselines.BaselineAssignment,
    (
        Column("resource", "code", "Resource code", required=True, names="resources", also=("resource",)),
        Column("work", "span", on="row", default=0),
        Column("cost", "amount"),
    ),
)
BASELINE_ACTIVITIES = ListOf(
    "activities",
    "Baseline activities",
    baselines.BaselineActivity,
    (
        Column("code", "code", "Activity code", required=True, names="activities", also=("code",)),
        NAME,
        _IN_WBS,
        Column("calendar", "code", default="project"),
        Column("start", "instant", required=True),
        Column("finish", "instant", required=True),
        Column("duration", "span", on="row", default=0),
        Column("work", "span", on="row", default=0),
        _PAUSES,
        _METHOD,
        Column("cost_lines", "rows", default=(), rows=COST_LINES),
        Column("assignments", "rows", default=(), rows=BASELINE_ASSIGNMENTS),
    ),
)
BASELINES = ListOf(
    "baselines",
    "Baselines",
    baselines.Baseline,
    (
        CODE,
        NAME,
        Column("taken", "instant", required=True),
        Column("approved_by", default=""),
        Column("reason", "long", default=""),
        Column("before", "code", "Made from"),
        choice("source", ("plan", "import", "restored")),
        Column("calendar", "code", required=True),
        Column("calendars", "rows", default=(), rows=CALENDARS),
        Column("activities", "rows", default=(), rows=BASELINE_ACTIVITIES),
    ),
)
_CORRECTION = (Column("corrects", word="Corrects page"), Column("reason", "long"))
STATEMENTS = ListOf(
    "statements",
    "Statements",
    Statement,
    (
        _ACTIVITY,
        Column("actual_start", "instant"),
        Column("actual_finish", "instant"),
        Column("percent", "percent", least=ZERO, most=HUNDRED),
        Column("remaining", "span", on="activity"),
        Column("carry_to", "instant", "Carried to"),
        number("units_done", least=ZERO),
        Column("milestones_reached", "texts", default=()),
        Column("note", "long"),
        *_CORRECTION,
        Column("assumed", "texts", default=()),
    ),
)
HOURS = ListOf(
    "hours",
    "Hours",
    HoursEntry,
    (
        _ACTIVITY,
        _RESOURCE,
        Column("worked", "span", on="activity", default=0, signed=True),
        Column("overtime", "span", on="activity", default=0, signed=True),
        Column("to_go", "span", on="activity"),
        *_CORRECTION,
        Column("ref", word="Reference"),
    ),
)
COST_ENTRIES = ListOf(
    "costs",
    "Cost entries",
    CostEntry,
    (
        Column("activity", "code", "Activity code", names="activities", also=("activity",)),
        _IN_WBS,
        Column("date", "date", required=True),
        Column("amount", "amount", required=True, signed=True),
        choice("source", SOURCES, "invoice", required=True),
        Column("ref", word="Reference"),
        *_CORRECTION,
        Column("text", "long"),
        Column("for", "code", attr="of"),
        Column("order", "code", attr="order_code", names="orders"),
    ),
)
PERIODS = ListOf(
    "periods",
    "Pages",
    Period,
    (
        CODE,
        Column("status", "instant", "Status date", required=True),
        choice("state", ("dry", "wet"), "wet"),
        Column("statements", "rows", default=(), rows=STATEMENTS),
        Column("hours", "rows", default=(), rows=HOURS),
        Column("costs", "rows", default=(), rows=COST_ENTRIES),
        Column("note", "long"),
        Column("measured_against", "code", names="baselines"),
    ),
)
RHYTHM = ListOf(
    "rhythm",
    "Rhythm",
    Rhythm,
    (
        choice("every", ("week", "month"), word="Rhythm", required=True),
        number("n", ONE, word="Rhythm every", above=ZERO, most=Decimal(60)),
        Column("on", word="Rhythm on"),
        Column("at", word="Rhythm at"),
    ),
)
LIMITS = ListOf(
    "limits",
    "Limits of checks",
    Limits,
    (
        number("lag", Decimal(10), word="Long lag from days", least=ZERO),
        number("float", Decimal(44), word="Long float from days", least=ZERO),
        number("duration", Decimal(44), word="Long duration from days", least=ZERO),
        number("percent", Decimal(25), word="Percent apart from", least=ZERO, most=HUNDRED),
    ),
)
BUFFERS = ListOf(
    "buffers",
    "Buffers",
    Buffers,
    (
        choice("size", ("root", "half"), word="Buffer size"),
        Column("watch", "scalar", "Buffer watch from", default=Buffers().watch),
        Column("act", "scalar", "Buffer act from", default=Buffers().act),
    ),
)
PROJECT = ListOf(
    "project",
    "Project",
    plan.Project,
    (
        Column("code", "code", required=True),
        NAME,
        Column("currency", "currency", required=True),
        Column("start", "instant", required=True),
        Column("calendar", "code", required=True, names="calendars"),
        Column("imposed_finish", "instant"),
        Column("deadline", "instant"),
        choice("treatment", TREATMENTS),
        Column("critical_float", "span", on="project", default=0),
        Column("measured_against", "code", names="baselines"),
        Column("compared_with", "texts", default=(), names="baselines"),
        choice("eac", EAC_METHODS, word="EAC"),
        Column("client", default=""),
        Column("manager", default=""),
        Column("description", "long", default=""),
        Column("state", default=""),
        Column("benefit", "amount"),
        Column("benefit_basis", "long", "Basis of the benefit", default=""),
        Column("kind", default="", word="Kind of project"),
        Column("fields", "values"),
        Column("rhythm", "object", rows=RHYTHM),
        Column("limits", "object", default=Limits(), rows=LIMITS),
        Column("buffers", "object", default=Buffers(), rows=BUFFERS),
        choice("actuals", FOLLOWS, word="Actuals"),
        _RESPONSIBLE,
    ),
    ("code", "name", "client", "manager", "description", "state"),
)


_REGISTERS = {
    key: ListOf(key, "Own fields" if key == "fields" else key.capitalize(), RECORDS[key], (CODE, NAME, *columns))
    for key, columns in REGISTERS.items()
}
LISTS: dict[str, ListOf] = {
    x.key: x for x in (CALENDARS, RESOURCES, WBS, ACTIVITIES, EXTERNALS, LINKS, ASSIGNMENTS, COSTS, ORDERS, RESERVES, BASELINES, PERIODS)
} | {
    **_REGISTERS,
    "estimates": ESTIMATES,
    "answers": ANSWERS,
    "mark_rules": MARK_RULES,
    "report_layout": REPORT_LAYOUT,
    "progress_lines": PROGRESS_LINES,
    "options": OPTIONS,
    "promises": PROMISES,
}
"""The lists of a book by key, in the order in which it is written."""
