"""The critical chain: the longest run of work by links and resources, and the buffers that protect it.

Source: the published critical chain method as set down in the calculation contract, section 17. An activity's duration
is even odds (P50), its `safe_duration` the safe one (P90); what lies between them is its safety. Buffers count on the
project calendar.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal, localcontext

from dryledger.book.plan import Book
from dryledger.budget.money import CONTEXT
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.options.levelling import Levelled, level
from dryledger.schedule.schedule import shift

__all__ = ["Chain", "ChainStatus", "Feeding", "chain_of", "chain_status"]

HOUR = 60


@dataclass(frozen=True)
class Feeding:
    """A path that joins the chain at `joins`: its work, its buffer's size, where that sits, and what room it lacks."""

    codes: tuple[str, ...]
    joins: str
    size: int
    start: Instant
    end: Instant
    shortage: int


@dataclass(frozen=True)
class Chain:
    """The chain in its order, its feeding chains, and the project buffer; `promise` is the date to promise.

    Sizes, lengths and shortages are working minutes.
    """

    levelled: Levelled
    codes: tuple[str, ...]
    end: Instant
    size: int
    promise: Instant
    feeding: tuple[Feeding, ...]


@dataclass(frozen=True)
class ChainStatus:
    """How the chain stands at a page: progress and buffer use as shares, and the zone (ok, watch or act).

    `use` is None where there is no buffer; above 1 the promise is missed.
    """

    progress: float
    use: float | None
    zone: str
    forecast: Instant


def chain_of(book: Book, rule: str = "root") -> Chain:
    """The chain and buffers of the plan; `rule` sizes buffers: "root" √Σ(P90 − P50)², "half" half of Σ(P90 − P50).

    The chain runs from the last finish back along tight links, of logic or of a resource handed on: the latest finish
    first, ties to the larger safety, then to the code. A path that joins it by a link is followed back in the same order,
    along its links whether tight or not.
    Levelling starts all work as early as it can, so nothing can be pulled earlier to make room for a feeding buffer:
    what it lacks before the join is its shortage.
    """
    levelled = level(book)
    rows = levelled.rows
    if not rows:
        return Chain(levelled, (), book.project.start, 0, book.project.start, ())
    taken: set[str] = set()
    codes = _path(book, levelled, _first(book, levelled, rows), taken, True)
    end = rows[codes[-1]].finish
    size = _size(book, codes, rule)
    promise = book.axis.first(book.axis.pos(end) + size) if size else end
    feeding = []
    for joins in reversed(codes):
        links = [k for k in book.links_into.get(joins, ()) if k.source not in taken]
        while links:
            path = _path(book, levelled, _first(book, levelled, (k.source for k in links)), taken, False)
            feeding.append(_feeding(book, levelled, path, joins, rule))
            links = [k for k in links if k.source not in taken]
    return Chain(levelled, codes, end, size, promise, tuple(feeding))


def chain_status(chain: Chain, r: Results, watch: float = 0.10, act: float = 0.30, slope: float = 0.60) -> ChainStatus:
    """Progress and buffer use of the chain at the page of `r`; the zones begin above watch and act + slope × progress."""
    with localcontext(CONTEXT):
        length = sum(chain.levelled.rows[c].length for c in chain.codes)
        done = sum((chain.levelled.rows[c].length * r.progress[c].percent for c in chain.codes), Decimal(0))
        progress = float(done / length) if length else 1.0
        forecast = max((r.schedule.activities[c].finish for c in chain.codes), default=chain.end)
        late = max(r.book.axis.between(chain.end, forecast), 0)
        if not chain.size:
            return ChainStatus(progress, None, "act" if late else "ok", forecast)
        use = late / chain.size
        zone = "act" if use > act + slope * progress else "watch" if use > watch + slope * progress else "ok"
        return ChainStatus(progress, use, zone, forecast)


def _safety(book: Book, code: str) -> int:
    a = book.activity_by_code[code]
    return max((a.safe_duration or a.duration) - a.duration, 0)


def _size(book: Book, codes: Iterable[str], rule: str) -> int:
    """The size of a buffer over a chain, in working minutes rounded half-even to the hour."""
    with localcontext(CONTEXT):
        safeties = [Decimal(_safety(book, c)) for c in codes]
        minutes = sum(safeties, Decimal(0)) / 2 if rule == "half" else sum((s * s for s in safeties), Decimal(0)).sqrt()
        return int((minutes / HOUR).to_integral_value(ROUND_HALF_EVEN)) * HOUR


def _first(book: Book, levelled: Levelled, codes: Iterable[str]) -> str:
    """The one to follow: the latest finish, ties to the larger safety, then to the code."""
    return min(codes, key=lambda c: (-levelled.rows[c].finish, -_safety(book, c), c))


def _path(book: Book, levelled: Levelled, last: str, taken: set[str], tight: bool) -> tuple[str, ...]:
    """The path that ends in `last`, followed back through what is not taken yet, and now is; by tight links only, or by all."""
    out = [last]
    taken.add(last)
    while True:
        behind = _tight(book, levelled, out[-1])
        if not tight:
            behind |= {k.source for k in book.links_into.get(out[-1], ())}
        before = [c for c in behind if c not in taken]
        if not before:
            return tuple(reversed(out))
        out.append(_first(book, levelled, before))
        taken.add(out[-1])


def _tight(book: Book, levelled: Levelled, code: str) -> set[str]:
    """What holds an activity where it is: links that it just meets, and work whose end hands a resource on to it."""
    row, axis = levelled.rows[code], book.axes[code]
    p = axis.pos(row.start)
    out = set()
    for k in book.links_into.get(code, ()):
        before = levelled.rows[k.source]
        asked = shift(book.axis, before.finish if k.type[0] == "F" else before.start, k)
        if axis.pos(asked) - (row.length if k.type[1] == "F" else 0) == p:
            out.add(k.source)
    for x in book.assignments_of.get(code, ()):
        if row.length and book.resource_by_code[x.resource].kind != "material":
            for other in book.activities_on.get(x.resource, ()):
                there = levelled.rows[other]
                if there.length and there.start < row.start and axis.pos(there.finish) == p:
                    out.add(other)
    return out


def _feeding(book: Book, levelled: Levelled, path: tuple[str, ...], joins: str, rule: str) -> Feeding:
    """The buffer of a feeding chain: the last working time before the join, as long as it is needed or there is room."""
    size = _size(book, path, rule)
    join, finish = levelled.rows[joins].start, levelled.rows[path[-1]].finish
    room = max(book.axis.between(finish, join), 0)
    held = min(size, room)
    start = book.axis.last(book.axis.pos(join) - held) if held else join
    return Feeding(path, joins, size, start, join, size - held)
