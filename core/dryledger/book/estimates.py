"""Top-down estimates as a book keeps them."""

from dataclasses import dataclass
from decimal import Decimal

__all__ = ["KeptEstimate", "Share"]


@dataclass(frozen=True, slots=True)
class Share:
    """What one element (`kind` wbs) or activity got of an estimate."""

    kind: str
    code: str
    amount: Decimal


@dataclass(frozen=True, slots=True)
class KeptEstimate:
    """A top-down estimate kept by name: a total of hours or money and what each element and activity got of it.

    Hours that are spread to resources (`spread_to`, labour or equipment) leave every duration as it is.
    """

    code: str
    name: str
    measure: str
    total: Decimal
    top: str | None = None
    spread_to: tuple[str, ...] = ()
    shares: tuple[Share, ...] = ()
