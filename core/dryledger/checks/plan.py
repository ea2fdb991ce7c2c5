"""The checks on the plan itself: its network, dates, durations, assignments and costs. `checks` says why they matter.

Source: calculation contract, section 18. Each rule gives the codes of the rows that it catches; finished work is left
in peace.
"""

from collections import Counter

from dryledger.book.answers import Limits
from dryledger.budget.booking import over_allocated
from dryledger.compute import Results
from dryledger.figure_values import whole
from dryledger.readings import reader

__all__ = ["overbooked", "plan_rules"]

BY_SHARE = ("percent", "units", "duration", "hours")
HARD = ("must_start_on", "must_finish_on", "start_on_or_before", "finish_on_or_before")


def plan_rules(r: Results, limits: Limits) -> dict[str, set[str]]:
    """The activities caught, by the code of the check."""
    return _network(r, limits) | _times(r, limits) | _kinds(r) | _safety(r) | _priced(r)


def _safety(r: Results) -> dict[str, set[str]]:
    """Of a plan that is kept by buffers, the open work whose safe duration is missing or too short."""
    rows = [a for a in r.book.activities if r.progress[a.code].state != "complete" and r.progress[a.code].planned]
    kept = any(a.safe_duration is not None for a in r.book.activities)
    return {
        "no_safe_duration": {a.code for a in rows if a.safe_duration is None} if kept else set(),
        "safe_below_even": {a.code for a in rows if a.safe_duration is not None and a.safe_duration < r.progress[a.code].planned},
    }


def _day(r: Results) -> int:
    return r.book.project_calendar.minutes_per_day


def _open(r: Results) -> list[str]:
    return [code for code, row in r.schedule.activities.items() if row.state != "complete"]


def _network(r: Results, limits: Limits) -> dict[str, set[str]]:
    # What sets its start, and what its finish sets: other links leave that end open.
    before = {k.target for k in r.book.links if k.type[1] == "S"}
    after = {k.source for k in r.book.links if k.type[0] == "F"}
    rows, long = r.schedule.activities, limits.lag * _day(r)
    still = [k for k in r.book.links if rows[k.target].state != "complete"]
    first, last = min((x.start for x in rows.values()), default=0), max((x.finish for x in rows.values()), default=0)
    return {
        "no_predecessor": {c for c in _open(r) if c not in before and rows[c].state == "not_started" and rows[c].start > first},
        "no_successor": {c for c in _open(r) if c not in after and rows[c].finish < last},
        "lead": {k.target for k in still if k.lag < 0},
        "long_lag": {k.target for k in still if k.lag > (long if k.lag_basis == "working" else limits.lag * 1440)},
    }


def _times(r: Results, limits: Limits) -> dict[str, set[str]]:
    day = _day(r)
    slack, length = ({c: whole(of(c)) or 0 for c in _open(r)} for of in (reader(r, k, "activity") for k in ("total_float", "duration")))
    held = {a.code for a in r.book.activities if a.constraint is not None and a.constraint.type in HARD}
    return {
        "hard_date": held & set(_open(r)),
        "long_float": {c for c in _open(r) if slack[c] > limits.float * day},
        "long_duration": {c for c in _open(r) if length[c] > limits.duration * day},
        "negative_float": {c for c in _open(r) if slack[c] < 0},
    }


def _kinds(r: Results) -> dict[str, set[str]]:
    milestone, empty, alone = set(), set(), set()
    for a in r.book.activities:
        row = r.schedule.activities[a.code]
        if row.state == "complete":
            continue
        if a.kind == "milestone":
            if row.duration:
                milestone.add(a.code)
            continue
        if row.state == "not_started" and not row.duration:
            empty.add(a.code)
        if a.code not in r.book.assignments_of and a.code not in r.book.costs_of:
            alone.add(a.code)
    costs = Counter((c.activity, c.name, c.kind, c.amount) for c in r.book.costs)
    return {
        "milestone_with_duration": milestone,
        "task_without_duration": empty,
        "unassigned": alone,
        "cost_twice": {code for (code, *_), n in costs.items() if n > 1},
    }


def _priced(r: Results) -> dict[str, set[str]]:
    """Lumps under a method that earns by share, and resources at work whose rates can't be meant."""
    book, still = r.book, set(_open(r))
    lumps = {c.activity for c in book.costs if c.in_budget and c.amount and c.accrual != "uniform"}
    by_share = {a.code for a in book.activities if a.value_method.type in BY_SHARE}
    used = {a.resource for a in book.assignments if a.activity in still}
    rates = {x.code: (x.kind, [k for k in x.rates if k.amount]) for x in book.resources if x.code in used}
    return {
        "lump_by_share": lumps & by_share & still,
        "no_rate": {code for code, (_, known) in rates.items() if not known},
        "material_by_time": {
            code for code, (kind, known) in rates.items() if kind == "material" and any(k.per not in ("unit", "use") for k in known)
        },
    }


def overbooked(r: Results) -> set[str]:
    """The resources of which unfinished work books more than there is, at any minute."""
    return {x.resource for x in over_allocated(r.book, r.schedule, r.at.to_go)}
