"""The hot loops of money: what is left of many cost lines, and what of many amounts is due by each of many instants.

Written as `dryledger.network.passes` is: numba compiles it for a large book, and it runs as it stands on plain lists. All values are
whole numbers. What could run over 64 bits is left out and told, for whoever asks to work it out in numbers without end.
Source: calculation contract, sections 6, 7, 10 and 11.
"""

from math import gcd
from typing import NamedTuple

from dryledger.budget.money import part
from dryledger.budget.spread import BELL, UNIFORM, due_share, growth  # noqa: F401  # compiled by its name
from dryledger.network.arrays import Axes, Ints
from dryledger.network.passes import COMPLETE, NEW, NONE, STARTED, position, search

__all__ = [
    *("AT_FINISH", "AT_START", "DIRECT", "FLAT", "KERNELS", "LARGEST", "MATERIAL", "UNIFORMLY", "WORK"),
    *("CostRows", "Dues", "Lines", "Planned", "Ranges", "Rates", "Stand"),
    *("by_day", "due_by", "emit", "planned_dues", "positions", "price", "roll_up", "spans_of"),
]

FLAT = 4
"""The shape of what is the same from start to finish; its `minutes` are that amount."""
WORK, MATERIAL, DIRECT = 0, 1, 2
UNIFORMLY, AT_START, AT_FINISH = 0, 1, 2
MOST = 2.0**62
LARGEST = 1 << 40
"""What is larger is not reckoned in columns: so many million of them can be added up in 64 bits."""


class Dues(NamedTuple):
    """Amounts over time: nothing before the start, the whole from the finish on, in between by a shape over `minutes` of an axis (negative:
    to be counted), `gone` of which were over before. Each belongs to an activity."""

    owner: Ints
    start: Ints
    finish: Ints
    amount: Ints
    axis: Ints
    shape: Ints
    minutes: Ints
    gone: Ints


class Lines(NamedTuple):
    """Cost lines of a baseline: whose each is, what it comes to, when it is due and by what shape."""

    owner: Ints
    amount: Ints
    accrual: Ints
    shape: Ints


class Planned(NamedTuple):
    """The activities of a baseline: when they are, their axis, and how planned value goes: by their lines (0), as a step of n ÷ d of the
    budget at the start and the whole at the finish (1), or otherwise (2)."""

    start: Ints
    finish: Ints
    axis: Ints
    goes: Ints
    n: Ints
    d: Ints


class CostRows(NamedTuple):
    """What activities of a plan cost: an amount of minor units n, or units of work or of a material as n ÷ d; direct costs come first."""

    activity: Ints
    kind: Ints
    resource: Ints
    n: Ints
    d: Ints
    accrual: Ints


class Rates(NamedTuple):
    """Minor units for a minute, or for a unit of a material, of each resource as n ÷ d: before its first cut, and from each on.

    Resource j owns the cuts first[j] … first[j + 1] − 1; its rates begin at first[j] + j.
    """

    first: Ints
    cut: Ints
    n: Ints
    d: Ints


class Stand(NamedTuple):
    """How each activity stands: state, minutes that remain, minutes gone; start, where the rest of started work begins, finish; axis and
    shape."""

    state: Ints
    length: Ints
    gone: Ints
    start: Ints
    rest: Ints
    finish: Ints
    axis: Ints
    shape: Ints


def planned_dues(r: Lines, s: Planned, budget: Ints, out: Dues) -> int:
    """The planned value of activities with a budget, but those that go otherwise; how many amounts there are."""
    found = 0
    for i in range(len(r.owner)):
        budget[r.owner[i]] += r.amount[i]
    for i in range(len(r.owner)):
        a = r.owner[i]
        if budget[a] == 0 or s.goes[a] == 2:
            continue
        start, finish, amount, shape, minutes = s.start[a], s.finish[a], r.amount[i], r.shape[i], -1
        if s.goes[a] == 1:
            if i > 0 and r.owner[i - 1] == a:
                continue
            amount, shape, minutes = budget[a], FLAT, part(budget[a], s.n[a], s.d[a])
        elif r.accrual[i] == AT_START:
            finish = start
        elif r.accrual[i] == AT_FINISH:
            start = finish
        out.owner[found] = a
        out.start[found] = start
        out.finish[found] = finish
        out.amount[found] = amount
        out.axis[found] = s.axis[a]
        out.shape[found] = shape
        out.minutes[found] = minutes
        out.gone[found] = 0
        found += 1
    return found


def resume(s: Stand, a: int) -> int:
    """Where what is left of an activity begins."""
    if s.state[a] == STARTED:
        return s.rest[a]
    return s.start[a]


def price(r: CostRows, q: Rates, s: Stand, odd: Ints, amount: Ints) -> None:
    """What each row comes to at the rate in force; an activity with a row that has none such, or too much, is odd."""
    for i in range(len(r.activity)):
        a, n = r.activity[i], r.n[i]
        amount[i] = 0
        if odd[a] or (r.kind[i] == WORK and s.state[a] == COMPLETE):
            continue
        if r.kind[i] == DIRECT:
            amount[i] = n
            continue
        begun, times = s.start[a], 1
        if r.kind[i] == WORK:
            begun, times = resume(s, a), s.length[a]
        j = r.resource[i]
        low, high = q.first[j], q.first[j + 1]
        at = low
        if low < high and q.cut[low] <= begun:
            at = search(q.cut, low, high, begun) + 1
        if (at < high and q.cut[at] < s.finish[a]) or abs(1.0 * n * times * q.n[at + j]) + 4.0 * r.d[i] * q.d[at + j] >= MOST:
            odd[a] = 1
        else:
            amount[i] = part(n * times, q.n[at + j], r.d[i] * q.d[at + j])
            if abs(amount[i]) >= LARGEST:
                odd[a] = 1


def emit(r: CostRows, s: Stand, odd: Ints, amount: Ints, paid: Ints, status: int, left: Ints, lines: Ints, out: Dues) -> int:
    """What is left of each row and when it falls due, of activities that are not odd; how many there are.

    `paid` is what entries of each activity that name nothing come to: each row is paid up to what it comes to, in their order.
    """
    found = 0
    for i in range(len(r.activity)):
        a, whole = r.activity[i], amount[i]
        if odd[a] or whole == 0:
            continue
        start, finish, shape = resume(s, a), s.finish[a], s.shape[a]
        if s.length[a] == 0:
            finish = start
        if r.kind[i] != WORK:
            late = start
            if status != NONE:
                late, take = status, max(0, min(paid[a], whole))
                paid[a] -= take
                whole = max(0, whole - take)
                if whole == 0:
                    continue
            if s.state[a] == COMPLETE:
                start, finish, shape = late, late, FLAT
            elif r.accrual[i] == AT_START:
                start = start if s.state[a] == NEW else late
                finish, shape = start, FLAT
            elif r.accrual[i] == AT_FINISH:
                start, finish, shape = s.finish[a], s.finish[a], FLAT
        left[a] += whole
        lines[a] += 1
        out.owner[found] = a
        out.start[found] = start
        out.finish[found] = finish
        out.amount[found] = whole
        out.axis[found] = s.axis[a]
        out.shape[found] = shape
        out.minutes[found] = s.length[a]
        out.gone[found] = s.gone[a]
        found += 1
    return found


def fits(whole: int, shape: int, minutes: int) -> bool:
    """Whether a share of an amount over so many minutes can be reckoned in 64 bits."""
    size = 4.0 * abs(1.0 * whole) * minutes
    if shape != UNIFORM:
        size *= minutes
    if shape == BELL:
        size *= minutes
    return size + 4.0 * minutes * minutes * minutes < MOST


def positions(x: Axes, ends: Ints, out: Ints) -> None:
    """The position of each of the ends on each axis, one axis after the other; none where there is no room for them."""
    count = len(ends)
    for at in range(len(out)):
        out[at] = position(x, at // count, ends[at % count])


def position_of(x: Axes, at: Ints, axis: int, ends: Ints, k: int) -> int:
    """The position of the k-th end, from those known (`at`, of `positions`) where there are any."""
    if len(at) > 0:
        return at[axis * len(ends) + k]
    return position(x, axis, ends[k])


def begun_at(x: Axes, d: Dues, i: int) -> int:
    """The position at which the i-th amount begins to fall due; 0 where it is the same until its finish."""
    return 0 if d.shape[i] == FLAT else position(x, d.axis[i], d.start[i])


def minutes_of(x: Axes, d: Dues, i: int, begun: int) -> int:
    """Over how many minutes the i-th amount falls due; of what is the same until its finish, that amount."""
    if d.minutes[i] >= 0 or d.shape[i] == FLAT:
        return d.minutes[i]
    return position(x, d.axis[i], d.finish[i]) - begun


def between(d: Dues, i: int, begun: int, minutes: int, now: int, exact: bool) -> int:
    """What of the i-th amount is due by an instant between its start and its finish, from the positions where it begins and of that
    instant; NONE where 64 bits may not do."""
    whole, gone, shape = d.amount[i], d.gone[i], d.shape[i]
    if shape == FLAT:
        return minutes
    if minutes == 0:
        return whole
    passed = now - begun
    if not exact and not fits(whole, shape, gone + minutes):
        common = gcd(gcd(gone, minutes), passed)
        gone, minutes, passed = gone // common, minutes // common, passed // common
        if not fits(whole, shape, gone + minutes):
            return NONE
    n, of = due_share(shape, gone, minutes, passed)
    return part(whole, n, of)


def due_by(x: Axes, t: int, d: Dues, out: Ints, odd: Ints, exact: bool) -> int:
    """Add what is due by an instant to what each activity has; how many are left out, their places in `odd`."""
    left_out = 0
    for i in range(len(d.owner)):
        if t < d.start[i]:
            continue
        due = d.amount[i]
        if t < d.finish[i]:
            begun = begun_at(x, d, i)
            due = between(d, i, begun, minutes_of(x, d, i, begun), position(x, d.axis[i], t), exact)
        if due == NONE:
            odd[left_out] = i
            left_out += 1
        else:
            out[d.owner[i]] += due
    return left_out


class Ranges(NamedTuple):
    """For each element, or whatever has a line, the days low … high − 1 that its line has, from first on in the lines of all; its parent,
    which stands before it."""

    first: Ints
    low: Ints
    high: Ints
    parent: Ints


def spans_of(start: Ints, finish: Ints, home: Ints, parent: Ints, low: Ints, high: Ints) -> None:
    """The earliest start and the latest finish of the activities of each element and below it, parents standing before children; `low`
    comes with an instant after all, `high` with one before."""
    for i in range(len(home)):
        e = home[i]
        low[e] = min(low[e], start[i])
        high[e] = max(high[e], finish[i])
    for e in range(len(parent) - 1, 0, -1):
        p = parent[e]
        low[p] = min(low[p], low[e])
        high[p] = max(high[p], high[e])


def by_day(x: Axes, days: Ints, at: Ints, d: Dues, home: Ints, r: Ranges, out: Ints, odd: Ints, exact: bool) -> int:
    """Add to each element's line what each day adds to the amounts of its activities (home −1: of none); how many are left out, their
    places in `odd`."""
    left_out = 0
    for i in range(len(d.owner)):
        e = home[d.owner[i]]
        if e < 0:
            continue
        start, finish, j, end, before = d.start[i], d.finish[i], r.low[e], r.high[e], r.first[e] - r.low[e]
        if j < end and days[j] < start:
            j = search(days, j, end, start - 1) + 1
        due = 0
        if j < end and days[j] < finish:
            begun, first = begun_at(x, d, i), j
            minutes = minutes_of(x, d, i, begun)
            while j < end and days[j] < finish:
                now = between(d, i, begun, minutes, position_of(x, at, d.axis[i], days, j), exact)
                if now == NONE:
                    break
                out[before + j] += now - due
                due = now
                j += 1
            if j < end and days[j] < finish:
                due = 0
                for again in range(first, j):
                    now = between(d, i, begun, minutes, position_of(x, at, d.axis[i], days, again), exact)
                    out[before + again] -= now - due
                    due = now
                odd[left_out] = i
                left_out += 1
                continue
        if j < end:
            out[before + j] += d.amount[i] - due
    return left_out


def roll_up(r: Ranges, out: Ints) -> None:
    """Add the line of each element to its parent's, which stands before it; then make sums of what is added."""
    for e in range(len(r.parent) - 1, 0, -1):
        p = r.parent[e]
        for j in range(r.low[e], min(r.high[e], r.high[p])):
            out[r.first[p] + j - r.low[p]] += out[r.first[e] + j - r.low[e]]
    for e in range(len(r.parent)):
        for at in range(r.first[e] + 1, r.first[e] + r.high[e] - r.low[e]):
            out[at] += out[at - 1]


KERNELS = (
    "position part growth due_share planned_dues resume price emit fits positions position_of begun_at minutes_of between "
    "due_by spans_of by_day roll_up"
)
"""Every function by name, callees first."""
