"""Amounts over time: what of an amount is due by an instant, and many such amounts summed at many instants.

Source: calculation contract, sections 7, 10 and 11. Amounts are exact decimals in the project's currency.
"""

from bisect import bisect_left
from collections.abc import Callable, Iterable, Sequence
from decimal import Decimal
from functools import partial
from itertools import accumulate
from typing import NamedTuple

from dryledger.calendar import Axis, Instant

__all__ = ["Piece", "Positions", "Spread", "cumulative", "profile_share", "spread_pieces"]

ZERO, ONE = Decimal(0), Decimal(1)
Piece = tuple[Instant, Instant, Decimal, Callable[[Instant], Decimal]]
"""Something that is 0 before its start, its whole from its finish on, and what the function says in between."""


def profile_share(profile: str, x: Decimal) -> Decimal:
    """F(x): the share of an amount spent when the share x of the working time is over.

    uniform x; front 1 − (1 − x)²; back x²; bell 3x² − 2x³.

    >>> profile_share("front", Decimal("0.5")), profile_share("bell", Decimal("0.5"))
    (Decimal('0.75'), Decimal('0.500'))
    """
    if profile == "front":
        return 1 - (1 - x) * (1 - x)
    if profile == "back":
        return x * x
    return 3 * x * x - 2 * x * x * x if profile == "bell" else x


class Positions:
    """Positions on one axis, remembered for the instants that come again and again."""

    def __init__(self, axis: Axis) -> None:
        self.of = axis.pos
        self._known: dict[Instant, int] = {}

    def at(self, t: Instant) -> int:
        """pos(t), remembered."""
        found = self._known.get(t)
        if found is None:
            found = self._known[t] = self.of(t)
        return found


class Spread(NamedTuple):
    """An amount due over [start, finish) by working time, by a profile of which the share `done` is over already.

    `minutes` is the working time from start to finish; without any, all is due from the start.
    """

    amount: Decimal
    start: Instant
    finish: Instant
    minutes: int = 0
    profile: str = "uniform"
    done: Decimal = ZERO

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
        begun = profile_share(self.profile, self.done)
        x = self.done + (1 - self.done) * passed / self.minutes
        return self.amount * (profile_share(self.profile, x) - begun) / (1 - begun) if begun < 1 else self.amount


def spread_pieces(known: dict[int, Positions], spreads: Iterable[tuple[Axis, Spread]]) -> Iterable[Piece]:
    """Spreads as pieces over time, each on its axis; `known` keeps the positions by the identity of the axis."""
    for axis, x in spreads:
        positions = known.get(id(axis))
        if positions is None:
            positions = known[id(axis)] = Positions(axis)
        yield x.start, x.finish, x.amount, partial(_due, positions, x)


def _due(positions: Positions, x: Spread, t: Instant) -> Decimal:
    return x.part(positions.at(t) - positions.at(x.start))


def cumulative(ends: Sequence[Instant], pieces: Iterable[Piece]) -> list[Decimal]:
    """The sum of all pieces at each of the ascending instants `ends`.

    A piece costs as many steps as ends fall into it, however many ends there are.

    >>> half = (10, 20, Decimal(8), lambda t: Decimal(3))
    >>> [str(x) for x in cumulative([5, 10, 15, 20], [half])]
    ['0', '3', '3', '8']
    """
    rise = [ZERO] * (len(ends) + 1)
    for start, finish, whole, within in pieces:
        k = i = bisect_left(ends, start)
        last = ZERO
        while k < len(ends) and ends[k] < finish:
            part = within(ends[k])
            rise[k] += part - last
            last = part
            k += 1
        rise[k] += whole - last if k > i else whole
    return list(accumulate(rise[:-1]))
