"""Earned value: PV, EV and AC of every activity at any instant, and what is left to spend.

Source: ISO 21508 and EIA-748 practice as set down in the calculation contract, sections 7 to 10. Amounts are exact
decimals; nothing is rounded here.
"""

from collections import defaultdict
from dataclasses import dataclass
from decimal import Decimal

from dryledger.budget import Spread, direct_amount, posted_cost, profile_share, work_cost
from dryledger.calendar import Axis, Instant, date_of, midnight
from dryledger.plan import Activity, Baseline, BaselineActivity, Book, CostLine
from dryledger.posting import AsOf, Progress, work_of
from dryledger.schedule import Scheduled

__all__ = ["ActualItem", "actual_items", "actual_of", "earned_share", "planned_share", "planned_value", "remaining_cost", "remaining_work"]

ZERO, ONE = Decimal(0), Decimal(1)
Target = tuple[str, str]
"""("activity" | "wbs", code): where an actual cost counts."""


# Planned value


def _line_share(line: CostLine, x: Decimal, begun: bool, over: bool) -> Decimal:
    if line.accrual == "start":
        return ONE if begun else ZERO
    if line.accrual == "finish":
        return ONE if over else ZERO
    return profile_share(line.profile, x)


def planned_value(baseline: Baseline, code: str, t: Instant) -> Decimal:
    """PV of one baseline activity at the instant t: Σ amount × F(share of its working time before t).

    Under the fixed and milestone methods PV steps as EV would; apportioned work follows its base.
    """
    a = baseline.by_code[code]
    method = a.value_method
    if method.type == "apportioned" and method.base in baseline.by_code:
        base = baseline.by_code[method.base]
        if base.budget:
            return a.budget * planned_value(baseline, method.base, t) / base.budget
    begun, over = t >= a.start, t >= a.finish
    if not begun:
        return ZERO
    if method.type == "zero_hundred":
        return a.budget if over else ZERO
    if method.type in ("fifty_fifty", "start_share"):
        return a.budget if over else a.budget * (Decimal("0.5") if method.type == "fifty_fifty" else method.share)
    if over and method.type != "milestones":
        return a.budget
    done, total = _worked(baseline.axes[code], a, t)
    x = Decimal(done) / total if total else ONE
    if method.type == "milestones":
        whole = sum(w.weight for w in method.weights)
        return a.budget * sum((w.weight for w in method.weights if done >= w.at * total), ZERO) / whole
    if all(line.accrual == "uniform" and line.profile == "uniform" for line in a.cost_lines):
        return a.budget * done / total if total else a.budget
    return sum((line.amount * _line_share(line, x, begun, over) for line in a.cost_lines), ZERO)


def planned_share(baseline: Baseline, code: str, t: Instant) -> Decimal:
    """The share of a baseline activity's working time that lies before t: what should be done by then."""
    a = baseline.by_code[code]
    done, total = _worked(baseline.axes[code], a, t)
    if not total:
        return ONE if t >= a.start else ZERO
    return Decimal(done) / total


def _worked(axis: Axis, a: BaselineActivity, t: Instant) -> tuple[int, int]:
    total = axis.between(a.start, a.finish)
    return min(max(axis.between(a.start, t), 0), total), total


# Earned value


def earned_share(at: AsOf, baseline: Baseline, code: str, progress: dict[str, Progress]) -> Decimal:
    """EV ÷ BAC of one baseline activity at the page, by its method (section 8). Level of effort earns its PV."""
    a = baseline.by_code[code]
    method = a.value_method
    p = progress.get(code)
    if p is None:
        return ZERO
    if method.type == "level_of_effort":
        pv = planned_value(baseline, code, at.status) if at.status is not None else ZERO
        return pv / a.budget if a.budget else ZERO
    if method.type == "apportioned" and method.base is not None:
        return earned_share(at, baseline, method.base, progress)
    if p.state == "complete":
        return ONE
    if p.state == "not_started":
        return ZERO
    return _in_progress_share(at, baseline, code, p)


def _in_progress_share(at: AsOf, baseline: Baseline, code: str, p: Progress) -> Decimal:
    method = baseline.by_code[code].value_method
    s = p.statement
    if method.type == "zero_hundred":
        return ZERO
    if method.type == "fifty_fifty":
        return Decimal("0.5")
    if method.type == "start_share":
        return method.share
    if method.type == "milestones":
        reached = set(s.milestones_reached) if s else set()
        return sum((w.weight for w in method.weights if w.name in reached), ZERO) / sum(w.weight for w in method.weights)
    if method.type == "units":
        return min(ONE, (s.units_done or ZERO) / method.planned) if s else ZERO
    if method.type == "duration":
        whole = p.elapsed + p.remaining
        return Decimal(p.elapsed) / whole if whole else ONE
    if method.type == "hours":
        return _hours_share(at, code, p)
    return p.percent


def _hours_share(at: AsOf, code: str, p: Progress) -> Decimal:
    book = at.book
    posted = Decimal(
        sum(
            h.worked + h.overtime
            for period in at.periods
            for h in period.hours
            if h.activity == code and book.resource_by_code[h.resource].kind == "labour"
        )
    )
    to_go = remaining_work(at, book.activity_by_code[code], p)
    labour = sum((m for r, m in to_go.items() if book.resource_by_code[r].kind == "labour"), ZERO)
    return posted / (posted + labour) if posted + labour else ONE


# Actual cost


@dataclass(frozen=True)
class ActualItem:
    """One actual cost: it counts from the instant `at` on and, where it is reversed, until `until`."""

    target: Target
    at: Instant
    amount: Decimal
    source: str
    label: str
    page: str
    until: Instant | None = None

    def counts(self, t: Instant) -> bool:
        """Whether it is part of AC at the instant t."""
        return self.at <= t and (self.until is None or t < self.until)


def actual_items(at: AsOf) -> list[ActualItem]:
    """Every actual cost that the pages so far know, posted hours at their rates included.

    An accrual counts 0 from the date of the first invoice with its `ref` on the same activity or WBS element.
    """
    book = at.book
    out: list[ActualItem] = []
    used: set[tuple[str, str]] = set()
    invoiced: dict[tuple[Target, str], Instant] = {}
    for period in at.periods:
        for c in period.costs:
            if c.source == "invoice" and c.ref:
                key, when = (_target(c.activity, c.wbs), c.ref), midnight(c.date) + 1
                invoiced[key] = min(when, invoiced.get(key, when))
    for period in at.periods:
        for h in period.hours:
            resource = book.resource_by_code[h.resource]
            posted = h.worked + h.overtime > 0
            first = posted and (h.activity, h.resource) not in used
            if posted:
                used.add((h.activity, h.resource))
            amount = posted_cost(book, resource, h.worked, h.overtime, date_of(period.status), first)
            if amount:
                out.append(ActualItem(("activity", h.activity), period.status, amount, "hours", resource.name, period.code))
        for c in period.costs:
            target = _target(c.activity, c.wbs)
            until = invoiced.get((target, c.ref)) if c.source == "accrual" and c.ref else None
            out.append(ActualItem(target, midnight(c.date) + 1, c.amount, c.source, c.ref or c.source, period.code, until))
    return out


def _target(activity: str | None, wbs: str | None) -> Target:
    return ("activity", activity) if activity is not None else ("wbs", wbs or "")


def actual_of(items: list[ActualItem], t: Instant) -> dict[Target, dict[str, Decimal]]:
    """AC at the instant t by target and source."""
    out: dict[Target, dict[str, Decimal]] = defaultdict(dict)
    for item in items:
        if item.counts(t):
            by = out[item.target]
            by[item.source] = by.get(item.source, ZERO) + item.amount
    return out


# What is left


def remaining_work(at: AsOf, activity: Activity, p: Progress) -> dict[str, Decimal]:
    """Minutes of work to go by resource: the latest to-go, else R × units, the planned work if not started, 0 if complete."""
    out: dict[str, Decimal] = {}
    for a in at.book.assignments_of.get(activity.code, ()):
        key = (activity.code, a.resource)
        if p.state == "complete":
            out[a.resource] = ZERO
        elif key in at.to_go:
            out[a.resource] = Decimal(at.to_go[key])
        elif p.state == "not_started":
            out[a.resource] = work_of(at.book, activity, a, p.planned)
        else:
            out[a.resource] = p.remaining * a.units
    return out


def remaining_cost(at: AsOf, activity: Activity, p: Progress, row: Scheduled) -> list[Spread]:
    """Remaining work at its rates and unspent direct cost of one activity, spread over resume (or start) to finish."""
    if p.state == "complete":
        return []
    book: Book = at.book
    start = row.resume if row.resume is not None else row.start
    out: list[Spread] = []
    work = remaining_work(at, activity, p)
    whole = p.elapsed + p.remaining
    left = Decimal(p.remaining) / whole if p.state == "in_progress" and whole else (ZERO if p.state == "in_progress" else ONE)
    for a in book.assignments_of.get(activity.code, ()):
        posted = any(
            h.activity == activity.code and h.resource == a.resource and h.worked + h.overtime
            for period in at.periods
            for h in period.hours
        )
        out += work_cost(book, activity, a, work[a.resource], (a.quantity or ZERO) * left, start, row.finish, not posted)
    for c in book.costs_of.get(activity.code, ()):
        if not c.in_budget:
            continue
        amount = direct_amount(book, c, whole if p.state == "in_progress" else p.planned)
        if c.accrual == "start":
            if p.state == "not_started":
                out.append(Spread(amount, start, start))
        elif c.accrual == "finish":
            out.append(Spread(amount, row.finish, row.finish))
        else:
            out += _unspent(book.axes[activity.code], amount, activity.profile, ONE - left, start, row.finish)
    return out


def _unspent(axis: Axis, amount: Decimal, profile: str, done: Decimal, start: Instant, finish: Instant) -> list[Spread]:
    """A uniform direct cost still to come. A shaped profile is cut into twenty even pieces of its working time."""
    rest = amount * (1 - profile_share(profile, done))
    total = axis.between(start, finish)
    if profile == "uniform" or total < 20:
        return [Spread(rest, start, finish)]
    edges = [start, *(axis.first(axis.pos(start) + total * i // 20) for i in range(1, 20)), finish]
    x = [done + (1 - done) * axis.between(start, e) / total for e in edges]
    f = [profile_share(profile, v) for v in x]
    return [Spread(amount * (f[i + 1] - f[i]), edges[i], edges[i + 1]) for i in range(20)]
