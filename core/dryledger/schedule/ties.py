"""Ties: the hand-overs of the promise in force, which bind as links from finish to start do.

Source: calculation contract, section 17. A tie ends when the tied activity starts, when either activity is deleted or has no
assignment of the resource left, when the giver's latest hours to go on it are 0, when the resource has more units than were noted, from
the page on that `untie` names, or with a later promise.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from dryledger.book.indexed import NetworkIndex, index_network
from dryledger.book.memory import Slot
from dryledger.book.options import Tie, promise_at
from dryledger.book.plan import Book, Link
from dryledger.network.graph import topological_order
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["NO_TIES", "Ties", "network_of", "ties_of", "without_loops"]


class Ties(NamedTuple):
    """The ties that bind on a page, and those left out because they would close a loop."""

    kept: tuple[Tie, ...] = ()
    left_out: tuple[Tie, ...] = ()


NO_TIES = Ties()
TIED: Slot[NetworkIndex] = Slot("the network with ties as links", ("calendars", "project calendar", "places", "externals", "links"), most=4)


def ties_of(at: AsOf, known: Mapping[str, Progress]) -> Ties:
    """The ties in force on a page."""
    promise = promise_at(at.book, len(at.periods))
    if promise is None or not promise.ties:
        return NO_TIES
    return without_loops(at.book, [tie for tie in promise.ties if _holds(at, known, tie)])


def _holds(at: AsOf, known: Mapping[str, Progress], tie: Tie) -> bool:
    to, resource = known.get(tie.target), at.book.resource_by_code.get(tie.resource)
    if to is None or to.state != "not_started" or tie.source not in known or resource is None or resource.units > tie.units:
        return False
    if at.to_go.get((tie.source, tie.resource)) == 0 or any(p.code == tie.ended for p in at.periods):
        return False
    assigned = at.book.assignments_of
    return all(any(x.resource == tie.resource for x in assigned.get(end, ())) for end in (tie.source, tie.target))


def without_loops(book: Book, ties: Iterable[Tie]) -> Ties:
    """Ties in their order, each kept unless it closes a loop with the links of the book and the ties kept before it."""
    ties = list(ties)
    index = {code: i for i, code in enumerate(book.activity_by_code)}
    links = [(index[k.source], index[k.target]) for k in book.links if k.source in index]
    pairs = [(index[t.source], index[t.target]) for t in ties]
    looped = set(range(len(index))) - set(topological_order(len(index), [*links, *pairs]))
    if not looped:
        return Ties(tuple(ties))
    after: dict[int, list[int]] = {i: [] for i in looped}
    for a, b in links:
        if a in looped and b in looped:
            after[a].append(b)
    kept, left_out = list[Tie](), list[Tie]()
    for tie, (a, b) in zip(ties, pairs, strict=True):
        inside = a in looped and b in looped
        if inside and _leads(after, b, a):
            left_out.append(tie)
            continue
        kept.append(tie)
        if inside:
            after[a].append(b)
    return Ties(tuple(kept), tuple(left_out))


def _leads(after: Mapping[int, Sequence[int]], a: int, b: int) -> bool:
    """Whether a way leads from one activity to another, or they are the same."""
    seen, left = {a}, [a]
    while left:
        i = left.pop()
        if i == b:
            return True
        new = [j for j in after[i] if j not in seen]
        seen.update(new)
        left += new
    return False


def network_of(book: Book, ties: Ties) -> NetworkIndex:
    """The network of a book with these ties as further links."""
    if not ties.kept:
        return book.network_index
    pairs = tuple(dict.fromkeys((t.source, t.target) for t in ties.kept))

    def tied() -> NetworkIndex:
        links = [*book.links, *(Link(a, b) for a, b in pairs)]
        beside = [(x.code, x.start, x.finish) for x in book.externals]
        return index_network(list(book.axes), list(book.axes.values()), links, book.axis, beside, len(pairs))

    return book.memo.once(TIED, tied, pairs)
