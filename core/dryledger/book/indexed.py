"""A plan as arrays: each activity an index in the book's order, links by index, every axis in one table.

Worked out once a plan, since a posting changes nothing in it.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from operator import attrgetter
from typing import Protocol

from dryledger.calendar.axis import Axis, Instant, pooled
from dryledger.network import passes
from dryledger.network.arrays import Axes, Network
from dryledger.network.engine import Engine, engine

__all__ = ["NetworkIndex", "index_network"]

KINDS = {"FS": passes.FS, "SS": passes.SS, "FF": passes.FF, "SF": passes.SF}


class _Link(Protocol):
    @property
    def source(self) -> str: ...
    @property
    def target(self) -> str: ...
    @property
    def type(self) -> str: ...
    @property
    def lag(self) -> int: ...
    @property
    def lag_basis(self) -> str: ...


@dataclass(frozen=True)
class NetworkIndex:
    """The codes by index, the engine that suits their number, and the arrays.

    `beside` are the external activities (code, start, finish): their indices come after those of the activities. The passes find their
    dates there and place none of them.
    """

    codes: list[str]
    engine: Engine
    axes: Axes
    network: Network
    beside: Sequence[tuple[str, Instant, Instant]] = ()

    @cached_property
    def targets(self) -> list[int]:
        """The activity that each link leads to."""
        return self.engine.listed(self.network.target)

    @cached_property
    def links_into(self) -> list[list[int]]:
        """The links into each activity."""
        into: list[list[int]] = [[] for _ in self.codes]
        for k, j in enumerate(self.targets):
            into[j].append(k)
        return into

    @cached_property
    def link_names(self) -> list[str]:
        """How each link is named among what drives an activity."""
        codes = [*self.codes, *(code for code, _, _ in self.beside)]
        own = self.network.own
        return [f"{'link' if k < own else 'tie'}:{codes[i]}" for k, i in enumerate(self.engine.listed(self.network.source))]


def index_network(
    codes: list[str],
    own: Sequence[Axis],
    links: Sequence[_Link],
    project: Axis,
    beside: Sequence[tuple[str, Instant, Instant]] = (),
    ties: int = 0,
) -> NetworkIndex:
    """The arrays of activities (codes and own axes), external ones and links; lags count on the project's axis. So many links at the end
    are ties.
    """
    n, m = len(codes), len(beside)
    index = dict(zip([*codes, *(code for code, _, _ in beside)], range(n + m), strict=True))
    e = engine(n)
    axes, place = pooled([*own, project], e.array)
    source, target = (e.array([index[code] for code in map(end, links)]) for end in (attrgetter("source"), attrgetter("target")))
    order, in_first, out_first = e.zeros(n + m), e.zeros(n + m + 2), e.zeros(n + m + 2)
    in_links, out_links = e.zeros(len(links)), e.zeros(len(links))
    held = e.arrange(n + m, source, target, order, in_first, in_links, out_first, out_links)
    assert held == n + m, "a book is read without loops"
    if m:
        order = e.array([i for i in e.listed(order) if i < n])
    network = Network(
        order,
        in_first,
        in_links,
        out_first,
        out_links,
        source,
        target,
        e.filled(len(links), passes.FS, {i: KINDS[kind] for i, kind in enumerate(map(attrgetter("type"), links)) if kind != "FS"}),
        e.filled(len(links), 0, {i: lag for i, lag in enumerate(map(attrgetter("lag"), links)) if lag}),
        e.filled(len(links), 0, {i: 1 for i, basis in enumerate(map(attrgetter("lag_basis"), links)) if basis == "elapsed"}),
        place,
        int(place[n]),
        len(links) - ties,
    )
    return NetworkIndex(codes, e, axes, network, beside)
