"""What is left: work to go by resource, and the remaining cost of an activity spread over time.

Source: calculation contract, sections 6 and 10. Work is in minutes, amounts are exact decimals.
"""

from decimal import Decimal

from dryledger.book.durations import work_of
from dryledger.book.plan import Activity, Assignment, DirectCost
from dryledger.budget.lines import direct_amount, work_cost
from dryledger.budget.rates import tariffs
from dryledger.budget.spread import Along, Spread, profile_share
from dryledger.calendar.calendar import Instant
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["assignment_cost", "remaining_cost", "remaining_work"]

ZERO, ONE, SIXTY = Decimal(0), Decimal(1), Decimal(60)


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


def assignment_cost(at: AsOf, activity: Activity, a: Assignment, p: Progress, start: Instant, finish: Instant) -> list[Spread]:
    """The part of `remaining_cost` that one assignment has in it."""
    if p.state == "complete":
        return []
    whole = p.elapsed + p.remaining
    done = ZERO if p.state == "not_started" else Decimal(p.elapsed) / whole if whole else ONE
    quantity = ZERO if a.quantity is None else a.quantity * (1 - done)
    first_use = (activity.code, a.resource) not in at.used
    minutes = _left(at, activity, a, p)
    return work_cost(at.book, activity, a, minutes, quantity, start, finish, p.remaining, first_use, p.elapsed)


def remaining_cost(at: AsOf, activity: Activity, p: Progress, start: Instant, finish: Instant) -> list[Spread]:
    """Remaining work at its rates and unspent direct cost of one activity, spread over resume (or start) to finish.

    Of a material there is left what it was times the share of the time left.
    """
    if p.state == "complete":
        return []
    book, code, profile, left = at.book, activity.code, activity.profile, p.remaining
    axis = book.axes[code]
    out: list[Spread] = []
    done = along = ZERO
    if p.state == "in_progress":
        whole = p.elapsed + left
        done = Decimal(p.elapsed) / whole if whole else ONE
        along = done if profile != "uniform" else ZERO
    even = hourly = ZERO  # what falls due along the profile from start to finish, all taken together
    known = tariffs(book)
    for a in book.assignments_of.get(code, ()):
        tariff = known[a.resource]
        rate = tariff.rate_through(start, finish) if left else None
        if rate is not None and tariff.counts == "hours":
            hourly += rate * _left(at, activity, a, p)
            continue
        quantity = ZERO if a.quantity is None else a.quantity * (1 - done)
        if rate is not None:
            even += rate * quantity
            continue
        first_use = (code, a.resource) not in at.used
        out += work_cost(book, activity, a, _left(at, activity, a, p), quantity, start, finish, left, first_use, p.elapsed)
    if hourly:
        even += hourly / SIXTY
    for c in book.costs_of.get(code, ()):
        if c.in_budget:
            amount = direct_amount(book, c, p.elapsed + left)
            if c.accrual == "uniform" and left:
                even += amount * (1 - profile_share(profile, done)) if done else amount
            else:
                out += _unspent(c, amount, (axis, profile, 0, done, ONE), p.state, start, finish)
    if even:
        out.append(Spread(start, finish, even, (axis, profile, left, along, ONE)))
    return _joined(out) if len(out) > 1 else out


def _joined(spreads: list[Spread]) -> list[Spread]:
    """The same with spreads alike over the same time taken together."""
    out: dict[tuple[object, ...], Spread] = {}
    for x in spreads:
        key = (x.start, x.finish, "uniform" if x.along[1] == "uniform" else x.along)
        known = out.get(key)
        out[key] = x if known is None else known._replace(amount=known.amount + x.amount)
    return list(out.values())


def _unspent(c: DirectCost, amount: Decimal, along: Along, state: str, start: Instant, finish: Instant) -> list[Spread]:
    """A direct cost still to come at once: at the start until started, at the finish, or where no time is left for it."""
    if c.accrual == "start":
        return [Spread(start, start, amount, along)] if state == "not_started" else []
    if c.accrual == "finish":
        return [Spread(finish, finish, amount, along)]
    return [Spread(start, finish, amount * (1 - profile_share(along[1], along[3])), along)]
