"""Labour hours of an activity: what is to go, and with what was posted what it takes in all.

Source: calculation contract, sections 10 and 12. Whole minutes, over all its labour, rounded half-even.
"""

from decimal import Decimal

from dryledger.budget.money import rounded
from dryledger.budget.remaining import remaining_work
from dryledger.value.valuation import Valuation

__all__ = ["work_now", "work_to_go"]

ZERO = Decimal(0)


def work_to_go(v: Valuation, code: str) -> int:
    """Labour hours of an activity to go, in minutes."""
    left = remaining_work(v.at, v.book.activity_by_code[code], v.progress[code])
    return int(rounded(sum((m for c, m in left.items() if v.book.resource_by_code[c].kind == "labour"), ZERO), Decimal(1)))


def work_now(v: Valuation, code: str) -> int:
    """Labour hours of an activity posted and to go, in minutes."""
    return v.at.labour.get(code, 0) + work_to_go(v, code)
