"""What the buffers room reads: the chain of a page, the promise in force, the fever chart, who used the buffer, what to do first."""

from decimal import Decimal

from dryledger.book.memory import Slot
from dryledger.book.options import line_ends
from dryledger.book.plan import Book
from dryledger.buffers.chain import Chain, ChainRow, chain_of, room_of, without_safe
from dryledger.buffers.fever import Fever, Pace, TrailPoint, Used, fever_of
from dryledger.buffers.first import First, first_of
from dryledger.buffers.waiting import HandOver, hand_overs_of
from dryledger.calendar.calendar import Calendar, Instant, to_text
from dryledger.compute import Results
from server.book.models import Page
from server.book.results import View, results_of
from server.book.workspace import workspace_of
from server.buffers.shapes import (
    BufferOut,
    BuffersOut,
    ChainLink,
    ChainOut,
    FeedingOut,
    FeedingTrail,
    FeverOut,
    FeverPoint,
    FeverTrend,
    FirstOut,
    HandOverOut,
    UsedOut,
)
from server.shared.json_values import days

CHAINS: Slot[Chain] = Slot("the chain at a page", most=100_000, weigh=lambda c: 200 + 2 * len(c.levelled.book.activities))


def chain_at(v: View) -> Chain:
    """The chain of a page, found once a state of it."""
    return v.results.book.memo.once(CHAINS, lambda: chain_of(v.results), v.page.code)


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
        _ends(book.project.buffers.watch),
        _ends(book.project.buffers.act),
        len(r.at.periods[-1].statements) if r.at.periods else 0,
        any(a.safe_duration is not None for a in book.activities),
        sum(p.state != "complete" for p in r.progress.values()),
        chain_out(r, chain_at(v)),
        None if fever is None else fever_out(v, fever),
        [_hand_over(r, x) for x in hand_overs_of(r)],
        [[x.code, x.page or "", to_text(x.buffer.end)] for x in book.promises if fever is not None and x.code != fever.promise.code],
    )


def _hand_over(r: Results, x: HandOver) -> HandOverOut:
    book, tie = r.book, x.tie
    resource = book.resource_by_code.get(tie.resource)
    ends = [(code, _name(book, code)) for code in (tie.source, tie.target)]
    return HandOverOut(
        *ends[0],
        *ends[1],
        tie.resource,
        tie.resource if resource is None else resource.name,
        x.state,
        None if x.finish is None else to_text(x.finish),
        None if x.start is None else to_text(x.start),
        None if x.idle is None else days(book.project_calendar, x.idle),
    )


def fever_at(v: View) -> Fever | None:
    """The fever chart of a page, each page before it as it was sealed."""
    pages = {p.code: p for p in Page.objects.filter(project=v.project).defer("inputs", "results")}

    def at(code: str) -> Results:
        return v.results if code == v.page.code else results_of(v.project, pages[code])

    return fever_of(v.results, at)


def _name(book: Book, code: str) -> str:
    a = book.activity_by_code.get(code)
    return code if a is None else a.name


def _join(book: Book, code: str | None) -> str | None:
    return None if code is None else _name(book, code)


def chain_out(r: Results, c: Chain) -> ChainOut:
    """A chain as it is sent."""
    book = r.book
    return ChainOut(
        [_row(book, x) for x in c.rows],
        days(book.project_calendar, c.length),
        None if c.start is None or c.end is None else _buffer(book, c.size, c.start, c.end),
        None if c.promise is None else to_text(c.promise),
        [
            FeedingOut(
                [_row(book, x) for x in f.rows],
                f.join,
                _join(book, f.join),
                _buffer(book, f.size, f.start, f.end),
                days(book.project_calendar, f.shortage),
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
        days(book.project_calendar, x.even),
        days(book.project_calendar, x.safety),
        f"{kind}:{after}" if kind else "",
    )


def _buffer(book: Book, size: int, start: Instant, end: Instant) -> BufferOut:
    on = book.project_calendar
    return BufferOut(days(on, size), to_text(start), to_text(end), days(on, room_of(book.axis, size, start, end)))


def fever_out(v: View, fever: Fever) -> FeverOut:
    """The promise in force and what became of it."""
    r, book, promise = v.results, v.book, fever.promise
    status = {p.code: to_text(p.status) for p in book.periods}

    def point(p: TrailPoint, page: str) -> FeverPoint:
        return FeverPoint(
            page,
            status[page],
            round(100 * p.progress, 1),
            None if p.use is None else round(100 * p.use, 1),
            p.zone,
            to_text(p.forecast_end),
            days(book.project_calendar, p.used),
            p.reason,
        )

    trend = fever.trail[-1].pace if fever.trail else None
    return FeverOut(
        promise.code,
        promise.page,
        promise.approved_by,
        to_text(fever.date),
        [x.code for x in promise.chain],
        days(book.project_calendar, sum(x.length for x in promise.chain)),
        to_text(promise.buffer.start),
        _buffer(book, promise.buffer.size, promise.buffer.start, promise.buffer.end),
        _ends(book.project.buffers.watch),
        _ends(book.project.buffers.act),
        [point(p, p.period) for p in fever.trail],
        [
            FeedingTrail(
                _name(book, f.chain[-1].code),
                f.join,
                _join(book, f.join),
                _buffer(book, f.buffer.size, f.buffer.start, f.buffer.end),
                [point(p.feeding[i], p.period) for p in fever.trail],
            )
            for i, f in enumerate(promise.feeding)
        ],
        [_used(v, x) for x in fever.trail[-1].used_by if x.state != "not_started" and x.code in r.progress],
        [_first(v, x) for x in first_of(r, fever)],
        None if trend is None else _trend(book, trend),
    )


def _trend(book: Book, x: Pace) -> FeverTrend:
    gone_at = None if x.gone_at is None else round(100 * x.gone_at, 1)
    return FeverTrend(to_text(x.date), days(book.project_calendar, x.late), gone_at, x.pages)


def _ends(line: tuple[Decimal, ...]) -> list[float]:
    return [float(100 * x) for x in line_ends(line)]


def _id(v: View, code: str) -> str:
    return f"a{workspace_of(v.project).keyed.key_of('activities').get(code, 0)}"


def _own(book: Book, code: str) -> Calendar:
    return book.calendar_by_code[book.activity_by_code[code].calendar]


def _used(v: View, x: Used) -> UsedOut:
    length, takes, over, left = (days(_own(v.book, x.code), m) for m in (x.length, x.length + x.took, x.took, x.remaining))
    return UsedOut(_id(v, x.code), x.code, _name(v.book, x.code), length, takes, over, left, x.state, x.page, x.note)


def _first(v: View, x: First) -> FirstOut:
    r, left = v.results, days(_own(v.book, x.code), x.remaining)
    state, finish = r.progress[x.code].state, to_text(r.schedule.activities[x.code].finish)
    return FirstOut(_id(v, x.code), x.code, _name(v.book, x.code), state, left, finish, x.why, x.zone)
