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

__all__ = ["Along", "Piece", "Spread", "amount_by", "cumulative", "profile_share"]

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


Along = tuple[Axis, str, int, Decimal, Decimal]
"""By which part of a profile something falls due: axis, profile, working minutes (negative: to be counted), and the part,
from the share `done` to `until`. Without working minutes all is due from the start."""
Piece = tuple[Instant, Instant, Decimal, Along | Callable[[Instant], Decimal]]
"""Something that is 0 before its start, its whole from its finish on, and in between what the profile or the function says."""


class Spread(NamedTuple):
    """A piece that falls due over [start, finish) along a profile."""

    start: Instant
    finish: Instant
    amount: Decimal
    along: Along


def amount_by(piece: Piece, t: Instant) -> Decimal:
    """What of a piece is due by the instant t."""
    start, finish, whole, within = piece
    if t < start:
        return ZERO
    if t >= finish:
        return whole
    if not isinstance(within, tuple):
        return within(t)
    axis, profile, minutes, done, until = within
    begun = axis.pos(start)
    if minutes < 0:
        minutes = axis.pos(finish) - begun
    if minutes and profile == "uniform":
        return whole * (axis.pos(t) - begun) / minutes
    if minutes and not done and until == 1:
        return whole * _share_over(profile, axis.pos(t) - begun, minutes)
    return _part(whole, profile, minutes, done, until, axis.pos(t) - begun)


def _part(whole: Decimal, profile: str, minutes: int, done: Decimal, until: Decimal, passed: int) -> Decimal:
    """The part of a whole that is due once `passed` of the minutes are over, along a part of a profile."""
    if not minutes:
        return whole
    begun, all_of_it = profile_share(profile, done), profile_share(profile, until)
    x = done + (until - done) * passed / minutes
    return whole * (profile_share(profile, x) - begun) / (all_of_it - begun) if begun < all_of_it else whole


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
                axis, profile, minutes, done, until = within
                row, begun = axis.row(ends), axis.pos(start)
                if minutes < 0:
                    minutes = axis.pos(finish) - begun
                if minutes and profile == "uniform":
                    while k < count and ends[k] < finish:
                        level[k] += whole * (row[k] - begun) / minutes
                        k += 1
                elif minutes and not done and until == 1:
                    while k < count and ends[k] < finish:
                        level[k] += whole * _share_over(profile, row[k] - begun, minutes)
                        k += 1
                while k < count and ends[k] < finish:
                    level[k] += _part(whole, profile, minutes, done, until, row[k] - begun)
                    k += 1
            else:
                while k < count and ends[k] < finish:
                    level[k] += within(ends[k])
                    k += 1
        whole_by[k] += whole
    return [a + b for a, b in zip(level, accumulate(whole_by[:-1]), strict=True)]
