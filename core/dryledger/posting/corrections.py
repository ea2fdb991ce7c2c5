"""Corrections of dry pages: what a page said as corrected so far, and which later entries correct it.

Source: calculation contract, section 9: a correction names an earlier page and a reason, and is an entry of its own page.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.pages import CostEntry, Period, Statement
from dryledger.book.plan import Book
from dryledger.budget.actual import Target

__all__ = ["Correction", "as_corrected_cost", "as_corrected_hours", "corrections", "target_of"]


@dataclass(frozen=True)
class Correction:
    """An entry that corrects an earlier page: a statement, minutes of hours of a resource, or an amount.

    `page` is the one that it stands on and `place` its place there, among those of its `kind`: statement, hours or cost.
    Of a statement `was` is what the corrected page had, None where it was silent, and `now` what it should be.
    """

    kind: str
    page: str
    place: int
    corrects: str
    target: Target
    reason: str
    resource: str | None = None
    worked: int = 0
    overtime: int = 0
    amount: Decimal = Decimal(0)
    ref: str | None = None
    was: Statement | None = None
    now: Statement | None = None


def target_of(c: CostEntry) -> Target:
    """Where a cost entry counts."""
    return ("activity", c.activity) if c.activity is not None else ("wbs", c.wbs or "")


def corrections(book: Book) -> list[Correction]:
    """All of them, in the order of the pages: statements, then hours, then costs."""
    stated = {(p.code, s.activity): s for p in book.periods for s in p.statements}
    return [x for p in book.periods for x in _of(p, stated)]


def _of(p: Period, stated: Mapping[tuple[str, str], Statement]) -> Iterator[Correction]:
    for i, s in enumerate(p.statements):
        if s.corrects is not None:
            was = stated.get((s.corrects, s.activity))
            yield Correction("statement", p.code, i, s.corrects, ("activity", s.activity), s.reason or "", was=was, now=s)
    for i, h in enumerate(p.hours):
        if h.corrects is not None:
            spent = h.resource, h.worked, h.overtime
            yield Correction("hours", p.code, i, h.corrects, ("activity", h.activity), h.reason or "", *spent, ref=h.ref)
    for i, c in enumerate(p.costs):
        if c.corrects is not None:
            yield Correction("cost", p.code, i, c.corrects, target_of(c), c.reason or "", amount=c.amount, ref=c.ref)


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
