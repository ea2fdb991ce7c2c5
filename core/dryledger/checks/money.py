"""The checks on money: what follows progress, orders and invoices, and the budget under change. `checks` says why they matter.

Source: calculation contract, sections 9, 10, 18 and 23. Each rule gives the codes of the rows that it catches.
"""

from collections import defaultdict

from dryledger.book.pages import Period
from dryledger.budget.following import any_follows, follows
from dryledger.budget.paying import Owed
from dryledger.compute import Results
from dryledger.value.owed import every_cost

__all__ = ["money_rules"]


def money_rules(r: Results) -> dict[str, set[str]]:
    """The rows caught, by the code of the check."""
    always = _orders(r) | _under_change(r)
    if r.status is None:
        return always
    return always | _invoices(r) | {"hours_far_below": _hours_far_below(r)} | _following(r)


def _owed(r: Results) -> list[Owed]:
    return [*every_cost(r.valuation), *every_cost(r.valuation, in_budget=False)]


def _orders(r: Results) -> dict[str, set[str]]:
    """The orders for a cost of which more is ordered than it may come to."""
    over = {o.payable.code for o in _owed(r) if o.ordered > o.payable.amount} if r.book.orders else set()
    return {"order_over_budget": {order.code for order in r.book.orders if any(x.of in over for x in order.lines)}}


def _invoices(r: Results) -> dict[str, set[str]]:
    """Costs with more entered than is expected, those that nobody bills, and elements that are paid while what is below them is not."""
    over, forgotten, unpaid = set(), set(), set[str]()
    for o in _owed(r):
        x = o.payable
        if o.entered > o.if_open:
            over.add(x.activity)
        if o.to_pay:
            unpaid.update(_above(r, x.activity))
            if x.kind != "material" and _silent_since(r, o):
                forgotten.add(x.activity)
    paid: dict[str, int] = defaultdict(int)
    for item in r.valuation.entries:
        if item.target[0] == "wbs" and item.counts(r.status or 0):
            paid[item.target[1]] += item.amount
    return {
        "invoiced_above": over,
        "cost_never_billed": forgotten,
        "paid_above": {code for code, amount in paid.items() if amount > 0 and code in unpaid},
    }


def _above(r: Results, activity: str) -> tuple[str, ...]:
    wbs = r.book.activity_by_code[activity].wbs
    return () if wbs is None else r.book.wbs_above[wbs]


def _silent_since(r: Results, o: Owed) -> bool:
    """Whether the work has been complete for two pages on which nothing was entered for one of its costs."""
    x, pages, before = o.payable, r.at.periods[-2:], r.progress_before().get(o.payable.activity)
    if len(pages) < 2 or before is None or before.state != "complete" or r.progress[x.activity].state != "complete":
        return False
    return not any(_is_for(c.of, c.activity, o) for page in pages for c in page.costs)


def _is_for(of: str | None, activity: str | None, o: Owed) -> bool:
    return of == o.payable.code if of else activity == o.payable.activity


def _hours_far_below(r: Results) -> set[str]:
    """Work of which fewer than half the hours are posted that its people would have worked by now."""
    book, posted = r.book, dict[tuple[str, str], int]()
    roles = {x.code: x.roles for x in book.resources}
    for period in r.at.periods:
        for h in period.hours:
            for resource in (h.resource, *roles[h.resource]):
                posted[h.activity, resource] = posted.get((h.activity, resource), 0) + h.worked + h.overtime
    out = set()
    for a in book.assignments:
        p = r.progress[a.activity]
        if p.actual_start is None or book.resource_by_code[a.resource].kind == "material" or follows(book, a):
            continue
        if 2 * posted.get((a.activity, a.resource), 0) < a.units * r.valuation.following.elapsed(a.activity, r.status or 0):
            out.add(a.activity)
    return out


def _following(r: Results) -> dict[str, set[str]]:
    """Work whose reckoned cost fell, and work whose reckoned hours grew while nobody said a word."""
    out: dict[str, set[str]] = {"reckoned_fell": set(), "reckoned_alone": set()}
    if not any_follows(r.book) or r.before is None:
        return out
    before, spoken = r.before, _spoken(r.at.periods[-1])
    for code, p in r.progress.items():
        if p.actual_start is None:
            continue
        now, then = r.activities[code], before.activities[code]
        fell = now.ac_by_source.get("progress", 0) < then.ac_by_source.get("progress", 0)
        if fell and now.ac < then.ac:
            out["reckoned_fell"].add(code)
        grew = r.valuation.following.labour(code) > before.valuation.following.labour(code)
        if grew and p.state == "in_progress" and code not in spoken:
            out["reckoned_alone"].add(code)
    return out


def _spoken(page: Period) -> set[str]:
    """The activities of which anything is said on a page."""
    of_work = [*(s.activity for s in page.statements), *(h.activity for h in page.hours)]
    return {*of_work, *(c.activity for c in page.costs if c.activity is not None)}


def _under_change(r: Results) -> dict[str, set[str]]:
    """Where the measured baseline is not what approved changes made of the first, and the reserves that are overdrawn."""
    below = {x.reserve.code for x in r.under_change.reserves() if x.left < 0}
    if len(r.book.baselines) < 2 or not r.under_change.stand().unexplained:
        return {"baseline_unexplained": set(), "reserve_below": below}
    moved = {w.code for w in r.book.wbs if r.under_change.stand(w.code).unexplained}
    parents = {w.parent for w in r.book.wbs if w.code in moved}
    return {"baseline_unexplained": moved - parents or {r.book.project.code}, "reserve_below": below}
