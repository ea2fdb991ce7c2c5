"""How an activity earns value, as the book says it."""

from dataclasses import dataclass
from decimal import Decimal

__all__ = ["PERCENT", "MilestoneWeight", "ValueMethod"]


@dataclass(frozen=True, slots=True)
class MilestoneWeight:
    """A weighted milestone inside an activity; `at` is its place as a share of the duration."""

    name: str
    weight: Decimal
    at: Decimal


@dataclass(frozen=True, slots=True)
class ValueMethod:
    """How an activity earns value, with what its kind needs."""

    type: str = "percent"
    share: Decimal = Decimal("0.5")
    weights: tuple[MilestoneWeight, ...] = ()
    planned: Decimal = Decimal(0)
    base: str | None = None


PERCENT = ValueMethod()
"""What an activity has whose method is not told."""
