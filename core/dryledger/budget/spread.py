"""Whole amounts over time: what of an amount is due by an instant, and many such amounts summed at many instants.

Source: calculation contract, sections 6, 7, 10 and 11. Amounts are whole numbers, of minor units or of minutes; what is due of each by
an instant is rounded half-even there, so sums are sums.
"""

from bisect import bisect_left
from collections.abc import Callable, Iterable, Sequence
from itertools import accumulate
from typing import NamedTuple

from dryledger.budget.money import part
from dryledger.calendar.calendar import Axis, Instant

__all__ = ["Along", "Piece", "amount_by", "at_once", "cumulative", "due_share", "grown", "growth", "within"]

UNIFORM, FRONT, BACK, BELL = range(4)
SHAPES = {"uniform": UNIFORM, "front": FRONT, "back": BACK, "bell": BELL}


def growth(shape: int, n: int, d: int) -> tuple[int, int]:
    """F(n ÷ d) of one of the shapes, numerator and denominator: uniform x; front 1 − (1 − x)²; back x²; bell 3x² − 2x³."""
    if shape == UNIFORM:
        return n, d
    if shape == FRONT:
        return n * (2 * d - n), d * d
    if shape == BACK:
        return n * n, d * d
    return n * n * (3 * d - 2 * n), d * d * d


def grown(profile: str, n: int, d: int) -> tuple[int, int]:
    """F(n ÷ d) of a profile: the share of an amount spent when that share of the working time is over.

    >>> grown("front", 1, 2), grown("bell", 1, 2)
    ((3, 4), (4, 8))
    """
    return growth(SHAPES[profile], n, d)


def due_share(shape: int, gone: int, minutes: int, passed: int) -> tuple[int, int]:
    """What of an amount is due once `passed` of its minutes are over, where the profile had `gone` minutes before: that is
    (F(x) − F(g)) ÷ (1 − F(g)).

    >>> due_share(BACK, 0, 4, 2), due_share(BACK, 2, 2, 1)
    ((4, 16), (5, 12))
    """
    if shape == UNIFORM:
        return passed, minutes
    now, whole = growth(shape, gone + passed, gone + minutes)
    before = growth(shape, gone, gone + minutes)[0]
    if before >= whole:
        return 1, 1
    return now - before, whole - before


Along = tuple[Axis, str, int, int]
"""How something falls due: axis, profile, working minutes (negative: to be counted), and the minutes of the profile that were over
before. Without working minutes all is due from the start."""


class Piece(NamedTuple):
    """Something that is 0 before its start, its whole from its finish on, and in between what the profile or the function says."""

    start: Instant
    finish: Instant
    amount: int
    along: Along | Callable[[Instant], int]


def at_once(t: Instant, amount: int) -> Piece:
    """All of an amount at an instant."""
    return Piece(t, t, amount, within(amount))


def within(amount: int) -> Callable[[Instant], int]:
    """The same amount at any instant."""
    return lambda _: amount


def amount_by(piece: Piece, t: Instant) -> int:
    """What of a piece is due by the instant t."""
    start, finish, whole, along = piece
    if t < start:
        return 0
    if t >= finish:
        return whole
    if not isinstance(along, tuple):
        return along(t)
    axis, profile, minutes, gone = along
    begun = axis.pos(start)
    if minutes < 0:
        minutes = axis.pos(finish) - begun
    return part(whole, *due_share(SHAPES[profile], gone, minutes, axis.pos(t) - begun)) if minutes else whole


def cumulative(ends: Sequence[Instant], pieces: Iterable[Piece]) -> list[int]:
    """The sum of all pieces at each of the ascending instants `ends`.

    A piece costs as many steps as ends fall into it, however many ends there are.

    >>> cumulative([5, 10, 15, 20], [Piece(10, 20, 8, lambda t: 3)])
    [0, 3, 3, 8]
    """
    count = len(ends)
    level, whole_by = [0] * count, [0] * (count + 1)
    for start, finish, whole, along in pieces:
        k = bisect_left(ends, start)
        if k < count and ends[k] < finish:
            if isinstance(along, tuple):
                axis, profile, minutes, gone = along
                row, begun = axis.row(ends), axis.pos(start)
                if minutes < 0:
                    minutes = axis.pos(finish) - begun
                while k < count and ends[k] < finish:
                    level[k] += part(whole, *due_share(SHAPES[profile], gone, minutes, row[k] - begun)) if minutes else whole
                    k += 1
            else:
                while k < count and ends[k] < finish:
                    level[k] += along(ends[k])
                    k += 1
        whole_by[k] += whole
    return [a + b for a, b in zip(level, accumulate(whole_by[:-1]), strict=True)]
