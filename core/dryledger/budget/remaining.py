"""What is left: work to go by resource, and the remaining cost of an activity, each line with when it falls due.

Source: calculation contract, sections 6 and 10. Work is in minutes, amounts are whole minor units.
"""

from collections.abc import Iterable
from decimal import Decimal
from typing import NamedTuple

from dryledger.book.durations import work_of
from dryledger.book.plan import Activity, Assignment
from dryledger.budget.lines import left_of_work, use_of
from dryledger.budget.paying import Owed, Payments
from dryledger.budget.spread import Piece, at_once
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["Left", "remaining_work", "still_to_pay", "work_left"]

ZERO = Decimal(0)


class Left(NamedTuple):
    """One line of what is left: its kind of cost, and the resource or the cost that it is for."""

    piece: Piece
    kind: str
    of: str


def remaining_work(at: AsOf, activity: Activity, p: Progress) -> dict[str, Decimal]:
    """Minutes of work to go by resource: the latest to-go, else R × units, the planned work if not started, 0 if complete."""
    return {a.resource: _left(at, activity, a, p) for a in at.book.assignments_of.get(activity.code, ())}


def _left(at: AsOf, activity: Activity, a: Assignment, p: Progress) -> Decimal:
    """Minutes to go of one assignment."""
    if p.state == "complete":
        return ZERO
    to_go = at.to_go.get((activity.code, a.resource))
    if to_go is not None:
        return Decimal(to_go)
    return work_of(at.book, activity, a, p.planned) if p.state == "not_started" else p.remaining * a.units


def work_left(at: AsOf, activity: Activity, p: Progress, start: Instant, finish: Instant, used: Iterable[str]) -> list[Left]:
    """What is left of labour and equipment from start (or resume) to finish; `used` are the resources whose use has been due already."""
    out: list[Left] = []
    if p.state == "complete":
        return out
    book, code = at.book, activity.code
    for a in book.assignments_of.get(code, ()):
        resource = book.resource_by_code[a.resource]
        if resource.kind == "material":
            continue
        if resource.rates:
            piece = left_of_work(book, activity, a, _left(at, activity, a, p), start, finish, p.remaining, p.elapsed)
            if piece is not None:
                out.append(Left(piece, resource.kind, resource.code))
            use = use_of(book, a.resource, start) if (code, a.resource) not in at.used and a.resource not in used else 0
            if use:
                out.append(Left(at_once(start, use), resource.kind, resource.code))
    return out


def still_to_pay(payments: Payments, owed: Iterable[Owed]) -> list[Left]:
    """What is still to be paid of direct costs and materials."""
    found = ((payments.left(o), o.payable) for o in owed)
    return [Left(piece, x.kind, x.key) for piece, x in found if piece is not None]
