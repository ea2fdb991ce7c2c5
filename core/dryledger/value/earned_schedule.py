"""The earned schedule: how far the plan had come when it had today's earned value, in working days.

Source: the published earned-schedule method as set down in the calculation contract, section 10. Day k is the k-th
date with working time in the project calendar from the date of the scope's baseline start on; ES and AT are counted
in such days.
"""

from collections.abc import Sequence
from typing import NamedTuple

from dryledger.budget.money import ratio_of
from dryledger.budget.planned import PlannedLine
from dryledger.calendar.calendar import Instant, to_date_text
from dryledger.calendar.working_days import Ratio, WorkingDays
from dryledger.words import sentence

__all__ = ["EarnedSchedule", "earned_schedule"]

NO_BUDGET = sentence("earned_schedule.nothing_budgeted")
UNEARNED = ("earned_schedule", "sv_t", "spi_t", "forecast_finish_t")


class EarnedSchedule(NamedTuple):
    """ES, AT and what follows from them; what is None has its reason in `missing`."""

    earned: float | None
    actual: float
    variance: float | None
    spi: float | None
    forecast: str | None
    missing: dict[str, str]


def earned_schedule(
    days: WorkingDays, scope: PlannedLine, ev: int, budget: int, status: Instant, finished: Instant | None
) -> EarnedSchedule:
    """The earned schedule of one scope; `ev` and `budget` are in minor units, as its PV is.

    `days` may begin before the scope does. A scope without a budget has an actual time only. `finished` is the latest actual finish of a
    complete scope: its time runs to there, it has earned its whole schedule, and that is its forecast.
    """
    skipped = scope.skipped

    def counted(t: Instant) -> Ratio:
        n, d = days.until(t)
        return max(n - skipped * d, 0), d

    n, d = counted(status if finished is None else finished)
    if not budget:
        return EarnedSchedule(None, ratio_of(n, d), None, None, None, dict.fromkeys(UNEARNED, NO_BUDGET))
    planned = counted(scope.finish)
    earned, of = planned if finished is not None else _earned(scope.line, ev, (n, d), planned)
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


def _earned(line: Sequence[int], ev: int, actual: Ratio, planned: Ratio) -> Ratio:
    """ES = k − 1 + (EV − PV_{k−1}) ÷ (PV_k − PV_{k−1}) for the least k ≥ 1 with PV_k ≥ EV; on a run of days with PV = EV the point of
    it nearest to AT, not beyond planned.

    PV_0 = 0 and PV_k is PV when the date after the k-th begins: the line.

    >>> _earned([0, 10, 20, 20], 15, (3, 1), (2, 1)), _earned([0, 10, 20, 20], 20, (3, 1), (5, 1))
    ((15, 10), (3, 1))
    """
    most = len(line) - 1
    first = 0 if not ev else next((k for k in range(1, most) if line[k] >= ev), most)
    if ev and line[first] > ev:
        before, after = line[first - 1], line[first]
        return (first - 1) * (after - before) + ev - before, after - before
    # A plateau, from the first day with PV = EV on (or all that is planned, where even that is less than EV).
    last = first
    if line[first] == ev:
        while last < most and line[last + 1] == ev:
            last += 1
        if last == most:  # nothing more is planned after it
            last = max(first, -(-actual[0] // actual[1]))
    here = (first, 1) if actual[0] <= first * actual[1] else (last, 1) if actual[0] >= last * actual[1] else actual
    return here if here[0] * planned[1] <= planned[0] * here[1] else planned
