"""The records of the book format: each reads one JSON object into its dataclass and says what is wrong with it."""

from decimal import Decimal

from dryledger.book.plan import (
    Activity,
    Assignment,
    Baseline,
    BaselineActivity,
    Constraint,
    CostLine,
    DirectCost,
    KeptEstimate,
    Link,
    MilestoneWeight,
    Project,
    Rate,
    Resource,
    ValueMethod,
    WbsElement,
)
from dryledger.book.reader import MISSING, Reader
from dryledger.book.registers import read_values
from dryledger.calendar.calendar import Calendar, CalendarException, Pause

__all__ = [
    "ACCRUALS",
    "CONSTRAINTS",
    "EAC_METHODS",
    "PROFILES",
    "SOURCES",
    "TREATMENTS",
    "VALUE_METHODS",
    "read_activity",
    "read_assignment",
    "read_baseline",
    "read_calendar",
    "read_direct_cost",
    "read_estimate",
    "read_link",
    "read_project",
    "read_resource",
    "read_wbs",
]

WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
TREATMENTS = ("retained", "override", "recorded")
EAC_METHODS = ("bottom_up", "cpi", "budget", "cpi_spi", "recent")
CONSTRAINTS = (
    "start_on_or_after",
    "start_on_or_before",
    "finish_on_or_after",
    "finish_on_or_before",
    "must_start_on",
    "must_finish_on",
    "as_late_as_possible",
)
VALUE_METHODS = (
    "percent",
    "zero_hundred",
    "fifty_fifty",
    "start_share",
    "milestones",
    "units",
    "duration",
    "hours",
    "level_of_effort",
    "apportioned",
)
PROFILES = ("uniform", "front", "back", "bell")
ACCRUALS = ("uniform", "start", "finish")
SOURCES = ("hours", "invoice", "accrual", "feed", "correction")
PERS = ("hour", "started_hour", "day", "week", "month", "use", "unit")
ONE = Decimal(1)
ZERO = Decimal(0)


def read_project(top: Reader, calendars: dict[str, Calendar]) -> Project:
    """The project object."""
    r = top.child("project")
    if r is None:
        if "project" not in {f.path for f in top.faults}:
            top.fault("is required", "project")
        return Project("", "", "", 0, "")
    code = r.text("calendar", required=True)
    out = Project(
        code=r.text("code", required=True),
        name=r.text("name", required=True),
        currency=r.text("currency", required=True),
        start=r.instant("start", required=True) or 0,
        calendar=code,
        imposed_finish=r.instant("imposed_finish"),
        deadline=r.instant("deadline"),
        treatment=r.choice("treatment", TREATMENTS, "retained"),
        critical_float=r.duration("critical_float", calendars.get(code), negative=False) or 0,
        measured_against=r.maybe_text("measured_against"),
        compared_with=r.texts("compared_with"),
        eac=r.choice("eac", EAC_METHODS, "bottom_up"),
        client=r.text("client"),
        manager=r.text("manager"),
        description=r.text("description"),
        state=r.text("state"),
    )
    r.done()
    return out


def read_calendar(r: Reader) -> Calendar:
    """A calendar, with its exceptions."""
    week_reader = r.child("week")
    week: tuple[tuple[tuple[int, int], ...], ...] = ((),) * 7
    if week_reader is None:
        if r.raw("week") is MISSING or r.raw("week") is None:
            r.fault("is required", "week")
    else:
        week = tuple(week_reader.shifts(day) for day in WEEKDAYS)
        week_reader.done()
    exceptions: list[CalendarException] = []
    readers: list[Reader] = []
    for e in r.items("exceptions"):
        start, end = e.date("from", required=True), e.date("to", required=True)
        shifts, name = e.shifts("shifts"), e.text("name")
        e.done()
        if start and end and end < start:
            e.fault("lies before its “from”", "to")
        elif start and end:
            exceptions.append(CalendarException(start, end, shifts, name))
            readers.append(e)
    kept: list[CalendarException] = []
    for x, e in sorted(zip(exceptions, readers, strict=True), key=lambda pair: pair[0].start):
        if kept and x.start <= kept[-1].end:
            e.fault("overlaps another exception of this calendar")
        else:
            kept.append(x)
    exceptions = kept if len(kept) < len(exceptions) else exceptions
    hours = [
        float(r.number(key, Decimal(default), above=ZERO, most=Decimal(most)) or default)
        for key, default, most in (("hours_per_day", 8, 24), ("hours_per_week", 40, 168), ("hours_per_month", 160, 744))
    ]
    out = Calendar(r.text("code", required=True), r.text("name", required=True), week, tuple(exceptions), *hours)
    r.done()
    if week_reader is not None and not any(week) and not any(e.shifts for e in exceptions):
        r.fault("has no working time: give at least one weekday a shift", "week")
    return out


def read_resource(r: Reader, calendar: str) -> Resource:
    """A resource with its rates."""
    rates = []
    for x in r.items("rates"):
        start, amount = x.date("from", required=True), x.amount("amount", required=True)
        per, overtime = x.choice("per", PERS, "hour"), x.amount("overtime")
        x.done()
        if start and amount is not None:
            rates.append(Rate(start, amount, per, overtime))
    out = Resource(
        r.text("code", required=True),
        r.text("name", required=True),
        r.choice("kind", ("labour", "equipment", "material"), "labour"),
        r.number("units", ONE, above=ZERO) or ONE,
        r.text("calendar", calendar) or calendar,
        r.flag("role", False),
        tuple(rates),
        r.texts("skills"),
    )
    r.done()
    return out


def read_wbs(r: Reader) -> WbsElement:
    """A WBS element."""
    out = WbsElement(
        r.text("code", required=True), r.text("name", required=True), r.maybe_text("parent"), _or(r.number("weight", ONE, least=ZERO), ONE)
    )
    r.done()
    return out


def _or(value: Decimal | None, default: Decimal) -> Decimal:
    return default if value is None else value


def _value_method(r: Reader) -> ValueMethod:
    m = r.child("value_method")
    if m is None:
        return ValueMethod()
    kind = m.choice("type", VALUE_METHODS, "percent", required=True)
    share, planned, base = m.number("share", least=ZERO, most=ONE), m.number("planned", above=ZERO), m.maybe_text("base")
    weights = []
    for w in m.items("weights"):
        weights.append(
            MilestoneWeight(
                w.text("name", required=True),
                _or(w.number("weight", required=True, least=ZERO), ZERO),
                _or(w.number("at", required=True, least=ZERO, most=ONE), ZERO),
            )
        )
        w.done()
    m.done()
    for needed, given, key in (
        ("start_share", share, "share"),
        ("units", planned, "planned"),
        ("apportioned", base, "base"),
        ("milestones", weights or None, "weights"),
    ):
        if kind == needed and given is None and not any(f.path == f"{m.path}.{key}" for f in m.faults):
            m.fault(f"is required for the method {needed}", key)
    if kind == "milestones" and weights and not sum(w.weight for w in weights):
        m.fault("must not all weigh 0", "weights")
    return ValueMethod(kind, _or(share, Decimal("0.5")), tuple(weights), _or(planned, ZERO), base)


def _pauses(r: Reader) -> tuple[Pause, ...]:
    out = []
    for p in r.items("pauses"):
        start, end, reason = p.instant("from", required=True), p.instant("to", required=True), p.text("reason")
        p.done()
        if start is not None and end is not None:
            if end <= start:
                p.fault("must lie after its “from”", "to")
            else:
                out.append(Pause(start, end, reason))
    return tuple(out)


def read_activity(r: Reader, calendars: dict[str, Calendar], fallback: Calendar) -> Activity:
    """An activity; absent values settled."""
    calendar = calendars.get(r.text("calendar", fallback.code), fallback)
    code = r.text("calendar", fallback.code)
    kind = r.choice("kind", ("task", "milestone"), "task")
    duration = r.duration("duration", calendar)
    if duration is None:
        duration = 0 if kind == "milestone" else calendar.minutes_per_day
    constraint = None
    c = r.child("constraint")
    if c is not None:
        sort = c.choice("type", CONSTRAINTS, "start_on_or_after", required=True)
        at = c.instant("at", required=sort != "as_late_as_possible")
        c.done()
        constraint = Constraint(sort, at) if at is not None or sort == "as_late_as_possible" else None
    mode, start, finish = r.choice("mode", ("driven", "fixed"), "driven"), r.instant("start"), r.instant("finish")
    if mode == "fixed":
        for key, got in (("start", start), ("finish", finish)):
            if got is None:
                r.fault("is required for a pinned activity", key)
        if start is not None and finish is not None and finish < start:
            r.fault("lies before the start", "finish")
    out = Activity(
        code=r.text("code", required=True),
        name=r.text("name", required=True),
        wbs=r.maybe_text("wbs"),
        calendar=code,
        duration=duration,
        kind=kind,
        mode=mode,
        start=start,
        finish=finish,
        constraint=constraint,
        deadline=r.instant("deadline"),
        pauses=_pauses(r),
        driver=r.choice("driver", ("duration", "work"), "duration"),
        value_method=_value_method(r),
        profile=r.choice("profile", PROFILES, "uniform"),
        safe_duration=r.duration("safe_duration", calendar),
        weight=_or(r.number("weight", ONE, least=ZERO), ONE),
        fields=read_values(r),
    )
    r.done()
    return out


def read_estimate(r: Reader) -> KeptEstimate:
    """A kept estimate. What its shares name may be gone from the plan since."""
    shares = []
    for x in r.items("shares"):
        kind, code, amount = (
            x.choice("kind", ("wbs", "activity"), "wbs", required=True),
            x.text("code", required=True),
            x.amount("amount", required=True),
        )
        x.done()
        shares.append((kind, code, _or(amount, ZERO)))
    out = KeptEstimate(
        r.text("code", required=True),
        r.text("name", required=True),
        r.choice("measure", ("hours", "money"), "hours"),
        _or(r.amount("total", required=True), ZERO),
        r.maybe_text("top"),
        tuple(shares),
    )
    r.done()
    return out


def read_link(r: Reader, calendar: Calendar) -> Link:
    """A link; its lag on the project calendar or the clock."""
    basis = r.choice("lag_basis", ("working", "elapsed"), "working")
    out = Link(
        r.text("from", required=True),
        r.text("to", required=True),
        r.choice("type", ("FS", "SS", "FF", "SF"), "FS"),
        r.duration("lag", calendar, negative=True, elapsed=basis == "elapsed") or 0,
        basis,
    )
    r.done()
    return out


def read_assignment(r: Reader, on: dict[str, Calendar], fallback: Calendar) -> Assignment:
    """An assignment; work on the activity's calendar."""
    activity = r.text("activity", required=True)
    out = Assignment(
        activity,
        r.text("resource", required=True),
        r.number("units", ONE, above=ZERO) or ONE,
        r.duration("work", on.get(activity, fallback)),
        r.number("quantity", least=ZERO),
    )
    r.done()
    return out


def read_direct_cost(r: Reader) -> DirectCost:
    """A direct cost."""
    out = DirectCost(
        r.text("activity", required=True),
        r.text("name", required=True),
        r.choice("kind", ("fixed", "per_day"), "fixed"),
        _or(r.amount("amount", required=True), ZERO),
        r.choice("accrual", ACCRUALS, "uniform"),
        r.flag("in_budget", True),
    )
    r.done()
    return out


def read_baseline(r: Reader) -> Baseline:
    """A baseline with its own calendars."""
    calendars = tuple(read_calendar(c) for c in r.items("calendars"))
    by_code = {c.code: c for c in calendars}
    code = r.text("calendar", required=True)
    fallback = by_code.get(code) or Calendar("", "", ())
    activities = []
    for a in r.items("activities"):
        calendar = a.text("calendar", code)
        on = by_code.get(calendar, fallback)
        lines = []
        for x in a.items("cost_lines"):
            lines.append(
                CostLine(
                    x.text("name", required=True),
                    _or(x.amount("amount", required=True), ZERO),
                    x.choice("accrual", ACCRUALS, "uniform"),
                    x.choice("profile", PROFILES, "uniform"),
                )
            )
            x.done()
        start, finish = a.instant("start", required=True), a.instant("finish", required=True)
        if start is not None and finish is not None and finish < start:
            a.fault("lies before the start", "finish")
        activities.append(
            BaselineActivity(
                a.text("code", required=True),
                a.text("name", required=True),
                a.maybe_text("wbs"),
                calendar,
                start or 0,
                finish or 0,
                a.duration("duration", on) or 0,
                a.duration("work", on) or 0,
                _pauses(a),
                _value_method(a),
                tuple(lines),
            )
        )
        a.done()
    out = Baseline(
        r.text("code", required=True),
        r.text("name", required=True),
        r.instant("taken", required=True) or 0,
        code,
        calendars,
        tuple(activities),
        r.text("approved_by"),
        r.text("reason"),
    )
    r.done()
    return out
