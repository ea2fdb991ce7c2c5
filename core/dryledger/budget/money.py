"""Money in whole minor units: rounded once, half-even, at the smallest thing that has a name; sums are sums.

Source: ISO 4217 for the minor units, calculation contract, section 6. Amounts with a name are whole numbers of minor units
("cells"); rates and shares stay exact until they make one. Where decimals are divided 40 digits are kept, and what is close to a
tie is first brought to 15 places, so that thirds that add up to a half cent count as that half cent.
"""

import math
from collections.abc import Iterable, Sequence
from decimal import ROUND_HALF_EVEN, Context, Decimal
from fractions import Fraction
from functools import lru_cache

from dryledger.book.currencies import DIGITS

__all__ = ["CONTEXT", "all_cells", "amount_of", "cells", "minor_unit", "part", "ratio", "ratio_of", "rounded", "share_out"]

CONTEXT = Context(prec=40, rounding=ROUND_HALF_EVEN)
_FINE = Decimal("1e-15")
_MICRO = Decimal("1e-6")
_NEAR = Decimal("1e-12")
_quantize = CONTEXT.quantize


@lru_cache(maxsize=200)
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


def cells(amount: Decimal, unit: Decimal) -> int:
    """An amount as a whole number of minor units, half-even.

    >>> cells(Decimal("2.675"), Decimal("0.01")), cells(Decimal("-0.5"), Decimal(1))
    (268, 0)
    """
    scaled = amount.scaleb(-unit.adjusted(), CONTEXT)
    found = int(scaled)
    return found if found == scaled else int(rounded(amount, unit).scaleb(-unit.adjusted()))


def all_cells(amounts: Iterable[Decimal], unit: Decimal) -> list[int]:
    """Many amounts in minor units, each half-even.

    >>> all_cells([Decimal("2.67"), Decimal("2.675"), Decimal(-3)], Decimal("0.01"))
    [267, 268, -300]
    """
    scale = 10 ** -unit.adjusted()
    exact = ((x, x.as_integer_ratio()) for x in amounts)
    return [n * (scale // d) if scale % d == 0 else cells(x, unit) for x, (n, d) in exact]


def amount_of(found: int, unit: Decimal) -> Decimal:
    """Minor units as an amount.

    >>> amount_of(-268, Decimal("0.01")), amount_of(5, Decimal(1))
    (Decimal('-2.68'), Decimal('5'))
    """
    return Decimal(found) * unit


def part(whole: int, n: int, d: int) -> int:
    """The share n ÷ d of a whole number, half-even; d above 0.

    >>> part(5, 1, 2), part(7, 1, 2), part(-5, 1, 2), part(100, 2, 3)
    (2, 4, -2, 67)
    """
    found, rest = divmod(whole * n, d)
    rest += rest
    return found + 1 if rest > d or (rest == d and found & 1) else found


def ratio_of(n: int, d: int) -> float:
    """n ÷ d to six places, half-even, as every ratio is shown; d not 0.

    >>> ratio_of(2, 3), ratio_of(-1, 3), ratio_of(5, 2_000_000), ratio_of(15, 2_000_000), ratio_of(1, -10_000_000)
    (0.666667, -0.333333, 2e-06, 8e-06, 0.0)
    """
    return (part(1_000_000, n, d) if d > 0 else part(1_000_000, -n, -d)) / 1_000_000


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


def _largest_remainder(cells: int, exact: Sequence[Fraction], unit: Decimal) -> list[Decimal]:
    """Whole cells near the exact ones that add up to `cells`; what is over goes to the largest rest, ties to the earlier."""
    parts = [math.floor(x) for x in exact]
    rests = [p - x for p, x in zip(parts, exact, strict=True)]
    by_rest = sorted(range(len(parts)), key=lambda i: (rests[i], i))
    for i in by_rest[: cells - sum(parts)]:
        parts[i] += 1
    return [p * unit for p in parts]
