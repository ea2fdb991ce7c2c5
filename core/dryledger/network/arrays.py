"""The arrays that the passes run over: axes, network, what is known of the work, and what is found.

An axis is a run of stretches; in each a pattern of shifts repeats with a period (a week, a day, or nothing at all in
a pause), counted from an anchor. `counts` holds the working minutes before each stretch: a prefix sum to search in.
"""

from typing import NamedTuple

__all__ = ["Axes", "Ints", "Network", "Rows", "Work"]

Ints = list[int]
"""Plain lists in a small book; int64 arrays of numpy where the passes are compiled."""


class Axes(NamedTuple):
    """Axis i owns the stretches first[i] … first[i+1]−1; stretch s the shifts shift[s] … shift[s+1]−1."""

    first: Ints
    end: Ints
    start: Ints
    counts: Ints
    offset: Ints
    anchor: Ints
    period: Ints
    total: Ints
    shift: Ints
    opens: Ints
    before: Ints
    length: Ints


class Network(NamedTuple):
    """Activities 0 … n−1 and their links; in_first and out_first index in_links and out_links. The first `own` links are the plan's, the
    others ties.
    """

    order: Ints
    in_first: Ints
    in_links: Ints
    out_first: Ints
    out_links: Ints
    source: Ints
    target: Ints
    kind: Ints
    lag: Ints
    clock: Ints
    axis: Ints
    project: int
    own: int


class Work(NamedTuple):
    """What is known of each activity: state, D (or R once started), actual and pinned dates, carry, constraint, levelled date."""

    state: Ints
    length: Ints
    actual_start: Ints
    actual_finish: Ints
    carry: Ints
    pinned_start: Ints
    pinned_finish: Ints
    constraint: Ints
    constraint_at: Ints
    levelled: Ints


class Rows(NamedTuple):
    """What the passes find: dates, floats, driver bits, and for each link what it asks and whether it drives."""

    start: Ints
    finish: Ints
    early_start: Ints
    early_finish: Ints
    late_start: Ints
    late_finish: Ints
    grant: Ints
    total: Ints
    free: Ints
    drivers: Ints
    out_of_sequence: Ints
    asks: Ints
    drives: Ints
