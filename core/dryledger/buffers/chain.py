"""The critical chain of a page: the longest run of unfinished work by links and resources, and the buffers that protect it.

Source: the published critical chain method as set down in the calculation contract, section 17. An activity's duration
is at even odds (P50), its `safe_duration` the safe one (P90); what lies between them is its safety. The work is levelled
beyond float first, without the ties of the promise in force. Dates are early ones: what is only moved late begins no chain. Buffers
count on the project calendar.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from decimal import ROUND_HALF_EVEN, Decimal, localcontext
from functools import cached_property

from dryledger.book.durations import whole_minutes
from dryledger.book.memo import changed
from dryledger.book.options import Buffer, FeedingPromise, Length, Promise, Tie
from dryledger.book.plan import Link
from dryledger.budget.money import CONTEXT
from dryledger.buffers.hand_overs import hand_overs
from dryledger.calendar.axis import Axis
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.options.levelling import Levelled, level
from dryledger.schedule.schedule import Scheduled, schedule, shift_back
from dryledger.schedule.ties import NO_TIES

__all__ = ["Chain", "ChainRow", "Feeding", "buffer_size", "chain_of", "dates_to_write", "promised", "room_of", "safety_of", "without_safe"]

HOUR = 60


@dataclass(frozen=True)
class ChainRow:
    """One activity of a chain: its levelled dates (of work under way its resume), its length at even odds and its safety (working
    minutes), and what ties it to the one before: `link:CODE`, `resource:CODE`, None for the first.
    """

    code: str
    start: Instant
    finish: Instant
    even: int
    safety: int
    after: str | None


@dataclass(frozen=True)
class Feeding:
    """A path that joins the chain at `join` (None: at its end): its work, its buffer's size, where that sits, and what of the size has
    no room.
    """

    rows: tuple[ChainRow, ...]
    join: str | None
    size: int
    start: Instant
    end: Instant
    shortage: int


@dataclass(frozen=True)
class Chain:
    """The chain from first to last, its project buffer, its feeding chains and the hand-overs of all unfinished work; sizes, lengths and
    shortages in working minutes.
    """

    levelled: Levelled
    rows: tuple[ChainRow, ...]
    size: int
    start: Instant | None
    end: Instant | None
    feeding: tuple[Feeding, ...]
    ties: tuple[Tie, ...] = ()

    @property
    def length(self) -> int:
        """Its length: all even-odds durations together."""
        return sum(x.even for x in self.rows)

    @property
    def promise(self) -> Instant | None:
        """The date to promise: the end of the project buffer."""
        return self.end


def safety_of(r: Results, code: str) -> int:
    """The safety of an activity in working minutes: P90 − P50, never below 0; of started work in the proportion R ÷ D."""
    a, p = r.book.activity_by_code[code], r.progress[code]
    if a.safe_duration is None:
        return 0
    whole = max(a.safe_duration - p.planned, 0)
    if p.state == "not_started":
        return whole
    with localcontext(CONTEXT):
        return whole_minutes(Decimal(whole) * p.remaining / p.planned) if p.planned else 0


def buffer_size(safeties: Iterable[int], rule: str) -> int:
    """The size of a buffer over a chain, rounded half-even to the hour: √Σ safety² (`root`) or half of Σ safety (`half`).

    >>> buffer_size([1920, 1440, 960], "root"), buffer_size([1920, 1440, 960], "half")
    (2580, 2160)
    """
    with localcontext(CONTEXT):
        found = [Decimal(s) for s in safeties]
        minutes = sum(found, Decimal(0)) / 2 if rule == "half" else sum((s * s for s in found), Decimal(0)).sqrt()
        return int((minutes / HOUR).to_integral_value(ROUND_HALF_EVEN)) * HOUR


def without_safe(r: Results) -> list[str]:
    """Unfinished work without a safe duration, in the book's order."""
    open_work = ((a, r.progress[a.code]) for a in r.book.activities)
    return [a.code for a, p in open_work if p.state != "complete" and p.remaining and a.safe_duration is None]


def chain_of(r: Results) -> Chain:
    """The chain and the buffers of a page. A project without unfinished work has an empty chain and no buffer."""
    return _Finder(r).chain()


class _Finder:
    """Looks for chains in a levelled plan; what is in one is taken."""

    def __init__(self, r: Results) -> None:
        self.r, self.book, self.rule = r, r.book, r.book.project.buffers.size
        self.levelled = level(r, "beyond_float", NO_TIES)
        self.rows: dict[str, Scheduled] = self.levelled.plan.activities
        self.open = {c for c, x in self.rows.items() if x.state != "complete"}
        self.taken: set[str] = set()
        self.ties = hand_overs(self.levelled)

    @cached_property
    def _safeties(self) -> dict[str, int]:
        return {code: safety_of(self.r, code) for code in self.open}

    @cached_property
    def _handed(self) -> dict[str, list[str]]:
        """Who hands a resource over to each activity."""
        out: dict[str, list[str]] = {}
        for tie in self.ties:
            out.setdefault(tie.target, []).append(tie.source)
        return out

    def chain(self) -> Chain:
        if not self.open:
            return Chain(self.levelled, (), 0, None, None, ())
        rows = self._back(self._choice(self.open))
        axis, finish = self.book.axis, max(self.rows[x.code].early_finish for x in rows)
        size = self._size(rows)
        end = axis.first(axis.pos(finish) + size) if size else finish
        feeding = [f for row in rows for f in self._joining(row.code)]
        return Chain(self.levelled, rows, size, finish, end, (*feeding, *self._ending(finish)), self.ties)

    def _choice(self, codes: Iterable[str]) -> str:
        """The latest finish, then the larger safety, then the code."""
        return min(codes, key=lambda c: (-self.rows[c].early_finish, -self._safeties[c], c))

    def _size(self, rows: Iterable[ChainRow]) -> int:
        return buffer_size((x.safety for x in rows), self.rule)

    def _back(self, last: str) -> tuple[ChainRow, ...]:
        """The chain that ends in an activity, from its first to its last."""
        out: list[ChainRow] = []
        code: str | None = last
        while code is not None:
            self.taken.add(code)
            ties = self._ties(code)
            before = self._choice(ties) if ties else None
            row = self.rows[code]
            after = None if before is None else ties[before]
            begins = row.start if row.resume is None else row.resume
            out.append(ChainRow(code, begins, row.finish, row.remaining, self._safeties[code], after))
            code = before
        return tuple(reversed(out))

    def _ties(self, code: str) -> dict[str, str]:
        """What holds an activity where it is and is in no chain yet, each with how; a link goes before a resource."""
        found = {holder: f"resource:{resource}" for holder, resource in reversed(self.levelled.held_by.get(code, ()))}
        linked = [d.removeprefix("link:") for d in self.rows[code].driven_by if d.startswith("link:")]
        found |= {source: f"link:{source}" for source in (*linked, *self.levelled.led_by.get(code, ()))}
        return {c: how for c, how in found.items() if c in self.open and c not in self.taken}

    def _joining(self, join: str) -> list[Feeding]:
        """The feeding chains that join at an activity of the chain, by link or hand-over."""
        sources = [*(k.source for k in self.book.links_into.get(join, ())), *self._handed.get(join, ())]
        out: list[Feeding] = []
        while left := [c for c in sources if c in self.open and c not in self.taken]:
            rows = self._back(self._choice(left))
            out.append(self._feeding(rows, join, self._asked(join, rows[-1].code)))
        return out

    def _ending(self, finish: Instant) -> list[Feeding]:
        """The feeding chains that end where nothing unfinished follows, by link or hand-over; they join at the end of the chain."""
        followed = {k.source for k in self.book.links if k.target in self.open} | {t.source for t in self.ties}
        out: list[Feeding] = []
        while left := self.open - followed - self.taken:
            out.append(self._feeding(self._back(self._choice(left)), None, finish))
        return out

    def _asked(self, join: str, last: str) -> Instant:
        """Before when a join asks for the work that leads to it: the least of what its FS and FF links and hand-overs ask; of others the
        finish of that work.
        """
        row = self.rows[join]
        links = [k for k in self._links(last, join) if k.type[0] == "F"]
        asks = [shift_back(self.book.axis, row.early_start if k.type == "FS" else row.early_finish, k) for k in links]
        if last in self._handed.get(join, ()):
            asks.append(row.early_start)
        return min(asks, default=self.rows[last].early_finish)

    def _links(self, source: str, target: str) -> list[Link]:
        return [k for k in self.book.links_into.get(target, ()) if k.source == source]

    def _feeding(self, rows: tuple[ChainRow, ...], join: str | None, asked: Instant) -> Feeding:
        """A feeding chain with its buffer: it ends where the join asks, and begins its size before, neither before the chain's finish."""
        axis, size, finish = self.book.axis, self._size(rows), self.rows[rows[-1].code].early_finish
        end = max(asked, finish)
        if not size:
            return Feeding(rows, join, 0, end, end, 0)
        start = max(axis.last(axis.pos(end) - size), finish)
        return Feeding(rows, join, size, start, end, size - room_of(axis, size, start, end))


def room_of(axis: Axis, size: int, start: Instant, end: Instant) -> int:
    """What of a buffer's size has room where it sits, in working minutes.

    >>> from dryledger.calendar.axis import DAY, Stretch
    >>> nine_to_five = Axis([Stretch(0, 10**7, 0, DAY, ((540, 1020),))])
    >>> room_of(nine_to_five, 480, 780, 1020), room_of(nine_to_five, 480, 1020, 540)
    (240, 0)
    """
    return min(max(axis.between(start, end), 0), size)


def promised(chain: Chain, code: str, page: str | None, approved_by: str) -> Promise:
    """A chain as a promise: what approving it freezes. The chain must not be empty."""
    assert chain.start is not None and chain.end is not None
    return Promise(
        code,
        approved_by,
        _lengths(chain.rows),
        Buffer(chain.size, chain.start, chain.end),
        page,
        tuple(FeedingPromise(_lengths(f.rows), f.join, Buffer(f.size, f.start, f.end)) for f in chain.feeding),
        chain.ties,
    )


def dates_to_write(r: Results, chain: Chain, promise: Promise) -> dict[str, Instant]:
    """The levelled dates that approving writes into the plan: none where a tie alone sets the date of work not started, so that an early
    finish is handed on; what is as late as possible keeps its own.
    """
    book = changed(chain.levelled.book, promises=(*r.book.promises, promise))
    rows = schedule(replace(r.at, book=book), r.progress, r.treatment).activities
    late = {a.code for a in book.activities if a.constraint is not None and a.constraint.type == "as_late_as_possible"}

    def tied(code: str) -> bool:
        return rows[code].state == "not_started" and code not in late and any(d.startswith("tie:") for d in rows[code].driven_by)

    return {code: t for code, t in chain.levelled.dates.items() if not tied(code)}


def _lengths(rows: tuple[ChainRow, ...]) -> tuple[Length, ...]:
    return tuple(Length(x.code, x.even, x.start) for x in rows)
