"""How each figure of the catalogue is read from Results, for an activity, a WBS element or the project.

Source: calculation contract, sections 5, 10, 12 and 14. Of a scope dates are the earliest start and the latest finish of
the activities of the plan in it, floats the least of the unfinished, lengths those from first to last on the project's
calendar; nothing inside is None.
"""

from collections.abc import Callable, Iterable, Iterator
from decimal import Decimal

from dryledger.book.baselines import BaselineActivity
from dryledger.book.formulas import names_in, values_of
from dryledger.book.registers import FieldDefinition, fields_of
from dryledger.budget.lines import planned_cost, planned_work
from dryledger.budget.money import amount_of, ratio_of, rounded
from dryledger.compute import Results
from dryledger.errors import UnknownFigure
from dryledger.figure_values import Value, written
from dryledger.figures import FIELD, Figure, figure, figures_of
from dryledger.schedule.schedule import Scheduled
from dryledger.value.measures import NO_STATUS, Measures, Sums
from dryledger.value.under_change import first_approved
from dryledger.value.work import work_done, work_now, work_to_go
from dryledger.words import sentence

__all__ = ["field_values", "read", "reader", "reason"]

Reader = Callable[[str], Value]
ZERO, HUNDRED, MICRO = Decimal(0), Decimal(100), Decimal("1e-6")


def read(r: Results, key: str, scope: str = "project", code: str | None = None) -> Value:
    """One figure of an "activity", a "wbs" element or the "project" (whose code may be left out).

    Raises UnknownFigure where the catalogue has no such key for the scope, KeyError for a code that is not there.
    """
    return reader(r, key, scope)(_there(r, scope, code))


def reader(r: Results, key: str, scope: str) -> Reader:
    """The figure as a function of the code, for reading it for many rows. Raises UnknownFigure."""
    if key.startswith(FIELD):
        return _own_field(r, key[len(FIELD) :], scope)
    try:
        wanted = figure(key)
    except KeyError:
        raise UnknownFigure(key, scope) from None
    if not wanted.means(scope):
        raise UnknownFigure(key, scope)
    return _SOURCES[wanted.source](r, wanted, scope)


def reason(r: Results, key: str, scope: str = "project", code: str | None = None) -> str:
    """Why a figure is None, in words; empty where it has a value.

    Raises as `read` does.
    """
    code = _there(r, scope, code)
    if reader(r, key, scope)(code) is not None:
        return ""
    if not key.startswith(FIELD) and figure(key).source == "measures":
        return _measures(r, scope, code, key).reasons.get(_chosen(r, key), "none by this date")
    if r.status is None and (key == "status_date" or key.startswith("percent_")):
        return NO_STATUS
    if key.startswith("percent_"):
        return "nothing budgeted"
    if key.startswith("original_finish") or (not key.startswith(FIELD) and figure(key).source == "changed"):
        stand = r.under_change.stand(None if scope == "project" else code) if scope != "activity" else None
        found = None if stand is None else stand.reasons.get(key.removesuffix("_bac"))
        return found or sentence("under_change.no_approved_baseline")
    if key.startswith("baseline_") or key.endswith("_difference") or key == "change":
        return (
            "no baseline to measure against" if r.baseline is None else "not in both the plan and the baseline, so nothing to compare with"
        )
    if scope == "activity" and code not in r.book.activity_by_code:
        return "not in the plan any more"
    complete = {"late_start", "late_finish", "total_float", "free_float"}
    if key in complete:
        return "it is complete: nothing limits it any more"
    return "not given"


def _there(r: Results, scope: str, code: str | None) -> str:
    """The code of a row that is there. Raises KeyError."""
    if scope == "project":
        return r.book.project.code
    known = r.valuation.activity_codes if scope == "activity" else r.book.wbs_above
    if code is None or code not in known:
        raise KeyError(code)
    return code


# Of the book


def _of_book(r: Results, f: Figure, scope: str) -> Reader:
    key, book = f.key, r.book
    if scope == "project":
        attribute: Value = getattr(book.project, key)
        return lambda code: attribute
    if scope == "wbs":
        elements = {w.code: w for w in book.wbs}
        name = "parent" if key == "wbs" else key
        return lambda code: getattr(elements[code], name)

    def of_activity(code: str) -> Value:
        a = book.activity_by_code.get(code)
        if a is None:
            gone = r.baseline.by_code[code] if r.baseline else None
            return getattr(gone, key) if key in ("code", "name", "wbs", "calendar") else None
        if key == "constraint":
            return a.constraint.type if a.constraint is not None else None
        if key == "constraint_date":
            return a.constraint.at if a.constraint is not None else None
        if key == "value_method":
            return a.value_method.type
        value: Value = getattr(a, key)
        return value

    return of_activity


def _of_page(r: Results, f: Figure, scope: str) -> Reader:
    return lambda code: r.status


# Of the schedule


def _rows(r: Results, scope: str, code: str) -> list[Scheduled]:
    """The activities of the plan in a scope."""
    rows = r.schedule.activities
    inside: Iterable[str] = rows if scope == "project" else r.valuation.scope(code).activities
    return [rows[c] for c in inside if c in rows]


def _of_schedule(r: Results, f: Figure, scope: str) -> Reader:
    key, rows = f.key, r.schedule.activities
    if scope == "activity":
        return lambda code: getattr(rows.get(code), key, None)
    fold = {"state": _state, "start": _first, "finish": _last, "total_float": _least_float}[key]
    return lambda code: fold(_rows(r, scope, code))


def _of_limits(r: Results, f: Figure, scope: str) -> Reader:
    """The finish against a date that is wished for or imposed."""
    book = r.book
    if scope == "activity":
        return lambda code: _after_deadline(r, code)
    date = book.project.deadline if f.key == "deadline_difference" else book.project.imposed_finish
    return lambda code: None if date is None or not r.schedule.activities else book.axis.between(date, r.schedule.finish)


def _after_deadline(r: Results, code: str) -> int | None:
    a = r.book.activity_by_code.get(code)
    if a is None or a.deadline is None:
        return None
    return r.book.calendar_by_code[a.calendar].axis.between(a.deadline, r.schedule.activities[code].finish)


def _state(rows: list[Scheduled]) -> str | None:
    states = {x.state for x in rows}
    return None if not states else next(iter(states)) if len(states) == 1 else "in_progress"


def _first(rows: list[Scheduled]) -> int | None:
    return min((x.start for x in rows), default=None)


def _last(rows: list[Scheduled]) -> int | None:
    return max((x.finish for x in rows), default=None)


def _least_float(rows: list[Scheduled]) -> int | None:
    return min((x.total_float for x in rows if x.total_float is not None), default=None)


def _of_progress(r: Results, f: Figure, scope: str) -> Reader:
    key, known = f.key, r.progress
    if key == "percent":
        return lambda code: float((known[code].percent * 100).quantize(MICRO)) if code in known else None
    if scope == "activity":
        return lambda code: getattr(known.get(code), key, None)

    def of_scope(code: str) -> int | None:
        inside = [known[x.code] for x in _rows(r, scope, code)]
        if key == "actual_finish":
            ends = [p.actual_finish for p in inside]
            return max((t for t in ends if t is not None), default=None) if None not in ends else None
        return min((p.actual_start for p in inside if p.actual_start is not None), default=None)

    return of_scope


# Lengths and work


def _of_work(r: Results, f: Figure, scope: str) -> Reader:
    key = f.key
    if key == "duration" and scope != "activity":
        return lambda code: r.book.axis.between(_first(rows) or 0, _last(rows) or 0) if (rows := _rows(r, scope, code)) else None
    of = {"duration": _duration, "work": _work, "work_actual": _posted, "work_remaining": _to_go}[key]
    if scope == "activity":
        return lambda code: of(r, code) if code in r.schedule.activities else None
    return lambda code: sum(of(r, x.code) for x in rows) if (rows := _rows(r, scope, code)) else None


def _duration(r: Results, code: str) -> int:
    return r.schedule.activities[code].duration


def _work(r: Results, code: str) -> int:
    return work_now(r.valuation, code)


def _posted(r: Results, code: str) -> int:
    return work_done(r.valuation, code)


def _to_go(r: Results, code: str) -> int:
    return work_to_go(r.valuation, code)


def _of_plan(r: Results, f: Figure, scope: str) -> Reader:
    """The plan's own estimates: duration, labour in minutes, cost."""
    book, rows = r.book, r.schedule.activities

    def of_activity(code: str) -> Value:
        if code not in rows:
            return None
        if f.key == "planned_duration":
            return r.progress[code].planned
        a = book.activity_by_code[code]
        if f.key == "planned_cost":
            return planned_cost(book, a, rows[code])
        return int(rounded(planned_work(book, a, rows[code]), Decimal(1)))

    return of_activity


# Against the baseline


def _of_baseline(r: Results, f: Figure, scope: str) -> Reader:
    name = f.key.removeprefix("baseline_")
    known = r.baseline.by_code if r.baseline else {}
    if scope == "activity":
        return lambda code: getattr(known.get(code), name, None)

    def of_scope(code: str) -> int | None:
        inside = [known[c] for c in r.valuation.scope(None if scope == "project" else code).activities if c in known]
        return _over_baseline(r, name, inside) if inside else None

    return of_scope


def _over_baseline(r: Results, name: str, inside: list[BaselineActivity]) -> int:
    first, last = min(a.start for a in inside), max(a.finish for a in inside)
    if name == "work":
        return sum(a.work for a in inside)
    return {"start": first, "finish": last, "duration": r.book.axis.between(first, last)}[name]


def _of_differences(r: Results, f: Figure, scope: str) -> Reader:
    name = f.key.removesuffix("_difference")
    if name == "finish" and scope == "activity":
        return r.drift_of
    if name == "finish" and scope == "project":
        return lambda code: r.project_drift

    def of_row(code: str) -> Value:
        found = r.differences.get((scope, code))
        value: Value = None if found is None else getattr(found, name)
        return value

    return of_row


# Value

IN_TIME = {f.key for f in figures_of("project", "measures") if not f.means("activity")}
"""The measures of the earned schedule, which a balance line need not wait for."""


def _measures(r: Results, scope: str, code: str, key: str) -> Measures:
    if scope == "project":
        return r.project if key in IN_TIME else r.totals
    return r.wbs[code] if scope == "wbs" else r.activities[code]


def _chosen(r: Results, key: str) -> str:
    """The key of the estimate that the project has chosen in place of "eac"."""
    return f"eac.{r.book.project.eac}" if key == "eac" else key


def _of_measures(r: Results, f: Figure, scope: str) -> Reader:
    head, _, part = _chosen(r, f.key).partition(".")
    if head == "eac":
        return lambda code: _measures(r, scope, code, head).eac[part]
    if part:
        return lambda code: _measures(r, scope, code, head).ac_by_source.get(part)
    if head == "pv" and r.status is None:
        return lambda code: None
    return lambda code: getattr(_measures(r, scope, code, head), head)


def _sums(r: Results, scope: str) -> Callable[[str], Sums]:
    v = r.valuation
    if scope == "project":
        return lambda code: v.total()
    return (lambda code: v.wbs_sums[code]) if scope == "wbs" else (lambda code: v.sums["activity", code])


def _of_sums(r: Results, f: Figure, scope: str) -> Reader:
    sums = _sums(r, scope)
    if f.key == "cost":
        return lambda code: amount_of(sums(code).forecast, r.valuation.unit)
    name = {"percent_planned": "pv", "percent_earned": "ev", "percent_spent": "ac_total"}[f.key]
    if r.status is None and name == "pv":
        return lambda code: None

    def share(code: str) -> float | None:
        s = sums(code)
        return ratio_of(100 * getattr(s, name), s.bac) if s.bac else None

    return share


_SOURCES: dict[str, Callable[[Results, Figure, str], Reader]] = {
    "book": _of_book,
    "page": _of_page,
    "schedule": _of_schedule,
    "limits": _of_limits,
    "progress": _of_progress,
    "work": _of_work,
    "plan": _of_plan,
    "baseline": _of_baseline,
    "differences": _of_differences,
    "measures": _of_measures,
    "sums": _of_sums,
}


# Money that is owed, and the budget under change


def _of_paid(r: Results, f: Figure, scope: str) -> Reader:
    found = r.paid[f.key]

    def of_row(code: str) -> Value:
        inside: Iterable[str] = [code] if scope == "activity" else r.valuation.scope(None if scope == "project" else code).activities
        return amount_of(sum(found.get(c, 0) for c in inside), r.valuation.unit)

    return of_row


def _of_changed(r: Results, f: Figure, scope: str) -> Reader:
    name = f.key.removesuffix("_bac")
    return lambda code: getattr(r.under_change.stand(None if scope == "project" else code), name)


def _of_original(r: Results, f: Figure, scope: str) -> Reader:
    first = first_approved(r.book)
    known = first.by_code if first is not None else {}

    def of_row(code: str) -> Value:
        inside: Iterable[str] = [code] if scope == "activity" else r.valuation.scope(None if scope == "project" else code).activities
        codes = list(known | r.schedule.activities if scope == "project" else inside)
        then = max((known[c].finish for c in codes if c in known), default=None)
        now = max((r.schedule.activities[c].finish for c in codes if c in r.schedule.activities), default=None)
        if f.key == "original_finish" or then is None or now is None:
            return then if f.key == "original_finish" else None
        axis = r.book.calendar_by_code[r.book.activity_by_code[code].calendar].axis if scope == "activity" else r.book.axis
        return axis.between(then, now)

    return of_row


_SOURCES |= {"paid": _of_paid, "changed": _of_changed, "original": _of_original}


# Own fields


def _own_field(r: Results, code: str, scope: str) -> Reader:
    if code not in {d.code for d in fields_of(r.book.fields, scope)}:
        raise UnknownFigure(FIELD + code, scope)
    if scope == "project":
        return lambda _: _comparable_value(r.book.project.fields.get(code))

    def of_activity(row: str) -> Value:
        if row not in r.book.activity_by_code:
            return None
        return _comparable_value(field_values(r, row).get(code))

    return of_activity


def _comparable_value(value: object) -> Value:
    return value if isinstance(value, Decimal | bool | str) and value != "" else None


def field_values(r: Results, code: str, cost: Decimal | None = None) -> dict[str, object]:
    """The values of all own fields of an activity by the field's code; `cost` is its planned cost where that is known.

    Formulas call the figures of the catalogue by their `variable`: durations in days of the activity's calendar, work in
    hours, per cents of 100, instants as text; one that is not there counts as 0, or as an empty text.
    """
    book = r.book
    a = book.activity_by_code[code]
    definitions = fields_of(book.fields, "activity")
    fields = {d.code for d in definitions}
    figures: dict[str, object] = {}
    for f in _called(definitions):
        if f.variable not in fields:
            value = cost if cost is not None and f.key == "planned_cost" else read(r, f.key, "activity", code)
            figures[f.variable] = _in_formula(r, a.calendar, f, value)
    return values_of(definitions, a.fields, figures)


def _called(definitions: Iterable[FieldDefinition]) -> Iterator[Figure]:
    """The figures that some formula among the definitions calls."""
    names = {n for d in definitions if d.kind == "formula" for n in names_in(d.formula or "")}
    return (f for f in figures_of("activity") if f.variable in names) if names else iter(())


def _in_formula(r: Results, calendar: str, f: Figure, value: Value) -> object:
    if f.kind in ("text", "choice", "date", "instant"):
        return written(value, f.kind) or ""
    if value is None or isinstance(value, bool):
        return value or ZERO
    if f.kind == "duration":
        minutes = int(value)
        if "work" in f.key:
            return Decimal(minutes) / 60
        return r.book.calendar_by_code[calendar].days(minutes)
    return value if isinstance(value, Decimal) else Decimal(str(value))
