"""Planned value: what a baseline has spent by an instant, for one activity, a set of them, and along a curve.

Source: calculation contract, sections 6 and 7. PV = Σ amount × F(x), x = share of the baseline's working time before t, rounded at each
cost line; by a stepping method or by a base at the activity. Nothing here depends on progress, so it is worked out once for a
baseline. Amounts are whole minor units.
"""

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from functools import cached_property, partial
from operator import add

from dryledger.book.baselines import Baseline, BaselineActivity, CostLine
from dryledger.budget.money import cells, part
from dryledger.budget.planned_columns import STEPPED, PlannedColumns, stepped_share
from dryledger.budget.spread import Along, Piece, amount_by, cumulative, within
from dryledger.calendar.calendar import Instant
from dryledger.calendar.working_days import WorkingDays

__all__ = ["PlannedLine", "PlannedValue"]


@dataclass(frozen=True)
class PlannedLine:
    """The earliest start and the latest finish that a baseline has of a set, the working dates that lie before, and PV when the date after
    the k-th begins, k from 0 (0) up to the date by which all is planned."""

    start: Instant
    finish: Instant
    skipped: int
    line: Sequence[int]


class PlannedValue:
    """The planned value of one baseline, in minor units of the size `unit`."""

    def __init__(self, baseline: Baseline, unit: Decimal) -> None:
        self.baseline, self.unit = baseline, unit
        self._last: tuple[Instant, dict[str, int]] | None = None
        self._curves: dict[tuple[str, ...], tuple[list[Instant], list[int]]] = {}
        self._known: dict[str, list[Piece]] = {}

    @cached_property
    def columns(self) -> PlannedColumns:
        """The baseline as columns."""
        return PlannedColumns(self.baseline, self.unit)

    @property
    def budget(self) -> dict[str, int]:
        """The budget of each activity: the sum of its cost lines, an amount that is written more finely read rounded."""
        return self.columns.budget

    @cached_property
    def spans(self) -> dict[str, tuple[Instant, Instant]]:
        """The start and the finish of each activity."""
        return {a.code: (a.start, a.finish) for a in self.baseline.activities}

    @cached_property
    def following(self) -> list[str]:
        """The activities that earn by the plan or by another activity, whatever is said of them."""
        return [a.code for a in self.baseline.activities if a.value_method.type in ("level_of_effort", "apportioned")]

    @cached_property
    def apportioned(self) -> set[str]:
        """The activities that follow another's time, which may end after their own."""
        return {code for code in self.following if self.baseline.by_code[code].value_method.type == "apportioned"}

    def at(self, code: str, t: Instant) -> int:
        """PV of one activity at the instant t; 0 for work that the baseline lacks.

        Under the fixed and milestone methods PV steps as EV would; apportioned work follows its base.
        """
        return sum([amount_by(p, t) for p in self.pieces((code,))])

    def all_at(self, t: Instant) -> dict[str, int]:
        """PV at the instant t of every activity that has any, remembered for the last instant asked."""
        last = self._last
        if last is None or last[0] != t:
            found = self.columns.at(t)
            for code in self.columns.otherwise:
                found[code] = self.at(code, t)
            last = self._last = (t, {code: x for code, x in found.items() if x})
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
        return [p for code in codes for p in self._pieces_of(code)]

    def lines(self, code: str) -> list[tuple[CostLine, Piece]]:
        """The cost lines of an activity, each by its accrual and profile over its time whatever its EV method."""
        a = self.baseline.by_code[code]
        return [(line, self._line(a, line, cells(line.amount, self.unit))) for line in a.cost_lines]

    def curve(self, codes: Iterable[str], ends: Sequence[Instant]) -> list[int]:
        """PV of a set of activities at each of the ascending instants, remembered for the last ones asked."""
        key = tuple(codes)
        known = self._curves.get(key)
        if known is None or known[0] != ends:
            known = self._curves[key] = (list(ends), self.line(set(key), ends))
        return known[1]

    def line(self, codes: Collection[str], ends: Sequence[Instant]) -> list[int]:
        """PV of a set of activities at each of the ascending instants."""
        more = cumulative(ends, self.pieces(code for code in self.columns.otherwise if code in codes))
        return [a + b for a, b in zip(self.columns.curve(codes, ends), more, strict=True)]

    def elements(self, days: WorkingDays, home: Sequence[int], parent: Sequence[int]) -> list[PlannedLine | None]:
        """PV of elements, with what is below each, by the days that each has; None where it has nothing. Of each activity the place of its
        element, of each element that of its parent, which stands before it; the first has no parent."""
        columns, places = self.columns, dict(zip(self.columns.codes, home, strict=True))
        spans = columns.spans(home, parent)
        complete = [finish for _, finish in spans]
        for code in self.apportioned:
            place, by = places[code], self.complete_by(code)
            while complete[place] < by:
                complete[place], place = by, parent[place]
        ranges = [days.range_of(start, by) if by >= 0 else (0, 0) for (start, _), by in zip(spans, complete, strict=True)]
        openings = days.openings(max(high for _, high in ranges))
        lines = columns.by_day(openings, home, parent, ranges)
        for code in columns.otherwise:
            pieces, place, above = self.pieces((code,)), places[code], -1
            while place != above:  # each by its own days: apportioned work may begin before its element does
                low, high = ranges[place]
                lines[place] = list(map(add, lines[place], cumulative(openings[low:high], pieces)))
                place, above = parent[place], place
        return [
            PlannedLine(start, finish, low, [0, *line[1:]]) if line else None
            for (start, finish), (low, _), line in zip(spans, ranges, lines, strict=True)
        ]

    def scope(self, days: WorkingDays, codes: Iterable[str]) -> PlannedLine | None:
        """PV of a set of activities by its days; None where the baseline has none of them."""
        own = {code for code in codes if code in self.spans}
        if not own:
            return None
        starts, finishes = zip(*map(self.spans.__getitem__, own), strict=True)
        low, high = days.range_of(min(starts), max([*finishes, *map(self.complete_by, self.apportioned & own)]))
        return PlannedLine(min(starts), max(finishes), low, [0, *self.line(own, days.openings(high)[low:])[1:]])

    def complete_by(self, code: str) -> Instant:
        """When all of an activity is planned; apportioned work may follow a base that ends later."""
        finish = self.spans[code][1]
        return max([finish, *(p[1] for p in self.pieces((code,)))]) if code in self.apportioned else finish

    def _pieces_of(self, code: str) -> list[Piece]:
        """Those of an activity with a budget; an apportioned one takes the time of its base, if that has a budget."""
        found = self._known.get(code)
        if found is None:
            a, budget = self.baseline.by_code.get(code), self.budget.get(code)
            found = self._known[code] = self._made(a, budget) if a is not None and budget else []
        return found

    def _made(self, a: BaselineActivity, budget: int) -> list[Piece]:
        method = a.value_method
        base = method.base if method.type == "apportioned" else None
        if base is not None and self.budget.get(base):
            span = self.baseline.by_code[base]
            return [Piece(span.start, span.finish, budget, partial(self._following, budget, base))]
        if method.type in STEPPED:
            return [Piece(a.start, a.finish, budget, self._steps(a, budget))]
        return [piece for _, piece in self.lines(a.code)]

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
            return within(part(budget, *stepped_share(method)))
        weights, whole = method.weights, Fraction(sum(w.weight for w in method.weights))

        def reached(t: Instant) -> int:
            n, d = self.share(a.code, t)
            return part(budget, *(Fraction(sum((w.weight for w in weights if n >= w.at * d), Decimal(0))) / whole).as_integer_ratio())

        return reached

    def _by(self, a: BaselineActivity, profile: str) -> Along:
        """Falling due by a profile over an activity's working time."""
        return self.baseline.axes[a.code], profile, -1, 0
