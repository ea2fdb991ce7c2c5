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
from dryledger.budget.rates import tariffs
from dryledger.budget.spread import Piece, at_once
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["Left", "WorkLeft", "remaining_work", "still_to_pay"]

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


class WorkLeft:
    """What is left of labour and equipment at a page."""

    def __init__(self, at: AsOf) -> None:
        self._at, self._tariffs = at, tariffs(at.book)
        self._kinds = {x.code: x.kind for x in at.book.resources if x.kind != "material" and x.rates}

    def of(self, activity: Activity, p: Progress, start: Instant, finish: Instant, used: Iterable[str]) -> list[Left]:
        """That of an activity from start (or resume) to finish; `used` are the resources whose use has been due already."""
        out: list[Left] = []
        at, code = self._at, activity.code
        for a in at.book.assignments_of.get(code, ()) if p.state != "complete" else ():
            kind = self._kinds.get(a.resource)
            if kind is None:
                continue
            piece = left_of_work(at.book, activity, a, _left(at, activity, a, p), start, finish, p.remaining, p.elapsed)
            if piece is not None:
                out.append(Left(piece, kind, a.resource))
            due = "use" in self._tariffs[a.resource].series and (code, a.resource) not in at.used and a.resource not in used
            if due and (use := use_of(at.book, a.resource, start)):
                out.append(Left(at_once(start, use), kind, a.resource))
        return out


def still_to_pay(payments: Payments, owed: Iterable[Owed]) -> list[Left]:
    """What is still to be paid of direct costs and materials."""
    found = ((payments.left(o), o.payable) for o in owed)
    return [Left(piece, x.kind, x.key) for piece, x in found if piece is not None]
