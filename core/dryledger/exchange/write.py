"""Writing a book in the open format: `book_document(book)` is a document that reads back as the same book.

Durations are written in minutes, so that they read the same on any calendar; values that are absent by default are
written all the same. Keys beginning with ``x-`` at the top come out as they came in.
"""

from decimal import Decimal

from dryledger.book.plan import Activity, Baseline, BaselineActivity, Book, KeptEstimate, Link, Period, Project, Resource, ValueMethod
from dryledger.book.registers import REGISTERS, entry_document, value_document
from dryledger.calendar.calendar import Calendar, Pause, Shift, to_text

__all__ = ["baseline_document", "book_document", "estimate_document", "minutes_text"]

Doc = dict[str, object]
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


def minutes_text(minutes: int | None) -> str | None:
    """Minutes as the format writes them.

    >>> minutes_text(-480)
    '-480min'
    """
    return None if minutes is None else f"{minutes}min"


def _instant(t: int | None) -> str | None:
    return None if t is None else to_text(t)


def _number(value: Decimal | None) -> Decimal | int | None:
    return None if value is None else int(value) if value == value.to_integral_value() else value


def _clock(minute: int) -> str:
    return f"{minute // 60:02}:{minute % 60:02}"


def _shifts(shifts: tuple[Shift, ...]) -> list[str]:
    return [f"{_clock(a)}-{_clock(b)}" for a, b in shifts]


def calendar_document(c: Calendar) -> Doc:
    """A calendar."""
    return {
        "code": c.code,
        "name": c.name,
        "week": {day: _shifts(shifts) for day, shifts in zip(WEEKDAYS, c.week, strict=True)},
        "exceptions": [
            {"from": e.start.isoformat(), "to": e.end.isoformat(), "shifts": _shifts(e.shifts), "name": e.name} for e in c.exceptions
        ],
        "hours_per_day": c.hours_per_day,
        "hours_per_week": c.hours_per_week,
        "hours_per_month": c.hours_per_month,
    }


def _pauses(pauses: tuple[Pause, ...]) -> list[Doc]:
    return [{"from": to_text(p.start), "to": to_text(p.end), "reason": p.reason} for p in pauses]


def _method(m: ValueMethod) -> Doc:
    out: Doc = {"type": m.type}
    if m.type == "start_share":
        out["share"] = _number(m.share)
    if m.weights:
        out["weights"] = [{"name": w.name, "weight": _number(w.weight), "at": _number(w.at)} for w in m.weights]
    if m.planned:
        out["planned"] = _number(m.planned)
    return out if m.base is None else out | {"base": m.base}


def _project(p: Project) -> Doc:
    return {
        "code": p.code,
        "name": p.name,
        "currency": p.currency,
        "start": to_text(p.start),
        "calendar": p.calendar,
        "imposed_finish": _instant(p.imposed_finish),
        "deadline": _instant(p.deadline),
        "treatment": p.treatment,
        "critical_float": minutes_text(p.critical_float),
        "measured_against": p.measured_against,
        "compared_with": list(p.compared_with),
        "eac": p.eac,
        "client": p.client,
        "manager": p.manager,
        "description": p.description,
        "state": p.state,
    }


def _resource(r: Resource) -> Doc:
    rates = [
        {
            "from": x.start.isoformat(),
            "amount": f"{x.amount:f}",
            "per": x.per,
            "overtime": None if x.overtime is None else f"{x.overtime:f}",
        }
        for x in r.rates
    ]
    return {
        "code": r.code,
        "name": r.name,
        "kind": r.kind,
        "units": _number(r.units),
        "calendar": r.calendar,
        "role": r.role,
        "rates": rates,
        "skills": list(r.skills),
    }


def _activity(a: Activity) -> Doc:
    c = a.constraint
    out: Doc = {
        "code": a.code,
        "name": a.name,
        "wbs": a.wbs,
        "calendar": a.calendar,
        "duration": minutes_text(a.duration),
        "kind": a.kind,
        "mode": a.mode,
        "constraint": None if c is None else {"type": c.type} | ({} if c.at is None else {"at": to_text(c.at)}),
        "deadline": _instant(a.deadline),
        "pauses": _pauses(a.pauses),
        "driver": a.driver,
        "value_method": _method(a.value_method),
        "profile": a.profile,
        "safe_duration": minutes_text(a.safe_duration),
        "weight": _number(a.weight),
        "fields": {code: value_document(value) for code, value in a.fields.items()},
    }
    return out if a.start is None and a.finish is None else out | {"start": _instant(a.start), "finish": _instant(a.finish)}


def _link(k: Link) -> Doc:
    return {"from": k.source, "to": k.target, "type": k.type, "lag": minutes_text(k.lag), "lag_basis": k.lag_basis}


def baseline_document(b: Baseline) -> Doc:
    """A baseline with its calendars."""
    return {
        "code": b.code,
        "name": b.name,
        "taken": to_text(b.taken),
        "approved_by": b.approved_by,
        "reason": b.reason,
        "calendar": b.calendar,
        "calendars": [calendar_document(c) for c in b.calendars],
        "activities": [_baseline_activity(a) for a in b.activities],
    }


def _baseline_activity(a: BaselineActivity) -> Doc:
    return {
        "code": a.code,
        "name": a.name,
        "wbs": a.wbs,
        "calendar": a.calendar,
        "start": to_text(a.start),
        "finish": to_text(a.finish),
        "duration": minutes_text(a.duration),
        "work": minutes_text(a.work),
        "pauses": _pauses(a.pauses),
        "value_method": _method(a.value_method),
        "cost_lines": [{"name": x.name, "amount": f"{x.amount:f}", "accrual": x.accrual, "profile": x.profile} for x in a.cost_lines],
    }


def estimate_document(e: KeptEstimate) -> Doc:
    """A kept estimate."""
    return {
        "code": e.code,
        "name": e.name,
        "measure": e.measure,
        "total": f"{e.total:f}",
        "top": e.top,
        "shares": [{"kind": kind, "code": code, "amount": f"{amount:f}"} for kind, code, amount in e.shares],
    }


def _period(p: Period) -> Doc:
    statements = [
        {
            "activity": s.activity,
            "actual_start": _instant(s.actual_start),
            "actual_finish": _instant(s.actual_finish),
            "percent": None if s.percent is None else _number(s.percent * 100),
            "remaining": minutes_text(s.remaining),
            "carry_to": _instant(s.carry_to),
            "units_done": _number(s.units_done),
            "milestones_reached": list(s.milestones_reached),
            "note": s.note,
        }
        for s in p.statements
    ]
    hours = [
        {
            "activity": h.activity,
            "resource": h.resource,
            "worked": minutes_text(h.worked),
            "overtime": minutes_text(h.overtime),
            "to_go": minutes_text(h.to_go),
        }
        for h in p.hours
    ]
    costs = [
        {
            "activity": c.activity,
            "wbs": c.wbs,
            "date": c.date.isoformat(),
            "amount": f"{c.amount:f}",
            "source": c.source,
            "ref": c.ref,
        }
        for c in p.costs
    ]
    return {"code": p.code, "status": to_text(p.status), "state": p.state, "statements": statements, "hours": hours, "costs": costs}


def book_document(book: Book) -> Doc:
    """The whole book; `dryledger.exchange.book_json.book_from` reads it back as the same."""
    assignments = [
        {
            "activity": a.activity,
            "resource": a.resource,
            "units": _number(a.units),
            "work": minutes_text(a.work),
            "quantity": _number(a.quantity),
        }
        for a in book.assignments
    ]
    costs = [
        {
            "activity": c.activity,
            "name": c.name,
            "kind": c.kind,
            "amount": f"{c.amount:f}",
            "accrual": c.accrual,
            "in_budget": c.in_budget,
        }
        for c in book.costs
    ]
    return {
        "format": "dry-ledger-book",
        "version": 1,
        "project": _project(book.project),
        "calendars": [calendar_document(c) for c in book.calendars],
        "resources": [_resource(r) for r in book.resources],
        "wbs": [{"code": w.code, "name": w.name, "parent": w.parent, "weight": _number(w.weight)} for w in book.wbs],
        "activities": [_activity(a) for a in book.activities],
        "links": [_link(k) for k in book.links],
        "assignments": assignments,
        "costs": costs,
        "baselines": [baseline_document(b) for b in book.baselines],
        "periods": [_period(p) for p in book.periods],
        **{key: [entry_document(x, columns) for x in getattr(book, key)] for key, columns in REGISTERS.items()},
        "estimates": [estimate_document(e) for e in book.estimates],
        **book.extra,
    }
