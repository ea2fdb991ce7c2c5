"""How far the present lies from a baseline: now − baseline, for activities, WBS elements and the project.

Source: calculation contract, section 12. Dates count in working minutes on the activity's calendar, its pauses taken as
working time, so that a pause that delays shows (rolled up: on the project's); positive is later or more.
"""

from collections.abc import Iterable

from dryledger.baseline.snapshot import Difference
from dryledger.book.baselines import BaselineActivity
from dryledger.budget.money import amount_of
from dryledger.calendar.axis import Axis
from dryledger.schedule.schedule import Scheduled
from dryledger.value.measures import Sums
from dryledger.value.valuation import Valuation
from dryledger.value.work import work_now

__all__ = ["activity_differences", "finish_drift", "finish_drift_of", "finish_drifts", "rolled_up"]


def _calendar_axis(v: Valuation, code: str) -> Axis:
    """The axis that date differences of an activity count on: its calendar's."""
    return v.book.calendar_by_code[v.book.activity_by_code[code].calendar].axis


def finish_drifts(v: Valuation) -> dict[str, int]:
    """Working minutes from baseline finish to present finish of each activity that both have."""
    if v.baseline is None:
        return {}
    rows, base = v.schedule.activities, v.baseline.by_code
    return {code: _calendar_axis(v, code).between(base[code].finish, row.finish) for code, row in rows.items() if code in base}


def finish_drift_of(v: Valuation, code: str) -> int | None:
    """Working minutes from baseline finish to present finish of one activity; None where a side lacks it."""
    base, row = v.baseline.by_code.get(code) if v.baseline else None, v.schedule.activities.get(code)
    return None if base is None or row is None else _calendar_axis(v, code).between(base.finish, row.finish)


def finish_drift(v: Valuation) -> int | None:
    """Working minutes of the project calendar from the baseline's latest finish to the present one."""
    if v.baseline is None or not v.baseline.activities or not v.schedule.activities:
        return None
    then = max(a.finish for a in v.baseline.activities)
    return v.book.axis.between(then, max(x.finish for x in v.schedule.activities.values()))


def activity_differences(v: Valuation) -> list[Difference]:
    """One row for each activity of the plan or of the baseline; none without a baseline."""
    if v.baseline is None:
        return []
    out = []
    drifts = finish_drifts(v)
    for code in v.codes:
        row, base = v.schedule.activities.get(code), v.baseline.by_code.get(code)
        sums = v.sums["activity", code]
        cost = amount_of(sums.forecast - sums.bac, v.unit)
        if row is None and base is not None:
            out.append(Difference(code, None, None, -base.duration, -base.work, cost, "removed"))
            continue
        assert row is not None
        work = work_now(v, code)
        if base is None:
            out.append(Difference(code, None, None, row.duration, work, cost, "added"))
            continue
        axis = _calendar_axis(v, code)
        out.append(
            Difference(
                code,
                axis.between(base.start, row.start),
                drifts[code],
                row.duration - base.duration,
                work - base.work,
                cost,
            )
        )
    return out


def rolled_up(v: Valuation, code: str, scope_codes: Iterable[str], sums: Sums, rows: dict[str, Difference]) -> Difference:
    """The difference of a WBS element or the project from those of its activities; dates on the project calendar."""
    assert v.baseline is not None
    codes = list(scope_codes)
    now = [v.schedule.activities[c] for c in codes if c in v.schedule.activities]
    then = [v.baseline.by_code[c] for c in codes if c in v.baseline.by_code]
    axis = v.book.axis
    start, finish = (
        (axis.between(_span(then)[0], _span(now)[0]), axis.between(_span(then)[1], _span(now)[1])) if now and then else (None, None)
    )
    change = "both" if now and then else "added" if now else "removed"
    duration = (axis.between(*_span(now)) if now else 0) - (axis.between(*_span(then)) if then else 0)
    return Difference(code, start, finish, duration, sum(rows[c].work for c in codes), amount_of(sums.forecast - sums.bac, v.unit), change)


def _span(rows: "list[Scheduled] | list[BaselineActivity]") -> tuple[int, int]:
    return min(r.start for r in rows), max(r.finish for r in rows)
