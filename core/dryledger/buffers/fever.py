"""Use of the promised buffers over progress of their chains, page by page: the points of the fever chart.

Source: calculation contract, section 17, “Each page from the promise's on”.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from decimal import Decimal, localcontext

from dryledger.book.options import Buffer, Buffers, Length, Promise, promise_at
from dryledger.budget.money import CONTEXT
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results, compute
from dryledger.words import sentence

__all__ = ["Fever", "TrailPoint", "Used", "fever_of", "point_at", "used_by", "zone_of"]

ZERO, ONE = Decimal(0), Decimal(1)


@dataclass(frozen=True)
class TrailPoint:
    """A chain at a page: shares of it done and of its buffer used, the zone, and where it would end now.

    `use` is None where the buffer has no size, with the reason; `join` is None for the chain itself.
    """

    period: str
    progress: float
    use: float | None
    zone: str
    forecast_end: Instant
    used: int
    """Working minutes of the buffer used."""
    join: str | None = None
    reason: str | None = None
    feeding: "tuple[TrailPoint, ...]" = ()


@dataclass(frozen=True)
class Fever:
    """The promise in force, its date, and the trail of pages since it was made."""

    promise: Promise
    trail: tuple[TrailPoint, ...]

    @property
    def date(self) -> Instant:
        """The date that was promised."""
        return self.promise.buffer.end


@dataclass(frozen=True)
class Used:
    """What one activity of the promised chain took, or will take, against its length: working minutes of its own calendar.

    `page` is the last that says something of it, `note` what was noted last.
    """

    code: str
    length: int
    takes: int
    remaining: int
    state: str
    page: str | None
    note: str | None

    @property
    def over(self) -> int:
        """What it took of the buffer; below 0 what it gave back."""
        return self.takes - self.length


def zone_of(buffers: Buffers, progress: Decimal, use: Decimal | None, late: bool) -> str:
    """fine, watch, act or missed. The zones begin above two lines that rise with progress; without a size any overrun is missed.

    >>> [zone_of(Buffers(), Decimal("0.5"), Decimal(x), True) for x in ("0.4", "0.41", "0.61", "1.01")]
    ['fine', 'watch', 'act', 'missed']
    """
    if use is None:
        return "missed" if late else "fine"
    if use > 1:
        return "missed"
    for name, (begins, rises) in (("act", buffers.act), ("watch", buffers.watch)):
        if use > begins + rises * progress:
            return name
    return "fine"


def fever_of(r: Results, at: Callable[[str], Results] | None = None) -> Fever | None:
    """The trail up to the page of `r` against the promise in force there; None without one. `at` gives the results of a page."""
    periods = r.at.periods
    promise = promise_at(r.book, len(periods))
    if promise is None or not periods:
        return None
    codes = [p.code for p in periods]
    first = 0 if promise.page is None else codes.index(promise.page)
    found = at or (lambda code: r if code == codes[-1] else compute(r.book, code, treatment=r.treatment, before=r))
    return Fever(promise, tuple(point_at(found(code), promise, code) for code in codes[first:]))


def point_at(r: Results, promise: Promise, page: str) -> TrailPoint:
    """The point of a page."""
    feeding = tuple(_point(r, page, f.chain, f.buffer, f.join) for f in promise.feeding)
    return _point(r, page, promise.chain, promise.buffer, None, feeding)


def _point(
    r: Results, page: str, chain: tuple[Length, ...], buffer: Buffer, join: str | None, feeding: tuple[TrailPoint, ...] = ()
) -> TrailPoint:
    with localcontext(CONTEXT):
        whole = sum(x.length for x in chain)
        done = sum(_done(r, x) for x in chain)
        complete = all(x.code not in r.progress or r.progress[x.code].state == "complete" for x in chain)
        progress = Decimal(done) / whole if whole else ONE if complete else ZERO
        forecast = max((r.schedule.activities[x.code].finish for x in chain if x.code in r.schedule.activities), default=buffer.start)
        used = max(r.book.axis.between(buffer.start, forecast), 0)
        use = Decimal(used) / buffer.size if buffer.size else None
        zone = zone_of(r.book.project.buffers, progress, use, used > 0)
        reason = None if use is not None else sentence("buffers.no_size")
        return TrailPoint(page, _share(progress), None if use is None else _share(use), zone, forecast, used, join, reason, feeding)


def _share(value: Decimal) -> float:
    return float(value.quantize(Decimal("1e-6")))


def _done(r: Results, x: Length) -> int:
    """Working minutes of a promised length that are done: all once complete (or taken out of the plan), L − R once started."""
    p = r.progress.get(x.code)
    if p is None or p.state == "complete":
        return x.length
    return max(0, x.length - p.remaining) if p.state == "in_progress" else 0


def used_by(r: Results, chain: Iterable[Length]) -> list[Used]:
    """What each activity of a chain that has started took, or will take, against its promised length."""
    out = []
    for x in chain:
        p = r.progress.get(x.code)
        if p is not None and p.state != "not_started":
            stated = [(page.code, s) for page in r.at.periods for s in page.statements if s.activity == x.code]
            note = next((s.note for _, s in reversed(stated) if s.note), None)
            page = stated[-1][0] if stated else None
            out.append(Used(x.code, x.length, p.elapsed + p.remaining, p.remaining, p.state, page, note))
    return out
