"""Actual cost: posted hours at their rates and dated cost entries, each with its source.

Source: calculation contract, section 9. AC at t = posted hours × rate + dated entries up to t. From the date of the
first invoice with the same `ref` on the same activity or WBS element, an accrual counts 0. Hours that correct a page
are costed as on that page and count from their own. Amounts are exact decimals.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from decimal import Decimal
from typing import NamedTuple

from dryledger.book.memory import Slot
from dryledger.book.pages import HoursEntry
from dryledger.book.plan import Period
from dryledger.budget.lines import posted_cost
from dryledger.budget.spread import Piece
from dryledger.calendar.calendar import Instant, midnight
from dryledger.schedule.progress import AsOf
from dryledger.words import sentence

__all__ = ["ActualItem", "Target", "actual_items", "actual_of", "actual_pieces"]

ZERO = Decimal(0)
Target = tuple[str, str]
"""("activity" | "wbs", code): where an actual cost counts."""


class ActualItem(NamedTuple):
    """One actual cost: it counts from the instant `at` on and, where it is reversed, until `until`; `hours` are those that it is of."""

    target: Target
    at: Instant
    amount: Decimal
    source: str
    label: str
    page: str
    ref: str | None = None
    until: Instant | None = None
    hours: HoursEntry | None = None

    def counts(self, t: Instant) -> bool:
        """Whether it is part of AC at the instant t."""
        return self.at <= t and (self.until is None or t < self.until)


def actual_items(at: AsOf) -> list[ActualItem]:
    """Every actual cost that the pages so far know, posted hours at their rates included."""
    invoiced: dict[tuple[Target, str], Instant] = {}
    for period in at.periods:
        for c in period.costs:
            if c.source == "invoice" and c.ref:
                key, when = (_target(c.activity, c.wbs), c.ref), midnight(c.date) + 1
                invoiced[key] = min(when, invoiced.get(key, when))
    out: list[ActualItem] = []
    page: AsOf | None = at
    while page is not None and page.periods:
        before = page.earlier(1)
        items = _page_items(page, set() if before is None else before.used, page is not at)
        out[:0] = items if not invoiced else [_reversed(x, invoiced) for x in items]
        page = before
    return out


def _reversed(x: ActualItem, invoiced: dict[tuple[Target, str], Instant]) -> ActualItem:
    """An accrual with the instant from which its invoice takes its place."""
    return x._replace(until=invoiced.get((x.target, x.ref))) if x.source == "accrual" and x.ref else x


def _page_items(at: AsOf, used: set[tuple[str, str]], keep: bool) -> list[ActualItem]:
    """The actual costs of the last of the pages, kept where no more is posted on it; `used` as the pages before left it."""
    period, book = at.periods[-1], at.book
    known = book.memo.peek(ITEMS, at.pages)
    if known is not None:
        return known
    out: list[ActualItem] = []
    here: set[tuple[str, str]] = set()
    for h in period.hours:
        pair = (h.activity, h.resource)
        if not h.worked and not h.overtime:
            continue
        first = pair not in used and pair not in here
        here.add(pair)
        name = book.resource_by_code[h.resource].name
        if h.corrects is None:
            amount = posted_cost(book, h.resource, h.worked, h.overtime, period.status, first)
        else:
            corrected = next(p for p in at.periods if p.code == h.corrects)
            so_far = _as_corrected(at.periods, h)
            amount = posted_cost(book, h.resource, h.worked, h.overtime, corrected.status, first, so_far)
            name = sentence("actual.correction", name=name, page=h.corrects, reason=h.reason or "")
        out.append(ActualItem(("activity", h.activity), period.status, amount, "hours", name, period.code, hours=h))
    for c in period.costs:
        target = _target(c.activity, c.wbs)
        name = c.ref or c.source
        if c.corrects is not None:
            name = sentence("actual.correction", name=name, page=c.corrects, reason=c.reason or "")
        out.append(ActualItem(target, midnight(c.date) + 1, c.amount, c.source, name, period.code, c.ref))
    if keep:
        book.memo.keep(ITEMS, out, at.pages)
    return out


def _as_corrected(periods: Sequence[Period], correction: HoursEntry) -> tuple[int, int]:
    """The minutes, plain and overtime, that a page has for an assignment with the corrections of it before this one."""
    pair = (correction.activity, correction.resource)
    worked = overtime = 0
    for period in periods:
        for h in period.hours:
            if h is correction:
                return worked, overtime
            own = period.code == correction.corrects and h.corrects is None
            if (h.activity, h.resource) == pair and (own or h.corrects == correction.corrects):
                worked += h.worked
                overtime += h.overtime
    return worked, overtime


ITEMS: Slot[list[ActualItem]] = Slot("actual costs of an earlier page")


def _target(activity: str | None, wbs: str | None) -> Target:
    return ("activity", activity) if activity is not None else ("wbs", wbs or "")


def actual_of(items: Iterable[ActualItem], t: Instant) -> dict[Target, dict[str, Decimal]]:
    """AC at the instant t by target and source."""
    out: dict[Target, dict[str, Decimal]] = defaultdict(dict)
    for item in items:
        if item.counts(t):
            by = out[item.target]
            by[item.source] = by.get(item.source, ZERO) + item.amount
    return out


def actual_pieces(items: Sequence[ActualItem]) -> list[Piece]:
    """Actual costs as steps over time: up when one begins to count, down when it is reversed."""
    steps: dict[Instant, Decimal] = {}
    for x in items:
        if x.until is None or x.until > x.at:
            steps[x.at] = steps.get(x.at, ZERO) + x.amount
            if x.until is not None:
                steps[x.until] = steps.get(x.until, ZERO) - x.amount
    return [(t, t, amount, lambda _: ZERO) for t, amount in steps.items()]
