"""Corrections of dry pages: what a page said as corrected so far, and which later entries correct it.

Source: calculation contract, section 9: a correction names an earlier page and a reason, and is an entry of its own page.
"""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.pages import CostEntry, Period
from dryledger.book.plan import Book
from dryledger.budget.actual import Target

__all__ = ["Correction", "as_corrected_cost", "as_corrected_hours", "corrections", "target_of"]


@dataclass(frozen=True)
class Correction:
    """An entry that corrects an earlier page: minutes of hours of a resource, or an amount.

    `page` is the one that it stands on and `place` its place there, among the hours or among the costs.
    """

    page: str
    place: int
    corrects: str
    target: Target
    resource: str | None
    worked: int
    overtime: int
    amount: Decimal | None
    ref: str | None
    reason: str


def target_of(c: CostEntry) -> Target:
    """Where a cost entry counts."""
    return ("activity", c.activity) if c.activity is not None else ("wbs", c.wbs or "")


def corrections(book: Book) -> list[Correction]:
    """All of them, in the order of the pages: hours, then costs."""
    return [x for p in book.periods for x in _of(p)]


def _of(p: Period) -> list[Correction]:
    hours = [
        Correction(p.code, i, h.corrects, ("activity", h.activity), h.resource, h.worked, h.overtime, None, h.ref, h.reason or "")
        for i, h in enumerate(p.hours)
        if h.corrects is not None
    ]
    costs = [
        Correction(p.code, i, c.corrects, target_of(c), None, 0, 0, c.amount, c.ref, c.reason or "")
        for i, c in enumerate(p.costs)
        if c.corrects is not None
    ]
    return [*hours, *costs]


def as_corrected_hours(book: Book, page: str, activity: str, resource: str) -> tuple[int, int]:
    """Plain and overtime minutes that a page has of an assignment, with all that corrects them, in whole minutes."""
    own = [h for p in book.periods if p.code == page for h in p.hours if h.corrects is None]
    later = [h for p in book.periods for h in p.hours if h.corrects == page]
    mine = [h for h in (*own, *later) if (h.activity, h.resource) == (activity, resource)]
    return sum(h.worked for h in mine), sum(h.overtime for h in mine)


def as_corrected_cost(book: Book, page: str, target: Target, ref: str | None) -> Decimal:
    """What a page has of one reference on an activity or element, with all that corrects it."""
    own = [c for p in book.periods if p.code == page for c in p.costs if c.corrects is None]
    later = [c for p in book.periods for c in p.costs if c.corrects == page]
    return sum((c.amount for c in (*own, *later) if target_of(c) == target and c.ref == ref), Decimal(0))
