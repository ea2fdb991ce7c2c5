"""The status date of an open page: where it may lie, and what moving it does.

Source: calculation contract, sections 1 and 4: pages in order, no actual after the status of its page.
"""

from collections.abc import Collection
from dataclasses import dataclass, replace

from dryledger.book.pages import CostEntry, Period
from dryledger.book.plan import Book
from dryledger.calendar.calendar import Instant, date_of, midnight
from dryledger.changes.pages import LONGEST
from dryledger.compute import Results, compute
from dryledger.entry.grammar import format_day, instant_text
from dryledger.errors import EntryRefused
from dryledger.posting.effects import Moved, moved
from dryledger.posting.entries import needs_entry
from dryledger.words import sentence

__all__ = ["StatusMove", "at_status", "check_status", "status_move"]

_BEFORE = {"start": "status.before_actual_start", "finish": "status.before_actual_finish"}


@dataclass(frozen=True)
class StatusMove:
    """What a page is with another status date: its results, the activities that come due or cease to be, and what moves.

    `after` names the dated costs of the page that only count from a date after it.
    """

    results: Results
    comes_due: tuple[str, ...]
    no_longer_due: tuple[str, ...]
    after: tuple[CostEntry, ...]
    moved: tuple[Moved, ...]


def check_status(book: Book, page: str, t: Instant) -> None:
    """Raises EntryRefused at `status` for an instant that the page can't stand at, with the nearest that it can."""
    place = next(i for i, p in enumerate(book.periods) if p.code == page)
    before = book.periods[place - 1].status if place else book.project.start - 1
    if t <= before:
        if place:
            code = book.periods[place - 1].code
            raise EntryRefused(
                "status", sentence("status.not_after_page", day=format_day(t, True), page=code, before=format_day(before, True))
            )
        raise EntryRefused("status", sentence("status.before_start", start=format_day(book.project.start, True)))
    if t > before + LONGEST:
        raise EntryRefused("status", sentence("status.too_far"))
    latest = max(_actuals(book.periods[place]), default=None)
    if latest is not None and latest[0] > t:
        at, activity, word = latest
        name = book.activity_by_code[activity].name
        told = sentence(_BEFORE[word], name=name, code=activity, at=format_day(at, True), day=format_day(t, True))
        raise EntryRefused("status", told, instant_text(at))


def _actuals(page: Period) -> list[tuple[Instant, str, str]]:
    """The actual dates that a page states: when, of what, and which."""
    found = [(t, s.activity, word) for s in page.statements for t, word in ((s.actual_start, "start"), (s.actual_finish, "finish"))]
    return [(t, code, word) for t, code, word in found if t is not None]


def at_status(book: Book, page: str, t: Instant, follow: Collection[int] = ()) -> Book:
    """The book with another status date of one page; `follow` are the places of its costs that are dated on the status date."""
    place = next(i for i, p in enumerate(book.periods) if p.code == page)
    was = book.periods[place]
    costs = tuple(replace(c, date=date_of(t - 1)) if i in follow else c for i, c in enumerate(was.costs))
    return book.with_periods((*book.periods[:place], replace(was, status=t, costs=costs), *book.periods[place + 1 :]))


def status_move(r: Results, before: Results, page: str, t: Instant, follow: Collection[int] = ()) -> StatusMove:
    """What moving the status date of a page to the instant t does. Raises EntryRefused.

    `r` is the page's own results, `before` those of the page before (or the plan); `follow` as in `at_status`.
    """
    check_status(r.book, page, t)
    now = compute(at_status(r.book, page, t, follow), page)
    wording = {s.activity for s in r.at.periods[-1].statements}
    was = {a.code for a in r.book.activities if a.code not in wording and needs_entry(r, before, a.code)}
    due = {a.code for a in r.book.activities if a.code not in wording and needs_entry(now, before, a.code)}
    in_order = [a.code for a in r.book.activities]
    return StatusMove(
        now,
        tuple(c for c in in_order if c in due - was),
        tuple(c for c in in_order if c in was - due),
        tuple(c for c in now.at.periods[-1].costs if midnight(c.date) + 1 > t),
        tuple(moved(r, now)),
    )
