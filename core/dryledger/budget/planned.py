"""Planned value: what a baseline has spent by an instant, for one activity, a set of them, and along a curve.

Source: calculation contract, section 7. PV = Σ amount × F(x), x = share of the baseline's working time before t.
Nothing here depends on progress, so it is worked out once for a baseline. Amounts are exact decimals.
"""

from collections.abc import Callable, Iterable, Sequence
from decimal import Decimal
from functools import cached_property, partial

from dryledger.book.baselines import Baseline, BaselineActivity
from dryledger.budget.spread import Along, Piece, amount_by, cumulative
from dryledger.calendar.calendar import Instant

__all__ = ["PlannedScope", "PlannedValue"]

ZERO, ONE, HALF = Decimal(0), Decimal(1), Decimal("0.5")
FIXED = {"zero_hundred": ZERO, "fifty_fifty": HALF}
"""The share that counts from the start until the finish."""
STEPPED = {*FIXED, "start_share", "milestones"}
MOST_KNOWN = 50
"""Instants of which a scope remembers its planned value: the earned schedule asks for the same few again and again."""


class PlannedValue:
    """The planned value of one baseline."""

    def __init__(self, baseline: Baseline) -> None:
        self.baseline = baseline
        self._last: tuple[Instant, dict[str, Decimal]] | None = None
        self._curves: dict[tuple[str, ...], tuple[list[Instant], list[Decimal]]] = {}

    @cached_property
    def budget(self) -> dict[str, Decimal]:
        """The budget of each activity."""
        return {a.code: a.budget for a in self.baseline.activities}

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

    def at(self, code: str, t: Instant) -> Decimal:
        """PV of one activity at the instant t; 0 for work that the baseline lacks.

        Under the fixed and milestone methods PV steps as EV would; apportioned work follows its base.
        """
        piece = self._pieces.get(code)
        return ZERO if piece is None else amount_by(piece, t)

    def all_at(self, t: Instant) -> dict[str, Decimal]:
        """PV at the instant t of every activity that has any, remembered for the last instant asked."""
        last = self._last
        if last is None or last[0] != t:
            begun = {code: p[2] if t >= p[1] else amount_by(p, t) for code, p in self._pieces.items() if t >= p[0]}
            last = self._last = (t, begun)
        return last[1]

    def share(self, code: str, t: Instant) -> Decimal:
        """The share of an activity's working time before t: what should be done by then; 1 from its start without any."""
        a = self.baseline.by_code[code]
        return amount_by((a.start, a.finish, ONE, self._by(a, "uniform")), t)

    def pieces(self, codes: Iterable[str]) -> list[Piece]:
        """The planned value of activities as pieces over time; apportioned ones over their base's time."""
        return list(filter(None, map(self._pieces.get, codes)))

    def curve(self, codes: Iterable[str], ends: Sequence[Instant]) -> list[Decimal]:
        """PV of a set of activities at each of the ascending instants, remembered for the last ones asked."""
        key = tuple(codes)
        known = self._curves.get(key)
        if known is None or known[0] != ends:
            known = self._curves[key] = (list(ends), cumulative(ends, self.pieces(key)))
        return known[1]

    @cached_property
    def _pieces(self) -> dict[str, Piece]:
        """Every activity with a budget; an apportioned one takes the time of its base, if that has a budget."""
        out: dict[str, Piece] = {}
        budgets = self.budget
        for a in self.baseline.activities:
            budget = budgets[a.code]
            if not budget:
                continue
            method = a.value_method
            base = method.base if method.type == "apportioned" else None
            if base is not None and budgets.get(base):
                span = self.baseline.by_code[base]
                out[a.code] = (span.start, span.finish, budget, partial(self._following, budget, base))
            else:
                out[a.code] = (a.start, a.finish, budget, self._within(a, budget))
        return out

    def _following(self, budget: Decimal, base: str, t: Instant) -> Decimal:
        return budget * self.at(base, t) / self.budget[base]

    def _within(self, a: BaselineActivity, budget: Decimal) -> Along | Callable[[Instant], Decimal]:
        """PV of an activity that has begun and not ended: along a profile, or as a function of the instant."""
        method = a.value_method
        if method.type in STEPPED:
            return self._steps(a, budget)
        profile = a.cost_lines[0].profile
        for line in a.cost_lines:
            if line.accrual != "uniform" or line.profile != profile:
                break
        else:
            return self._by(a, profile)
        shapes: dict[str, Decimal] = {}
        begun = ZERO
        for line in a.cost_lines:
            if line.accrual == "uniform":
                shapes[line.profile] = shapes.get(line.profile, ZERO) + line.amount
            elif line.accrual == "start":
                begun += line.amount
        parts: list[Piece] = [(a.start, a.finish, amount, self._by(a, profile)) for profile, amount in shapes.items()]
        return lambda t: sum((amount_by(part, t) for part in parts), begun)

    def _steps(self, a: BaselineActivity, budget: Decimal) -> Callable[[Instant], Decimal]:
        """The fixed shares from the start on; milestones, each reached at its share of the working time."""
        method = a.value_method
        if method.type != "milestones":
            return _constant(budget * (method.share if method.type == "start_share" else FIXED[method.type]))
        done: Piece = (a.start, a.finish, ONE, self._by(a, "uniform"))
        weights = method.weights
        whole = sum(w.weight for w in weights)

        def within(t: Instant) -> Decimal:
            x = amount_by(done, t)
            return budget * sum((w.weight for w in weights if x >= w.at), ZERO) / whole

        return within

    def _by(self, a: BaselineActivity, profile: str) -> Along:
        """Falling due by a profile over an activity's working time."""
        return self.baseline.axes[a.code], profile, -1, ZERO, ONE


def _constant(amount: Decimal) -> Callable[[Instant], Decimal]:
    return lambda t: amount


class PlannedScope:
    """The planned value of a fixed set of activities at any instant, and of what lies below them, asked there.

    `start` and `finish` are the earliest and the latest that the baseline has of them; `empty`: it has none of them.
    """

    def __init__(self, planned: PlannedValue, codes: Iterable[str], below: Iterable["PlannedScope"] = ()) -> None:
        self._planned, self._codes = planned, list(codes)
        self._below = [x for x in below if not x.empty]
        self._known: dict[Instant, Decimal] = {}
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

    def at(self, t: Instant) -> Decimal:
        """PV of the set at the instant t, remembered for the last instants asked."""
        found = self._known.get(t)
        if found is None:
            if len(self._known) >= MOST_KNOWN:
                self._known.clear()
            own = [p[2] if t >= p[1] else amount_by(p, t) for p in self._pieces if t >= p[0]]
            found = self._known[t] = sum([*own, *[x.at(t) for x in self._below if t >= x._begins]], ZERO)
        return found
