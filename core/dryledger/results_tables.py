"""Marks, statistics, progress lines and tables by time as the plain JSON of the results format.

Instants are texts, durations minutes, money of tables in rounded cells.
"""

from collections.abc import Iterable, Sequence
from decimal import Decimal

from dryledger.budget.load import loads
from dryledger.budget.time_phased import Phased
from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import Results
from dryledger.errors import TooManyPoints
from dryledger.exchange.write import shortest_number
from dryledger.figure_values import Value, written
from dryledger.marks.marks import Mark, figures_in, marks
from dryledger.timeline.progress_line import progress_lines
from dryledger.value.statistics import COLUMNS, ROWS, Statistics
from dryledger.value.statistics import statistics as statistics_of
from dryledger.value.sums import Scope
from dryledger.value.work_by_time import Amounts, work_by_time

__all__ = [
    "budget_document",
    "lines_document",
    "marks_document",
    "selection_statistics",
    "statistics_document",
    "work_document",
]

Doc = dict[str, object]


def marks_document(r: Results) -> Doc:
    """The mark of every row with its rule, its reason as the rule has it and the figures named in it, and what each rule catches."""
    found = marks(r)

    def row(code: str, mark: Mark) -> Doc:
        rule = mark.rule
        named = {} if rule is None else {key: _figure(value, kind) for key, kind, value in figures_in(r, rule, code)}
        reason = None if rule is None else rule.reason or None
        return {"code": code, "mark": mark.mark, "rule": None if rule is None else rule.code, "reason": reason, "figures": named}

    return {
        "activities": [row(code, mark) for code, mark in found.activities.items()],
        "wbs": [row(code, mark) for code, mark in found.wbs.items()],
        "project": row(r.book.project.code, found.project),
        "rules": [{"code": code, "catches": count} for code, count in found.catches.items()],
    }


def _figure(value: Value, kind: str) -> object:
    """A figure as Results print it: minutes, ratios and per cents as numbers, flags as such, all else as text."""
    return value if kind in ("duration", "ratio", "percent", "flag") and not isinstance(value, Decimal) else written(value, kind)


def statistics_document(r: Results) -> Doc:
    """The statistics of the project and of each WBS element."""
    v = r.valuation
    elements = [{"code": w.code} | _statistics(statistics_of(v, v.scope(w.code))) for w in r.book.wbs]
    return {"project": _statistics(statistics_of(v)), "wbs": elements}


def selection_statistics(r: Results, scope: Scope) -> Doc:
    """The statistics of a selection."""
    return _statistics(statistics_of(r.valuation, scope))


def _statistics(s: Statistics) -> Doc:
    out: Doc = {}
    for name in ROWS:
        row = getattr(s, name)
        kind = "instant" if name in ("start", "finish") else "money" if name == "cost" else "duration"
        out[name] = {c: _cell(getattr(row, c), "duration" if kind == "instant" and c == "variance" else kind) for c in COLUMNS}
    return out | {"reasons": s.reasons}


def _cell(value: int | Decimal | None, kind: str) -> object:
    if value is None or kind == "duration":
        return value
    return to_text(int(value)) if kind == "instant" else f"{value:f}"


def lines_document(r: Results, dates: Sequence[Instant], against: str) -> Doc:
    """Progress lines at some instants; none is drawn without a status date."""
    lines = progress_lines(r, dates, against)
    return {
        "against": against,
        "lines": [
            {"date": to_text(x.at), "page": x.page, "points": [{"code": p.code, "at": to_text(p.at)} for p in x.points]} for x in lines
        ],
    }


def budget_document(r: Results, bucket: str) -> Doc:
    """Budget, actual and remaining cost by time."""
    try:
        b = r.phased(bucket)
    except TooManyPoints as error:
        return {"bucket": bucket, "ends": [], "reason": str(error)}
    parts = {"budget": b.budget, "actual": b.actual, "remaining": b.remaining}
    return {"bucket": bucket, "ends": [to_text(e) for e in b.ends], "of": b.of} | {name: _phased(x) for name, x in parts.items()}


def load_document(r: Results, bucket: str) -> Doc:
    """What is booked of each resource, what is available, and what is booked beyond it, by time; in unit-minutes."""
    try:
        ends, found = loads(r.at, r.schedule, bucket)
    except TooManyPoints as error:
        return {"bucket": bucket, "ends": [], "rows": [], "reason": str(error)}
    parts = ("booked", "available", "over")
    rows = [{"resource": x.resource} | {part: [shortest_number(n) for n in getattr(x, part)] for part in parts} for x in found]
    return {"bucket": bucket, "ends": [to_text(e) for e in ends], "rows": rows}


def _phased(x: Phased) -> Doc:
    return {
        "rows": [{kind: code, "cells": _amounts(cells), "total": _total(cells)} for (kind, code), cells in x.rows.items()],
        "wbs": [{"code": code, "cells": _amounts(cells), "total": _total(cells)} for code, cells in x.wbs.items()],
        "cells": _amounts(x.cells),
        "total": _total(x.cells),
        "cumulative": _amounts(x.cumulative),
    }


def _amounts(cells: Iterable[Decimal]) -> list[str]:
    return [f"{c:f}" for c in cells]


def _total(cells: Sequence[Decimal]) -> str:
    return f"{sum(cells[1:], cells[0]):f}" if cells else "0"


def work_document(r: Results, bucket: str) -> Doc:
    """Planned, worked and remaining hours and cost of every assignment by time."""
    try:
        w = work_by_time(r.valuation, bucket)
    except TooManyPoints as error:
        return {"bucket": bucket, "ends": [], "rows": [], "reason": str(error)}
    rows = [
        {
            "activity": x.activity,
            "resource": x.resource,
            "planned": _work(x.planned),
            "worked": _work(x.worked),
            "remaining": _work(x.remaining),
            "reasons": x.reasons,
        }
        for x in w.rows
    ]
    return {"bucket": bucket, "ends": [to_text(e) for e in w.ends], "rows": rows}


def _work(x: Amounts | None) -> Doc | None:
    if x is None:
        return None
    cost = None if x.cost is None else _amounts(x.cost)
    total = None if x.total_cost is None else f"{x.total_cost:f}"
    return {"minutes": x.minutes, "total_minutes": x.total_minutes, "cost": cost, "total_cost": total}
