"""The costs lens of a page: accruals that are still open, and actual cost by source, on the page and to date.

Source: calculation contract, section 9: from the date of the first invoice with the same `ref` on the same activity or WBS
element an accrual counts 0; one without ref stays until a negative entry takes it back.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.budget.actual import ActualItem, Target
from dryledger.budget.money import amount_of
from dryledger.calendar.calendar import DAY, Instant
from dryledger.compute import Results

__all__ = ["OpenAccrual", "SourceTotal", "met_accrual", "open_accruals", "page_cost", "source_totals"]


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
    """Actual cost of one source up to the status date, and what of it this page did: to date less to date on the page before, as this
    page knows both. So an accrual that an invoice met shows negative.
    """

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
        amount = amount_of(sum(x.amount for x in items), r.valuation.unit)
        if amount:
            first = min(items, key=lambda x: x.at)
            out.append(OpenAccrual(target, ref, first.page, first.at - 1, amount, (r.status - first.at) // DAY))
    return sorted(out, key=lambda a: (a.at, a.target, a.ref or ""))


def met_accrual(r: Results, target: Target, ref: str | None) -> Decimal | None:
    """What an invoice of that reference takes back: the accruals of it so far; None where there are none."""
    found = [x.amount for x in r.valuation.actuals if x.source == "accrual" and x.target == target and ref and x.ref == ref]
    return amount_of(sum(found), r.valuation.unit) if found else None


def source_totals(r: Results, of: Target | None = None) -> list[SourceTotal]:
    """Actual cost by source, hours and what follows progress included, those that occur; they add up to AC.

    `of` an activity, or of a WBS element with all below it; absent: of the project.
    """
    v, inside = r.valuation, None if of is None else _inside(r, of)
    sums: dict[str, list[int]] = {}
    for place, target, by in _then_and_now(r):
        for source, amount in by.items() if inside is None or target in inside else ():
            sums.setdefault(source, [0, 0])[place] += amount
    return [SourceTotal(source, amount_of(now - was, v.unit), amount_of(now, v.unit)) for source, (was, now) in sums.items()]


def page_cost(r: Results) -> dict[str, tuple[Decimal, Decimal]]:
    """What the page did to the actual cost of each activity, and how much of that follows progress: to date less to date on the page
    before, as it knows both."""
    out: dict[str, tuple[int, int]] = {}
    for place, (kind, code), by in _then_and_now(r):
        if kind == "activity":
            sign, (whole, reckoned) = (1 if place else -1), out.get(code, (0, 0))
            out[code] = whole + sign * sum(by.values()), reckoned + sign * by.get("progress", 0)
    return {code: (amount_of(whole, r.valuation.unit), amount_of(reckoned, r.valuation.unit)) for code, (whole, reckoned) in out.items()}


def _then_and_now(r: Results) -> Iterator[tuple[int, Target, dict[str, int]]]:
    """AC by source at the status of the page before (0) and at the page's own (1), as the page knows both."""
    earlier = r.at.periods[-2].status if len(r.at.periods) > 1 else None
    for place, t in enumerate((earlier, r.status)):
        if t is not None:
            yield from ((place, target, by) for target, by in r.valuation.actual_at(t).items())


def _inside(r: Results, of: Target) -> set[Target]:
    """An activity; or an element with the elements and activities below it."""
    if of[0] == "activity":
        return {of}
    elements, parents = {of[1]}, {w.code: w.parent for w in r.book.wbs}
    for head in levels(r.book):
        if parents[head.code] in elements:
            elements.add(head.code)
    return {("wbs", code) for code in elements} | {("activity", a.code) for a in r.book.activities if a.wbs in elements}
