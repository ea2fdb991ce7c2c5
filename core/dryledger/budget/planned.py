"""Planned value: what a baseline has spent by an instant, for one activity, a set of them, and along a curve.

Source: calculation contract, sections 6 and 7. PV = Σ amount × F(x), x = share of the baseline's working time before t, rounded at each
cost line; by a stepping method or by a base at the activity. Nothing here depends on progress, so it is worked out once for a
baseline. Amounts are whole minor units.
"""

from collections.abc import Callable, Iterable, Sequence
from decimal import Decimal
from fractions import Fraction
from functools import cached_property, partial

from dryledger.book.baselines import Baseline, BaselineActivity, CostLine
from dryledger.budget.money import cells, part
from dryledger.budget.spread import Along, Piece, amount_by, cumulative, within
from dryledger.calendar.calendar import Instant

__all__ = ["PlannedScope", "PlannedValue"]

HALF = Decimal("0.5")
FIXED = {"zero_hundred": Decimal(0), "fifty_fifty": HALF}
"""The share that counts from the start until the finish."""
STEPPED = {*FIXED, "start_share", "milestones"}
MOST_KNOWN = 50
"""Instants of which a scope remembers its planned value: the earned schedule asks for the same few again and again."""


class PlannedValue:
    """The planned value of one baseline, in minor units of the size `unit`."""

    def __init__(self, baseline: Baseline, unit: Decimal) -> None:
        self.baseline, self.unit = baseline, unit
        self._last: tuple[Instant, dict[str, int]] | None = None
        self._curves: dict[tuple[str, ...], tuple[list[Instant], list[int]]] = {}

    @cached_property
    def amounts(self) -> dict[str, list[int]]:
        """What each cost line of each activity comes to, an amount that is written more finely read rounded."""
        known: dict[Decimal, int] = {}

        def read(x: Decimal) -> int:
            found = known.get(x)
            if found is None:
                found = known[x] = cells(x, self.unit)
            return found

        return {a.code: [read(x.amount) for x in a.cost_lines] for a in self.baseline.activities}

    @cached_property
    def budget(self) -> dict[str, int]:
        """The budget of each activity: the sum of its cost lines."""
        return {code: sum(found) for code, found in self.amounts.items()}

    @cached_property
    def spans(self) -> dict[str, tuple[Instant, Instant]]:
        """The start and the finish of each activity."""
        return {a.code: (a.start, a.finish) for a in self.baseline.activities}

    @cached_property
    def following(self) -> list[str]:
        """The activities that earn by the plan or by another activity, whatever is said of them."""
        return [a.code for a in self.baseline.activities if a.value_method.type in ("level_of_effort", "apportioned")]

    @cached_property
    def apportioned(self) -> bool:
        """Whether any activity follows another's time, which may end after its own."""
        return any(self.baseline.by_code[code].value_method.type == "apportioned" for code in self.following)

    def at(self, code: str, t: Instant) -> int:
        """PV of one activity at the instant t; 0 for work that the baseline lacks.

        Under the fixed and milestone methods PV steps as EV would; apportioned work follows its base.
        """
        return sum([amount_by(p, t) for p in self._pieces.get(code, ())])

    def all_at(self, t: Instant) -> dict[str, int]:
        """PV at the instant t of every activity that has any, remembered for the last instant asked."""
        last = self._last
        if last is None or last[0] != t:
            begun: dict[str, int] = {}
            for code, pieces in self._pieces.items():
                if len(pieces) == 1:
                    p = pieces[0]
                    if t >= p[0]:
                        begun[code] = p[2] if t >= p[1] else amount_by(p, t)
                elif any(t >= p[0] for p in pieces):
                    begun[code] = sum([p[2] if t >= p[1] else amount_by(p, t) for p in pieces])
            last = self._last = (t, begun)
        return last[1]

    def share(self, code: str, t: Instant) -> tuple[int, int]:
        """The share of an activity's working time before t, numerator and denominator: what should be done by then; 1 from its start
        without any.
        """
        a = self.baseline.by_code[code]
        if t < a.start:
            return 0, 1
        axis = self.baseline.axes[code]
        whole = axis.between(a.start, a.finish)
        return (1, 1) if t >= a.finish or not whole else (axis.between(a.start, t), whole)

    def pieces(self, codes: Iterable[str]) -> list[Piece]:
        """The planned value of activities as pieces over time; apportioned ones over their base's time."""
        return [p for found in filter(None, map(self._pieces.get, codes)) for p in found]

    def lines(self, code: str) -> list[tuple[CostLine, Piece]]:
        """The cost lines of an activity, each by its accrual and profile over its time whatever its EV method."""
        a = self.baseline.by_code[code]
        return [(line, self._line(a, line, amount)) for line, amount in zip(a.cost_lines, self.amounts[code], strict=True)]

    def curve(self, codes: Iterable[str], ends: Sequence[Instant]) -> list[int]:
        """PV of a set of activities at each of the ascending instants, remembered for the last ones asked."""
        key = tuple(codes)
        known = self._curves.get(key)
        if known is None or known[0] != ends:
            known = self._curves[key] = (list(ends), cumulative(ends, self.pieces(key)))
        return known[1]

    @cached_property
    def _pieces(self) -> dict[str, list[Piece]]:
        """Every activity with a budget; an apportioned one takes the time of its base, if that has a budget."""
        out: dict[str, list[Piece]] = {}
        budgets = self.budget
        for a in self.baseline.activities:
            budget = budgets[a.code]
            method = a.value_method
            base = method.base if method.type == "apportioned" else None
            if base is not None and budgets.get(base):
                span = self.baseline.by_code[base]
                out[a.code] = [Piece(span.start, span.finish, budget, partial(self._following, budget, base))]
            elif method.type in STEPPED:
                out[a.code] = [Piece(a.start, a.finish, budget, self._steps(a, budget))]
            elif a.cost_lines:
                out[a.code] = [self._line(a, line, amount) for line, amount in zip(a.cost_lines, self.amounts[a.code], strict=True)]
        return {code: pieces for code, pieces in out.items() if budgets[code]}

    def _following(self, budget: int, base: str, t: Instant) -> int:
        return part(budget, self.at(base, t), self.budget[base])

    def _line(self, a: BaselineActivity, line: CostLine, amount: int) -> Piece:
        if line.accrual == "start":
            return Piece(a.start, a.start, amount, within(amount))
        if line.accrual == "finish":
            return Piece(a.finish, a.finish, amount, within(amount))
        return Piece(a.start, a.finish, amount, self._by(a, line.profile))

    def _steps(self, a: BaselineActivity, budget: int) -> Callable[[Instant], int]:
        """The fixed shares from the start on; milestones, each reached at its share of the working time."""
        method = a.value_method
        if method.type != "milestones":
            share = method.share if method.type == "start_share" else FIXED[method.type]
            return within(part(budget, *share.as_integer_ratio()))
        weights, whole = method.weights, Fraction(sum(w.weight for w in method.weights))

        def reached(t: Instant) -> int:
            n, d = self.share(a.code, t)
            return part(budget, *(Fraction(sum((w.weight for w in weights if n >= w.at * d), Decimal(0))) / whole).as_integer_ratio())

        return reached

    def _by(self, a: BaselineActivity, profile: str) -> Along:
        """Falling due by a profile over an activity's working time."""
        return self.baseline.axes[a.code], profile, -1, 0


class PlannedScope:
    """The planned value of a fixed set of activities at any instant, and of what lies below them, asked there.

    `start` and `finish` are the earliest and the latest that the baseline has of them; `empty`: it has none of them.
    """

    def __init__(self, planned: PlannedValue, codes: Iterable[str], below: Iterable["PlannedScope"] = ()) -> None:
        self._planned, self._codes = planned, list(codes)
        self._below = [x for x in below if not x.empty]
        self._known: dict[Instant, int] = {}
        spans = list(filter(None, map(planned.spans.get, self._codes)))
        spans += [(x.start, x.finish) for x in self._below]
        self.empty: bool = not spans
        self.count = len(self._codes)
        starts, finishes = zip(*spans, strict=True) if spans else ((0,), (0,))
        self.start: Instant = min(starts)
        self.finish: Instant = max(finishes)
        self._begins = 0 if planned.apportioned else self.start  # apportioned work may follow a base that begins earlier

    @cached_property
    def _pieces(self) -> list[Piece]:
        return self._planned.pieces(self._codes)

    @property
    def complete(self) -> Instant:
        """The instant by which all of the set is planned; apportioned work may follow a base that ends later."""
        if not self._planned.apportioned:
            return self.finish
        return max([self.finish, *(p[1] for p in self._pieces), *(x.complete for x in self._below)])

    def at(self, t: Instant) -> int:
        """PV of the set at the instant t, remembered for the last instants asked."""
        found = self._known.get(t)
        if found is None:
            if len(self._known) >= MOST_KNOWN:
                self._known.clear()
            own = [p[2] if t >= p[1] else amount_by(p, t) for p in self._pieces if t >= p[0]]
            found = self._known[t] = sum([*own, *[x.at(t) for x in self._below if t >= x._begins]])
        return found
