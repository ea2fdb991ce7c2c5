"""Working time: calendars, instants and the working axis.

An *instant* is a whole number of minutes since 0001-01-01T00:00 (a Monday), local, without zone.
An *axis* counts working minutes: `pos(t)` is how many lie before the instant t, `first(p)` the earliest
and `last(p)` the latest instant at which the count is p. Between Friday's close and Monday's opening the
count stands still, so Friday's close is first(p) and Monday's opening last(p).

Source: the working-time axis of the calculation contract, section 1. No horizon is set: the axis is
computed from the weekly pattern in closed form, and exceptions cut it into stretches.
"""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from functools import cached_property

__all__ = [
    "DAY",
    "END_OF_TIME",
    "WEEK",
    "Axis",
    "Calendar",
    "CalendarException",
    "Instant",
    "Pause",
    "date_of",
    "from_text",
    "instant",
    "midnight",
    "to_date_text",
    "to_text",
]

Instant = int
Shift = tuple[int, int]

DAY = 1440
WEEK = 7 * DAY
END_OF_TIME: Instant = date.max.toordinal() * DAY
"""The midnight that closes 9999-12-31: no date lies after it."""


def instant(moment: datetime) -> Instant:
    """The instant of a datetime, seconds dropped.

    >>> instant(datetime(1, 1, 2, 8, 30))
    1950
    """
    return (moment.toordinal() - 1) * DAY + moment.hour * 60 + moment.minute


def midnight(day: date) -> Instant:
    """The instant that opens a date.

    >>> midnight(date(1, 1, 2))
    1440
    """
    return (day.toordinal() - 1) * DAY


def date_of(t: Instant) -> date:
    """The date on which an instant falls (midnight belongs to the date that it opens)."""
    return date.fromordinal(min(t // DAY + 1, date.max.toordinal()))


def from_text(text: str) -> Instant:
    """Read ``YYYY-MM-DDTHH:MM``. Raises ValueError for anything else.

    >>> to_text(from_text("2027-01-04T08:00"))
    '2027-01-04T08:00'
    """
    if len(text) != 16 or text[10] != "T":
        raise ValueError(f"{text} is not an instant")
    return instant(datetime.fromisoformat(text))


def to_text(t: Instant) -> str:
    """Write an instant as ``YYYY-MM-DDTHH:MM``."""
    moment = datetime.fromordinal(t // DAY + 1) + timedelta(minutes=t % DAY)
    return moment.isoformat(timespec="minutes")


def to_date_text(t: Instant) -> str:
    """Write the date of an instant as ``YYYY-MM-DD``."""
    return date_of(t).isoformat()


@dataclass(frozen=True)
class CalendarException:
    """Other hours (or none) on the dates from `start` to `end`, both included."""

    start: date
    end: date
    shifts: tuple[Shift, ...]
    name: str = ""


@dataclass(frozen=True)
class Pause:
    """The window [start, end) taken out of one activity's working time."""

    start: Instant
    end: Instant
    reason: str = ""


@dataclass(frozen=True)
class Calendar:
    """A named pattern of working time. Shifts are (from, to) minutes of the day, Monday first."""

    code: str
    name: str
    week: tuple[tuple[Shift, ...], ...]
    exceptions: tuple[CalendarException, ...] = ()
    hours_per_day: float = 8
    hours_per_week: float = 40
    hours_per_month: float = 160

    @cached_property
    def axis(self) -> "Axis":
        """The calendar's own axis, without any pause."""
        return Axis(_stretches(self.week, self.exceptions))


@dataclass(frozen=True)
class _Stretch:
    """A run of days that repeat one pattern: its bounds, the count before it, and the pattern's shifts."""

    start: Instant
    end: Instant
    anchor: Instant
    period: int
    starts: tuple[int, ...]
    before: tuple[int, ...]
    lengths: tuple[int, ...]
    total: int

    def count(self, t: Instant) -> int:
        """Working minutes of the bare pattern from its anchor to t."""
        rounds, rest = divmod(t - self.anchor, self.period)
        at = bisect_right(self.starts, rest) - 1
        inside = 0 if at < 0 else self.before[at] + min(rest - self.starts[at], self.lengths[at])
        return rounds * self.total + inside

    def minute(self, k: int) -> Instant:
        """The instant at which the pattern's working minute k begins."""
        rounds, rest = divmod(k, self.total)
        at = bisect_right(self.before, rest) - 1
        return self.anchor + rounds * self.period + self.starts[at] + rest - self.before[at]


def _stretch(start: Instant, end: Instant, anchor: Instant, period: int, shifts: Sequence[Shift]) -> _Stretch:
    before, total = [], 0
    for a, b in shifts:
        before.append(total)
        total += b - a
    return _Stretch(start, end, anchor, period, tuple(a for a, _ in shifts), tuple(before), tuple(b - a for a, b in shifts), total)


def _stretches(week: Sequence[Sequence[Shift]], exceptions: Sequence[CalendarException]) -> list[_Stretch]:
    flat = [(day * DAY + a, day * DAY + b) for day, shifts in enumerate(week) for a, b in sorted(shifts)]
    out: list[_Stretch] = []
    at = 0
    for gap in sorted(exceptions, key=lambda e: e.start):
        a, b = midnight(gap.start), midnight(gap.end) + DAY
        if a > at:
            out.append(_stretch(at, a, 0, WEEK, flat))
        out.append(_stretch(a, b, a, DAY, sorted(gap.shifts)))
        at = b
    out.append(_stretch(at, END_OF_TIME * 2, 0, WEEK, flat))
    return out


@dataclass
class Axis:
    """The count of working minutes along time.

    >>> five = Calendar("c", "Five-day", (((480, 720), (780, 1020)),) * 5 + ((), ()))
    >>> friday, monday = from_text("2027-01-08T17:00"), from_text("2027-01-11T08:00")
    >>> five.axis.pos(friday) == five.axis.pos(monday)
    True
    >>> five.axis.first(five.axis.pos(monday)) == friday and five.axis.last(five.axis.pos(friday)) == monday
    True
    """

    stretches: list[_Stretch]
    pauses: tuple[tuple[Instant, Instant], ...] = ()
    _starts: list[Instant] = field(init=False, repr=False)
    _counts: list[int] = field(init=False, repr=False)
    _offsets: list[int] = field(init=False, repr=False)
    _holes: list[tuple[int, int]] = field(init=False, repr=False)

    def __post_init__(self) -> None:
        self._starts = [s.start for s in self.stretches]
        self._counts, self._offsets = [], []
        total = 0
        for s in self.stretches:
            self._counts.append(total)
            self._offsets.append(total - s.count(s.start))
            total += s.count(s.end) - s.count(s.start)
        self._end = total
        self._holes, removed = [], 0
        for a, b in self.pauses:
            pa, pb = self._raw(a), self._raw(b)
            if pb > pa:
                self._holes.append((pa - removed, pb - pa))
                removed += pb - pa

    def without(self, pauses: Sequence[Pause]) -> "Axis":
        """The same axis with the pauses taken out (overlapping ones are joined)."""
        if not pauses:
            return self
        merged: list[list[Instant]] = []
        for p in sorted(pauses, key=lambda x: x.start):
            if merged and p.start <= merged[-1][1]:
                merged[-1][1] = max(merged[-1][1], p.end)
            else:
                merged.append([p.start, p.end])
        return Axis(self.stretches, tuple((a, b) for a, b in merged))

    def _raw(self, t: Instant) -> int:
        i = max(bisect_right(self._starts, t) - 1, 0)
        return self._offsets[i] + self.stretches[i].count(t)

    def _minute(self, k: int) -> Instant:
        if k >= self._end:
            return END_OF_TIME + 1
        i = max(bisect_right(self._counts, k) - 1, 0)
        return self.stretches[i].minute(k - self._offsets[i])

    def pos(self, t: Instant) -> int:
        """Working minutes before the instant t."""
        count = self._raw(t)
        for a, b in self.pauses:
            if t <= a:
                break
            count -= self._raw(min(t, b)) - self._raw(a)
        return count

    def _open(self, k: int) -> int:
        """The bare calendar's index of this axis's working minute k."""
        return k + sum(length for at, length in self._holes if at <= k)

    def last(self, p: int) -> Instant:
        """The latest instant whose position is p: the opening of the working minute p."""
        return self._minute(self._open(p))

    def first(self, p: int) -> Instant:
        """The earliest instant whose position is p: the close of the working minute before it."""
        return self._minute(self._open(p - 1)) + 1

    def latest_opening(self, limit: Instant) -> int:
        """The greatest p with last(p) ≤ limit."""
        return self.pos(limit + 1) - 1

    def between(self, a: Instant, b: Instant) -> int:
        """Working minutes from a to b (negative when b lies before a)."""
        return self.pos(b) - self.pos(a)

    def span(self, a: Instant, b: Instant) -> list[tuple[Instant, Instant]]:
        """The pieces of [a, b) that the pauses leave, in order (working or not)."""
        out, at = [], a
        for p, q in self.pauses:
            if q <= at or p >= b:
                continue
            if p > at:
                out.append((at, p))
            at = max(at, q)
        if at < b:
            out.append((at, b))
        return out
