"""Entries on a page: what a statement becomes when a cell is typed, and what posting to plan would say.

Facts of earlier statements (actual start and finish, units and milestones reached) are carried into a new one, since
a statement replaces the earlier ones whole; judgements (percent, time to go) are not.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from dryledger.book.durations import planned_duration
from dryledger.book.plan import Statement
from dryledger.book.value_method import ValueMethod
from dryledger.calendar.calendar import DAY, Instant
from dryledger.compute import Results
from dryledger.entry.grammar import format_day, instant_text, latest_allowed, read_number
from dryledger.errors import EntryRefused
from dryledger.formats import format_number
from dryledger.posting.assumed import assume_finish, assume_start, begin_statement, without
from dryledger.words import sentence

__all__ = [
    "OF_METHOD",
    "Checked",
    "cells_of_method",
    "check_entry",
    "describe",
    "method_of",
    "milestones_of",
    "needs_entry",
    "plan_statement",
    "type_reached",
    "type_units",
]

ONE = Decimal(1)
FULL = Decimal("0.99")
FAR_BACK = 10 * 366 * DAY
"""An actual date further back than this from the project's start is a slip of the keys."""


@dataclass(frozen=True)
class Checked:
    """A statement to write, and a sentence for each value that the program filled in."""

    statement: Statement
    filled: tuple[str, ...] = ()


def check_entry(r: Results, before: Results, s: Statement, changed: set[str]) -> Checked:
    """Check a statement as typed against the page; assume a start where the work says that it has begun, a finish where nothing is left.

    `r` is the page's own results, `before` those of the page before (or the plan). Raises EntryRefused at the field.
    """
    a, status, filled = r.book.activity_by_code[s.activity], r.status, []
    assert status is not None
    for field, word in (("actual_start", "start"), ("actual_finish", "finish")):
        t: Instant | None = getattr(s, field)
        if t is not None and t > status:
            latest = latest_allowed(status, r.book.axes[a.code])
            raise EntryRefused(
                field,
                sentence(
                    "entries.lies_after_pages_status",
                    word=word,
                    format_day=format_day(t, True),
                    format_day_2=format_day(status, True),
                    latest=latest,
                ),
                latest,
            )
        if t is not None and t < r.book.project.start - FAR_BACK:
            raise EntryRefused(field, sentence("entries.lies_more_ten_years", word=word, format_day=format_day(t)))
    stated = s.actual_finish is not None and "actual_finish" not in s.assumed
    if stated and "percent" in changed and s.percent is not None and s.percent < 1:
        raise EntryRefused("percent", sentence("entries.finish_done_clear_finish"), "100")
    if s.carry_to is not None and "carry_to" in changed:
        if stated:
            raise EntryRefused("carry_to", sentence("entries.carry_finished"), "")
        if s.carry_to <= status:
            raise EntryRefused("carry_to", sentence("planned.carry_not_after", to=format_day(s.carry_to), day=format_day(status, True)))
    s, takes_time = _take_back(without(s, changed), changed), planned_duration(r.book, a) > 0
    begun = s.actual_finish is not None or bool(s.percent or s.units_done or s.milestones_reached) or s.remaining is not None
    if s.actual_start is None and begun and takes_time:
        s, told = assume_start(r, before, s)
        filled.append(told)
    done = (
        s.percent in (None, ONE)
        and not s.remaining
        and (("percent" in changed and s.percent) or ("remaining" in changed and s.remaining == 0))
    )
    if s.actual_finish is None and done and takes_time:
        s, told = assume_finish(r, before, s)
        filled.append(told)
    if s.actual_finish is not None and s.actual_start is not None and s.actual_finish < s.actual_start:
        field = "actual_start" if "actual_start" in changed else "actual_finish"
        raise EntryRefused(
            field,
            sentence("entries.finish_lies_before_start", format_day=format_day(s.actual_finish), format_day_2=format_day(s.actual_start)),
            instant_text(s.actual_start),
        )
    if s.actual_finish is not None:
        s = replace(s, percent=None, remaining=None, carry_to=None) if "actual_finish" not in s.assumed else replace(s, carry_to=None)
    filled += [
        sentence("entries.day_off", word=word, day=format_day(t))
        for field, word, t in (("actual_start", "start", s.actual_start), ("actual_finish", "finish", s.actual_finish))
        if field in changed and t is not None and a.duration and _day_off(r, a.code, t - 1 if word == "finish" else t)
    ]
    last = before.at.latest.get(s.activity)
    if "percent" in changed and s.percent is not None and last is not None and last.percent is not None and s.percent < last.percent:
        filled.append(sentence("entries.percent_falls", now=float(s.percent * 100), before=float(last.percent * 100)))
    return Checked(s, tuple(filled))


def _take_back(s: Statement, changed: set[str]) -> Statement:
    """An assumed finish goes where it is said that something is left."""
    left = ("percent" in changed and s.percent != 1) or ("remaining" in changed and s.remaining != 0) or "carry_to" in changed
    return without(replace(s, actual_finish=None), ()) if left and "actual_finish" in s.assumed else s


def _day_off(r: Results, code: str, t: Instant) -> bool:
    """Whether an activity's calendar has no working time on the date of an instant."""
    begin = t - t % DAY
    return r.book.axes[code].between(begin, begin + DAY) == 0


OF_METHOD = {"percent": ("percent", "duration", "hours"), "units_done": ("units",), "milestones_reached": ("milestones",)}
"""The cells of a statement that belong to some EV methods only."""


def method_of(r: Results, code: str) -> ValueMethod:
    """The method that an activity earns by: the baseline's, else the plan's."""
    base = r.baseline.by_code.get(code) if r.baseline else None
    return base.value_method if base is not None else r.book.activity_by_code[code].value_method


def cells_of_method(r: Results, code: str) -> list[str]:
    """Which of the cells of `OF_METHOD` the method of an activity uses."""
    return [cell for cell, methods in OF_METHOD.items() if method_of(r, code).type in methods]


def milestones_of(r: Results, code: str) -> list[str]:
    """The weighted milestones of an activity in their order, by the method that it earns by: the baseline's, else the plan's."""
    method = method_of(r, code)
    return [w.name for w in method.weights] if method.type == "milestones" else []


def type_units(text: str) -> Decimal | None:
    """Units done, of what is planned or not said of how many: “120”, “120 of 300”. Raises EntryRefused at `units_done`.

    >>> type_units("120 of 300")
    Decimal('120')
    """
    bare = text.split(" of ")[0].strip()
    if not bare:
        return None
    number = read_number(bare)
    if number is None or number < 0:
        raise EntryRefused("units_done", sentence("entries.units", text=text[:40]))
    return Decimal(number)


def type_reached(text: str, names: Sequence[str]) -> tuple[str, ...]:
    """Milestones reached: how many of them in their order, “all”, or their names with semicolons between.

    >>> type_reached("2", ["Frame", "Skin", "Paint"])
    ('Frame', 'Skin')
    """
    bare = text.split(" of ")[0].strip()
    known = {n.lower(): n for n in names}
    if bare.lower() in ("", "0", "none"):
        return ()
    if bare.lower() == "all":
        return tuple(names)
    if bare.isdecimal() and bare not in known and int(bare) <= len(names):
        return tuple(names[: int(bare)])
    stated = [part.strip() for part in text.split(";") if part.strip()]
    wrong = next((part for part in stated if part.lower() not in known), None)
    if wrong is not None:
        raise EntryRefused("milestones_reached", sentence("entries.milestones", text=wrong[:60], names="; ".join(names) or "none"))
    return tuple(n for n in names if n.lower() in {part.lower() for part in stated})


def needs_entry(r: Results, before: Results, code: str) -> bool:
    """Whether an activity wants a word on this page: open work that is under way, or due to start by the status date."""
    status = r.status
    assert status is not None
    was = before.progress.get(code)
    if was is not None and was.state == "complete":
        return False
    if was is not None and was.state == "in_progress":
        return True
    base = r.baseline.by_code.get(code) if r.baseline else None
    row = before.schedule.activities.get(code)
    return (base is not None and base.start < status) or (row is not None and row.start < status)


def plan_statement(r: Results, before: Results, code: str) -> Statement | None:
    """What posting to plan says of an activity: that all went as the page before forecast. None where nothing was due."""
    status = r.status
    assert status is not None
    row, was = before.schedule.activities[code], before.progress[code]
    if was.state == "complete" or (was.state == "not_started" and row.start > status):
        return None
    if was.state == "not_started" and row.start == status and row.duration:
        return None
    start = was.actual_start if was.actual_start is not None else row.start
    known = begin_statement(before, code)
    if row.finish <= status:
        return _measured(r, replace(known, actual_start=start, actual_finish=row.finish, carry_to=None), ONE)
    left = min(r.book.axes[code].between(status, row.finish), was.planned if was.state == "not_started" else was.remaining)
    done = ONE - Decimal(left) / row.duration if row.duration else ONE
    # What is left is never told as nothing: at 100 % it would be finished.
    percent = max(min(done, FULL), was.percent).quantize(Decimal("0.01"))
    return _measured(r, replace(known, actual_start=start, percent=percent, remaining=left), percent)


def _measured(r: Results, s: Statement, done: Decimal) -> Statement:
    """A statement with the units and the weighted milestones that are due where a share of the work is done."""
    method = method_of(r, s.activity)
    if method.type == "units":
        units = max(s.units_done or Decimal(0), (method.planned * done).quantize(Decimal("0.01"))).normalize()
        return replace(s, units_done=Decimal(f"{units:f}"))
    if method.type == "milestones":
        return replace(s, milestones_reached=tuple(w.name for w in method.weights if w.at <= done or w.name in s.milestones_reached))
    return s


def describe(s: Statement) -> str:
    """A statement in a few words, what remains in hours.

    >>> describe(Statement("A", percent=Decimal("0.4"), remaining=90))
    'not started, 40 %, 1.5 h remaining'
    """
    field, word = ("actual_finish", "finished") if s.actual_finish is not None else ("actual_start", "started")
    at: Instant | None = getattr(s, field)
    parts = ["not started" if at is None else f"{word} {format_day(at)}{' (assumed)' if field in s.assumed else ''}"]
    if s.percent is not None:
        parts.append(f"{format_number((s.percent * 100).normalize())} %")
    if s.remaining is not None:
        parts.append(f"{format_number(round(s.remaining / 60, 2), 'g')} h remaining")
    if s.units_done is not None:
        parts.append(f"{format_number(s.units_done.normalize())} units")
    if s.milestones_reached:
        parts.append("reached " + ", ".join(s.milestones_reached))
    if s.carry_to is not None:
        parts.append(f"carried to {format_day(s.carry_to)}")
    return ", ".join(parts)
