"""Orders with their lines, and reserves: what was committed, and what is held back."""

from dataclasses import dataclass
from datetime import date as Date
from decimal import Decimal

__all__ = ["Order", "OrderLine", "Reserve"]


@dataclass(frozen=True, slots=True)
class OrderLine:
    """What is ordered `of` a direct cost, by its code, or of an assignment, `ACTIVITY/RESOURCE`; less where negative."""

    of: str
    amount: Decimal


@dataclass(frozen=True, slots=True)
class Order:
    """What was ordered from a supplier. A closed one comes to what its entries came to."""

    code: str
    supplier: str = ""
    text: str = ""
    date: Date | None = None
    state: str = "open"
    lines: tuple[OrderLine, ...] = ()


@dataclass(frozen=True, slots=True)
class Reserve:
    """Money held back: `inside` the authorised total (contingency), or `outside` it (held by management)."""

    code: str
    name: str
    amount: Decimal
    held: str = "inside"
