"""Earned value summed at every scope of a book at one page: activities, WBS elements, the project, any selection.

The sums come from `value`, the measures from `measures`; the earned schedule is added for WBS elements and the
project. Source: calculation contract, section 10.
"""

import math
from collections.abc import Callable, Iterable
from decimal import Decimal
from functools import cached_property

from dryledger.budget import Spread
from dryledger.calendar import DAY, Instant, to_date_text
from dryledger.measures import NO_PLAN, NO_STATUS, Measures, Sums, measures
from dryledger.money import minor_unit, ratio, rounded
from dryledger.plan import Baseline
from dryledger.posting import AsOf, Progress, progress
from dryledger.schedule import Schedule
from dryledger.value import ActualItem, actual_items, actual_of, earned_share, planned_value, remaining_cost

__all__ = ["Scope", "Valuation"]

ZERO = Decimal(0)
LAST_FORECAST: Instant = 2199 * 366 * DAY
"""Bound of the search for a forecast date, past the year 2199."""


class Scope:
    """What a set of activities and WBS elements covers: activity codes, and WBS codes whose own costs count."""

    def __init__(self, activities: Iterable[str], wbs: Iterable[str]) -> None:
        self.activities = list(activities)
        self.wbs = set(wbs)
        self._activities = set(self.activities)

    def holds(self, target: tuple[str, str]) -> bool:
        """Whether an actual cost on this target counts here."""
        kind, code = target
        return code in (self._activities if kind == "activity" else self.wbs)


class Valuation:
    """The value of a book at one page. Everything is computed once, when first asked for."""

    def __init__(self, at: AsOf, now: dict[str, Progress], schedule: Schedule, baseline: Baseline | None) -> None:
        self.at, self.progress, self.schedule, self.baseline = at, now, schedule, baseline
        self.book = at.book
        self.unit = minor_unit(self.book.project.currency)
        self.codes = list(self.book.activity_by_code)
        if baseline is not None:
            self.codes += [c for c in baseline.by_code if c not in self.book.activity_by_code]

    @cached_property
    def actuals(self) -> list[ActualItem]:
        """Every actual cost that the pages so far know."""
        return actual_items(self.at)

    @cached_property
    def spreads(self) -> dict[str, list[Spread]]:
        """The remaining cost of each activity as spreads."""
        return {a.code: remaining_cost(self.at, a, self.progress[a.code], self.schedule.activities[a.code]) for a in self.book.activities}

    def wbs_of(self, code: str) -> str | None:
        """The WBS element of an activity: the plan's, for removed work the baseline's."""
        a = self.book.activity_by_code.get(code)
        if a is not None:
            return a.wbs
        return self.baseline.by_code[code].wbs if self.baseline and code in self.baseline.by_code else None

    def planned(self, code: str, t: Instant) -> Decimal:
        """PV of an activity at any instant; 0 for work that the baseline lacks."""
        return planned_value(self.baseline, code, t) if self.baseline and code in self.baseline.by_code else ZERO

    def earned(self, at: AsOf, now: dict[str, Progress]) -> dict[str, Decimal]:
        """EV of every baseline activity at a page."""
        if self.baseline is None:
            return {}
        return {c: a.budget * earned_share(at, self.baseline, c, now) for c, a in self.baseline.by_code.items() if a.budget}

    @cached_property
    def ev(self) -> dict[str, Decimal]:
        """EV of every baseline activity at this page."""
        return self.earned(self.at, self.progress)

    @cached_property
    def ev_by_page(self) -> list[tuple[Instant, dict[str, Decimal]]]:
        """EV of every baseline activity at each page so far, oldest first."""
        out: list[tuple[Instant, dict[str, Decimal]]] = []
        for back in range(len(self.at.periods) - 1, 0, -1):
            then = self.at.earlier(back)
            assert then is not None and then.status is not None
            out.append((then.status, self.earned(then, progress(then))))
        if self.at.status is not None:
            out.append((self.at.status, self.ev))
        return out

    @cached_property
    def sums(self) -> dict[tuple[str, str], Sums]:
        """Exact sums of ("activity", code) and of what stands on ("wbs", code) itself."""
        out: dict[tuple[str, str], Sums] = {("activity", c): Sums() for c in self.codes}
        status = self.at.status
        for code in self.codes:
            s = out["activity", code]
            if self.baseline is not None and code in self.baseline.by_code:
                s.bac = self.baseline.by_code[code].budget
            if status is not None:
                s.pv, s.ev = self.planned(code, status), self.ev.get(code, ZERO)
            s.remaining = sum((x.amount for x in self.spreads.get(code, ())), ZERO)
        if status is None:
            return out
        for target, by in actual_of(self.actuals, status).items():
            out.setdefault(target, Sums()).ac = by
        then = self.at.earlier(3)
        if then is not None and then.status is not None:
            for code, ev in self.earned(then, progress(then)).items():
                out["activity", code].ev_then = ev
            for target, by in actual_of(actual_items(then), then.status).items():
                out.setdefault(target, Sums()).ac_then = sum(by.values(), ZERO)
        return out

    def scope(self, wbs: str | None = None) -> Scope:
        """The scope of a WBS element, or of the whole project."""
        if wbs is None:
            return Scope(self.codes, (w.code for w in self.book.wbs))
        below = {w.code for w in self.book.wbs if wbs in self.book.wbs_above[w.code]}
        return Scope((c for c in self.codes if self.wbs_of(c) in below), below)

    def total(self, scope: Scope) -> Sums:
        """The sums of a scope."""
        out = Sums()
        for target, s in self.sums.items():
            if scope.holds(target):
                out.add(s)
        return out

    def measure(self, code: str, scope: Scope, with_schedule: bool = True) -> Measures:
        """The measures of a scope, with or without the earned schedule."""
        out = self._measures(code, self.total(scope))
        if with_schedule:
            self._earned_schedule(out, scope)
        return out

    def measure_activity(self, code: str) -> Measures:
        """The measures of one activity."""
        return self._measures(code, self.sums["activity", code])

    def _measures(self, code: str, sums: Sums) -> Measures:
        return measures(code, sums, self.unit, self.book.project.eac, self.at.status is not None)

    def measure_wbs(self, with_schedule: bool = True) -> list[Measures]:
        """The measures of every WBS element, in the book's order."""
        totals = {w.code: Sums() for w in self.book.wbs}
        for (kind, code), s in self.sums.items():
            at = self.wbs_of(code) if kind == "activity" else code
            for above in self.book.wbs_above.get(at or "", ()):
                totals[above].add(s)
        out = []
        for w in self.book.wbs:
            m = self._measures(w.code, totals[w.code])
            if with_schedule:
                self._earned_schedule(m, self.scope(w.code))
            out.append(m)
        return out

    # Earned schedule

    def _earned_schedule(self, out: Measures, scope: Scope) -> None:
        status = self.at.status
        names = ("earned_schedule", "actual_time", "sv_t", "spi_t", "forecast_finish_t")
        rows = [self.baseline.by_code[c] for c in scope.activities if c in self.baseline.by_code] if self.baseline else []
        if status is None or not rows:
            out.reasons.update(dict.fromkeys(names, NO_STATUS if status is None else "no baseline to measure against"))
            return
        days = _WorkingDays(self.book.axis.pos, min(a.start for a in rows))
        es = days.earned(
            lambda t: rounded(sum((self.planned(a.code, t) for a in rows), ZERO), self.unit), out.ev, max(a.finish for a in rows)
        )
        at = days.time(status)
        out.earned_schedule, out.actual_time, out.sv_t = ratio(es), ratio(at), ratio(es - at)
        if not at:
            out.reasons.update({"spi_t": NO_PLAN, "forecast_finish_t": NO_PLAN})
            return
        out.spi_t = ratio(es / at)
        planned = days.count(max(a.finish for a in rows))
        if not es:
            out.reasons["forecast_finish_t"] = "nothing earned by this date"
            return
        found = days.nth(math.ceil(planned * at / es))
        if found is None:
            out.reasons["forecast_finish_t"] = "the forecast lies after 2199"
        else:
            out.forecast_finish_t = to_date_text(found)


class _WorkingDays:
    """The dates with working time in the project calendar from a first date on, counted from 1."""

    def __init__(self, pos: Callable[[Instant], int], start: Instant) -> None:
        self.pos = pos
        self.found: list[Instant] = []
        self.next = start // DAY * DAY

    def works(self, day: Instant) -> bool:
        return self.pos(day + DAY) > self.pos(day)

    def _more(self) -> bool:
        while self.next < LAST_FORECAST:
            day, self.next = self.next, self.next + DAY
            if self.works(day):
                self.found.append(day)
                return True
        return False

    def nth(self, k: int) -> Instant | None:
        """The midnight that opens the k-th date; None after 2199."""
        if k > 800_000:
            return None
        while len(self.found) < k:
            if not self._more():
                return None
        day = self.found[k - 1]
        return day if int(to_date_text(day)[:4]) <= 2199 else None

    def count(self, t: Instant) -> int:
        """How many such dates begin before the instant t (the date of t included)."""
        while self.next < t and self._more():
            pass
        return sum(1 for d in self.found if d < t)

    def time(self, t: Instant) -> Decimal:
        """AT: whole dates before t's date, and the share of t's date's working minutes before t."""
        day = t // DAY * DAY
        before = Decimal(self.count(day))
        if t > day and self.works(day) and day >= (self.found[0] if self.found else day):
            return before + Decimal(self.pos(t) - self.pos(day)) / (self.pos(day + DAY) - self.pos(day))
        return before

    def earned(self, planned: Callable[[Instant], Decimal], ev: Decimal, finish: Instant) -> Decimal:
        """ES = k − 1 + (EV − PV_{k−1}) ÷ (PV_k − PV_{k−1}) for the least k ≥ 1 with PV_k ≥ EV; 0 for EV = 0."""
        if not ev:
            return ZERO
        last = max(self.count(finish), 1)

        def value(k: int) -> Decimal:
            opening = self.nth(k + 1) if k else None
            return planned(opening if opening is not None else finish) if k else ZERO

        low, high = 1, last
        while low < high:
            middle = (low + high) // 2
            if value(middle) >= ev:
                high = middle
            else:
                low = middle + 1
        before, after = value(low - 1), value(low)
        if after < ev or after == before:
            return Decimal(low)
        return low - 1 + (ev - before) / (after - before)
