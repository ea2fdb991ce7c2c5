"""Apportioning: a top-down total of hours or money, shared down the breakdown by weights.

Source: calculation contract, section 15. Each node's whole amount goes to its children, elements and activities alike,
by weight over the sum of the siblings' weights (all zero: equally), in whole minutes or minor units by largest
remainder with ties to the earlier, so that the shares add up exactly. Milestones, complete activities, and elements below which nothing
takes a share, take none.
"""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.budget.money import rounded, share_out
from dryledger.schedule.progress import as_of, progress

__all__ = ["Estimate", "adjusted", "apportion", "compared", "sharing"]


@dataclass(frozen=True)
class Estimate:
    """A total shared out: the amount of every ("wbs" | "activity", code), in `unit`s."""

    name: str
    total: Decimal
    unit: Decimal
    shares: dict[tuple[str, str], Decimal]


def apportion(book: Book, name: str, total: Decimal, unit: Decimal, top: str | None = None) -> Estimate:
    """Share a total down the breakdown, from one element (absent: from the project).

    `unit` is the smallest share: 1 for minutes, the currency's minor unit for money. The total is brought to whole
    units first. Elements come before activities, each in the book's order. Only `top` may be a node below which
    nothing takes a share: it keeps its amount.
    """
    children: dict[str | None, list[tuple[str, str, Decimal]]] = {}
    takes = sharing(book)
    used = {w for code in takes for w in book.wbs_above.get(book.activity_by_code[code].wbs or "", ())}
    for w in book.wbs:
        if w.code in used:
            children.setdefault(w.parent, []).append(("wbs", w.code, w.weight))
    for a in book.activities:
        if a.code in takes:
            children.setdefault(a.wbs, []).append(("activity", a.code, a.weight))
    whole = rounded(total, unit)
    shares: dict[tuple[str, str], Decimal] = {} if top is None else {("wbs", top): whole}
    waiting: list[tuple[str | None, Decimal]] = [(top, whole)]
    for node, amount in waiting:
        below = children.get(node, [])
        for (kind, code, _), share in zip(below, share_out(amount, [w for _, _, w in below], unit), strict=True):
            shares[kind, code] = share
            if kind == "wbs":
                waiting.append((code, share))
    return Estimate(name, whole, unit, shares)


def sharing(book: Book) -> set[str]:
    """The activities that take a share of an estimate: all but milestones and what is complete on the last page."""
    known = progress(as_of(book))
    return {a.code for a in book.activities if a.kind != "milestone" and known[a.code].state != "complete"}


def adjusted(book: Book, estimate: Estimate, percent: Decimal, name: str, top: str | None = None) -> Estimate:
    """The same estimate with its total raised (or, below 0, lowered) by a percentage, and shared out again."""
    return apportion(book, name, estimate.total * (100 + percent) / 100, estimate.unit, top)


def compared(before: Estimate, after: Estimate) -> dict[tuple[str, str], tuple[Decimal, Decimal]]:
    """Each node's amount in both, 0 where one does not have it."""
    zero = Decimal(0)
    keys = [*after.shares, *(k for k in before.shares if k not in after.shares)]
    return {k: (before.shares.get(k, zero), after.shares.get(k, zero)) for k in keys}
