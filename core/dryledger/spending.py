"""Spending against the budget by time: for each activity and element, resource, kind of cost or value of an own field what was budgeted,
spent and is forecast in each bucket, the difference and its running sum.

Source: calculation contract, sections 16 and 22. Forecast = actual + remaining; difference = budget − forecast, so that the last running
difference is BAC − EAC bottom up. Cells are sums of rounded figures, so that all of it foots both ways.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from itertools import accumulate

from dryledger.book.outline import levels
from dryledger.budget.money import amount_of
from dryledger.budget.time_phased import Owned, Phased, budgeted, cells_of, left_to_spend, spent
from dryledger.by_value import value_of_field
from dryledger.calendar.calendar import Instant, midnight
from dryledger.compute import Results
from dryledger.figures import FIELD
from dryledger.value.sums import Scope
from dryledger.words import sentence

__all__ = ["KINDS_OF_COST", "Spending", "SpendingRow", "by_kind", "spending"]

CURVE = ("budget", "actual", "forecast")
KINDS_OF_COST = ("labour", "equipment", "material", "direct")


@dataclass(frozen=True)
class SpendingRow:
    """One row: `kind` is "wbs", "activity", "resource", "kind", "value" or "project"; `sums` whether it only sums others."""

    kind: str
    code: str
    name: str
    level: int
    sums: bool
    budget: list[Decimal]
    actual: list[Decimal]
    remaining: list[Decimal]

    @property
    def forecast(self) -> list[Decimal]:
        """What was spent, and what still falls due."""
        return [a + b for a, b in zip(self.actual, self.remaining, strict=True)]

    @property
    def difference(self) -> list[Decimal]:
        """Budget − forecast: below 0 is overspent."""
        return [a - b for a, b in zip(self.budget, self.forecast, strict=True)]

    @property
    def running(self) -> list[Decimal]:
        """The running sum of the difference."""
        return list(accumulate(self.difference))

    @property
    def cumulative(self) -> dict[str, list[Decimal]]:
        """The running sums of budget, actual and forecast: the curve."""
        return {key: list(accumulate(getattr(self, key))) for key in CURVE}

    def whole(self, series: str) -> Decimal:
        """All of a series: its sum, of the running difference its last."""
        cells: list[Decimal] = getattr(self, series)
        return (cells[-1] if cells else Decimal(0)) if series == "running" else sum(cells, Decimal(0))


@dataclass(frozen=True)
class Spending:
    """Rows under the ends of buckets, and their total; `of` says whose budget: the "baseline"'s or the "present" plan's."""

    bucket: str
    ends: list[Instant]
    of: str
    rows: list[SpendingRow]
    total: SpendingRow


PARTS = ("budget", "actual", "remaining")
FAR = midnight(date(9999, 1, 1))
"""After everything."""


def spending(r: Results, bucket: str = "month", by: str = "wbs") -> Spending:
    """Budget, actual and forecast cost by time. `by` is "wbs" (activities under their elements), "resource", "kind", or "field:"
    and the code of an own field of activities. Raises KeyError for another, TooManyPoints.
    """
    of, _ = r.budget_baseline
    if by == "wbs":
        p = r.phased(bucket)
        rows, ends = _breakdown(r, [p.budget, p.actual, p.remaining], len(p.ends)), p.ends
        leaves = [x for x in rows if not x.sums]
    else:
        ends = r.ends_by_time(bucket)
        rows = leaves = _gathered(r, by, ends)
    project = r.book.project
    return Spending(bucket, ends, of, rows, SpendingRow("project", project.code, project.name, 0, True, *_sums(r, leaves, len(ends))))


def by_kind(r: Results, activities: Iterable[str], wbs: Iterable[str] = ()) -> list[SpendingRow]:
    """A selection of activities and whole elements split by kind of cost in one bucket, its sum last: BAC, AC, EAC bottom up.

    The budget is that of the measured baseline, without one that of the plan without progress.
    """
    rows = _gathered(r, "kind", [FAR], r.valuation.selection(activities, wbs))
    return [*rows, SpendingRow("project", "", sentence("spending.all"), 0, True, *_sums(r, rows, 1))]


def _sums(r: Results, rows: list[SpendingRow], count: int) -> list[list[Decimal]]:
    """The sums of rows in each of so many buckets: budget, actual, remaining."""
    none = amount_of(0, r.valuation.unit)
    return [[sum(c, none) for c in zip(*(getattr(x, part) for x in rows), strict=True)] or [none] * count for part in PARTS]


def _breakdown(r: Results, parts: list[Phased], count: int) -> list[SpendingRow]:
    """Every element with its sum and what is entered on it, its activities below it; last what is outside the breakdown."""
    none = [amount_of(0, r.valuation.unit)] * count

    def row(kind: str, code: str, name: str, level: int, sums: bool = False) -> list[SpendingRow]:
        cells = [p.wbs.get(code) if sums else p.rows.get((kind, code)) for p in parts]
        return [SpendingRow(kind, code, name, level, sums, *(c or none for c in cells))] if any(cells) else []

    inside: dict[str | None, list[str]] = {}
    for code in r.valuation.codes:
        inside.setdefault(r.valuation.wbs_of(code), []).append(code)
    base = r.baseline.by_code if r.baseline is not None else {}
    names = {code: a.name for code, a in base.items()} | {a.code: a.name for a in r.book.activities}
    out: list[SpendingRow] = []
    for h in levels(r.book):
        out += row("wbs", h.code, h.name, h.level, sums=True)
        out += row("wbs", h.code, sentence("spending.entered_on", code=h.code), h.level + 1)
        for code in inside.get(h.code, ()):
            out += row("activity", code, names[code], h.level + 1)
    for code in inside.get(None, ()):
        out += row("activity", code, names[code], 0)
    return out


def _gathered(r: Results, by: str, ends: list[Instant], scope: Scope | None = None) -> list[SpendingRow]:
    """The amounts of a scope (absent: the project) gathered into rows."""
    v, none = r.valuation, [amount_of(0, r.valuation.unit)] * len(ends)
    key, order = _rows_by(r, by)
    streams = (budgeted(v, r.budget_baseline[1]), spent(v), left_to_spend(v))
    inside = (stream if scope is None else (x for x in stream if scope.holds(x.target)) for stream in streams)
    parts = [cells_of(v, found, key, ends, of) for found, of in zip(inside, PARTS, strict=True)]
    there = {k for cells in parts for k in cells}
    names = order | {k: k for k in sorted(there - order.keys())}
    kind = "value" if by.startswith(FIELD) else by
    return [SpendingRow(kind, k, name, 0, False, *(cells.get(k, none) for cells in parts)) for k, name in names.items() if k in there]


def _rows_by(r: Results, by: str) -> tuple[Callable[[Owned], str], dict[str, str]]:
    """The row of an amount, and the rows in their order with their names."""
    direct = sentence("spending.direct")
    if by == "resource":
        return (lambda x: x.resource), {x.code: x.name for x in r.book.resources} | {"": direct}
    if by == "kind":
        kinds = {x.code: x.kind for x in r.book.resources} | {"": "direct"}
        return (lambda x: kinds.get(x.resource, "labour")), {k: sentence(f"spending.{k}") for k in KINDS_OF_COST}
    if not by.startswith(FIELD):
        raise KeyError(by)
    known = value_of_field(r, by.removeprefix(FIELD))
    values = {x: x for x in sorted(set(known.values()) - {""})}
    return (lambda x: known.get(x.target[1], "") if x.target[0] == "activity" else ""), values | {"": sentence("spending.no_value")}
