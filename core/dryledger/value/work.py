"""Labour hours of an activity: what was worked, what is to go, and what it takes in all.

Source: calculation contract, sections 9, 10 and 12. Worked is posted or follows progress. Whole minutes, each assignment rounded
half-even.
"""

from dryledger.book.durations import whole_minutes
from dryledger.budget.remaining import remaining_work
from dryledger.value.valuation import Valuation

__all__ = ["work_done", "work_now", "work_to_go"]


def work_done(v: Valuation, code: str) -> int:
    """Labour hours of an activity worked so far, in minutes."""
    return v.at.labour.get(code, 0) + v.following.labour(code)


def work_to_go(v: Valuation, code: str) -> int:
    """Labour hours of an activity to go, in minutes."""
    left = remaining_work(v.at, v.book.activity_by_code[code], v.progress[code])
    return sum(whole_minutes(m) for c, m in left.items() if v.book.resource_by_code[c].kind == "labour")


def work_now(v: Valuation, code: str) -> int:
    """Labour hours of an activity worked and to go, in minutes."""
    return work_done(v, code) + work_to_go(v, code)
