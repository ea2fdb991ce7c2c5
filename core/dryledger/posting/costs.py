"""The costs lens of a page: accruals that are still open, and actual cost by source, on the page and to date.

Source: calculation contract, section 9: from the date of the first invoice with the same `ref` on the same activity or WBS
element an accrual counts 0; one without ref stays until a negative entry takes it back.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.budget.actual import ActualItem, Target
from dryledger.calendar.calendar import DAY, Instant
from dryledger.compute import Results

__all__ = ["OpenAccrual", "SourceTotal", "met_accrual", "open_accruals", "source_totals"]

ZERO = Decimal(0)


@dataclass(frozen=True)
class OpenAccrual:
    """What was accrued on an activity or element under a reference and is not invoiced yet; `days` is its age at the status date."""

    target: Target
    ref: str | None
    page: str
    at: Instant
    amount: Decimal
    days: int


@dataclass(frozen=True)
class SourceTotal:
    """Actual cost of one source: what this page posted, and all of it up to the status date."""

    source: str
    page: Decimal
    to_date: Decimal


def open_accruals(r: Results) -> list[OpenAccrual]:
    """The accruals that count at the status date, the oldest first; what a negative entry took back is off them."""
    if r.status is None:
        return []
    groups: dict[tuple[Target, str | None], list[ActualItem]] = {}
    for x in r.valuation.actuals:
        if x.source == "accrual" and x.counts(r.status):
            groups.setdefault((x.target, x.ref), []).append(x)
    out = []
    for (target, ref), items in groups.items():
        amount = sum((x.amount for x in items), ZERO)
        if amount:
            first = min(items, key=lambda x: x.at)
            out.append(OpenAccrual(target, ref, first.page, first.at - 1, amount, (r.status - first.at) // DAY))
    return sorted(out, key=lambda a: (a.at, a.target, a.ref or ""))


def met_accrual(r: Results, target: Target, ref: str | None) -> Decimal | None:
    """What an invoice of that reference takes back: the accruals of it so far; None where there are none."""
    return _sum(x for x in r.valuation.actuals if x.source == "accrual" and x.target == target and ref and x.ref == ref)


def _sum(items: Iterable[ActualItem]) -> Decimal | None:
    amounts = [x.amount for x in items]
    return sum(amounts, ZERO) if amounts else None


def source_totals(r: Results, of: Target | None = None) -> list[SourceTotal]:
    """Actual cost by source, hours included, those that occur; each exact.

    `of` an activity, or of a WBS element with all below it; absent: of the project.
    """
    page, status = (r.at.periods[-1].code if r.at.periods else ""), r.status
    sums: dict[str, tuple[Decimal, Decimal]] = {}
    inside = None if of is None else _inside(r, of)
    for x in r.valuation.actuals:
        if inside is not None and x.target not in inside:
            continue
        here, whole = sums.get(x.source, (ZERO, ZERO))
        counts = status is not None and x.counts(status)
        sums[x.source] = (here + (x.amount if x.page == page else ZERO), whole + (x.amount if counts else ZERO))
    return [SourceTotal(source, *amounts) for source, amounts in sums.items()]


def _inside(r: Results, of: Target) -> set[Target]:
    """An activity; or an element with the elements and activities below it."""
    if of[0] == "activity":
        return {of}
    elements, parents = {of[1]}, {w.code: w.parent for w in r.book.wbs}
    for head in levels(r.book):
        if parents[head.code] in elements:
            elements.add(head.code)
    return {("wbs", code) for code in elements} | {("activity", a.code) for a in r.book.activities if a.wbs in elements}
