"""Actual cost: posted hours at their rates and dated cost entries, each with its source and what it pays.

Source: calculation contract, section 9. From the date of the first invoice with the same `ref` on the same activity or WBS element, an
accrual counts 0. Hours that correct a page cost the page's figure as corrected less the figure before. What is entered for a cost
outside the budget counts in no figure. Amounts are whole minor units.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from dryledger.book.memory import Slot
from dryledger.book.pages import CostEntry, HoursEntry
from dryledger.book.plan import Book, Period
from dryledger.budget.lines import posted_cost, use_of
from dryledger.budget.money import cells, minor_unit
from dryledger.budget.spread import Piece, at_once
from dryledger.calendar.calendar import Instant, midnight
from dryledger.schedule.progress import AsOf
from dryledger.words import sentence

__all__ = ["ActualItem", "Target", "actual_items", "actual_of", "actual_pieces"]

Target = tuple[str, str]
"""("activity" | "wbs", code): where an actual cost counts."""


class ActualItem(NamedTuple):
    """One actual cost: it counts from the instant `at` on and, where it is reversed, until `until`; `hours` are those that it is of.

    `of` and `order` say what an entry pays; an invoice that names nothing has those of the accrual of its reference.
    """

    target: Target
    at: Instant
    amount: int
    source: str
    label: str
    page: str
    ref: str | None = None
    until: Instant | None = None
    hours: HoursEntry | None = None
    of: str | None = None
    order: str | None = None

    def counts(self, t: Instant) -> bool:
        """Whether it is part of AC at the instant t."""
        return self.at <= t and (self.until is None or t < self.until)


def actual_items(at: AsOf) -> list[ActualItem]:
    """Every actual cost that the pages so far know, posted hours at their rates included."""
    invoiced: dict[tuple[Target, str], Instant] = {}
    accrued: dict[tuple[Target, str], CostEntry] = {}
    for period in at.periods:
        for c in period.costs:
            if c.ref and c.source in ("invoice", "accrual"):
                key, when = (_target(c), c.ref), midnight(c.date) + 1
                if c.source == "invoice":
                    invoiced[key] = min(when, invoiced.get(key, when))
                elif c.of is not None or c.order_code is not None:
                    accrued.setdefault(key, c)
    out: list[ActualItem] = []
    page: AsOf | None = at
    while page is not None and page.periods:
        before = page.earlier(1)
        items = _page_items(page, set() if before is None else before.used, page is not at)
        out[:0] = items if not invoiced else [_settled(x, invoiced, accrued) for x in items]
        page = before
    return out


def _settled(x: ActualItem, invoiced: dict[tuple[Target, str], Instant], accrued: dict[tuple[Target, str], CostEntry]) -> ActualItem:
    """An accrual with the instant from which its invoice takes its place; an invoice with what its accrual was for."""
    if not x.ref or x.hours is not None:
        return x
    if x.source == "accrual":
        return x._replace(until=invoiced.get((x.target, x.ref)))
    met = accrued.get((x.target, x.ref)) if x.source == "invoice" and x.of is None and x.order is None else None
    return x if met is None else x._replace(of=met.of, order=met.order_code)


def _page_items(at: AsOf, used: set[tuple[str, str]], keep: bool) -> list[ActualItem]:
    """The actual costs of the last of the pages, kept where no more is posted on it; `used` as the pages before left it."""
    period, book = at.periods[-1], at.book
    known = book.memo.peek(ITEMS, at.pages)
    if known is not None:
        return known
    out: list[ActualItem] = []
    here: set[tuple[str, str]] = set()
    costs: dict[tuple[str, int], int] = {}
    for h in period.hours:
        pair = (h.activity, h.resource)
        if not h.worked and not h.overtime:
            continue
        first = pair not in used and pair not in here
        here.add(pair)
        if h.corrects is not None or h.overtime:
            out.append(_posted(book, at.periods, h, first))
            continue
        cost = costs.get((h.resource, h.worked))
        if cost is None:
            cost = costs[h.resource, h.worked] = posted_cost(book, h.resource, h.worked, False, period.status)
        if first:
            cost += use_of(book, h.resource, period.status)
        name = book.resource_by_code[h.resource].name
        out.append(ActualItem(("activity", h.activity), period.status, cost, "hours", name, period.code, hours=h))
    unit = minor_unit(book.project.currency)
    for c in period.costs:
        name = c.ref or c.source
        if c.corrects is not None:
            name = sentence("actual.correction", name=name, page=c.corrects, reason=c.reason or "")
        amount = cells(c.amount, unit)
        out.append(ActualItem(_target(c), midnight(c.date) + 1, amount, c.source, name, period.code, c.ref, of=c.of, order=c.order_code))
    if keep:
        book.memo.keep(ITEMS, out, at.pages)
    return out


def _posted(book: Book, periods: Sequence[Period], h: HoursEntry, first: bool) -> ActualItem:
    """What posted hours that have overtime or correct a page cost, of the work, of the overtime and, with the first posting of an
    assignment, of its use."""
    page, name = periods[-1], book.resource_by_code[h.resource].name
    rates_at, before = page.status, (0, 0)
    if h.corrects is not None:
        rates_at = next(p for p in periods if p.code == h.corrects).status
        before = _as_corrected(periods, h)
        name = sentence("actual.correction", name=name, page=h.corrects, reason=h.reason or "")
    amount = use_of(book, h.resource, rates_at) if first else 0
    for minutes, was, overtime in ((h.worked, before[0], False), (h.overtime, before[1], True)):
        amount += posted_cost(book, h.resource, was + minutes, overtime, rates_at) - posted_cost(book, h.resource, was, overtime, rates_at)
    return ActualItem(("activity", h.activity), page.status, amount, "hours", name, page.code, hours=h)


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


def _target(c: CostEntry) -> Target:
    return ("activity", c.activity) if c.activity is not None else ("wbs", c.wbs or "")


def actual_of(items: Iterable[ActualItem], t: Instant) -> dict[Target, dict[str, int]]:
    """AC at the instant t by target and source."""
    out: dict[Target, dict[str, int]] = defaultdict(dict)
    for x in items:
        if x.at <= t and (x.until is None or t < x.until):
            by, source = out[x.target], x.source
            by[source] = by.get(source, 0) + x.amount
    return out


def actual_pieces(items: Iterable[ActualItem]) -> list[Piece]:
    """Actual costs as steps over time: up when one begins to count, down when it is reversed."""
    steps: dict[Instant, int] = {}
    for x in items:
        if x.until is None or x.until > x.at:
            steps[x.at] = steps.get(x.at, 0) + x.amount
            if x.until is not None:
                steps[x.until] = steps.get(x.until, 0) - x.amount
    return [at_once(t, amount) for t, amount in steps.items()]
