"""What a project says of its checks: from what on something is long or far, and what was accepted and why."""

from dataclasses import dataclass
from decimal import Decimal

__all__ = ["Answer", "Limits"]


@dataclass(frozen=True, slots=True)
class Limits:
    """From how many working days of the project calendar on a lag, a float or a duration is long, and from how many hundredths
    on a percent lies far from its share of time."""

    lag: Decimal = Decimal(10)
    float: Decimal = Decimal(40)
    duration: Decimal = Decimal(40)
    percent: Decimal = Decimal(25)


@dataclass(frozen=True, slots=True)
class Answer:
    """Why a row that a check caught is accepted, said on one page and good until another; absent: for good.

    A later answer of the same check and row stands in the place of an earlier one.
    """

    check_code: str
    row: str
    page: str
    text: str
    until: str | None = None
    by: str = ""
