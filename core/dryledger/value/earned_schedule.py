"""The earned schedule: how far the plan had come when it had today's earned value, in working days.

Source: the published earned-schedule method as set down in the calculation contract, section 10. Day k is the k-th
date with working time in the project calendar from the date of the scope's baseline start on; ES and AT are counted
in such days.
"""

from bisect import bisect_left
from collections.abc import Callable
from decimal import Decimal
from threading import Lock
from typing import NamedTuple

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
    days: WorkingDays,
    scope: PlannedScope,
    planned: Callable[[Instant], Decimal],
    ev: Decimal,
    budget: Decimal,
    status: Instant,
    unit: Decimal,
) -> EarnedSchedule:
    """The earned schedule of one scope.

    `days` may begin before the scope does; `planned` gives PV in minor units at an instant, `ev` is in minor units, of
    the size `unit`. A scope without a budget (`budget` 0) has an actual time only.
    """
    skipped = days.begun(scope.start // DAY * DAY)
    n, d = days.until(status)
    n = max(n - skipped * d, 0)
    if not budget:
        return EarnedSchedule(None, _float(n, d), None, None, None, dict.fromkeys(UNEARNED, NO_BUDGET))
    earned, of = _earned(days, skipped, planned, ev, scope.complete, n // d, unit) if ev else (0, 1)
    figures = (_float(earned, of), _float(n, d), _float(earned * d - n * of, of * d))
    if not n:
        return EarnedSchedule(
            *figures, None, None, dict.fromkeys(("spi_t", "forecast_finish_t"), sentence("earned_schedule.nothing_planned_date"))
        )
    if not earned:
        return EarnedSchedule(*figures, 0.0, None, {"forecast_finish_t": sentence("earned_schedule.nothing_earned_date")})
    last, day = days.until(scope.finish)
    whole = -(-(last - skipped * day) * n * of // (day * d * earned))  # planned ÷ SPI(t), rounded up
    found = days.nth(skipped + max(whole, 1)) if whole <= 100_000 else None
    missing = {} if found is not None else {"forecast_finish_t": sentence("earned_schedule.forecast_lies_after")}
    return EarnedSchedule(*figures, _float(earned * d, of * n), None if found is None else to_date_text(found), missing)


def _float(n: int, d: int) -> float:
    """n ÷ d to six places, half-even, as every ratio is shown.

    >>> _float(2, 3), _float(-1, 3), _float(5, 2_000_000), _float(15, 2_000_000), _float(-1, 10_000_000)
    (0.666667, -0.333333, 2e-06, 8e-06, 0.0)
    """
    whole, rest = divmod(n * 1_000_000, d)
    if 2 * rest > d or (2 * rest == d and whole % 2):
        whole += 1
    return whole / 1_000_000


def _earned(
    days: WorkingDays, skipped: int, planned: Callable[[Instant], Decimal], ev: Decimal, finish: Instant, guess: int, unit: Decimal
) -> Ratio:
    """ES = k − 1 + (EV − PV_{k−1}) ÷ (PV_k − PV_{k−1}) for the least k ≥ 1 with PV_k ≥ EV.

    PV_0 = 0 and PV_k is PV when the date after the k-th begins. The search sets out from a guess, in growing steps.
    """
    known = {0: Decimal(0)}

    def value(k: int) -> Decimal:
        if k not in known:
            opening = days.nth(skipped + k + 1)
            known[k] = planned(finish if opening is None else opening)
        return known[k]

    low, high = 1, max(days.begun(finish) - skipped, 1)
    middle, step = min(max(guess, low), high), 1
    while low < high:
        if value(middle) >= ev:
            high = middle
            middle = max(high - step, (low + high) // 2)
        else:
            low = middle + 1
            middle = min(low + step - 1, (low + high) // 2)
        step *= 2
    before, after = value(low - 1), value(low)
    if after < ev or after == before:
        return low, 1
    part, of = int((ev - before) / unit), int((after - before) / unit)
    return (low - 1) * of + part, of
