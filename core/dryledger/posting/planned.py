"""Posting as planned, and carrying forward: statements for many activities at once, and what they would do.

A statement replaces the earlier ones whole, so one that only carries forward repeats the judgements of the latest.
"""

from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace

from dryledger.book.pages import Statement
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results, compute
from dryledger.entry.grammar import format_day, instant_text
from dryledger.errors import EntryRefused
from dryledger.posting.effects import Moved, moved
from dryledger.posting.entries import needs_entry, plan_statement
from dryledger.words import sentence

__all__ = ["WAYS", "Tried", "as_planned", "carried", "tried"]

WAYS = ("to_date", "finished")
"""Each by what was planned to the status date; or only those that should be finished by it, the rest untouched."""


@dataclass(frozen=True)
class Tried:
    """A page with more statements on it: its results, the finishes that move, what comes onto the critical path and leaves it."""

    results: Results
    moved: tuple[Moved, ...]
    critical: tuple[str, ...]
    no_longer_critical: tuple[str, ...]


def as_planned(r: Results, before: Results, way: str, codes: Collection[str] | None) -> list[Statement]:
    """The statements of posting as planned, of those named (absent: all that need an entry) and without one on this page."""
    done = {s.activity for s in r.at.periods[-1].statements}
    named = None if codes is None else set(codes)
    wanted = [
        a.code
        for a in r.book.activities
        if a.code not in done and (a.code in named if named is not None else needs_entry(r, before, a.code))
    ]
    found = [s for s in (plan_statement(r, before, c) for c in wanted) if s is not None]
    return [s for s in found if s.actual_finish is not None] if way == "finished" else found


def carried(r: Results, before: Results, to: Instant, codes: Collection[str] | None) -> list[Statement]:
    """The statements that carry unfinished work to an instant: of those named, or of all open work that needs an entry.

    Raises EntryRefused at `to` for an instant that is not after the status date: nothing would move.
    """
    status = r.status
    assert status is not None
    if to <= status:
        raise EntryRefused("to", sentence("planned.carry_not_after", to=format_day(to), day=format_day(status, True)), instant_text(status))
    named = None if codes is None else set(codes)
    mine = {s.activity: s for s in r.at.periods[-1].statements}
    out = []
    for a in r.book.activities:
        if r.progress[a.code].state == "complete" or (a.code not in named if named is not None else not needs_entry(r, before, a.code)):
            continue
        if a.code in mine:
            out.append(replace(mine[a.code], carry_to=to))
        else:
            out.append(replace(r.at.latest.get(a.code) or Statement(a.code), carry_to=to, note=None, corrects=None, reason=None))
    return out


def tried(r: Results, statements: Iterable[Statement]) -> Tried:
    """What the page is with statements added to it, or in the place of those of the same activities."""
    page, fresh = r.at.periods[-1], {s.activity: s for s in statements}
    kept = [fresh.pop(s.activity, s) for s in page.statements]
    periods = tuple(replace(p, statements=(*kept, *fresh.values())) if p.code == page.code else p for p in r.book.periods)
    now = compute(r.book.with_periods(periods), page.code, treatment=r.treatment, before=r)
    was = {c for c, row in r.schedule.activities.items() if row.critical}
    now_critical = {c for c, row in now.schedule.activities.items() if row.critical}
    order = [a.code for a in r.book.activities]
    return Tried(
        now,
        tuple(moved(r, now)),
        tuple(c for c in order if c in now_critical - was),
        tuple(c for c in order if c in was - now_critical),
    )
