"""The planned value of a whole baseline in columns: the budgets, and what is planned by an instant or along a curve.

Source: calculation contract, sections 6 and 7.
"""

from collections.abc import Collection, Mapping, Sequence
from decimal import Decimal
from itertools import accumulate, chain, compress, pairwise

from dryledger.book.baselines import Baseline
from dryledger.book.plan import ValueMethod
from dryledger.budget.column_passes import LARGEST, Dues, Lines, Planned, Ranges
from dryledger.budget.columns import ACCRUALS, by_activity, by_day, kernels, sums_at
from dryledger.budget.money import all_cells
from dryledger.budget.spread import SHAPES
from dryledger.calendar.axis import Instant, pooled
from dryledger.network.engine import engine

__all__ = ["STEPPED", "PlannedColumns", "stepped_share"]

FIXED = {"zero_hundred": (0, 1), "fifty_fifty": (1, 2)}
"""The share that counts from the start until the finish."""
STEPPED = {*FIXED, "start_share", "milestones"}
WAYS = dict.fromkeys(STEPPED, 1) | {"milestones": 2, "apportioned": 2}
FINEST = 1 << 20
"""A share with a larger denominator is not reckoned in columns."""


def stepped_share(method: ValueMethod) -> tuple[int, int]:
    """The share that counts from the start until the finish, numerator and denominator."""
    return method.share.as_integer_ratio() if method.type == "start_share" else FIXED[method.type]


class PlannedColumns:
    """The amounts of a baseline over time; the codes of activities with a budget whose planned value goes `otherwise` are not among them:
    that of milestones and of apportioned work, and amounts that are too large."""

    def __init__(self, baseline: Baseline, unit: Decimal) -> None:
        rows = baseline.activities
        self._codes, self._engine = [a.code for a in rows], engine(len(rows))
        e = self._engine
        self._axes, axis = pooled(list(baseline.axes.values()), e.array)
        lines = [x for a in rows for x in a.cost_lines]
        amounts = all_cells((x.amount for x in lines), unit)
        owner = [i for i, a in enumerate(rows) for _ in a.cost_lines]
        types = [a.value_method.type for a in rows]
        goes = [WAYS.get(x, 0) for x in types]
        exact = dict[int, int]()
        if amounts and max(max(amounts), -min(amounts)) >= LARGEST:
            large = {i for i, x in zip(owner, amounts, strict=True) if abs(x) >= LARGEST}
            exact = {i: sum(x for j, x in zip(owner, amounts, strict=True) if i == j) for i in large}
            amounts = [0 if i in large else x for i, x in zip(owner, amounts, strict=True)]
        shares = [stepped_share(a.value_method) if way == 1 else (0, 1) for a, way in zip(rows, goes, strict=True)]
        goes = [2 if d > FINEST else way for way, (_, d) in zip(goes, shares, strict=True)]
        accruals, shapes = e.array([ACCRUALS[x.accrual] for x in lines]), e.array([SHAPES[x.profile] for x in lines])
        costs = Lines(e.array(owner), e.array(amounts), accruals, shapes)
        spans = (e.array([a.start for a in rows]), e.array([a.finish for a in rows]))
        planned = Planned(*spans, axis, e.array(goes), e.array([n for n, _ in shares]), e.array([min(d, FINEST) for _, d in shares]))
        budget, dues = e.zeros(len(rows)), Dues(*(e.zeros(len(owner)) for _ in Dues._fields))
        found = kernels(e).lay_out(costs, planned, budget, dues)
        self._dues = Dues(*(column[:found] for column in dues))
        self.budget = dict(zip(self._codes, e.listed(budget), strict=True))
        self.budget.update((self._codes[i], x) for i, x in exact.items())
        others = [way == 2 or i in exact for i, way in enumerate(goes)]
        self.otherwise = [code for code in compress(self._codes, others) if self.budget[code]]

    def at(self, t: Instant) -> dict[str, int]:
        """What is planned of each activity by an instant."""
        return dict(zip(self._codes, by_activity(self._engine, self._axes, t, self._dues, len(self._codes)), strict=True))

    def by_day(
        self,
        days: Sequence[Instant],
        homes: Mapping[str, int],
        low: Sequence[int],
        high: Sequence[int],
        parent: Sequence[int],
        more: Sequence[Sequence[int]],
    ) -> list[list[int]]:
        """What is planned of elements by each of the days low … high − 1 of each; `more` is what else each day adds."""
        e, first = self._engine, [0, *accumulate(map(len, more))]
        ranges = Ranges(*map(e.array, (first[:-1], low, high, parent)))
        home = e.array([homes.get(code, -1) for code in self._codes])
        order = range(len(low) - 1, -1, -1)
        found = by_day(e, self._axes, days, self._dues, home, ranges, order, list(chain.from_iterable(more)))
        return [found[a:b] for a, b in pairwise(first)]

    def curve(self, codes: Collection[str], ends: Sequence[Instant]) -> list[int]:
        """What is planned of some activities by each of the ascending instants."""
        inside = self._engine.array([code in codes for code in self._codes])
        return sums_at(self._engine, self._axes, ends, self._dues, inside)
