"""Amounts over time: what of an amount is due by an instant, and many such amounts summed at many instants.

Source: calculation contract, sections 7, 10 and 11. Amounts are exact decimals in the project's currency.
"""

from bisect import bisect_left
from collections.abc import Callable, Iterable, Sequence
from decimal import Decimal, localcontext
from functools import lru_cache
from itertools import accumulate
from typing import NamedTuple

from dryledger.budget.money import CONTEXT
from dryledger.calendar.calendar import Axis, Instant

__all__ = ["Along", "Piece", "Positions", "Spread", "amount_by", "cumulative", "profile_share", "spread_pieces"]

ZERO, ONE = Decimal(0), Decimal(1)


def _front(x: Decimal) -> Decimal:
    return 1 - (1 - x) * (1 - x)


def _back(x: Decimal) -> Decimal:
    return x * x


def _bell(x: Decimal) -> Decimal:
    return x * x * (3 - 2 * x)


SHAPES: dict[str, Callable[[Decimal], Decimal]] = {"uniform": lambda x: x, "front": _front, "back": _back, "bell": _bell}


def profile_share(profile: str, x: Decimal) -> Decimal:
    """F(x): the share of an amount spent when the share x of the working time is over.

    uniform x; front 1 − (1 − x)²; back x²; bell 3x² − 2x³.

    >>> profile_share("front", Decimal("0.5")), profile_share("bell", Decimal("0.5"))
    (Decimal('0.75'), Decimal('0.500'))
    """
    return SHAPES[profile](x)


@lru_cache(maxsize=50_000)
def _share_over(profile: str, passed: int, minutes: int) -> Decimal:
    """The same for whole minutes: few durations and few dates make few shares, however many activities there are."""
    with localcontext(CONTEXT):
        return SHAPES[profile](Decimal(passed) / minutes)


class Positions:
    """Positions on one axis, those of a row of instants remembered for the last row asked."""

    def __init__(self, axis: Axis) -> None:
        self.at = axis.pos
        self._row: tuple[Sequence[Instant], list[int]] = ((), [])

    def row(self, ends: Sequence[Instant]) -> list[int]:
        """The positions of many instants."""
        row = self._row
        if row[0] is not ends:
            row = self._row = (ends, [self.at(t) for t in ends])
        return row[1]


class Spread(NamedTuple):
    """An amount due over [start, finish) by working time, by the part of a profile from the share `done` to `until`.

    `minutes` is the working time from start to finish; without any, all is due from the start.
    """

    amount: Decimal
    start: Instant
    finish: Instant
    minutes: int = 0
    profile: str = "uniform"
    done: Decimal = ZERO
    until: Decimal = ONE

    def due(self, axis: Axis, t: Instant) -> Decimal:
        """The part of the amount due by the instant t."""
        if t < self.start:
            return ZERO
        return self.amount if t >= self.finish else self.part(axis.between(self.start, t))

    def part(self, passed: int) -> Decimal:
        """The part due once `passed` working minutes are over."""
        if not self.minutes:
            return self.amount
        if self.profile == "uniform":
            return self.amount * passed / self.minutes
        if not self.done and self.until == 1:
            return self.amount * _share_over(self.profile, passed, self.minutes)
        begun, whole = profile_share(self.profile, self.done), profile_share(self.profile, self.until)
        x = self.done + (self.until - self.done) * passed / self.minutes
        return self.amount * (profile_share(self.profile, x) - begun) / (whole - begun) if begun < whole else self.amount


Along = tuple[Positions, str, int, Decimal, Decimal]
"""By which part of a profile something falls due: positions, profile, working minutes (negative: to be counted), done, until."""
Piece = tuple[Instant, Instant, Decimal, Along | Callable[[Instant], Decimal]]
"""Something that is 0 before its start, its whole from its finish on, and in between what the profile or the function says."""


def amount_by(piece: Piece, t: Instant) -> Decimal:
    """What of a piece is due by the instant t."""
    start, finish, whole, within = piece
    if t < start:
        return ZERO
    if t >= finish:
        return whole
    if not isinstance(within, tuple):
        return within(t)
    positions, profile, minutes, done, until = within
    at = positions.at
    begun = at(start)
    if minutes < 0:
        minutes = at(finish) - begun
    if minutes and profile == "uniform":
        return whole * (at(t) - begun) / minutes
    if minutes and not done and until == 1:
        return whole * _share_over(profile, at(t) - begun, minutes)
    return Spread(whole, start, finish, minutes, profile, done, until).part(at(t) - begun)


def spread_pieces(known: dict[int, Positions], axis: Axis, spreads: Iterable[Spread]) -> list[Piece]:
    """Spreads of one axis as pieces over time; `known` keeps the positions by the identity of the axis."""
    positions = known.get(id(axis)) or known.setdefault(id(axis), Positions(axis))
    return [
        (start, finish, amount, (positions, profile, minutes, done, until))
        for amount, start, finish, minutes, profile, done, until in spreads
    ]


def cumulative(ends: Sequence[Instant], pieces: Iterable[Piece]) -> list[Decimal]:
    """The sum of all pieces at each of the ascending instants `ends`.

    A piece costs as many steps as ends fall into it, however many ends there are.

    >>> half = (10, 20, Decimal(8), lambda t: Decimal(3))
    >>> [str(x) for x in cumulative([5, 10, 15, 20], [half])]
    ['0', '3', '3', '8']
    """
    count = len(ends)
    level, whole_by = [ZERO] * count, [ZERO] * (count + 1)
    for start, finish, whole, within in pieces:
        k = bisect_left(ends, start)
        if k < count and ends[k] < finish:
            if isinstance(within, tuple):
                positions, profile, minutes, done, until = within
                row, begun = positions.row(ends), positions.at(start)
                if minutes < 0:
                    minutes = positions.at(finish) - begun
                if minutes and profile == "uniform":
                    while k < count and ends[k] < finish:
                        level[k] += whole * (row[k] - begun) / minutes
                        k += 1
                elif minutes and not done and until == 1:
                    while k < count and ends[k] < finish:
                        level[k] += whole * _share_over(profile, row[k] - begun, minutes)
                        k += 1
                while k < count and ends[k] < finish:
                    level[k] += Spread(whole, start, finish, minutes, profile, done, until).part(row[k] - begun)
                    k += 1
            else:
                while k < count and ends[k] < finish:
                    level[k] += within(ends[k])
                    k += 1
        whole_by[k] += whole
    return [a + b for a, b in zip(level, accumulate(whole_by[:-1]), strict=True)]
