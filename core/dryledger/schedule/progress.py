"""What the statements say at a status date: state, percent complete and remaining duration of every activity.

Source: calculation contract, section 4. A statement replaces the activity's earlier ones whole; hours to go are
the latest stated per assignment; what a statement leaves silent is derived.
"""

from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property, partial
from typing import NamedTuple

from dryledger.book.durations import planned_duration, whole_minutes
from dryledger.book.memory import BookChange, Same, Slot
from dryledger.book.plan import Activity, Book, Period, Statement
from dryledger.calendar.axis import Axis
from dryledger.calendar.calendar import Instant
from dryledger.errors import UnknownPeriod

__all__ = ["AsOf", "Progress", "as_of", "progress", "stated_progress"]

ZERO, ONE = Decimal(0), Decimal(1)


class Progress(NamedTuple):
    """One activity at the status date.

    `planned` and `remaining` are working minutes of its own axis, `percent` a share of 1. `percent_from` and
    `remaining_from` say where the two come from: stated, derived, or the state itself.
    """

    state: str
    planned: int
    remaining: int
    percent: Decimal
    actual_start: Instant | None = None
    actual_finish: Instant | None = None
    carry_to: Instant | None = None
    elapsed: int = 0
    percent_from: str = "state"
    remaining_from: str = "state"
    statement: Statement | None = None


@dataclass(frozen=True)
class AsOf:
    """A book read at one of its pages: the periods up to it, and what they say together.

    `latest` is the statement in force by activity, `to_go` the latest minutes to go by (activity, resource), `labour`
    the minutes of labour posted by activity, `used` the assignments with anything posted.
    """

    book: Book
    periods: tuple[Period, ...]
    latest: dict[str, Statement]
    to_go: dict[tuple[str, str], int]
    labour: dict[str, int]
    used: set[tuple[str, str]]

    @cached_property
    def pages(self) -> tuple[Same, ...]:
        """The very pages, to know by what was worked out of them."""
        return tuple(Same(p) for p in self.periods)

    @property
    def status(self) -> Instant | None:
        """The status instant T, None without a period."""
        return self.periods[-1].status if self.periods else None

    def earlier(self, back: int) -> "AsOf | None":
        """The same book `back` pages before, None where there are not as many."""
        if len(self.periods) <= back:
            return None
        return _earlier(self.book, self.periods[: len(self.periods) - back])


SAME_WORK = frozenset(("calendars", "resources", "assignments", "places"))
"""What progress rests on beside the records of activities and what is said of them."""


def _go_on(value: dict[str, Progress], change: BookChange) -> "tuple[Slot[dict[str, Progress]], dict[str, Progress]] | None":
    """What was said of activities whose records are the same."""
    return (STATED, {c: p for c, p in dict(value).items() if c not in change.fresh}) if change.same >= SAME_WORK else None


def _go_before(value: dict[str, Progress], change: BookChange) -> "tuple[Slot[_Before], _Before] | None":
    return (UNSTARTED_BEFORE, (change.fresh, value)) if change.same >= SAME_WORK else None


_Before = tuple[frozenset[str], dict[str, Progress]]
EARLIER: Slot[AsOf] = Slot("what earlier pages say")
STATED: Slot[dict[str, Progress]] = Slot("progress by statement, at a status or for ever", carry=_go_on)
STATED_EARLIER: Slot[dict[str, Progress]] = Slot("the same at an earlier page")
UNSTARTED: Slot[dict[str, Progress]] = Slot("progress before anything is said", carry=_go_before)
UNSTARTED_BEFORE: Slot[_Before] = Slot("the same of the plan before, and the activities that are others since")


def as_of(book: Book, period: str | None = None) -> AsOf:
    """The book at a page, the last one where none is named. Raises UnknownPeriod."""
    if period is None:
        return _read(book, book.periods)
    codes = [p.code for p in book.periods]
    if period not in codes:
        raise UnknownPeriod(period, codes)
    return _read(book, book.periods[: codes.index(period) + 1])


def _read(book: Book, periods: tuple[Period, ...]) -> AsOf:
    """What the pages say: what those before the last one say, worked out once a plan, and the last one on top."""
    if not periods:
        return AsOf(book, periods, {}, {}, {}, set())
    before = _earlier(book, periods[:-1])
    out = AsOf(book, periods, dict(before.latest), dict(before.to_go), dict(before.labour), set(before.used))
    for s in periods[-1].statements:
        out.latest[s.activity] = s
    for h in periods[-1].hours:
        if h.to_go is not None:
            out.to_go[h.activity, h.resource] = h.to_go
        if h.worked or h.overtime:
            out.used.add((h.activity, h.resource))
            if book.resource_by_code[h.resource].kind == "labour":
                out.labour[h.activity] = out.labour.get(h.activity, 0) + h.worked + h.overtime
    return out


def _earlier(book: Book, periods: tuple[Period, ...]) -> AsOf:
    return book.memo.once(EARLIER, lambda: _read(book, periods), tuple(Same(p) for p in periods))


def progress(at: AsOf) -> dict[str, Progress]:
    """The progress of every activity, by code."""
    return unstarted(at.book) | stated_progress(at)


def unstarted(book: Book) -> dict[str, Progress]:
    """The progress of every activity before anything is said of it, worked out once a plan."""
    return book.memo.once(UNSTARTED, lambda: _all_unstarted(book, book.memo.take(UNSTARTED_BEFORE)))


def _all_unstarted(book: Book, before: _Before | None) -> dict[str, Progress]:
    fresh, known = before if before is not None else (None, {})
    found, made, rest = dict(known), _made, Progress("not_started", 0, 0, ZERO)[3:]
    for a in book.activities:
        if fresh is None or a.code in fresh:
            simple = a.mode == "driven" and a.driver == "duration"
            found[a.code] = made(("not_started", a.duration, a.duration, *rest)) if simple else _unstarted(book, a, None)
    return found


def _unstarted(book: Book, activity: Activity, s: Statement | None) -> Progress:
    planned = planned_duration(book, activity)
    return Progress("not_started", planned, planned, ZERO, carry_to=None if s is None else s.carry_to, statement=s)


def stated_progress(at: AsOf) -> dict[str, Progress]:
    """The progress of the activities that have a statement; all others have not started.

    What a statement says at a status date is worked out once, unless hours to go have a say in it.
    """
    if at.periods and at.periods is not at.book.periods:
        return at.book.memo.once(STATED_EARLIER, lambda: _stated(at), at.pages)
    return _stated(at)


def _stated(at: AsOf) -> dict[str, Progress]:
    done, known = (at.book.memo.once(STATED, dict, when) for when in ("ever", at.status))
    activities, axes, out = at.book.activity_by_code, at.book.axes, dict[str, Progress]()
    for code, s in at.latest.items():
        found = done.get(code)
        if found is None or found.statement is not s:
            found = known.get(code)
        if found is None or found.statement is not s:
            activity = activities[code]
            start, finish = s.actual_start, s.actual_finish
            if (
                start is not None
                and finish is not None
                and activity.mode == "driven"
                and activity.driver == "duration"
                and activity.duration
            ):
                found = _complete(activity.duration, s, start, finish, axes[code])  # as most have it
            else:
                found = _progress_of(at, activity, s)
            if found.state == "complete":
                done[code] = found
            elif activity.driver == "duration":
                known[code] = found
        out[code] = found
    return out


def _complete(planned: int, s: Statement, start: Instant, finish: Instant, axis: Axis) -> Progress:
    return _made(("complete", planned, 0, ONE, start, finish, s.carry_to, axis.between(start, finish), "state", "state", s))


_made = partial(tuple.__new__, Progress)


def _progress_of(at: AsOf, activity: Activity, s: Statement) -> Progress:
    status = at.status
    assert status is not None
    planned = planned_duration(at.book, activity)
    start, finish = s.actual_start, s.actual_finish
    if planned == 0 and (start is not None or finish is not None):
        start = finish = finish if finish is not None else start
    if start is None:
        return _unstarted(at.book, activity, s)
    axis = at.book.axes[activity.code]
    if finish is not None:
        return _complete(planned, s, start, finish, axis)
    elapsed = max(axis.between(start, status), 0)
    remaining, remaining_from = _remaining(at, activity, s, planned, elapsed)
    if s.percent is not None:
        percent, percent_from = s.percent, "stated"
    else:
        whole = elapsed + remaining
        percent, percent_from = (Decimal(elapsed) / whole if whole else ONE), "elapsed"
    return Progress("in_progress", planned, remaining, percent, start, None, s.carry_to, elapsed, percent_from, remaining_from, s)


def _remaining(at: AsOf, activity: Activity, s: Statement, planned: int, elapsed: int) -> tuple[int, str]:
    if s.remaining is not None:
        return s.remaining, "stated"
    if activity.driver == "work":
        spans = [
            at.to_go[activity.code, a.resource] / a.units
            for a in at.book.assignments_of.get(activity.code, ())
            if (activity.code, a.resource) in at.to_go and at.book.resource_by_code[a.resource].kind == "labour"
        ]
        if spans:
            return whole_minutes(max(spans)), "hours"
    if s.percent is not None:
        return whole_minutes((1 - s.percent) * planned), "percent"
    return max(0, planned - elapsed), "elapsed"
