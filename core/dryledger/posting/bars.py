"""A bar of the timeline as it is posted: what dragging one of its parts says, as the cells of the posting sheet that it stands for."""

from decimal import ROUND_HALF_EVEN, Decimal

from dryledger.book.durations import planned_duration
from dryledger.book.reader import duration_text
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.entry.grammar import format_day
from dryledger.entry.plan_cells import type_instant
from dryledger.errors import EntryRefused
from dryledger.posting.entries import cells_of_method
from dryledger.words import sentence

__all__ = ["BAR_PARTS", "cells_of_bar", "done_to"]

BAR_PARTS = ("start", "worked", "finish")
"""What of a bar is dragged: where it begins, how far it is worked, where it ends."""

ONE, HUNDRED = Decimal(1), Decimal(100)


def done_to(r: Results, code: str) -> Instant | None:
    """Where the percent of an activity under way lies on its bar: its share of the working time of the worked and the remaining part.

    None for what is not under way. `cells_of_bar` takes it back.
    """
    p, row, axis = r.progress[code], r.schedule.activities[code], r.book.axes[code]
    if p.state != "in_progress" or row.worked_to is None or row.resume is None:
        return None
    done = int((p.percent * (p.elapsed + p.remaining)).to_integral_value(ROUND_HALF_EVEN))
    if done <= p.elapsed:
        return axis.first(axis.pos(row.start) + done)
    return axis.first(axis.pos(row.resume) + done - p.elapsed)


def cells_of_bar(r: Results, code: str, part: str, to: str) -> dict[str, str]:
    """The cells that dragging a part of a bar to a date or an instant stands for, by their names, as they are typed.

    The start says the actual start, after the status date the date that the work is carried to; how far it is worked says the
    percent by working time of the bar, under methods without one what remains; the end says what remains, up to the status the
    actual finish. A milestone is reached, or carried. `r` are the page's own results. Raises EntryRefused at what is wrong.
    """
    state, moment = r.progress[code].state, not planned_duration(r.book, r.book.activity_by_code[code])
    if part not in BAR_PARTS:
        raise EntryRefused("part", sentence("bars.part", words=", ".join(BAR_PARTS)))
    assert r.status is not None
    at = type_instant(to, "to", r.status, r.book.axis if moment else r.book.axes[code], closing=moment or part != "start")
    if at is None:
        raise EntryRefused("to", sentence("bars.to"))
    ahead, typed = at > r.status, to.replace("T", " ")
    if ahead and (state != "complete" if moment else part == "start" and state == "not_started"):
        return {"carry_to": to}
    if moment or (part == "finish" and (not ahead or state == "complete")):
        return {"actual_finish": typed}
    if part == "start":
        return {"actual_start": typed}
    name = r.book.activity_by_code[code].name
    if state != "in_progress":
        raise EntryRefused("to", sentence("bars.not_begun" if state == "not_started" else "bars.complete", name=name))
    return _left(r, code, at) if part == "finish" else _worked(r, code, at)


def _left(r: Results, code: str, at: Instant) -> dict[str, str]:
    """What remains of work under way that is to end at an instant."""
    resume = r.schedule.activities[code].resume
    assert resume is not None
    if at <= resume:
        raise EntryRefused("to", sentence("bars.before_resume", day=format_day(resume, True)))
    return {"remaining": _span(r, code, r.book.axes[code].between(resume, at))}


def _worked(r: Results, code: str, at: Instant) -> dict[str, str]:
    """How far work under way has come where it is worked up to an instant on its bar."""
    p, row, axis = r.progress[code], r.schedule.activities[code], r.book.axes[code]
    assert row.worked_to is not None and row.resume is not None
    whole = p.elapsed + p.remaining
    done = max(0, min(axis.between(row.start, min(at, row.worked_to)) + max(axis.between(row.resume, at), 0), whole))
    if "percent" not in cells_of_method(r, code):
        return {"remaining": _span(r, code, whole - done)}
    share = Decimal(done) / whole if whole else ONE
    return {"percent": f"{(share * HUNDRED).quantize(ONE, ROUND_HALF_EVEN)}"}


def _span(r: Results, code: str, minutes: int) -> str:
    return duration_text(minutes, r.book.calendar_by_code[r.book.activity_by_code[code].calendar], ("d", "h", "min"))
