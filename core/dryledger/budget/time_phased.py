"""Time-phased tables: work packages by days, weeks or months, in rounded cells that add up exactly.

Source: calculation contract, sections 6, 7 and 16. A row's cells add up to the row's rounded total by largest
remainder; column totals are the sums of their cells, and the cumulative row their running sum.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from decimal import Decimal, localcontext
from functools import partial
from itertools import accumulate
from typing import Protocol

from dryledger.book.plan import Book
from dryledger.budget.actual import ActualItem, actual_pieces
from dryledger.budget.lines import priced_lines
from dryledger.budget.money import CONTEXT, cells_of, rounded
from dryledger.budget.planned import PlannedValue
from dryledger.budget.spread import Piece, Spread, cumulative
from dryledger.calendar.buckets import bucket_ends
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf
from dryledger.schedule.schedule import Schedule

__all__ = ["KINDS", "Table", "kinds_of_cost", "table"]


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
    def spreads(self) -> dict[str, list[Spread]]:
        """The remaining cost of each activity that has any."""

    def wbs_of(self, code: str) -> str | None:
        """The WBS element of an activity."""


ZERO, ONE = Decimal(0), Decimal(1)
KINDS = ("budget", "actual", "remaining", "plan", "outside")


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
    """The budget of the measured baseline, the actual cost by the status date, or the remaining forecast, by time.

    "plan" is the budget of the plan as it stands, "outside" its costs that are out of budget. A row is a work package:
    a WBS element with activities or costs of its own. `bucket` is day, week or month. Raises KeyError for another kind.
    """
    pieces: dict[str, Callable[[Amounts], dict[str | None, list[Piece]]]] = {
        "budget": _budget,
        "actual": _actual,
        "remaining": _remaining,
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
            line = cumulative(ends, parts)
            rows[w] = cells_of([b - a for a, b in zip([Decimal(0), *line], line, strict=False)], v.unit)
        columns = [sum(column, v.unit - v.unit) for column in zip(*rows.values(), strict=True)]
        totals = {w: sum(cells, v.unit - v.unit) for w, cells in rows.items()}
        return Table(kind, ends, rows, totals, columns, list(accumulate(columns)))


def _budget(v: Amounts) -> dict[str | None, list[Piece]]:
    out: dict[str | None, list[Piece]] = {}
    for code in v.codes if v.planned else ():
        assert v.planned is not None
        out.setdefault(v.wbs_of(code), []).extend(v.planned.pieces([code]))
    return out


def _planned_now(v: Amounts, in_budget: bool) -> dict[str | None, list[Piece]]:
    """What each activity is to cost as planned now, each line by its accrual and profile over the shown dates."""
    out: dict[str | None, list[Piece]] = {}
    for a in v.book.activities:
        row, axis = v.schedule.activities[a.code], v.book.axes[a.code]
        for x in priced_lines(v.book, a, row):
            if x.in_budget is in_budget and x.amount:
                at = {"start": (row.start, row.start), "finish": (row.finish, row.finish)}.get(x.accrual, (row.start, row.finish))
                piece: Piece = (*at, rounded(x.amount, v.unit), (axis, x.profile, -1, ZERO, ONE))
                out.setdefault(v.wbs_of(a.code), []).append(piece)
    return out


def kinds_of_cost(v: Amounts, codes: Iterable[str]) -> dict[str, Decimal]:
    """The planned cost of activities by kind: labour, equipment, material, direct, and "outside" what is out of budget."""
    out = dict.fromkeys(("labour", "equipment", "material", "direct", "outside"), Decimal(0))
    with localcontext(CONTEXT):
        for code in codes:
            for x in priced_lines(v.book, v.book.activity_by_code[code], v.schedule.activities[code]):
                out[x.kind if x.in_budget else "outside"] += rounded(x.amount, v.unit)
    return out


def _actual(v: Amounts) -> dict[str | None, list[Piece]]:
    out: dict[str | None, list[Piece]] = {}
    if v.at.status is None:
        return out
    for x in v.actuals:
        if x.counts(v.at.status):
            at = v.wbs_of(x.target[1]) if x.target[0] == "activity" else x.target[1]
            out.setdefault(at, []).extend(actual_pieces([x._replace(until=None)]))
    return out


def _remaining(v: Amounts) -> dict[str | None, list[Piece]]:
    out: dict[str | None, list[Piece]] = {}
    for code, spreads in v.spreads.items():
        out.setdefault(v.wbs_of(code), []).extend(spreads)
    return out
