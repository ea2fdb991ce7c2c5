"""The earned schedule: how far the plan had come when it had today's earned value, in working days.

Source: the published earned-schedule method as set down in the calculation contract, section 10. Day k is the k-th
date with working time in the project calendar from the date of the scope's baseline start on; ES and AT are counted
in such days.
"""

from bisect import bisect_left
from threading import Lock
from typing import NamedTuple

from dryledger.budget.money import ratio_of
from dryledger.budget.planned import PlannedScope
from dryledger.calendar.calendar import DAY, Axis, Instant, date_of, midnight, to_date_text
from dryledger.words import sentence

__all__ = ["EarnedSchedule", "WorkingDays", "earned_schedule"]

Ratio = tuple[int, int]
"""A number of days as a numerator and a denominator, the latter at least 1."""
LAST_YEAR = 2199
NO_BUDGET = sentence("earned_schedule.nothing_budgeted")
UNEARNED = ("earned_schedule", "sv_t", "spi_t", "forecast_finish_t")


class WorkingDays:
    """The dates with working time on an axis from a first date on, found as far as they are asked for."""

    def __init__(self, axis: Axis, start: Instant) -> None:
        self.axis, self.found, self._next = axis, list[Instant](), start // DAY * DAY
        self._count = axis.pos(self._next)
        self._until: dict[Instant, Ratio] = {}
        self._lock = Lock()  # one plan is looked at by many threads of a server
        self._end = midnight(date_of(0).replace(year=LAST_YEAR + 1))

    def _more(self) -> bool:
        """Find one more; False where there is none by the end of 2199."""
        while self._next < self._end:
            day, before = self._next, self._count
            self._next += DAY
            self._count = self.axis.pos(self._next)
            if self._count > before:
                self.found.append(day)
                return True
            # A long gap is jumped over: the next working minute tells the next such date.
            self._next = max(self._next, self.axis.last(self._count) // DAY * DAY)
        return False

    def nth(self, k: int) -> Instant | None:
        """The midnight that opens the k-th date, from 1; None after 2199."""
        if len(self.found) < k:
            with self._lock:
                while len(self.found) < k:
                    if not self._more():
                        return None
        return self.found[k - 1]

    def begun(self, t: Instant) -> int:
        """How many such dates begin before the instant t."""
        if self._next < t:
            with self._lock:
                while self._next < t and self._more():
                    pass
        return bisect_left(self.found, t)

    def until(self, t: Instant) -> Ratio:
        """Such dates before t's date, and the share of t's date's working minutes before t."""
        found = self._until.get(t)
        if found is None:
            found = self._until[t] = self._count_until(t)
        return found

    def _count_until(self, t: Instant) -> Ratio:
        day = t // DAY * DAY
        before = self.begun(day)
        whole = self.axis.between(day, day + DAY)
        self.begun(day + 1)
        at = bisect_left(self.found, day)
        if whole and at < len(self.found) and self.found[at] == day:
            return before * whole + self.axis.between(day, t), whole
        return before, 1


class EarnedSchedule(NamedTuple):
    """ES, AT and what follows from them; what is None has its reason in `missing`."""

    earned: float | None
    actual: float
    variance: float | None
    spi: float | None
    forecast: str | None
    missing: dict[str, str]


def earned_schedule(
    days: WorkingDays, scope: PlannedScope, ev: int, budget: int, status: Instant, finished: Instant | None
) -> EarnedSchedule:
    """The earned schedule of one scope; `ev` and `budget` are in minor units, as its PV is.

    `days` may begin before the scope does. A scope without a budget has an actual time only. `finished` is the latest actual finish of a
    complete scope: its time runs to there, it has earned its whole schedule, and that is its forecast.
    """
    skipped = days.begun(scope.start // DAY * DAY)

    def counted(t: Instant) -> Ratio:
        n, d = days.until(t)
        return max(n - skipped * d, 0), d

    n, d = counted(status if finished is None else finished)
    if not budget:
        return EarnedSchedule(None, ratio_of(n, d), None, None, None, dict.fromkeys(UNEARNED, NO_BUDGET))
    planned = counted(scope.finish)
    earned, of = planned if finished is not None else _earned(days, skipped, scope, ev, (n, d), planned)
    figures = (ratio_of(earned, of), ratio_of(n, d), ratio_of(earned * d - n * of, of * d))
    spi = ratio_of(earned * d, of * n) if n else None
    missing = {} if n else {"spi_t": sentence("earned_schedule.nothing_planned_date")}
    if finished is not None:
        return EarnedSchedule(*figures, spi, to_date_text(finished), missing)
    if not n:
        return EarnedSchedule(*figures, spi, None, missing | {"forecast_finish_t": missing["spi_t"]})
    if not earned:
        return EarnedSchedule(*figures, 0.0, None, {"forecast_finish_t": sentence("earned_schedule.nothing_earned_date")})
    last, day = planned
    whole = -(-last * n * of // (day * d * earned))  # planned ÷ SPI(t), rounded up
    found = days.nth(skipped + max(whole, 1)) if whole <= 100_000 else None
    missing = {} if found is not None else {"forecast_finish_t": sentence("earned_schedule.forecast_lies_after")}
    return EarnedSchedule(*figures, spi, None if found is None else to_date_text(found), missing)


def _earned(days: WorkingDays, skipped: int, scope: PlannedScope, ev: int, actual: Ratio, planned: Ratio) -> Ratio:
    """ES = k − 1 + (EV − PV_{k−1}) ÷ (PV_k − PV_{k−1}) for the least k ≥ 1 with PV_k ≥ EV; on a run of days with PV = EV the point of
    it nearest to AT, not beyond planned.

    PV_0 = 0 and PV_k is PV when the date after the k-th begins. The search sets out from a guess, in growing steps.
    """
    known = {0: 0}

    def value(k: int) -> int:
        if k not in known:
            opening = days.nth(skipped + k + 1)
            known[k] = scope.at(scope.complete if opening is None else opening)
        return known[k]

    guess = actual[0] // actual[1]
    most = max(days.begun(scope.complete) - skipped, 1)
    low, high = 1, most
    middle, step = min(max(guess, low), high), 1
    while low < high:
        if value(middle) >= ev:
            high = middle
            middle = max(high - step, (low + high) // 2)
        else:
            low = middle + 1
            middle = min(low + step - 1, (low + high) // 2)
        step *= 2
    first = 0 if not ev else low
    if ev and value(low) > ev:
        before, after = value(low - 1), value(low)
        return (low - 1) * (after - before) + ev - before, after - before
    # A plateau, from the first day with PV = EV on (or all that is planned, where even that is less than EV).
    last = first
    if value(first) == ev:
        low, high = first, max(first, -(-actual[0] // actual[1]))
        while low < high:
            middle = (low + high + 1) // 2
            low, high = (middle, high) if value(middle) == ev else (low, middle - 1)
        last = low
    here = (first, 1) if actual[0] <= first * actual[1] else (last, 1) if actual[0] >= last * actual[1] else actual
    return here if here[0] * planned[1] <= planned[0] * here[1] else planned
