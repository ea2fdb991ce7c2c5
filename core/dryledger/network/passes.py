"""The hot loops of the schedule: axes and both passes over integer-indexed arrays, in topological order.

Every function here is written in the subset of Python that numba compiles, and runs as it stands on plain lists as
well: `dryledger.network.engine` chooses. All values are whole numbers: instants, positions, indices. NONE stands for
"there is none". Source: calculation contract, sections 1 to 5; `schedule` says what goes in and comes out.
"""

from bisect import bisect_right
from collections.abc import Sequence

from dryledger.network.arrays import Axes, Network, Rows, Work

__all__ = ["KERNELS", "NONE", "first", "forward", "last", "late", "minute", "moved", "moved_back", "opening", "position"]

NONE = -(1 << 62)
BEYOND = 3_652_059 * 1440 + 1
"""An instant past the end of the year 9999, for positions that the axis does not reach."""

NEW, STARTED, COMPLETE = 0, 1, 2
FS, SS, FF, SF = 0, 1, 2, 3
RETAINED, OVERRIDE, RECORDED = 0, 1, 2
START_AFTER, START_BEFORE, FINISH_AFTER, FINISH_BEFORE, MUST_START, MUST_FINISH, AS_LATE = 1, 2, 3, 4, 5, 6, 7
BY_START, BY_STATUS, BY_CARRY, BY_CONSTRAINT, BY_FIXED, BY_ACTUAL, BY_LEVELLED = 1, 2, 4, 8, 16, 32, 64

# Axes


def search(values: Sequence[int], low: int, high: int, x: int) -> int:
    """The last index from low to high − 1 whose value is at most x; low where none is."""
    return max(bisect_right(values, x, low, high) - 1, low)


def compiled_search(values: Sequence[int], low: int, high: int, x: int) -> int:
    """What stands in for `search` where the passes are compiled, which bisect can't be."""
    while high - low > 1:
        middle = (low + high) // 2
        if values[middle] <= x:
            low = middle
        else:
            high = middle
    return low


def position(x: Axes, i: int, t: int) -> int:
    """pos(t) on axis i: working minutes before the instant t."""
    s = search(x.start, x.first[i], x.first[i + 1], t)
    a, b = x.shift[s], x.shift[s + 1]
    if a == b:
        return x.offset[s]
    rest = t - x.anchor[s]
    rounds = rest // x.period[s]
    rest -= rounds * x.period[s]
    k = search(x.opens, a, b, rest)
    inside = rest - x.opens[k]
    if inside < 0:
        inside = 0
    elif inside > x.length[k]:
        inside = x.length[k]
    return x.offset[s] + rounds * x.total[s] + x.before[k] + inside


def minute(x: Axes, i: int, k: int) -> int:
    """The instant at which the working minute k of axis i begins."""
    if k >= x.end[i]:
        return BEYOND
    s = search(x.counts, x.first[i], x.first[i + 1], k)
    if x.total[s] == 0:
        return -1
    rest = k - x.offset[s]
    rounds = rest // x.total[s]
    rest -= rounds * x.total[s]
    j = search(x.before, x.shift[s], x.shift[s + 1], rest)
    return x.anchor[s] + rounds * x.period[s] + x.opens[j] + rest - x.before[j]


def last(x: Axes, i: int, p: int) -> int:
    """The latest instant at position p: the opening of the working minute p."""
    return minute(x, i, p)


def first(x: Axes, i: int, p: int) -> int:
    """The earliest instant at position p: the close of the working minute before it."""
    return minute(x, i, p - 1) + 1


def opening(x: Axes, i: int, limit: int) -> int:
    """The greatest p with last(p) ≤ limit."""
    return position(x, i, limit + 1) - 1


# Links


def moved(x: Axes, axis: int, t: int, lag: int, clock: int) -> int:
    """The instant t moved by a lag, on an axis or by the clock; by no lag it stays where it is."""
    if lag == 0:
        return t
    return t + lag if clock else first(x, axis, position(x, axis, t) + lag)


def moved_back(x: Axes, axis: int, t: int, lag: int, clock: int) -> int:
    """The latest instant that a lag moves to t or before."""
    if lag == 0:
        return t
    return t - lag if clock else last(x, axis, position(x, axis, t) - lag)


def taken_back(x: Axes, net: Network, t: int, k: int) -> int:
    """The latest instant that link k's lag moves to t or before."""
    return moved_back(x, net.project, t, net.lag[k], net.clock[k])


def asked(x: Axes, net: Network, rows: Rows, k: int) -> int:
    """The instant before which link k's successor may not start (or finish)."""
    j = net.source[k]
    kind = net.kind[k]
    return moved(x, net.project, rows.start[j] if kind in (SS, SF) else rows.finish[j], net.lag[k], net.clock[k])


# Forward


def forward(x: Axes, net: Network, work: Work, rows: Rows, start: int, status: int, treatment: int) -> int:
    """Early dates, drivers and shown dates of all activities; gives the latest early finish (NONE without any)."""
    latest = NONE
    for i in net.order:
        state = work.state[i]
        if state == COMPLETE:
            rows.early_start[i] = rows.start[i] = work.actual_start[i]
            rows.early_finish[i] = rows.finish[i] = work.actual_finish[i]
            rows.drivers[i] = BY_ACTUAL
        elif state == STARTED and work.length[i] == 0:
            rows.start[i] = work.actual_start[i]
            rows.early_start[i] = rows.early_finish[i] = rows.finish[i] = status
            rows.drivers[i] = BY_STATUS
        elif state == NEW and work.pinned_start[i] != NONE:
            rows.early_start[i] = rows.start[i] = work.pinned_start[i]
            rows.early_finish[i] = rows.finish[i] = work.pinned_finish[i]
            rows.drivers[i] = BY_FIXED
        else:
            place(x, net, work, rows, i, start, status, treatment)
        if rows.early_finish[i] > latest:
            latest = rows.early_finish[i]
    return latest


def place(x: Axes, net: Network, work: Work, rows: Rows, i: int, start: int, status: int, treatment: int) -> None:
    """Place the (remaining) work of activity i at the least position that all its requirements allow."""
    axis, d, started = net.axis[i], work.length[i], work.state[i] == STARTED
    p, latest, latest_finish = NONE, NONE, NONE
    by_start = False
    drivers = 0
    # Dates first, each with its bit; then links. A greater position clears what drove before.
    for bit in (BY_START, BY_STATUS, BY_CARRY, BY_LEVELLED, BY_CONSTRAINT):
        t, on_finish = dated(work, i, bit, start, status, started)
        if t == NONE:
            continue
        q = position(x, axis, t)
        if on_finish:
            q -= d
            latest_finish = max(latest_finish, t)
        latest = max(latest, t)
        if q > p:
            p, drivers, by_start = q, 0, False
        if q == p:
            drivers |= bit
            by_start = by_start or not on_finish
    a, b = net.in_first[i], net.in_first[i + 1]
    links = a < b and not (started and treatment == OVERRIDE)
    if links:
        for at in range(a, b):
            k = net.in_links[at]
            t = asked(x, net, rows, k)
            q = position(x, axis, t)
            on_finish = net.kind[k] == FF or net.kind[k] == SF
            if on_finish:
                q -= d
                latest_finish = max(latest_finish, t)
            latest = max(latest, t)
            rows.asks[k] = q
            if q > p:
                p, drivers, by_start = q, 0, False
            if q == p and not on_finish:
                by_start = True
        for at in range(a, b):
            rows.drives[net.in_links[at]] = rows.asks[net.in_links[at]] == p
    if d > 0:
        rows.early_start[i] = last(x, axis, p)
        rows.early_finish[i] = max(first(x, axis, p + d), latest_finish)
    else:
        if a < b and net.in_links[a] < net.own:  # links come before ties; a milestone that is only tied has no link in
            t = max(first(x, axis, p), latest)
        elif by_start:
            t = last(x, axis, p)
        else:
            t = latest_finish
        rows.early_start[i] = rows.early_finish[i] = t
    rows.start[i] = work.actual_start[i] if started else rows.early_start[i]
    rows.finish[i] = rows.early_finish[i]
    rows.drivers[i] = drivers


def dated(work: Work, i: int, bit: int, start: int, status: int, started: bool) -> tuple[int, bool]:
    """The date that binds activity i for one kind of driver (NONE: none), and whether it binds the finish."""
    if bit == BY_START:
        return (NONE if started else start), False
    if bit == BY_STATUS:
        return status, False
    if bit == BY_CARRY:
        return work.carry[i], False
    if bit == BY_LEVELLED:
        return work.levelled[i], False
    c = work.constraint[i]
    if c in (FINISH_AFTER, MUST_FINISH):
        return work.constraint_at[i], True
    if (c in (START_AFTER, MUST_START)) and not started:
        return work.constraint_at[i], False
    return NONE, False


# Backward


def binds(work: Work, j: int, treatment: int) -> bool:
    """Whether successor j still limits its predecessors under `retained` or `override`."""
    if work.state[j] == COMPLETE:
        return False
    return work.state[j] == NEW or (treatment != OVERRIDE and work.length[j] > 0)


def late(x: Axes, net: Network, work: Work, rows: Rows, end: int, latest: int, treatment: int) -> None:
    """Late dates, floats, as-late-as-possible places and out-of-sequence marks of all activities.

    `end` is the project's finish, `latest` the latest early finish.
    """
    for at in range(len(net.order) - 1, -1, -1):
        i = net.order[at]
        if work.state[i] == COMPLETE:
            continue
        limit(x, net, work, rows, i, end, treatment)
        slack(x, net, work, rows, i, end, treatment)
        free = work.pinned_start[i] == NONE and work.levelled[i] == NONE and not waits_by_tie(net, work, i)
        if work.constraint[i] == AS_LATE and work.state[i] == NEW and free:
            move_late(x, net, work, rows, i, latest, treatment)
    for i in net.order:
        if work.state[i] != NEW:
            rows.out_of_sequence[i] = ahead(x, net, work, rows, i)


def waits_by_tie(net: Network, work: Work, i: int) -> bool:
    """Whether activity i waits by a tie for one that is not complete."""
    for at in range(net.in_first[i], net.in_first[i + 1]):
        k = net.in_links[at]
        if k >= net.own and work.state[net.source[k]] != COMPLETE:
            return True
    return False


def limit(x: Axes, net: Network, work: Work, rows: Rows, i: int, end: int, treatment: int) -> None:
    """The late dates of activity i from the least of its limits, and the instant that it grants."""
    axis, d, started = net.axis[i], work.length[i], work.state[i] == STARTED
    finish_limit = end
    start_limit = -NONE
    p = -NONE
    c = work.constraint[i]
    if c in (FINISH_BEFORE, MUST_FINISH):
        finish_limit = min(finish_limit, work.constraint_at[i])
    elif (c in (START_BEFORE, MUST_START)) and not started:
        p = position(x, axis, work.constraint_at[i]) + d
        start_limit = work.constraint_at[i]
    if not started and work.pinned_start[i] != NONE:
        finish_limit = min(finish_limit, work.pinned_finish[i])
        p = min(p, position(x, axis, work.pinned_start[i]) + d)
        start_limit = min(start_limit, work.pinned_start[i])
    for at in range(net.out_first[i], net.out_first[i + 1]):
        k = net.out_links[at]
        kind, j = net.kind[k], net.target[k]
        on_start = kind in (SS, SF)
        if started and on_start:
            continue
        to_start = kind in (FS, SS)
        t = -NONE
        if binds(work, j, treatment):
            t = rows.late_start[j] if to_start else rows.grant[j]
            if to_start and work.state[j] == NEW and work.pinned_start[j] != NONE:
                t = min(t, work.pinned_start[j])
        if treatment == RECORDED and work.state[j] != NEW:
            happened = work.actual_start[j] if to_start else work.actual_finish[j]
            if happened != NONE:
                t = min(t, happened)
        if t == -NONE:
            continue
        t = taken_back(x, net, t, k)
        if on_start:
            start_limit = min(start_limit, t)
            if d > 0:
                p = min(p, opening(x, axis, t) + d)
        else:
            finish_limit = min(finish_limit, t)
    if d == 0:
        t = min(finish_limit, start_limit)
        rows.late_start[i] = rows.late_finish[i] = rows.grant[i] = t
    else:
        p = min(p, position(x, axis, finish_limit))
        rows.late_start[i], rows.late_finish[i] = last(x, axis, p - d), first(x, axis, p)
        rows.grant[i] = min(last(x, axis, p), finish_limit)
    rows.total[i] = position(x, axis, rows.late_finish[i]) - position(x, axis, rows.early_finish[i])


def slack(x: Axes, net: Network, work: Work, rows: Rows, i: int, end: int, treatment: int) -> None:
    """The free float of activity i: the least slack over the links that bind and over the way to the end."""
    axis, started = net.axis[i], work.state[i] == STARTED
    finish, start = position(x, axis, rows.early_finish[i]), position(x, axis, rows.early_start[i])
    least = position(x, axis, end) - finish
    for at in range(net.out_first[i], net.out_first[i + 1]):
        k = net.out_links[at]
        kind, j = net.kind[k], net.target[k]
        on_start = kind in (SS, SF)
        if not binds(work, j, treatment) or (started and on_start):
            continue
        t = taken_back(x, net, rows.early_start[j] if kind in (FS, SS) else rows.early_finish[j], k)
        if not on_start:
            least = min(least, position(x, axis, t) - finish)
        elif work.length[i] > 0:
            least = min(least, opening(x, axis, t) - start)
        else:
            least = min(least, position(x, axis, t) - start)
    rows.free[i] = least


def move_late(x: Axes, net: Network, work: Work, rows: Rows, i: int, latest: int, treatment: int) -> None:
    """Move the shown dates of activity i to the latest place that its successors' shown dates allow."""
    axis, d = net.axis[i], work.length[i]
    p, t = position(x, axis, latest), latest
    for at in range(net.out_first[i], net.out_first[i + 1]):
        k = net.out_links[at]
        kind, j = net.kind[k], net.target[k]
        if not binds(work, j, treatment):
            continue
        shown = rows.finish[j]
        if kind in (FS, SS):
            shown = rows.start[j] if work.state[j] == NEW else rows.early_start[j]
        back = taken_back(x, net, shown, k)
        t = min(t, back)
        on_start = kind in (SS, SF)
        p = min(p, opening(x, axis, back) + d if on_start else position(x, axis, back))
    if d == 0:
        if t > rows.early_finish[i]:
            rows.start[i] = rows.finish[i] = t
    elif p > position(x, axis, rows.early_finish[i]):
        rows.start[i], rows.finish[i] = last(x, axis, p - d), first(x, axis, p)


def ahead(x: Axes, net: Network, work: Work, rows: Rows, i: int) -> bool:
    """Whether activity i started (or finished) before one of its links, as dates are now, would let it."""
    for at in range(net.in_first[i], net.in_first[i + 1]):
        k = net.in_links[at]
        t = asked(x, net, rows, k)
        if net.kind[k] == FS or net.kind[k] == SS:
            if t > work.actual_start[i]:
                return True
        elif work.actual_finish[i] != NONE and t > work.actual_finish[i]:
            return True
    return False


KERNELS = (
    "position minute last first opening moved moved_back taken_back asked "
    "dated place forward binds waits_by_tie limit slack move_late ahead late"
)
"""Every function by name, callees first."""
