"""Use of the promised buffers over progress of their chains, page by page: the points of the fever chart.

Source: calculation contract, section 17, “Each page from the promise's on”.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from dryledger.book.options import Buffer, Buffers, FeedingPromise, Length, Promise, promise_at
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results, compute
from dryledger.words import sentence

__all__ = ["BufferAt", "Fever", "Pace", "TrailPoint", "Used", "buffer_of", "fever_of", "used_by", "zone_of"]

BACK = 3
"""How many pages back the pace is taken from, where there are as many."""


@dataclass(frozen=True)
class Used:
    """What one activity of a promised chain took, or will take, beyond its length (its own calendar, may be below 0), and how long it
    waited to begin (project calendar); in working minutes.

    `page` is the last that says something of it, `note` what was noted last; both None before anything is said.
    """

    code: str
    length: int
    took: int
    waited: int
    remaining: int
    state: str
    page: str | None
    note: str | None


@dataclass(frozen=True)
class Pace:
    """Use of the buffer over progress of the chain since three pages ago: its `rate`, and carried on to the end of the chain the use then
    and the date that it comes to; `late` is working minutes from the promised date to that (below 0 before it).
    """

    rate: float
    use: float
    date: Instant
    late: int
    pages: int
    """Over how many pages."""
    gone_at: float | None
    """The share of the chain done at which the buffer is used up, None where it is not."""


@dataclass(frozen=True)
class TrailPoint:
    """A chain at a page: shares of it done and of its buffer used, the zone, and where it would end now.

    `use` is None where the buffer has no size, with the reason; `join` is where a feeding chain joins, None for its end and for the chain
    itself, which `own` tells apart. `left_out` are hand-overs that would close a loop.
    """

    period: str
    progress: float
    use: float | None
    zone: str
    forecast_end: Instant
    used: int
    """Working minutes of the buffer used."""
    own: bool = True
    join: str | None = None
    reason: str | None = None
    feeding: "tuple[TrailPoint, ...]" = ()
    pace: Pace | None = None
    used_by: tuple[Used, ...] = ()
    left_out: tuple[tuple[str, str], ...] = ()
    exact: tuple[Fraction, Fraction | None] = (Fraction(0), None)
    """Progress and use before rounding."""

    @property
    def other(self) -> int:
        """What of the use no activity of the chain took nor waited, in minutes; may be below 0."""
        return self.used - sum(x.took + x.waited for x in self.used_by)


@dataclass(frozen=True)
class Fever:
    """The promise in force, its date, and the trail of pages since it was made."""

    promise: Promise
    trail: tuple[TrailPoint, ...]

    @property
    def date(self) -> Instant:
        """The date that was promised."""
        return self.promise.buffer.end


def zone_of(buffers: Buffers, progress: Fraction, use: Fraction | None, late: bool, complete: bool = False) -> str:
    """fine, watch, act or missed. The zones begin at two lines that rise with progress; a complete chain, and one that used nothing, is
    fine where it is not missed; without a size any overrun is missed.

    >>> [zone_of(Buffers(), Fraction(1, 2), Fraction(x), True) for x in ("0.39", "0.4", "0.6", "1", "1.01")]
    ['fine', 'watch', 'act', 'act', 'missed']
    >>> from decimal import Decimal
    >>> zone_of(Buffers(watch=(Decimal(0), Decimal(0))), Fraction(0), Fraction(0), False)
    'fine'
    """
    if use is None:
        return "missed" if late else "fine"
    if use > 1:
        return "missed"
    for name, (begins, rises) in (("act", buffers.act), ("watch", buffers.watch)):
        if use and not complete and use >= Fraction(begins) + Fraction(rises) * progress:
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
    since = None if promise.page is None else periods[first].status
    trail: list[TrailPoint] = []
    for code in codes[first:]:
        here = found(code)
        feeding = tuple(
            _paced(here, _point(here, code, f, since), f.buffer, [t.feeding[i] for t in trail], since)
            for i, f in enumerate(promise.feeding)
        )
        own = replace(
            _point(here, code, promise, since),
            feeding=feeding,
            left_out=tuple(dict.fromkeys((t.source, t.target) for t in here.schedule.ties.left_out)),
        )
        trail.append(_paced(here, own, promise.buffer, trail, since))
    return Fever(promise, tuple(trail))


@dataclass(frozen=True)
class BufferAt:
    """How a promised project buffer stands on one page: its point, the date promised, and working minutes of the project calendar from
    that to the forecast end (below 0 before it).
    """

    point: TrailPoint
    promised: Instant
    late: int


def buffer_of(r: Results) -> BufferAt | None:
    """How the promised project buffer stands on the page of `r` alone, as of an option on top of it; None without a promise or a page."""
    promise = promise_at(r.book, len(r.at.periods))
    if promise is None or not r.at.periods:
        return None
    point = _point(r, r.at.periods[-1].code, promise, None)
    return BufferAt(point, promise.buffer.end, r.book.axis.between(promise.buffer.end, point.forecast_end))


def _point(r: Results, page: str, of: Promise | FeedingPromise, since: Instant | None) -> TrailPoint:
    chain, buffer = of.chain, of.buffer
    whole, done = sum(x.length for x in chain), sum(_done(r, x) for x in chain)
    complete = all(x.code not in r.progress or r.progress[x.code].state == "complete" for x in chain)
    progress = Fraction(done, whole) if whole else Fraction(int(complete))
    rows = r.schedule.activities
    forecast = max((rows[x.code].early_finish for x in chain if x.code in rows), default=buffer.start)
    used = max(r.book.axis.between(buffer.start, forecast), 0)
    use = Fraction(used, buffer.size) if buffer.size else None
    zone = zone_of(r.book.project.buffers, progress, use, used > 0, complete)
    return TrailPoint(
        page,
        _share(progress),
        None if use is None else _share(use),
        zone,
        forecast,
        used,
        isinstance(of, Promise),
        of.join if isinstance(of, FeedingPromise) else None,
        None if use is not None else sentence("buffers.no_size"),
        used_by=tuple(used_by(r, chain, since)),
        exact=(progress, use),
    )


def _share(value: Fraction) -> float:
    return round(float(value), 6)


def _paced(r: Results, now: TrailPoint, buffer: Buffer, trail: Sequence[TrailPoint], since: Instant | None) -> TrailPoint:
    """A point with its pace since the page three before; with fewer since the promise's own page, without one since nothing was done."""
    done, use = now.exact
    if len(trail) >= BACK:
        was = trail[-BACK].exact
    elif since is not None:
        was = trail[0].exact if trail else now.exact
    else:
        was = Fraction(0), Fraction(0)
    if done <= was[0] or use is None or was[1] is None:
        return now
    rate = (use - was[1]) / (done - was[0])
    then = max(use + rate * (1 - done), Fraction(0))
    axis, minutes = r.book.axis, round(then * buffer.size)
    end = axis.first(axis.pos(buffer.start) + minutes) if minutes else buffer.start
    gone = _share(done + (1 - use) / rate) if rate > 0 and use < 1 < then else None
    pages = min(BACK, len(trail) + (since is None))
    return replace(now, pace=Pace(_share(rate), _share(then), end, minutes - buffer.size, pages, gone))


def _done(r: Results, x: Length) -> int:
    """Working minutes of a promised length that are done: all once complete (or taken out of the plan), L − R once started."""
    p = r.progress.get(x.code)
    if p is None or p.state == "complete":
        return x.length
    return max(0, x.length - p.remaining) if p.state == "in_progress" else 0


def used_by(r: Results, chain: Iterable[Length], since: Instant | None) -> list[Used]:
    """What each activity of a chain took and waited, in its order; `since` is the status of the promise's page."""
    out: list[Used] = []
    before: Instant | None = None
    for x in chain:
        p, row = r.progress.get(x.code), r.schedule.activities.get(x.code)
        if p is None or row is None:  # taken out of the plan: all of its length is given back
            out.append(Used(x.code, x.length, -x.length, 0, 0, "complete", None, None))
            continue
        stated = [(page.code, s) for page in r.at.periods for s in page.statements if s.activity == x.code]
        note = next((s.note for _, s in reversed(stated) if s.note), None)
        ready = max((t for t in (x.start, before) if t is not None), default=row.start)
        waited = max(r.book.axis.between(ready, row.start), 0)
        out.append(
            Used(
                x.code, x.length, _takes(r, x.code, since) - x.length, waited, p.remaining, p.state, stated[-1][0] if stated else None, note
            )
        )
        before = row.finish
    return out


def _takes(r: Results, code: str, since: Instant | None) -> int:
    """Working minutes that an activity takes from the promise on: so far and still, to its finish, or as planned."""
    p, axis = r.progress[code], r.book.axes[code]
    if p.actual_start is None:
        return p.planned
    start = p.actual_start if since is None else max(p.actual_start, since)
    until = p.actual_finish if p.actual_finish is not None else r.status or start
    return max(axis.between(start, until), 0) + (0 if p.state == "complete" else p.remaining)
