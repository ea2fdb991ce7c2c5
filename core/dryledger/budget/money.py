"""Money at the edge: exact decimals inside, rounded half-even to the currency's minor unit on the way out.

Source: ISO 4217 for the minor units. Inside a computation 40 digits are kept; a sum is first brought to 15 places,
so that thirds that add up to a half cent count as that half cent.
"""

import math
from collections.abc import Sequence
from decimal import ROUND_HALF_EVEN, Context, Decimal
from fractions import Fraction

from dryledger.book.currencies import DIGITS

__all__ = ["CONTEXT", "cells_of", "minor_unit", "ratio", "rounded", "share_out"]

CONTEXT = Context(prec=40, rounding=ROUND_HALF_EVEN)
_FINE = Decimal("1e-15")
_MICRO = Decimal("1e-6")
_NEAR = Decimal("1e-12")
_quantize = CONTEXT.quantize


def minor_unit(currency: str) -> Decimal:
    """The smallest amount of a currency.

    >>> minor_unit("EUR"), minor_unit("JPY"), minor_unit("KWD"), minor_unit("CLF")
    (Decimal('0.01'), Decimal('1'), Decimal('0.001'), Decimal('0.0001'))
    """
    return Decimal(1).scaleb(-DIGITS.get(currency, 2))


def rounded(amount: Decimal, unit: Decimal) -> Decimal:
    """An amount in whole minor units, half-even; never a negative zero.

    >>> rounded(Decimal("2.675"), Decimal("0.01")), rounded(Decimal("-0.001"), Decimal("0.01"))
    (Decimal('2.68'), Decimal('0.00'))
    """
    got = _quantize(amount, unit)
    if got != amount:
        rest = amount - got
        if abs(rest + rest) > unit - _NEAR:
            # Close to a tie: bring the amount to fifteen places first, so that a tie counts as one.
            got = _quantize(_quantize(amount, _FINE), unit)
    return got if got else abs(got)


def ratio(value: Decimal) -> float:
    """A ratio to six places, as results show it."""
    return float(rounded(value, _MICRO)) if value else 0.0


def share_out(total: Decimal, weights: Sequence[Decimal], unit: Decimal) -> list[Decimal]:
    """Split a rounded total by weights into rounded parts that add up to it exactly (largest remainder).

    Ties go to the earlier; weights that are all zero share equally.

    >>> [str(x) for x in share_out(Decimal("10.00"), [Decimal(1)] * 3, Decimal("0.01"))]
    ['3.34', '3.33', '3.33']
    >>> [str(x) for x in share_out(Decimal("0.03"), [Decimal(5), Decimal(1)], Decimal("0.01"))]
    ['0.03', '0.00']
    """
    if not weights:
        return []
    parts = [Fraction(w) for w in weights]
    whole = sum(parts)
    cells = int((total / unit).to_integral_value())
    return _largest_remainder(cells, [cells * (p / whole if whole else Fraction(1, len(parts))) for p in parts], unit)


def cells_of(parts: Sequence[Decimal], unit: Decimal) -> list[Decimal]:
    """Exact parts as rounded cells that add up to their rounded total exactly (largest remainder).

    >>> [str(x) for x in cells_of([Decimal("0.004"), Decimal("0.004"), Decimal("0.004")], Decimal("0.01"))]
    ['0.01', '0.00', '0.00']
    """
    filled = [i for i, p in enumerate(parts) if p]
    none = [unit - unit]
    if not filled:
        return none * len(parts)
    first, end = filled[0], filled[-1] + 1  # what is nothing gets nothing of the rest
    inside = parts[first:end]
    total = rounded(sum(inside, Decimal(0)), unit)
    cells = _largest_remainder(int((total / unit).to_integral_value()), [_quantize(p / unit, _FINE) for p in inside], unit)
    return [*none * first, *cells, *none * (len(parts) - end)]


def _largest_remainder(cells: int, exact: Sequence[Decimal | Fraction], unit: Decimal) -> list[Decimal]:
    """Whole cells near the exact ones that add up to `cells`; what is over goes to the largest rest, ties to the earlier."""
    parts = [math.floor(x) for x in exact]
    rests = [p - x for p, x in zip(parts, exact, strict=True)]
    by_rest = sorted(range(len(parts)), key=lambda i: (rests[i], i))
    for i in by_rest[: cells - sum(parts)]:
        parts[i] += 1
    return [p * unit for p in parts]
