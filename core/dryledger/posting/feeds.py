"""Rows of feeds: what each is against what was posted of it before, and what posting it moves.

A row is known by its id, or without one by what it says on its day. It is never posted twice; one that changed at its
source since is moved by the difference, as a correction where the page that it was posted on is dry (calculation
contract, section 9).
"""

from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.budget.actual import Target
from dryledger.calendar.calendar import date_of
from dryledger.entry.grammar import format_day
from dryledger.words import sentence

__all__ = ["KINDS", "FeedRow", "Move", "Posted", "Verdict", "judge", "moves"]

KINDS = ("timesheet", "cost")


@dataclass(frozen=True)
class FeedRow:
    """One row as it was read: hours of a resource (in minutes), or an amount with its source and reference.

    Another `text` alone makes it no other row.
    """

    key: str
    day: date
    target: Target
    resource: str | None = None
    worked: int = 0
    overtime: int = 0
    to_go: int | None = None
    amount: Decimal = Decimal(0)
    source: str = "feed"
    ref: str | None = None
    text: str | None = field(default=None, compare=False)
    order: str | None = None
    """The order that the amount belongs to."""


@dataclass(frozen=True)
class Posted:
    """What was posted of a row before, and on which page it stands."""

    row: FeedRow
    page: str


@dataclass(frozen=True)
class Verdict:
    """What a row is: `new`, `seen` (posted before, unchanged), `changed` since, or `refused`, with the reason."""

    kind: str
    reason: str = ""


@dataclass(frozen=True)
class Move:
    """Hours or an amount that posting a row puts on a target (below zero: takes off it).

    `corrects` names the dry page that the row was posted on, None where it stands on the open page or is new.
    """

    target: Target
    resource: str | None
    worked: int
    overtime: int
    to_go: int | None
    amount: Decimal
    source: str
    ref: str | None
    day: date
    corrects: str | None = None
    text: str | None = None
    order: str | None = None


def judge(row: FeedRow, known: Posted | None, book: Book, late: bool = False) -> Verdict:
    """What a row is on the last page of a book. `late`: it may be posted there though its day lies on a closed page."""
    if known is not None:
        if replace(known.row, key=row.key) == row:
            return Verdict("seen", sentence("feeds.seen", page=known.page))
        return Verdict("changed", sentence("feeds.changed", page=known.page))
    page = book.periods[-1]
    if row.day > date_of(page.status - 1):
        return Verdict("refused", sentence("feeds.after_status", day=format_day(page.status - 1)))
    closed = [p for p in book.periods if p.state == "dry" and row.day <= date_of(p.status - 1)]
    if closed and not late:
        return Verdict("refused", sentence("feeds.closed_page", page=closed[0].code))
    return Verdict("new")


def moves(row: FeedRow, known: Posted | None, open_page: str) -> list[Move]:
    """What posting a row moves: all of it where it is new, else the difference to what was posted of it."""
    corrects = None if known is None or known.page == open_page else known.page
    now = _move(row, 1, corrects)
    if known is None:
        return [now]
    was = _move(known.row, -1, corrects)
    if (was.target, was.resource, was.source, was.ref, was.order) != (now.target, now.resource, now.source, now.ref, now.order):
        return [was, now]
    step = replace(now, worked=now.worked + was.worked, overtime=now.overtime + was.overtime, amount=now.amount + was.amount)
    return [step]


def _move(row: FeedRow, sign: int, corrects: str | None) -> Move:
    return Move(
        row.target,
        row.resource,
        sign * row.worked,
        sign * row.overtime,
        row.to_go if sign > 0 else None,
        sign * row.amount,
        row.source,
        row.ref,
        row.day,
        corrects,
        row.text,
        row.order,
    )
