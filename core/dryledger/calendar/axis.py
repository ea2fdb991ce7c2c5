"""The working axis: how many working minutes lie before an instant, and back.

`pos(t)` is how many lie before the instant t, `first(p)` the earliest and `last(p)` the latest instant at which the
count is p. Between Friday's close and Monday's opening the count stands still, so Friday's close is first(p) and
Monday's opening last(p). Instants are minutes since 0001-01-01T00:00 (a Monday), local, without zone.

Source: calculation contract, section 1. No horizon is set: within a stretch of time a pattern of shifts repeats, and
what lies between is computed, not looked up. `passes` holds the arithmetic, here and in the schedule.
"""

import itertools
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from dryledger.network import passes
from dryledger.network.arrays import Axes, Ints

__all__ = ["DAY", "WEEK", "Axis", "Instant", "Stretch", "pooled"]

Instant = int
Window = tuple[Instant, Instant]

DAY = 1440
WEEK = 7 * DAY
MOST_KNOWN = 50_000
"""Instants of which an axis remembers the position: the same few are asked again and again."""


@dataclass(frozen=True)
class Stretch:
    """A run of time [start, end) in which the shifts repeat each period from the anchor; none at all in a pause."""

    start: Instant
    end: Instant
    anchor: Instant
    period: int
    shifts: tuple[tuple[int, int], ...]

    @property
    def total(self) -> int:
        """Working minutes in one period."""
        return sum(b - a for a, b in self.shifts)

    def count(self, t: Instant) -> int:
        """Working minutes of the bare pattern from its anchor to t."""
        rounds, rest = divmod(t - self.anchor, self.period)
        return rounds * self.total + sum(min(max(rest - a, 0), b - a) for a, b in self.shifts)


class Axis:
    """The count of working minutes along time.

    >>> day = Axis([Stretch(0, 10**7, 0, DAY, ((480, 720), (780, 1020)))])
    >>> day.pos(600), day.last(240), day.first(240), day.between(0, 2 * DAY)
    (120, 780, 720, 960)
    """

    _numbers = itertools.count()

    def __init__(self, stretches: Sequence[Stretch]) -> None:
        self.number = next(self._numbers)
        """Its own among all that were made."""
        self.stretches = list(stretches)
        self.table = _table(self.stretches)
        self._known: dict[Instant, int] = {}
        self._row: tuple[Sequence[Instant], list[int]] = ((), [])

    def without(self, pauses: Iterable[Window]) -> "Axis":
        """The same axis with windows [from, to) taken out; they may overlap.

        >>> day = Axis([Stretch(0, 10**7, 0, DAY, ((480, 720),))])
        >>> day.without([(500, 600)]).between(0, DAY)
        140
        """
        merged: list[Window] = []
        for a, b in sorted(pauses):
            if merged and a <= merged[-1][1]:
                merged[-1] = (merged[-1][0], max(merged[-1][1], b))
            else:
                merged.append((a, b))
        return Axis(_cut(self.stretches, merged)) if merged else self

    def pos(self, t: Instant) -> int:
        """Working minutes before the instant t."""
        found = self._known.get(t)
        if found is None:
            if len(self._known) >= MOST_KNOWN:
                self._known.clear()
            found = self._known[t] = passes.position(self.table, 0, t)
        return found

    def row(self, instants: Sequence[Instant]) -> list[int]:
        """The positions of many instants, remembered for the last list of them that was asked for."""
        known = self._row
        if known[0] is not instants:
            known = self._row = (instants, [self.pos(t) for t in instants])
        return known[1]

    def last(self, p: int) -> Instant:
        """The latest instant whose position is p: the opening of the working minute p."""
        return passes.last(self.table, 0, p)

    def first(self, p: int) -> Instant:
        """The earliest instant whose position is p: the close of the working minute before it."""
        return passes.first(self.table, 0, p)

    def latest_opening(self, limit: Instant) -> int:
        """The greatest p with last(p) ≤ limit."""
        return passes.opening(self.table, 0, limit)

    def between(self, a: Instant, b: Instant) -> int:
        """Working minutes from a to b (negative when b lies before a)."""
        return self.pos(b) - self.pos(a)


def _cut(stretches: Sequence[Stretch], windows: Sequence[Window]) -> list[Stretch]:
    """The stretches with the windows, in order and apart, emptied; one walk along both."""
    out: list[Stretch] = []
    i = 0
    for s in stretches:
        at = s.start
        while i < len(windows) and windows[i][0] < s.end:
            a, b = max(windows[i][0], at), min(windows[i][1], s.end)
            if a > at:
                out.append(Stretch(at, a, s.anchor, s.period, s.shifts))
            if b > a:
                out.append(Stretch(a, b, a, DAY, ()))
                at = b
            if windows[i][1] > s.end:
                break
            i += 1
        if at < s.end:
            out.append(Stretch(at, s.end, s.anchor, s.period, s.shifts))
    return out


def _table(stretches: Sequence[Stretch]) -> Axes:
    x = Axes([0, len(stretches)], [], [], [], [], [], [], [], [0], [], [], [])
    count = 0
    for s in stretches:
        own = s.count(s.start)
        x.start.append(s.start)
        x.counts.append(count)
        x.offset.append(count - own)
        x.anchor.append(s.anchor)
        x.period.append(s.period)
        x.total.append(s.total)
        inside = 0
        for a, b in s.shifts:
            x.opens.append(a)
            x.before.append(inside)
            x.length.append(b - a)
            inside += b - a
        x.shift.append(len(x.opens))
        count += s.count(s.end) - own
    x.end.append(count)
    return x


def pooled(axes: Sequence[Axis], array: Callable[[Sequence[int]], Ints]) -> tuple[Axes, Ints]:
    """The tables of many axes as one, each distinct axis once, and the place of each of `axes` in it."""
    ids = list(map(id, axes))
    distinct = dict(zip(ids, axes, strict=True))
    rank = {at: i for i, at in enumerate(distinct)}
    x = Axes([0], [], [], [], [], [], [], [], [0], [], [], [])
    for axis in distinct.values():
        t = axis.table
        x.first.append(x.first[-1] + t.first[1])
        x.shift.extend(len(x.opens) + k for k in t.shift[1:])
        for name in ("end", "start", "counts", "offset", "anchor", "period", "total", "opens", "before", "length"):
            getattr(x, name).extend(getattr(t, name))
    return Axes(*(array(column) for column in x)), array([rank[i] for i in ids])
