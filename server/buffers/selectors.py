"""What the buffers room reads: the chain of a page, the promise in force, the fever chart, who used the buffer, what to do first."""

from dataclasses import dataclass, field

from dryledger.book.options import Length
from dryledger.book.plan import Book
from dryledger.buffers.chain import Chain, ChainRow, chain_of, without_safe
from dryledger.buffers.fever import Fever, Point, Used, fever_of, used_by
from dryledger.buffers.trend import trend_of
from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import Results
from server.book.cache import Recent
from server.book.models import Page
from server.book.results import View, results_of
from server.book.workspace import workspace_of

_chains = Recent(120_000, lambda c: 200 + 2 * len(c.levelled.book.activities))


@dataclass
class ChainLink:
    """An activity of a chain with its levelled dates; lengths in working days of the project calendar."""

    code: str
    name: str
    start: str
    finish: str
    days: float
    safety_days: float
    after: str
    """What ties it to the one before, in words."""


@dataclass
class BufferOut:
    """A buffer: its size in working days, where it sits, and how much of it has room there."""

    days: float
    start: str
    end: str
    room_days: float


@dataclass
class FeedingOut:
    """A feeding chain and its buffer, and how many days of it have no room."""

    rows: list[ChainLink]
    join: str
    join_name: str
    buffer: BufferOut
    shortage_days: float


@dataclass
class ChainOut:
    """The chain of the page as levelling and even odds give it."""

    rows: list[ChainLink]
    days: float
    buffer: BufferOut | None
    promise: str | None
    feeding: list[FeedingOut]
    without_safe: list[list[str]]
    """Code and name of open work that has no safe duration."""
    moved: int
    """How many activities levelling moves."""


@dataclass
class FeverPoint:
    """A chain at a page: per cents of it done and of its buffer used, the zone, and where it would end."""

    page: str
    status: str
    progress: float
    use: float | None
    zone: str
    forecast_end: str
    used_days: float
    reason: str | None = None


@dataclass
class FeedingTrail:
    """A feeding chain's name, its buffer, and its points page by page."""

    name: str
    join: str
    join_name: str
    buffer: BufferOut
    points: list[FeverPoint]


@dataclass
class UsedOut:
    """What an activity of the promised chain took, or will take, against its length, in working days of its calendar."""

    id: str
    code: str
    name: str
    days: float
    takes_days: float
    used_days: float
    remaining_days: float
    state: str
    page: str | None
    """The page on which it was said to have ended, or the latest that speaks of it."""
    note: str | None
    """What was noted there."""


@dataclass
class FirstOut:
    """What to do first: an open activity of the promised chains whose remaining time eats buffer now."""

    id: str
    code: str
    name: str
    state: str
    remaining_days: float
    finish: str
    why: str
    """chain: it is on the chain; feeding: on a feeding chain whose buffer is in the zone named in `zone`."""
    zone: str


@dataclass
class FeverTrend:
    """Where the chain would end if buffer and chain went on as over the last pages."""

    end: str
    days: float
    """Working days after the promised date; below 0 before it."""
    gone_at: float | None
    """Per cent of the chain done at which the buffer would be used up; None where it would not be."""
    pages: int


@dataclass
class FeverOut:
    """The promise in force and what became of it."""

    code: str
    page: str | None
    approved_by: str
    date: str
    chain: list[str]
    chain_days: float
    chain_end: str
    buffer: BufferOut
    watch: list[float]
    act: list[float]
    trail: list[FeverPoint]
    feeding: list[FeedingTrail]
    used: list[UsedOut]
    first: list[FirstOut]
    trend: FeverTrend | None


@dataclass
class BuffersOut:
    """The buffers room of a page."""

    revision: int
    page: str
    status: str
    wet: bool
    size: str
    watch: list[float]
    act: list[float]
    posted: int
    """How many activities the page says something of."""
    any_safe: bool
    """Whether any activity has a safe duration at all."""
    open: int
    """How many activities are not complete."""
    chain: ChainOut
    fever: FeverOut | None
    earlier: list[list[str]] = field(default_factory=list)
    """Promises before the one in force: code, page, date."""


def chain_at(v: View) -> Chain:
    """The chain of a page, found once a state of it."""
    key = (v.page.uid, v.page.digest) if v.page.state == "dry" else (v.project.uid, workspace_of(v.project).revision, v.page.code)
    return _chains.get(key, lambda: chain_of(v.results))


def buffers_out(v: View) -> BuffersOut:
    """The buffers room of a page; a dry one as it was sealed."""
    r, book = v.results, v.book
    fever = fever_at(v)
    status = to_text(r.status) if r.status is not None else ""
    return BuffersOut(
        v.project.revision,
        v.page.code,
        status,
        v.page.state == "wet",
        book.project.buffers.size,
        [float(x) for x in book.project.buffers.watch],
        [float(x) for x in book.project.buffers.act],
        len(r.at.periods[-1].statements) if r.at.periods else 0,
        any(a.safe_duration is not None for a in book.activities),
        sum(p.state != "complete" for p in r.progress.values()),
        chain_out(r, chain_at(v)),
        None if fever is None else fever_out(v, fever),
        [[x.code, x.page or "", to_text(x.buffer.end)] for x in book.promises if fever is not None and x.code != fever.promise.code],
    )


def fever_at(v: View) -> Fever | None:
    """The fever chart of a page, each page before it as it was sealed."""
    pages = {p.code: p for p in Page.objects.filter(project=v.project).defer("inputs", "results")}

    def at(code: str) -> Results:
        return v.results if code == v.page.code else results_of(v.project, pages[code])

    return fever_of(v.results, at)


def days(book: Book, minutes: int) -> float:
    """Working minutes of the project calendar in its days."""
    return round(minutes / book.project_calendar.minutes_per_day, 2)


def _name(book: Book, code: str) -> str:
    a = book.activity_by_code.get(code)
    return code if a is None else a.name


def chain_out(r: Results, c: Chain) -> ChainOut:
    """A chain as it is sent."""
    book = r.book
    return ChainOut(
        [_row(book, x) for x in c.rows],
        days(book, c.length),
        None if c.start is None or c.end is None else _buffer(book, c.size, c.start, c.end),
        None if c.promise is None else to_text(c.promise),
        [
            FeedingOut(
                [_row(book, x) for x in f.rows],
                f.join,
                _name(book, f.join),
                _buffer(book, f.size, f.start, f.end),
                days(book, f.shortage),
            )
            for f in c.feeding
        ],
        [[code, _name(book, code)] for code in without_safe(r)],
        len(c.levelled.moved),
    )


def _row(book: Book, x: ChainRow) -> ChainLink:
    kind, _, code = (x.after or "").partition(":")
    resource = book.resource_by_code.get(code)
    after = _name(book, code) if kind == "link" else resource.name if resource is not None else ""
    return ChainLink(
        x.code,
        _name(book, x.code),
        to_text(x.start),
        to_text(x.finish),
        days(book, x.even),
        days(book, x.safety),
        f"{kind}:{after}" if kind else "",
    )


def _buffer(book: Book, size: int, start: Instant, end: Instant) -> BufferOut:
    room = min(max(book.axis.between(start, end), 0), size)
    return BufferOut(days(book, size), to_text(start), to_text(end), days(book, room))


def fever_out(v: View, fever: Fever) -> FeverOut:
    """The promise in force and what became of it."""
    r, book, promise = v.results, v.book, fever.promise
    status = {p.code: to_text(p.status) for p in book.periods}

    def point(p: Point, page: str) -> FeverPoint:
        return FeverPoint(
            page,
            status[page],
            round(100 * p.progress, 1),
            None if p.use is None else round(100 * p.use, 1),
            p.zone,
            to_text(p.forecast_end),
            days(book, p.used),
            p.reason,
        )

    trend = trend_of(r, fever)
    return FeverOut(
        promise.code,
        promise.page,
        promise.approved_by,
        to_text(fever.date),
        [x.code for x in promise.chain],
        days(book, sum(x.length for x in promise.chain)),
        to_text(promise.buffer.start),
        _buffer(book, promise.buffer.size, promise.buffer.start, promise.buffer.end),
        [float(x) for x in book.project.buffers.watch],
        [float(x) for x in book.project.buffers.act],
        [point(p, p.period) for p in fever.trail],
        [
            FeedingTrail(
                _name(book, f.chain[-1].code),
                f.join,
                _name(book, f.join),
                _buffer(book, f.buffer.size, f.buffer.start, f.buffer.end),
                [point(p.feeding[i], p.period) for p in fever.trail],
            )
            for i, f in enumerate(promise.feeding)
        ],
        [_used(v, x) for x in used_by(r, promise.chain)],
        _first(v, fever),
        None
        if trend is None
        else FeverTrend(
            to_text(trend.end), days(book, trend.late), None if trend.gone_at is None else round(100 * trend.gone_at, 1), trend.pages
        ),
    )


def _id(v: View, code: str) -> str:
    return f"a{workspace_of(v.project).keyed.key_of('activities').get(code, 0)}"


def _used(v: View, x: Used) -> UsedOut:
    book, own = v.book, v.book.calendar_by_code[v.book.activity_by_code[x.code].calendar].minutes_per_day
    said = [(p.code, s) for p in book.periods for s in p.statements if s.activity == x.code]
    note = next((s.note for _, s in reversed(said) if s.note), None)
    length, takes, over, left = (round(m / own, 2) for m in (x.length, x.takes, x.over, x.remaining))
    return UsedOut(_id(v, x.code), x.code, _name(book, x.code), length, takes, over, left, x.state, said[-1][0] if said else None, note)


def _first(v: View, fever: Fever) -> list[FirstOut]:
    """What to do first: open work of the chain that is under way or next, then of feeding chains whose buffer is used most."""
    promise, last = fever.promise, fever.trail[-1]
    out = _open(v, promise.chain, "chain", last.zone)[:2]
    ranked = sorted(
        zip(promise.feeding, last.feeding, strict=True), key=lambda x: -(x[1].use if x[1].use is not None else x[1].zone == "missed")
    )
    for f, point in ranked:
        if point.zone != "fine":
            out += _open(v, f.chain, "feeding", point.zone)[:1]
    return out


def _open(v: View, chain: tuple[Length, ...], why: str, zone: str) -> list[FirstOut]:
    r, book = v.results, v.book
    out = []
    for x in chain:
        p = r.progress.get(x.code)
        if p is not None and p.state != "complete" and p.remaining:
            own = book.calendar_by_code[book.activity_by_code[x.code].calendar].minutes_per_day
            finish = to_text(r.schedule.activities[x.code].finish)
            out.append(FirstOut(_id(v, x.code), x.code, _name(book, x.code), p.state, round(p.remaining / own, 2), finish, why, zone))
    return out
