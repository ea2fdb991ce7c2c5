"""How a person writes numbers and dates: in what they type, and in the words that they are told.

A format changes no value. It is set for the time of one request (`using`); outside of one, and for programs, the
formats are those of the book: a decimal point, the day before the month.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from decimal import Decimal

__all__ = ["BOOK", "Formats", "format_number", "formats_typed", "formats_written", "using"]

NARROW = "\u00a0"


@dataclass(frozen=True)
class Formats:
    """The sign before decimals ("." or ","), whether the month comes before the day, and the first day of a week (a code such as mon)."""

    decimal: str = "."
    month_first: bool = False
    first_day: str = "mon"


BOOK = Formats()
_written: ContextVar[Formats] = ContextVar("written", default=BOOK)
_typed: ContextVar[Formats] = ContextVar("typed", default=BOOK)


def formats_written() -> Formats:
    """The formats of the words that are being written."""
    return _written.get()


def formats_typed() -> Formats:
    """The formats of the texts that are being read."""
    return _typed.get()


@contextmanager
def using(written: Formats, typed: Formats = BOOK) -> Iterator[None]:
    """Write words in some formats, and read what was typed in some.

    >>> with using(Formats(decimal=",")):
    ...     format_number(Decimal("1250.50"))
    '1250,50'
    """
    before = _written.set(written), _typed.set(typed)
    try:
        yield
    finally:
        _written.reset(before[0])
        _typed.reset(before[1])


def format_number(value: Decimal | float | str, spec: str = "") -> str:
    """A number, or one that is written already, with the decimal sign of the formats; thousands stand apart by a space.

    >>> format_number(2.5), format_number(Decimal("-1200.5"), ",f").replace(NARROW, "_")
    ('2.5', '-1_200.5')
    """
    text = format(value, spec) if spec else f"{value:f}" if isinstance(value, Decimal) else str(value)
    return text.replace(",", NARROW).replace(".", formats_written().decimal)
