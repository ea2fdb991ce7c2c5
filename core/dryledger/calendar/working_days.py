"""The dates with working time on an axis, counted from a first date on, as the earned schedule counts them.

Source: calculation contract, section 10.
"""

from bisect import bisect_left
from threading import Lock

from dryledger.calendar.calendar import DAY, END_OF_TIME, Axis, Instant, date_of, midnight

__all__ = ["Ratio", "WorkingDays"]

Ratio = tuple[int, int]
"""A number of days as a numerator and a denominator, the latter at least 1."""
LAST_YEAR = 2199


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

    def range_of(self, start: Instant, until: Instant) -> tuple[int, int]:
        """From which to before which of the dates a line goes that begins on the date of `start` and has all by `until`: one more than
        begins before that, and two at the least."""
        low = self.begun(start // DAY * DAY)
        return low, low + max(self.begun(until) - low, 1) + 1

    def openings(self, count: int) -> list[Instant]:
        """The midnights that open so many dates; after 2199 the end of time."""
        if count:
            self.nth(count)
        return self.found[:count] + [END_OF_TIME] * (count - len(self.found))
