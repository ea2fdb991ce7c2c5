"""Time-phased tables: work packages by days, weeks or months, in rounded cells that add up exactly.

Source: calculation contract, sections 6, 7 and 16. A cell is what is due by its end less what is due by the end before, both rounded
line by line, so rows, columns and running totals foot.
"""

from collections.abc import Callable, Hashable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal, localcontext
from functools import partial
from itertools import accumulate
from typing import NamedTuple, Protocol, TypeVar

from dryledger.book.baselines import Baseline
from dryledger.book.plan import Book
from dryledger.budget.actual import ActualItem, Target, actual_pieces
from dryledger.budget.lines import priced_lines
from dryledger.budget.money import CONTEXT, amount_of
from dryledger.budget.planned import PlannedValue
from dryledger.budget.remaining import Left
from dryledger.budget.spread import Piece, cumulative
from dryledger.calendar.buckets import bucket_ends
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf
from dryledger.schedule.schedule import Schedule

__all__ = [
    *("KINDS", "Owned", "Phased", "Table", "budgeted", "cells_by_time", "cells_of", "kinds_of_cost", "left_to_spend"),
    *("phased_actual", "phased_budget", "phased_remaining", "spent", "table"),
]


class Amounts(Protocol):
    """What the tables are made from: the amounts of a book at a page, as its valuation holds them."""

    book: Book
    at: AsOf
    schedule: Schedule
    planned: PlannedValue | None
    unit: Decimal

    @property
    def codes(self) -> list[str]:
        """The activities of plan and baseline."""

    @property
    def actuals(self) -> list[ActualItem]:
        """Every actual cost that the pages know."""

    @property
    def reckoned(self) -> list[tuple[Target, str, Piece]]:
        """The cost that follows progress."""

    @property
    def remains(self) -> Mapping[str, list[Left]]:
        """What is left of each activity that has anything left."""

    def wbs_of(self, code: str) -> str | None:
        """The WBS element of an activity."""


KINDS = ("plan", "outside")


@dataclass(frozen=True)
class Table:
    """Rows of cells under bucket ends. Activities outside the breakdown share the row None.

    `totals` are the row totals, `columns` the column totals, `running` their running sum; all in minor units.
    """

    kind: str
    ends: list[Instant]
    rows: dict[str | None, list[Decimal]]
    totals: dict[str | None, Decimal]
    columns: list[Decimal]
    running: list[Decimal]


def table(v: Amounts, kind: str, bucket: str = "month") -> Table:
    """The budget of the plan as it stands ("plan"), or its costs that are out of budget ("outside"), by time.

    A row is a work package: a WBS element with activities of its own. `bucket` is day, week or month. Raises KeyError for
    another kind.
    """
    pieces: dict[str, Callable[[Amounts], dict[str | None, list[Piece]]]] = {
        "plan": partial(_planned_now, in_budget=True),
        "outside": partial(_planned_now, in_budget=False),
    }
    with localcontext(CONTEXT):
        found = {w: p for w, p in pieces[kind](v).items() if p}
        order = [None, *(w.code for w in v.book.wbs)]
        known = {w: found[w] for w in order if w in found}
        if not known:
            return Table(kind, [], {}, {}, [], [])
        ends = bucket_ends(bucket, min(p[0] for x in known.values() for p in x), max(p[1] for x in known.values() for p in x))
        rows: dict[str | None, list[Decimal]] = {}
        for w, parts in known.items():
            rows[w] = _money(v, cells_by_time(ends, parts))
        columns = [sum(column, v.unit - v.unit) for column in zip(*rows.values(), strict=True)]
        totals = {w: sum(cells, v.unit - v.unit) for w, cells in rows.items()}
        return Table(kind, ends, rows, totals, columns, list(accumulate(columns)))


def _planned_now(v: Amounts, in_budget: bool) -> dict[str | None, list[Piece]]:
    """What each activity is to cost as planned now, each line by its accrual and profile over the shown dates."""
    out: dict[str | None, list[Piece]] = {}
    for a in v.book.activities:
        row, axis = v.schedule.activities[a.code], v.book.axes[a.code]
        for x in priced_lines(v.book, a, row):
            if x.in_budget is in_budget and x.amount:
                at = {"start": (row.start, row.start), "finish": (row.finish, row.finish)}.get(x.accrual, (row.start, row.finish))
                out.setdefault(v.wbs_of(a.code), []).append(Piece(*at, x.amount, (axis, x.profile, -1, 0)))
    return out


def kinds_of_cost(v: Amounts, codes: Iterable[str]) -> dict[str, Decimal]:
    """The planned cost of activities by kind: labour, equipment, material, direct, and "outside" what is out of budget."""
    out = dict.fromkeys(("labour", "equipment", "material", "direct", "outside"), v.unit - v.unit)
    with localcontext(CONTEXT):
        for code in codes:
            for x in priced_lines(v.book, v.book.activity_by_code[code], v.schedule.activities[code]):
                out[x.kind if x.in_budget else "outside"] += amount_of(x.amount, v.unit)
    return out


@dataclass(frozen=True)
class Phased:
    """Rows of activities and of elements with something entered on them, the elements above with the sums of their cells."""

    rows: dict[Target, list[Decimal]]
    wbs: dict[str, list[Decimal]]
    cells: list[Decimal]

    @property
    def cumulative(self) -> list[Decimal]:
        """The running sum of the column totals."""
        return list(accumulate(self.cells))


class Owned(NamedTuple):
    """An amount over time: where it counts, and the resource that it is of; "" for a direct cost."""

    target: Target
    resource: str
    piece: Piece


def budgeted(v: Amounts, baseline: Baseline) -> Iterator[Owned]:
    """The cost lines of a baseline, each by its accrual and profile over working time, whatever its EV method."""
    planned = v.planned if v.planned is not None and v.planned.baseline is baseline else PlannedValue(baseline, v.unit)
    names = {x.code: x.name for x in v.book.resources}
    for a in baseline.activities:
        assigned = {names.get(x.resource, x.resource): x.resource for x in a.assignments}
        for line, piece in planned.lines(a.code) if a.cost_lines else ():
            yield Owned(("activity", a.code), assigned.get(line.name, ""), piece)


def spent(v: Amounts) -> Iterator[Owned]:
    """Actual cost as the page knows it, by its date: what was entered, then what follows progress."""
    materials = {a.code: a.resource for a in v.book.assignments}
    found: dict[tuple[Target, str], list[ActualItem]] = {}
    for x in v.actuals if v.at.status is not None else ():
        resource = x.hours.resource if x.hours is not None else materials.get(x.of or "", "")
        found.setdefault((x.target, resource), []).append(x)
    for (target, resource), items in found.items():
        for piece in actual_pieces(items):
            yield Owned(target, resource, piece)
    at_work = {(a.activity, a.resource) for a in v.book.assignments}
    for target, key, piece in v.reckoned:
        yield Owned(target, key if (target[1], key) in at_work else materials.get(key, ""), piece)


def left_to_spend(v: Amounts) -> Iterator[Owned]:
    """The remaining cost of the forecast by the time at which it falls due."""
    materials = {a.code: a.resource for a in v.book.assignments}
    for code, left in v.remains.items():
        for x in left:
            yield Owned(("activity", code), "" if x.kind == "direct" else materials.get(x.of, x.of), x.piece)


K = TypeVar("K", bound=Hashable)


def cells_of(v: Amounts, found: Iterable[Owned], row: Callable[[Owned], K], ends: Sequence[Instant], of: str) -> dict[K, list[Decimal]]:
    """The cells of amounts, gathered into rows. `of` says whose they are: "budget", "actual" (nothing after the status date) or "remaining"
    (what is due by then falls into the first bucket after it)."""
    status, rows = v.at.status, dict[K, list[Piece]]()
    for x in found:
        rows.setdefault(row(x), []).append(x.piece)
    if of == "actual" and status is not None:
        ends = [min(t, status) for t in ends]
    return {key: _money(v, cells_by_time(ends, pieces, status if of == "remaining" else None)) for key, pieces in rows.items()}


def by_target(x: Owned) -> Target:
    """A row for each activity, and each element with something entered on it."""
    return x.target


def phased_budget(v: Amounts, baseline: Baseline, ends: Sequence[Instant]) -> Phased:
    """The cost lines of a baseline by time."""
    homes = {a.code: a.wbs for a in baseline.activities} | {code: v.wbs_of(code) for code in v.codes}
    return _phased(v, cells_of(v, budgeted(v, baseline), by_target, ends, "budget"), homes, len(ends))


def phased_actual(v: Amounts, ends: Sequence[Instant]) -> Phased:
    """Actual cost as the page knows it, by its date; what is entered on an element is a row of its own."""
    return _phased(v, cells_of(v, spent(v), by_target, ends, "actual"), {code: v.wbs_of(code) for code in v.codes}, len(ends))


def phased_remaining(v: Amounts, ends: Sequence[Instant]) -> Phased:
    """The remaining cost of the forecast by the time at which it falls due."""
    return _phased(v, cells_of(v, left_to_spend(v), by_target, ends, "remaining"), {code: v.wbs_of(code) for code in v.codes}, len(ends))


def _money(v: Amounts, cells: Sequence[int]) -> list[Decimal]:
    return [amount_of(x, v.unit) for x in cells]


def cells_by_time(ends: Sequence[Instant], pieces: Sequence[Piece], since: Instant | None = None) -> list[int]:
    """What falls into each bucket. With `since` what is due by that instant falls into the first bucket that ends after it, where there is
    none in the one that holds it.

    >>> halves = [Piece(0, 0, 2, lambda _: 2), Piece(20, 20, 1, lambda _: 1)]
    >>> cells_by_time([10, 20, 30], halves), cells_by_time([10, 20], halves, 15), cells_by_time([10, 20], halves, 20)
    ([2, 1, 0], [0, 3], [0, 3])
    """
    if not pieces:
        return [0] * len(ends)
    line = cumulative(ends, pieces)
    if since is not None and ends and ends[-1] > since:
        line = [0 if end <= since else x for end, x in zip(ends, line, strict=True)]
    elif since is not None:
        line = [0 if end < since else x for end, x in zip(ends, line, strict=True)]
    return [b - a for a, b in zip([0, *line], line, strict=False)]


def _phased(v: Amounts, found: Mapping[Target, list[Decimal]], homes: Mapping[str, str | None], count: int) -> Phased:
    none = v.unit - v.unit
    order: list[Target] = [*(("activity", code) for code in homes), *(("wbs", w.code) for w in v.book.wbs)]
    rows = {target: found[target] for target in order if target in found}
    wbs: dict[str, list[Decimal]] = {}
    for (kind, code), cells in rows.items():
        place = homes[code] if kind == "activity" else code
        for above in v.book.wbs_above.get(place or "", ()):
            known = wbs.get(above)
            wbs[above] = cells if known is None else [a + b for a, b in zip(known, cells, strict=True)]
    columns = [sum(column, none) for column in zip(*rows.values(), strict=True)] if rows else [none] * count
    return Phased(rows, {w.code: wbs[w.code] for w in v.book.wbs if w.code in wbs}, columns)
