"""The planned value of a whole baseline in columns: the budgets, and what is planned by an instant or along a curve.

Source: calculation contract, sections 6 and 7.
"""

from collections.abc import Collection, Sequence
from decimal import Decimal
from itertools import accumulate, compress, pairwise
from operator import attrgetter

from dryledger.book.baselines import Baseline
from dryledger.book.value_method import ValueMethod
from dryledger.budget.column_passes import LARGEST, Dues, Lines, Planned, Ranges
from dryledger.budget.columns import ACCRUALS, by_activity, by_day, kernels, sums_at
from dryledger.budget.money import all_cells
from dryledger.budget.spread import SHAPES
from dryledger.calendar.axis import Instant, pooled
from dryledger.calendar.calendar import END_OF_TIME
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
    """The amounts of a baseline over time, by its `codes`.

    Those of activities with a budget whose planned value goes `otherwise` (of milestones, of apportioned work, and what is too large) are
    not among them.
    """

    def __init__(self, baseline: Baseline, unit: Decimal) -> None:
        rows = baseline.activities
        self.codes, self._engine = list(map(attrgetter("code"), rows)), engine(len(rows))
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
        n, d = [int(x == "fifty_fifty") for x in types], [2] * len(types)
        for i in [i for i, x in enumerate(types) if x == "start_share"]:
            n[i], d[i] = stepped_share(rows[i].value_method)
            if d[i] > FINEST:
                goes[i], n[i], d[i] = 2, 0, 1
        accruals, shapes = e.array([ACCRUALS[x.accrual] for x in lines]), e.array([SHAPES[x.profile] for x in lines])
        costs = Lines(e.array(owner), e.array(amounts), accruals, shapes)
        self._start, self._finish = (e.array(list(map(attrgetter(x), rows))) for x in ("start", "finish"))
        planned = Planned(self._start, self._finish, axis, e.array(goes), e.array(n), e.array(d))
        budget, dues = e.zeros(len(rows)), Dues(*(e.zeros(len(owner)) for _ in Dues._fields))
        found = kernels(e).planned_dues(costs, planned, budget, dues)
        self._dues = Dues(*(column[:found] for column in dues))
        self.budget = dict(zip(self.codes, e.listed(budget), strict=True))
        self.budget.update((self.codes[i], x) for i, x in exact.items())
        others = [way == 2 or i in exact for i, way in enumerate(goes)]
        self.otherwise = [code for code in compress(self.codes, others) if self.budget[code]]

    def at(self, t: Instant) -> dict[str, int]:
        """What is planned of each activity by an instant."""
        return dict(zip(self.codes, by_activity(self._engine, self._axes, t, self._dues, len(self.codes)), strict=True))

    def spans(self, home: Sequence[int], parent: Sequence[int]) -> list[tuple[Instant, Instant]]:
        """The earliest start and the latest finish of what each element has, and what is below it (END_OF_TIME, −1 of one without any); of
        each activity the place of its element, of each element that of its parent, which stands before it; the first has no parent."""
        e = self._engine
        low, high = e.array([END_OF_TIME] * len(parent)), e.array([-1] * len(parent))
        kernels(e).spans_of(self._start, self._finish, e.array(home), e.array(parent), low, high)
        return list(zip(e.listed(low), e.listed(high), strict=True))

    def by_day(
        self, days: Sequence[Instant], home: Sequence[int], parent: Sequence[int], ranges: Sequence[tuple[int, int]]
    ) -> list[list[int]]:
        """What is planned of elements, places as in `spans`, by each of the days of its range."""
        e, first = self._engine, [0, *accumulate(high - low for low, high in ranges)]
        low, high = [low for low, _ in ranges], [high for _, high in ranges]
        found = by_day(e, self._axes, days, self._dues, e.array(home), Ranges(*map(e.array, (first[:-1], low, high, parent))))
        return [found[a:b] for a, b in pairwise(first)]

    def curve(self, codes: Collection[str], ends: Sequence[Instant]) -> list[int]:
        """What is planned of some activities by each of the ascending instants."""
        return sums_at(self._engine, self._axes, ends, self._dues, [code in codes for code in self.codes])
